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

/** Who acts, in which school: a person with one or more roles there, or the clock, which has none. */
export interface Actor {
  readonly kind: 'person' | 'clock'
  readonly accountId: string
  readonly username: string
  readonly name: string
  readonly schoolId: string
  readonly schoolName: string
  readonly timeZone: string
  readonly roles: readonly Role[]
  /** The records this account is at the school; null where it is none. */
  readonly staffId: string | null
  readonly guardianId: string | null
  readonly studentId: string | null
  /** Whether this account belongs to other schools as well. */
  readonly severalSchools: boolean
  /** The session it acts in; empty for background work. */
  readonly sessionToken: string
}

/** Whether the actor has one of the roles. */
export function hasRole(actor: Actor, ...wanted: readonly Role[]): boolean {
  return actor.roles.some((role) => wanted.includes(role))
}

/** What acts in a school by the clock. */
export function clockActor(school: { id: string; name: string; timeZone: string }): Actor {
  return {
    kind: 'clock',
    accountId: 'clock',
    username: '',
    name: 'Kedge',
    schoolId: school.id,
    schoolName: school.name,
    timeZone: school.timeZone,
    roles: [],
    staffId: null,
    guardianId: null,
    studentId: null,
    severalSchools: false,
    sessionToken: '',
  }
}
