import { defineTopic } from '@/server/platform/topic'

/** What happens in a school that pages of several domains follow. */

/** A homeroom's registers: marks, and who is on roll. */
export const homeroomTopic = defineTopic<[homeroomId: string]>('homeroom', 'homeroom')
/** All registers of the school, for those who look after all of them. */
export const registersTopic = defineTopic('registers')
/** Who is expected and not enrolled yet. */
export const arrivalsTopic = defineTopic('arrivals')
/** The academic year, terms and closures. */
export const yearTopic = defineTopic('year')
/** Who is on roll, in which year group, homeroom and classes. */
export const rollTopic = defineTopic('roll')

/** Which attendance codes are in use. */
export const codesTopic = defineTopic('codes')

/** Which lessons there are, and when. */
export const timetableTopic = defineTopic('timetable')
/** The lessons of all days: their registers, and what is different on a day. */
export const lessonsTopic = defineTopic('lessons')
/** A class's lessons: marks, who is on roll, cover and rooms. */
export const lessonTopic = defineTopic<[classId: string]>('lesson', 'class')
/** What is different for lessons of a day: whoever is asked to cover one has nothing else to follow. */
export const coverTopic = defineTopic('cover')
/** Templates of letters about attendance, and what was sent. */
export const lettersTopic = defineTopic('letters')
/** Absences that guardians have reported. */
export const absenceReportsTopic = defineTopic('absence-reports')
