import { sql, type RawBuilder } from 'kysely'
import { z } from 'zod'
import { sessions } from '@/core/attendance/sessions'
import { civilDate, id } from '@/core/inputs'
import { homeroomTopic, lessonTopic } from '@/server/school/topics'
import type { lessonInput } from '@/core/timetable/inputs'

/** One half-day's register of a homeroom. */
export const sessionInput = z.object({ homeroomId: id, date: civilDate, session: z.enum(sessions) })
export type SessionInput = z.infer<typeof sessionInput>

export interface RollRow {
  readonly id: string
  readonly name: string
  readonly number: number | null
  /** Accepted and expected, but not enrolled yet. */
  readonly expected: boolean
  readonly since: string
}

/** Everyone on a homeroom's roll on a date: its members, and applicants who are expected there. */
export const rollOn = (homeroomId: string, date: string): RawBuilder<RollRow> => sql<RollRow>`
  select s.id, s.sort_name as name, s.number, false as expected, lower(m.period)::text as since
  from homeroom_member m join student s on s.school_id = m.school_id and s.id = m.student_id
  where m.homeroom_id = ${homeroomId} and m.period @> ${date}::date
  union all
  select s.id, s.sort_name, s.number, true, s.expected_from::text from student s
  where s.expected_in = ${homeroomId} and s.expected_from <= ${date} and s.number is null`

/** Everyone in a class on a date. */
export const classRollOn = (classId: string, date: string): RawBuilder<RollRow> => sql<RollRow>`
  select s.id, s.sort_name as name, s.number, false as expected, lower(m.period)::text as since
  from class_member m join student s on s.school_id = m.school_id and s.id = m.student_id
  where m.class_id = ${classId} and m.period @> ${date}::date`

/** The register of a lesson; its session is the number of its period. */
export type LessonInput = z.infer<typeof lessonInput>

/** What follows the register of a mark: the homeroom's, or the lesson's. */
export const registerTopic = ({
  homeroomId,
  classId,
}: {
  readonly homeroomId: string | null
  readonly classId: string | null
}) => (homeroomId === null ? lessonTopic(classId ?? '') : homeroomTopic(homeroomId))
