import { sql, type Transaction } from 'kysely'
import type { Meaning } from '@/core/attendance/codes'
import { attendanceFigures, type AttendanceFigures } from '@/core/attendance/figures'
import { schoolDays, type SchoolYear } from '@/core/calendar/school-year'
import type { Tables } from '@/db/tables'

/**
 * Attendance figures of students' half-days between two dates, both included, counted only while they were enrolled.
 * @returns figures by student id, for every id given
 */
export async function loadFigures(
  db: Transaction<Tables>,
  year: SchoolYear,
  studentIds: readonly string[],
  from: string,
  to: string,
): Promise<ReadonlyMap<string, AttendanceFigures>> {
  if (studentIds.length === 0) return new Map()
  const [counts, enrolled] = await Promise.all([
    sql<{ studentId: string; meaning: Meaning; n: number }>`
      select u.student_id, c.meaning, sum(u.n)::int as n from (
        select m.school_id, m.student_id, m.code_id, count(*) as n from attendance_mark m
        where m.student_id = any(${studentIds}::uuid[]) and m.session_date between ${from} and ${to} and m.code_id is not null
          and m.homeroom_id is not null
          and exists (select 1 from enrolment e where e.school_id = m.school_id and e.student_id = m.student_id and e.period @> m.session_date)
        group by m.school_id, m.student_id, m.code_id) u
      join attendance_code c on c.school_id = u.school_id and c.id = u.code_id
      group by u.student_id, c.meaning`.execute(db),
    sql<{ studentId: string; from: string; until: string | null }>`
      select student_id, lower(period)::text as from, upper(period)::text as until from enrolment where student_id = any(${studentIds}::uuid[])`.execute(
      db,
    ),
  ])
  const days = schoolDays(year, from, to)
  return new Map(
    studentIds.map((studentId) => {
      const own = counts.rows.filter((r) => r.studentId === studentId)
      const periods = enrolled.rows.filter((r) => r.studentId === studentId)
      const onRoll =
        2 * days.filter((d) => periods.some((p) => p.from <= d && (p.until === null || d < p.until))).length
      const marked = own.reduce((sum, r) => sum + r.n, 0)
      return [
        studentId,
        attendanceFigures(Object.fromEntries(own.map((r) => [r.meaning, r.n])), Math.max(0, onRoll - marked)),
      ]
    }),
  )
}
