import { leastIdleMinutes, type Role } from '@/core/people/session-rule'

/** The whole life of a session, in hours from signing in: one working day. */
export const sessionHours = 12

/**
 * Whether a session has ended because nothing was done in it for too long.
 * @param now milliseconds since 1970
 */
export function isIdle(
  session: { readonly activeAt: Date; readonly sharedComputer: boolean },
  roles: readonly Role[],
  now: number,
): boolean {
  return now - session.activeAt.getTime() > leastIdleMinutes(roles, session.sharedComputer) * 60_000
}
