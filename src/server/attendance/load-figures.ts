import { sql, type RawBuilder, type Transaction } from 'kysely'
import type { Meaning } from '@/core/attendance/codes'
import { attendanceFigures, type AttendanceFigures } from '@/core/attendance/figures'
import { schoolDays, type SchoolYear } from '@/core/calendar/school-year'
import type { Tables } from '@/db/tables'
import { sessionsBegun } from '@/core/attendance/sessions'
import { localTime } from '@/server/platform/clock'
import type { Context } from '@/server/platform/context'

/** How many half-days of a school day have begun. */
export function halfDaysBegun({ today, actor }: Pick<Context, 'today' | 'actor'>, day: string): number {
  if (day !== today) return day < today ? 2 : 0
  return sessionsBegun(localTime(actor.timeZone).time).length
}

interface Count {
  readonly studentId: string
  readonly meaning: Meaning
  readonly n: number
}

/** How many marks of each meaning students have between two dates, of those marks that fulfil a condition. */
const counts = (
  studentIds: readonly string[],
  from: string,
  to: string,
  condition: RawBuilder<unknown>,
): RawBuilder<Count> => sql<Count>`
  select u.student_id, c.meaning, sum(u.n)::int as n from (
    select m.school_id, m.student_id, m.code_id, count(*) as n from attendance_mark m
    where m.student_id = any(${studentIds}::uuid[]) and m.session_date between ${from} and ${to} and m.code_id is not null
      and not m.kept and ${condition}
      and exists (select 1 from enrolment e where e.school_id = m.school_id and e.student_id = m.student_id and e.period @> m.session_date)
    group by m.school_id, m.student_id, m.code_id) u
  join attendance_code c on c.school_id = u.school_id and c.id = u.code_id
  group by u.student_id, c.meaning`

const ofStudent = (rows: readonly Count[], studentId: string) =>
  Object.fromEntries(rows.filter((r) => r.studentId === studentId).map((r) => [r.meaning, r.n]))

/**
 * Attendance figures of students' lessons between two dates, both included, counted only while they were enrolled;
 * which lessons have no mark is not asked.
 * @param classId the lessons of one class alone; of all with null
 * @returns figures by student id, for every id given
 */
export async function loadLessonFigures(
  db: Transaction<Tables>,
  studentIds: readonly string[],
  from: string,
  to: string,
  classId: string | null,
): Promise<ReadonlyMap<string, Omit<AttendanceFigures, 'unmarked'>>> {
  const own = classId === null ? sql`m.class_id is not null` : sql`m.class_id = ${classId}`
  const { rows } = await counts(studentIds, from, to, own).execute(db)
  return new Map(studentIds.map((id) => [id, attendanceFigures(ofStudent(rows, id), 0)]))
}

/**
 * Attendance figures of students' half-days between two dates, both included, counted only while they were enrolled; a
 * half-day of today that has not begun lacks no mark.
 * @returns figures by student id, for every id given
 */
export async function loadFigures(
  context: Context,
  year: SchoolYear,
  studentIds: readonly string[],
  from: string,
  to: string,
): Promise<ReadonlyMap<string, AttendanceFigures>> {
  if (studentIds.length === 0) return new Map()
  const { db } = context
  const [marked, enrolled] = await Promise.all([
    counts(studentIds, from, to, sql`m.homeroom_id is not null`).execute(db),
    sql<{ studentId: string; from: string; until: string | null }>`
      select student_id, lower(period)::text as from, upper(period)::text as until from enrolment where student_id = any(${studentIds}::uuid[])`.execute(
      db,
    ),
  ])
  const days = schoolDays(year, from, to)
  return new Map(
    studentIds.map((studentId) => {
      const own = ofStudent(marked.rows, studentId)
      const periods = enrolled.rows.filter((r) => r.studentId === studentId)
      const onRoll = days
        .filter((d) => periods.some((p) => p.from <= d && (p.until === null || d < p.until)))
        .reduce((sum, d) => sum + halfDaysBegun(context, d), 0)
      const n = Object.values(own).reduce((sum, count) => sum + count, 0)
      return [studentId, attendanceFigures(own, Math.max(0, onRoll - n))]
    }),
  )
}
