import { comparableName } from './names'

const letters = (name: string) =>
  comparableName(name)
    .replaceAll('ı', 'i')
    .replaceAll('ø', 'o')
    .replaceAll('ł', 'l')
    .replaceAll('ß', 'ss')
    .replaceAll('æ', 'ae')
    .replace(/[^a-z0-9]/g, '')

/** The user name proposed for a person: `r.achterberg`; empty for a name without Latin letters. */
export function proposedUsername(givenName: string, familyName: string): string {
  const given = letters(givenName).slice(0, 1)
  const family = letters(familyName).slice(0, 30)
  return family ? [given, family].filter(Boolean).join('.') : ''
}

const consonants = 'bdfghklmnprstv'
const vowels = 'aeiou'

/**
 * A password to hand out: three made-up words that can be read aloud and typed, such as `lomari-tekuso-dimuva`; one of
 * some 4 × 10¹⁶.
 * @param random answers a whole number from 0 up to, not including, its argument
 */
export function initialWords(random: (below: number) => number): string {
  const pick = (of: string) => of[random(of.length)] ?? ''
  const word = () => Array.from({ length: 3 }, () => pick(consonants) + pick(vowels)).join('')
  return [word(), word(), word()].join('-')
}
