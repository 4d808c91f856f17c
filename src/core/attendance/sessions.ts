export const sessions = ['morning', 'afternoon'] as const
export type HalfDay = (typeof sessions)[number]

/**
 * Half-days that have begun at a time of day where the school is: the afternoon's from noon.
 * @param time HH:MM
 */
export function sessionsBegun(time: string): readonly HalfDay[] {
  return time >= '12:00' ? sessions : ['morning']
}

/** What an absence covers of its days; `lessons` are those from one period to another. */
export const plannedSessions = ['whole day', ...sessions, 'lessons'] as const

/** What a correction covers of its days; `lessons` are those that are marked already. */
export const correctedSessions = [...sessions, 'lessons'] as const

/** A session in words: morning, afternoon, or a lesson by its period. */
export const sessionWords = (session: string): string => (/^\d/.test(session) ? `period ${session}` : session)
