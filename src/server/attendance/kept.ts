import { sql } from 'kysely'
import { z } from 'zod'
import { schoolDays } from '@/core/calendar/school-year'
import type { Context } from '@/server/platform/context'
import { defineQuery } from '@/server/platform/define'
import { yearsBetween } from '@/server/school/load-year'
import { lessonsTopic, registersTopic } from '@/server/school/topics'
import { lessonsPlaced } from '@/server/timetable'
import { watchRegisters } from './rights'

/**
 * Keeps the marks apart whose session does not take place any more, and counts those again whose session does. Half-days
 * take place on school days, lessons where a timetable has them and they are not cancelled.
 */
export async function keepMarksApart(
  context: Context,
  { from, to }: { readonly from: string; readonly to: string },
): Promise<void> {
  const { db } = context
  const years = await yearsBetween(db, from, to)
  const days = years.flatMap((year) => schoolDays(year, from, to))
  const placed = await lessonsPlaced(context, years, from, to)
  // The database expects one lesson where a year has a hundred thousand, and would look for each mark among all of them.
  await sql`select set_config('enable_nestloop', 'off', true)`.execute(db)
  const { rows } = await sql`
    with open as materialized (select unnest(${days}::date[]) as day),
      placed as materialized (${placed}),
      now as materialized (
        select m.student_id, m.session_date, m.session,
          case when m.homeroom_id is not null then o.day is null else p.class_id is null end as kept
        from attendance_mark m left join open o on o.day = m.session_date
        left join placed p on p.class_id = m.class_id and p.day = m.session_date and p.period::text = m.session
        where m.session_date between ${from} and ${to})
    update attendance_mark m set kept = n.kept from now n
    where m.student_id = n.student_id and m.session_date = n.session_date and m.session = n.session and m.kept <> n.kept
    returning 1`.execute(db)
  await sql`select set_config('enable_nestloop', 'on', true)`.execute(db)
  if (rows.length > 0) context.changed(registersTopic(), lessonsTopic())
}

interface KeptSession {
  readonly date: string
  readonly session: string
  readonly homeroomId: string | null
  readonly classId: string | null
  readonly name: string
  readonly marks: number
}

/** The most that are shown at once. */
const most = 200

/** The registers that were kept from before, the latest first, with how many marks each has. */
export const keptMarks = defineQuery({
  input: z.object({}),
  right: watchRegisters,
  topics: () => [registersTopic(), lessonsTopic()],
  run: async ({ db }) => {
    const { rows } = await sql<KeptSession & { all: number }>`
      select m.session_date::text as date, m.session, m.homeroom_id, m.class_id, coalesce(h.name, k.name) as name,
        count(*)::int as marks, count(*) over ()::int as all
      from attendance_mark m left join homeroom h on h.school_id = m.school_id and h.id = m.homeroom_id
      left join class k on k.school_id = m.school_id and k.id = m.class_id
      where m.kept and m.code_id is not null group by m.session_date, m.session, m.homeroom_id, m.class_id, h.name, k.name
      order by m.session_date desc, name, m.session ~ '^[0-9]', length(m.session), m.session desc limit ${most}`.execute(
      db,
    )
    return { registers: rows.map(({ all: _, ...row }) => row), all: rows[0]?.all ?? 0 }
  },
})
