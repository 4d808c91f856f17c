import { sql } from 'kysely'
import { z } from 'zod'
import type { Meaning } from '@/core/attendance/codes'
import { defineQuery } from '@/server/platform/define'
import { codesTopic, lessonsTopic, registersTopic, rollTopic } from '@/server/school/topics'
import { watchRegisters } from './rights'

/** Where somebody is by the latest register of today. */
export type Whereabouts = 'here' | 'away' | 'not known'

/**
 * Everyone on roll today by homeroom, and whether the latest mark of today says that they are in the building. A mark of
 * a lesson counts like one of a half-day: the later session says more.
 */
export const inBuilding = defineQuery({
  input: z.object({}),
  right: watchRegisters,
  topics: () => [registersTopic(), lessonsTopic(), codesTopic(), rollTopic()],
  run: async ({ db, today }) => {
    const { rows } = await sql<{
      studentId: string
      name: string
      number: number
      homeroom: string
      meaning: Meaning | null
      code: string | null
      session: string | null
    }>`
      select s.id as student_id, s.sort_name as name, s.number, h.name as homeroom, k.meaning, k.code, k.session
      from homeroom_member m join student s on s.school_id = m.school_id and s.id = m.student_id
      join homeroom h on h.school_id = m.school_id and h.id = m.homeroom_id
      join year_group g on g.school_id = h.school_id and g.id = h.year_group_id
      left join lateral (
        select c.meaning, c.code, x.session from attendance_mark x
        join attendance_code c on c.school_id = x.school_id and c.id = x.code_id
        left join timetable t on t.school_id = x.school_id and ${today} between t.first_day and coalesce(t.last_day, 'infinity')
        left join timetable_period p on p.school_id = t.school_id and p.timetable_id = t.id and p.number::text = x.session
        where x.school_id = m.school_id and x.student_id = m.student_id and x.session_date = ${today} and not x.kept
        -- A period that no timetable has today says nothing about when it was.
        order by case x.session when 'morning' then time '00:00' when 'afternoon' then time '12:00' else p.starts end desc nulls last
        limit 1) k on true
      where m.period @> ${today}::date order by g.position, h.name, s.sort_name, s.number`.execute(db)
    return {
      students: rows.map(({ meaning, ...row }) => ({ ...row, where: whereaboutsOf(meaning) })),
    }
  },
})

const whereaboutsOf = (meaning: Meaning | null): Whereabouts => {
  if (meaning === null) return 'not known'
  return meaning === 'present' || meaning === 'late' ? 'here' : 'away'
}
