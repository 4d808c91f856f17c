/** Which registers a year group takes: for half-days in the homeroom, in lessons, or both. */
export const registerKinds = ['half-days', 'lessons', 'both'] as const
export type RegisterKind = (typeof registerKinds)[number]

export const registerKindWords: Readonly<Record<RegisterKind, string>> = {
  'half-days': 'Mornings and afternoons',
  lessons: 'Lessons',
  both: 'Mornings, afternoons and lessons',
}
