export const sessions = ['morning', 'afternoon'] as const
export type HalfDay = (typeof sessions)[number]

/**
 * Half-days that have begun at a time of day where the school is: the afternoon's from noon.
 * @param time HH:MM
 */
export function sessionsBegun(time: string): readonly HalfDay[] {
  return time >= '12:00' ? sessions : ['morning']
}

/** Which half-days of its days an absence covers. */
export const plannedSessions = ['whole day', ...sessions] as const
