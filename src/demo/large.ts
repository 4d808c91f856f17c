import { sql, type Transaction } from 'kysely'
import { codeSetId, wracklineCodes } from './codes'
import { schoolDays } from '@/core/calendar/school-year'
import type { Tables } from '@/db/tables'
import type { DemoStructure } from './structure'

/**
 * Fills a school's year inside the database: a mark for every student and half-day, and in every class and term
 * three categories with fifteen assignments and all their scores. The values are drawn from hashes of the keys, so
 * they are the same every time.
 */
export async function fillYear(db: Transaction<Tables>, schoolId: string, s: DemoStructure): Promise<void> {
  const days = schoolDays(s.year, s.year.firstDay, s.today)
  await db
    .insertInto('attendanceCodeSet')
    .values({ schoolId, id: codeSetId, name: 'Attendance codes', firstDay: '2020-01-01' })
    .execute()
  await db
    .insertInto('attendanceCode')
    .values(
      wracklineCodes.map(([code, label, meaning], i) => ({
        schoolId,
        id: `00000000-0000-7000-8000-c0de${String(i).padStart(8, '0')}`,
        code,
        label,
        meaning,
        setId: codeSetId,
        position: i + 1,
      })),
    )
    .execute()
  await sql`analyze homeroom_member`.execute(db)
  await sql`
    insert into attendance_mark (school_id, student_id, session_date, session, homeroom_id, code_id, changed_by, changed_at)
    select m.school_id, m.student_id, d.day, x.half, m.homeroom_id,
      (case when h < 0.93 then '00000000-0000-7000-8000-c0de00000000' when h < 0.95 then '00000000-0000-7000-8000-c0de00000001'
        when h < 0.98 then '00000000-0000-7000-8000-c0de00000003' else '00000000-0000-7000-8000-c0de00000002' end)::uuid,
      'Benchmark', d.day + time '09:00'
    from homeroom_member m cross join unnest(${days}::date[]) as d(day) cross join (values ('morning'), ('afternoon')) as x(half)
    cross join lateral (select abs(hashtextextended(m.student_id::text || d.day || x.half, 1) % 1000) / 1000.0 as h) r
    where m.school_id = ${schoolId} and m.period @> d.day`.execute(db)
  await sql`insert into gradebook (school_id, class_id, term_id) select school_id, class_id, term_id from class_term where school_id = ${schoolId}`.execute(
    db,
  )
  await sql`
    insert into category (school_id, id, class_id, term_id, name, weight, drop_lowest, position)
    select g.school_id, gen_random_uuid(), g.class_id, g.term_id, c.name, c.weight, c.dropped, c.position
    from gradebook g cross join (values ('Unit tests', 60, 0, 1), ('Written work', 25, 0, 2), ('Homework', 15, 1, 3)) as c(name, weight, dropped, position)
    where g.school_id = ${schoolId}`.execute(db)
  await sql`
    insert into assignment (school_id, id, class_id, term_id, category_id, name, max_points, due_on)
    select c.school_id, gen_random_uuid(), c.class_id, c.term_id, c.id, c.name || ' ' || n, 20, t.first_day + n * 14
    from category c join term t on t.school_id = c.school_id and t.id = c.term_id cross join generate_series(1, 5) as n
    where c.school_id = ${schoolId}`.execute(db)
  // The planner has not seen this school yet, and would look up each assignment's class by itself.
  await sql`analyze assignment, class_member`.execute(db)
  await sql`
    insert into score (school_id, assignment_id, student_id, points, changed_by)
    select a.school_id, a.id, m.student_id, 10 + abs(hashtextextended(m.student_id::text || a.name, 2) % 21) / 2.0, 'Benchmark'
    from assignment a join class_member m on m.school_id = a.school_id and m.class_id = a.class_id
    where a.school_id = ${schoolId} and m.period @> a.due_on and a.due_on <= ${s.today}`.execute(db)
}
