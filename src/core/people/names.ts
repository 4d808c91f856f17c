/** The name a list sorts by: `Okonjo-Marsh, Ilse`. */
export function sortName(givenName: string, familyName: string): string {
  return `${familyName.trim()}, ${givenName.trim()}`
}

/** A name made comparable: without marks, case or doubled space, so that `Zoë  Åland` equals `zoe aland`. */
export function comparableName(name: string): string {
  return name.normalize('NFKD').replace(/\p{M}/gu, '').replace(/\s+/g, ' ').trim().toLowerCase()
}

/**
 * Whether every word typed begins a word of the text, accents and case aside: "marsh il" finds "Okonjo-Marsh, Ilse".
 * Parts of a hyphenated word count as words, too.
 */
export function hasWords(text: string, typed: string): boolean {
  const line = comparableName(text)
  const parts = [...line.split(' '), ...line.split(/[^\p{L}\p{N}]+/u)]
  return comparableName(typed)
    .split(' ')
    .every((word) => parts.some((part) => part.startsWith(word)))
}

/** The name read aloud: `Ilse Okonjo-Marsh` from `Okonjo-Marsh, Ilse`. */
export function spokenName(sortNameText: string): string {
  const [family = '', given = ''] = sortNameText.split(', ')
  return given ? `${given} ${family}` : family
}
