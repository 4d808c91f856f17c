import { sql } from 'kysely'
import { z } from 'zod'
import { addDays, schoolDays, weekday } from '@/core/calendar/school-year'
import { civilDate, id } from '@/core/inputs'
import { defineQuery } from '@/server/platform/define'
import { homeroomTeachers } from '@/server/school/facts'
import { loadYear } from '@/server/school/load-year'
import { codesTopic, registersTopic, rollTopic } from '@/server/school/topics'
import { seeRegisters } from './rights'

interface SheetStudent {
  readonly id: string
  readonly name: string
  readonly number: number
  /** Codes by day and half, as `2026-11-23 morning`. */
  readonly marks: Readonly<Record<string, string>>
}

/** The registers of the week around a date, of one homeroom or of all, as they are printed. */
export const sheets = defineQuery({
  input: z.object({ date: civilDate, homeroomId: id.nullable() }),
  right: seeRegisters,
  topics: () => [registersTopic(), rollTopic(), codesTopic()],
  run: async ({ db }, { date, homeroomId }) => {
    const year = await loadYear(db, date)
    const monday = addDays(date, 1 - weekday(date))
    const days = year ? schoolDays(year, monday, addDays(monday, 6)) : []
    const [all, { rows }] = await Promise.all([
      db
        .selectFrom('homeroom as h')
        .innerJoin('yearGroup as g', 'g.id', 'h.yearGroupId')
        .select(['h.id', 'h.name'])
        .where('h.yearId', '=', year?.id ?? null)
        .orderBy('g.position')
        .orderBy('h.name')
        .execute(),
      sql<{ id: string; name: string; teacher: string | null; students: readonly SheetStudent[] }>`
        select h.id, h.name, ${homeroomTeachers('h.id', date)} as teacher,
          json_agg(json_build_object('id', s.id, 'name', s.sort_name, 'number', s.number, 'marks', coalesce(k.marks, '{}')) order by s.sort_name, s.number) as students
        from homeroom h join year_group g on g.school_id = h.school_id and g.id = h.year_group_id
        join homeroom_member m on m.school_id = h.school_id and m.homeroom_id = h.id and m.period @> ${date}::date
        join student s on s.school_id = m.school_id and s.id = m.student_id
        left join lateral (
          select json_object_agg(x.session_date || ' ' || x.session, c.code) as marks from attendance_mark x
          join attendance_code c on c.school_id = x.school_id and c.id = x.code_id
          where x.school_id = s.school_id and x.student_id = s.id and x.session_date = any(${days}::date[])
            and x.session in ('morning', 'afternoon')) k on true
        where ${homeroomId}::uuid is null or h.id = ${homeroomId}::uuid
        group by h.school_id, h.id, h.name, g.position order by g.position, h.name`.execute(db),
    ])
    return { days, all, homerooms: rows }
  },
})
