export const roles = ['administrator', 'head', 'office', 'records', 'teacher', 'student', 'guardian'] as const
export type Role = (typeof roles)[number]

/** Who acts, in which school. */
export interface Actor {
  readonly accountId: string
  readonly username: string
  readonly name: string
  readonly schoolId: string
  readonly schoolName: string
  readonly timeZone: string
  readonly role: Role
  /** The staff member, student or guardian this account is. */
  readonly personId: string
  /** The session it acts in; empty for background work. */
  readonly sessionToken: string
}

/** Whether the actor has one of the roles. */
export function hasRole(actor: Actor, ...wanted: readonly Role[]): boolean {
  return wanted.includes(actor.role)
}
