import { defineTopic } from '@/server/platform/topic'

/** One student's record: fields, guardians and where they belong. */
export const studentTopic = defineTopic<[studentId: string]>('student', 'student')
