import type { Role } from './roles'

export type { Role }

/** Minutes without any act after which a session ends, by role: the more one can see, the sooner. */
export const idleMinutes: Readonly<Record<Role, number>> = {
  administrator: 120,
  head: 120,
  office: 120,
  records: 120,
  // A register stands open in a classroom through a lesson and a break.
  teacher: 240,
  student: 60,
  guardian: 240,
}

/** On a computer that others use as well. */
export const sharedIdleMinutes = 15

/** How long somebody with several roles may do nothing: as long as the strictest of them allows. */
export const leastIdleMinutes = (roles: readonly Role[], sharedComputer: boolean): number =>
  Math.min(...(sharedComputer ? [sharedIdleMinutes] : []), ...roles.map((role) => idleMinutes[role]), 240)
