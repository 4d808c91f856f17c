import type { Role } from '@/server/platform/actor'

const order: readonly Role[] = [
  'administrator',
  'head',
  'office',
  'records',
  'teacher',
  'student',
  'guardian',
]

/** What somebody is at a school: "Head, teacher". */
export function roleWords(roles: readonly Role[]): string {
  const words = order.filter((role) => roles.includes(role)).join(', ')
  return words.slice(0, 1).toUpperCase() + words.slice(1)
}
