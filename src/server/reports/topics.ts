import { defineTopic } from '@/server/platform/topic'

/** A round with all its class entries. */
export const roundTopic = defineTopic<[roundId: string]>('round', 'round')
/** One class's entries in a round. */
export const entriesTopic = defineTopic<[roundId: string, classId: string]>('entries', 'round', 'class')
/** Where a class's entries stand, for its teachers. */
export const classEntriesTopic = defineTopic<[classId: string]>('entries of class', 'class')
/** Where any class's entries stand, for those who check them. */
export const allEntriesTopic = defineTopic('all entries')
