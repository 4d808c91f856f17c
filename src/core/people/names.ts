/** The name a list sorts by: `Okonjo-Marsh, Ilse`. */
export function sortName(givenName: string, familyName: string): string {
  return `${familyName.trim()}, ${givenName.trim()}`
}

/** A name made comparable: without marks, case or doubled space, so that `Zoë  Åland` equals `zoe aland`. */
export function comparableName(name: string): string {
  return name.normalize('NFKD').replace(/\p{M}/gu, '').replace(/\s+/g, ' ').trim().toLowerCase()
}

/**
 * How well a text matches what was typed, accents, case and the order of words aside: 0 when every word typed begins a
 * word of the text ("marsh il" and "Okonjo-Marsh, Ilse"), 1 when some are only within words ("ils" and "Nils").
 * Parts of a hyphenated word count as words, too.
 * @returns undefined when a word is nowhere in the text
 */
export function matchRank(text: string, typed: string): 0 | 1 | undefined {
  const line = comparableName(text)
  const parts = [...line.split(' '), ...line.split(/[^\p{L}\p{N}]+/u)]
  const words = comparableName(typed).split(' ')
  if (words.every((word) => parts.some((part) => part.startsWith(word)))) return 0
  return words.every((word) => line.includes(word)) ? 1 : undefined
}

/** The name read aloud: `Ilse Okonjo-Marsh` from `Okonjo-Marsh, Ilse`. */
export function spokenName(sortNameText: string): string {
  const [family = '', given = ''] = sortNameText.split(', ')
  return given ? `${given} ${family}` : family
}
