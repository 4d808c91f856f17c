import { sql } from 'kysely'
import { addDays, schoolDays, weekday, type SchoolYear } from '@/core/calendar/school-year'
import { sheetsInput } from '@/core/attendance/inputs'
import { sessions } from '@/core/attendance/sessions'
import type { Context } from '@/server/platform/context'
import { defineQuery } from '@/server/platform/define'
import { whereMay } from '@/server/platform/rights'
import { homeroomTeachers, teachersByClass } from '@/server/school/facts'
import { loadYear } from '@/server/school/load-year'
import { codesTopic, lessonsTopic, registersTopic, rollTopic, timetableTopic } from '@/server/school/topics'
import { lessonsHeld } from '@/server/timetable'
import type { RegisterSession } from './register-rows'
import { seeFigures, seeRegisters } from './rights'

interface SheetStudent {
  readonly id: string
  readonly name: string
  readonly number: number
  /** Codes by day and session, as `2026-11-23 morning` or `2026-11-23 3`. */
  readonly marks: Readonly<Record<string, string>>
}

interface Sheet {
  readonly id: string
  readonly name: string
  readonly teacher: string | null
  /** The sessions of the week, in order. */
  readonly sessions: readonly RegisterSession[]
  readonly students: readonly SheetStudent[]
}

/** Of a student, as JSON: codes by day and session among some marks. */
const studentWith = sql`json_build_object('id', s.id, 'name', s.sort_name, 'number', s.number, 'marks', coalesce(k.marks, '{}'))`
const codesByTime = sql`json_object_agg(x.session_date || ' ' || x.session, c.code) as marks from attendance_mark x
  join attendance_code c on c.school_id = x.school_id and c.id = x.code_id`

/** The sheets of homerooms: mornings and afternoons. */
async function ofHomerooms(
  context: Context,
  date: string,
  days: readonly string[],
  homeroomId: string | null,
): Promise<readonly Sheet[]> {
  const { rows } = await sql<Omit<Sheet, 'sessions'>>`
    select h.id, h.name, ${homeroomTeachers('h.id', date)} as teacher, json_agg(${studentWith} order by s.sort_name, s.number) as students
    from homeroom h join year_group g on g.school_id = h.school_id and g.id = h.year_group_id and g.registers <> 'lessons'
    join homeroom_member m on m.school_id = h.school_id and m.homeroom_id = h.id and m.period @> ${date}::date
    join student s on s.school_id = m.school_id and s.id = m.student_id
    left join lateral (select ${codesByTime} where x.school_id = s.school_id and x.student_id = s.id
      and x.session_date = any(${days}::date[]) and x.session in ('morning', 'afternoon')
      and ${whereMay(context, seeFigures, sql.ref('s.id'))}) k on true
    where ${homeroomId}::uuid is null or h.id = ${homeroomId}::uuid
    group by h.school_id, h.id, h.name, g.position order by g.position, h.name`.execute(context.db)
  const halfDays = days.flatMap((day) => sessions.map((session) => ({ date: day, session })))
  return rows.map((row) => ({ ...row, sessions: halfDays }))
}

/** The sheets of classes: the lessons that are held, and those marked that the timetable no longer has. */
async function ofClasses(
  context: Context,
  year: SchoolYear,
  date: string,
  days: readonly string[],
  classId: string | null,
): Promise<readonly Sheet[]> {
  const held = await lessonsHeld(context, year, days)
  const { rows } = await sql<Sheet>`
    with slot as materialized (
      select class_id, day, period from (${held}) l where ${classId}::uuid is null or class_id = ${classId}::uuid
      union select class_id, session_date, session::int from attendance_mark
        where session_date = any(${days}::date[]) and class_id is not null and (${classId}::uuid is null or class_id = ${classId}::uuid)
    )
    select c.id, c.name, a.names as teacher,
      (select json_agg(json_build_object('date', l.day::text, 'session', l.period::text) order by l.day, l.period)
        from slot l where l.class_id = c.id) as sessions,
      json_agg(${studentWith} order by s.sort_name, s.number) as students
    from class c join course q on q.school_id = c.school_id and q.id = c.course_id
    join year_group g on g.school_id = q.school_id and g.id = q.year_group_id
    left join ${teachersByClass(date, sql`select class_id from slot`)} a on a.class_id = c.id
    join class_member m on m.school_id = c.school_id and m.class_id = c.id and m.period @> ${date}::date
    join student s on s.school_id = m.school_id and s.id = m.student_id
    left join lateral (select ${codesByTime} where x.school_id = s.school_id and x.student_id = s.id
      and x.session_date = any(${days}::date[]) and x.class_id = m.class_id
      and ${whereMay(context, seeFigures, sql.ref('s.id'))}) k on true
    where c.id in (select class_id from slot)
    group by c.school_id, c.id, c.name, a.names, g.position order by g.position, c.name`.execute(context.db)
  return rows
}

/**
 * The registers of the week around a date, as they are printed: of homerooms or of classes, one or all. Marks are shown
 * of students whose attendance the actor may see; of the others the sheet has the names.
 */
export const sheets = defineQuery({
  isHeavy: true,
  input: sheetsInput,
  right: seeRegisters,
  topics: () => [registersTopic(), lessonsTopic(), timetableTopic(), rollTopic(), codesTopic()],
  run: async (context, { date, of, id }) => {
    const { db } = context
    const year = await loadYear(db, date)
    const monday = addDays(date, 1 - weekday(date))
    const days = year ? schoolDays(year, monday, addDays(monday, 6)) : []
    const [{ rows: homerooms }, { rows: classes }, shown] = await Promise.all([
      sql<{ id: string; name: string }>`
        select h.id, h.name from homeroom h
        join year_group g on g.school_id = h.school_id and g.id = h.year_group_id and g.registers <> 'lessons'
        where h.year_id = ${year?.id ?? null} order by g.position, h.name`.execute(db),
      sql<{ id: string; name: string }>`
        select c.id, c.name from class c join course k on k.school_id = c.school_id and k.id = c.course_id
        join year_group g on g.school_id = k.school_id and g.id = k.year_group_id and g.registers <> 'half-days'
        where c.year_id = ${year?.id ?? null} and exists (select 1 from lesson l where l.school_id = c.school_id and l.class_id = c.id)
        order by g.position, c.name`.execute(db),
      !year
        ? []
        : of === 'homerooms'
          ? ofHomerooms(context, date, days, id)
          : ofClasses(context, year, date, days, id),
    ])
    return { days, homerooms, classes, sheets: shown }
  },
})
