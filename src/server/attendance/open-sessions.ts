import { sql, type RawBuilder } from 'kysely'
import { countOpen, noOpenSessions, type OpenSessions } from '@/core/attendance/open-lessons'
import { addDays, schoolDays, type SchoolYear } from '@/core/calendar/school-year'
import { lastOpened } from '@/core/timetable/timetable'
import { localTime } from '@/server/platform/clock'
import type { Context } from '@/server/platform/context'
import { halfDaysBegun } from './load-figures'
import { lessonsHeld } from '@/server/timetable'

export { noOpenSessions, type OpenSessions }

interface Span {
  readonly from: string
  readonly to: string
  /** The day until which sessions count; those after it are to come. */
  readonly date: string
}

/** How many half-days each student was on roll, and how many are to come. Those that are marked are to be taken off. */
export async function openHalfDays(
  context: Context,
  year: SchoolYear,
  members: RawBuilder<unknown>,
  { from, to, date }: Span,
): Promise<ReadonlyMap<string, OpenSessions>> {
  const days = schoolDays(year, from, to)
  // What has not begun today is in the future.
  const begun = days.map((day) => (day > date ? 0 : day < context.today ? 2 : halfDaysBegun(context, day)))
  const { rows } = await sql<OpenSessions & { studentId: string }>`
    with member as (${members}), days as (
      select distinct b.student_id, d.day, d.begun from member b
      join unnest(${days}::date[], ${begun}::int[]) as d(day, begun) on b.period @> d.day)
    select student_id, sum(begun)::int as unmarked, (2 * count(*) - sum(begun))::int as left
    from days group by student_id`.execute(context.db)
  return new Map(rows.map(({ studentId, ...open }) => [studentId, open]))
}

/**
 * The lessons of each student without a mark, and those to come, by the timetables in use.
 *
 * Nothing is joined lesson by lesson: the database expects one row where a year of a school has a million, and would
 * go through them again and again. Lessons of a class on a day, stays of a student in a class, and marks are three
 * short lists; counting a stay's lessons is a look at two places of a sorted list.
 * @param classId of this class alone
 */
export async function openLessonsOf(
  context: Context,
  year: SchoolYear,
  members: RawBuilder<unknown>,
  { from, to, date, classId }: Span & { readonly classId: string | undefined },
): Promise<ReadonlyMap<string, OpenSessions>> {
  const { db, today, actor } = context
  const opened = lastOpened(localTime(actor.timeZone).time)
  const held = await lessonsHeld(context, year, schoolDays(year, from, to))
  const only = (column: string) => (classId === undefined ? sql`true` : sql`${sql.ref(column)} = ${classId}`)
  const [lessons, stays, marked] = await Promise.all([
    sql<{ classId: string; day: string; n: number; toCome: number }>`
      select l.class_id, l.day, count(*)::int as n,
        count(*) filter (where l.day > ${today} or l.day = ${today} and l.starts > ${opened})::int as to_come
      from (${held}) l where ${only('l.class_id')}
      group by l.class_id, l.day order by l.class_id, l.day`.execute(db),
    sql<{ studentId: string; classId: string; firstDay: string; until: string }>`
      with member as materialized (${members})
      select m.student_id, m.class_id, lower(s.both)::text as first_day, upper(s.both)::text as until
      from member b join class_member m on m.student_id = b.student_id and m.period && b.period,
        lateral (select m.period * b.period * daterange(${from}, ${addDays(to, 1)}) as both) s
      where not isempty(s.both) and ${only('m.class_id')}`.execute(db),
    sql<{ studentId: string; n: number }>`
      with member as materialized (${members}), slots as (
        select l.class_id, l.day, l.period::text as session, null::uuid as student_id from (${held}) l
        union all select m.class_id, m.session_date, m.session, m.student_id from attendance_mark m
        where m.class_id is not null and ${only('m.class_id')} and m.code_id is not null
          and m.session_date between ${from} and ${date}
          and exists (select 1 from class_member c where c.class_id = m.class_id and c.student_id = m.student_id
            and c.period @> m.session_date)
          and exists (select 1 from member b where b.student_id = m.student_id and b.period @> m.session_date)
      ), told as (
        select student_id, bool_or(student_id is null) over (partition by class_id, day, session) as held from slots
      )
      select student_id, count(*)::int as n from told where held and student_id is not null group by student_id`.execute(
      db,
    ),
  ])
  return countOpen({ lessons: lessons.rows, stays: stays.rows, marked: marked.rows, date })
}
