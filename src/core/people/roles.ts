/** The roles at a school; a person may have several. The order is that in which they are named. */
export const roles = ['administrator', 'head', 'office', 'records', 'teacher', 'student', 'guardian'] as const
export type Role = (typeof roles)[number]

/** Everyone who works at the school. */
export const staffRoles = [
  'administrator',
  'head',
  'office',
  'records',
  'teacher',
] as const satisfies readonly Role[]

/** Whether a person has any of some roles. */
export const hasSome = (own: readonly Role[], ...wanted: readonly Role[]): boolean =>
  own.some((role) => wanted.includes(role))

/** Whether a person's only work at the school is teaching. */
export const teachesOnly = (own: readonly Role[]): boolean =>
  own.every((role) => role === 'teacher' || role === 'guardian')

/** A person's roles at a school: "Head, teacher". */
export function roleWords(own: readonly Role[]): string {
  const words = roles.filter((role) => own.includes(role)).join(', ')
  return words.slice(0, 1).toUpperCase() + words.slice(1)
}
