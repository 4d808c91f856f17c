import { hasSome, type Role } from '@/core/people/roles'

export { roles, staffRoles, type Role } from '@/core/people/roles'

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
  return hasSome(actor.roles, ...wanted)
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
