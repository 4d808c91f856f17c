import { sql, type RawBuilder } from 'kysely'
import { schoolDays, type SchoolYear } from '@/core/calendar/school-year'
import type { Context } from '@/server/platform/context'
import { lessonsHeld } from '@/server/timetable'

/** Sessions of a student that say nothing yet. */
export interface OpenSessions {
  /** Over or of today, on roll, and without a mark. */
  readonly unmarked: number
  /** After the day until which sessions count. */
  readonly left: number
}

export const noOpenSessions: OpenSessions = { unmarked: 0, left: 0 }

interface Span {
  readonly from: string
  readonly to: string
  /** The day until which sessions count; those after it are to come. */
  readonly date: string
}

/** How many half-days each student was on roll, and how many are to come. Those that are marked are to be taken off. */
export async function openHalfDays(
  { db }: Context,
  year: SchoolYear,
  members: RawBuilder<unknown>,
  { from, to, date }: Span,
): Promise<ReadonlyMap<string, OpenSessions>> {
  const { rows } = await sql<OpenSessions & { studentId: string }>`
    with member as (${members})
    select b.student_id, 2 * (count(distinct d.day) filter (where d.day <= ${date}))::int as unmarked,
      2 * (count(distinct d.day) filter (where d.day > ${date}))::int as left
    from member b join unnest(${schoolDays(year, from, to)}::date[]) as d(day) on b.period @> d.day group by b.student_id`.execute(
    db,
  )
  return new Map(rows.map(({ studentId, ...open }) => [studentId, open]))
}

/**
 * The lessons of each student without a mark, and those to come, by the timetables in use.
 * @param classId of this class alone
 */
export async function openLessonsOf(
  context: Context,
  year: SchoolYear,
  members: RawBuilder<unknown>,
  { from, to, date, classId }: Span & { readonly classId: string | undefined },
): Promise<ReadonlyMap<string, OpenSessions>> {
  const held = await lessonsHeld(context, year, schoolDays(year, from, to))
  const { rows } = await sql<OpenSessions & { studentId: string }>`
    with member as materialized (${members}), held as materialized (${held}), expected as materialized (
      select b.student_id, l.class_id, l.day, l.period from held l
      join class_member m on m.class_id = l.class_id and m.period @> l.day
      join member b on b.student_id = m.student_id and b.period @> l.day
      where ${classId ?? null}::uuid is null or l.class_id = ${classId ?? null}::uuid
    ), lessons as (
      -- Grouped and not joined: what is expected is planned as a handful of rows and would be gone through again and again.
      select student_id, class_id, day, period, bool_or(expected) as expected, bool_or(marked) as marked from (
        select student_id, class_id, day, period, true as expected, false as marked from expected
        union all select student_id, class_id, session_date, session::int, false, true from attendance_mark
          where class_id is not null and code_id is not null and session_date between ${from} and ${date}) both_kinds
      group by student_id, class_id, day, period
    )
    select student_id, (count(*) filter (where day <= ${date} and not marked))::int as unmarked,
      (count(*) filter (where day > ${date}))::int as "left"
    from lessons where expected group by student_id`.execute(context.db)
  return new Map(rows.map(({ studentId, ...open }) => [studentId, open]))
}
