import { sql } from 'kysely'
import { z } from 'zod'
import { manyAway } from '@/core/attendance/unusual'
import { civilDate } from '@/core/inputs'
import { defineQuery } from '@/server/platform/define'
import { codesTopic, lessonsTopic, registersTopic } from '@/server/school/topics'
import { openFigures, watchRegisters } from './rights'

/**
 * What is unusual in a day's registers, for those who look after all of them: homerooms and lessons from which many are
 * away, and students who were present in a session and away without a reason in a later one.
 */
export const unusual = defineQuery({
  input: z.object({ date: civilDate }),
  right: openFigures,
  topics: () => [registersTopic(), lessonsTopic(), codesTopic()],
  run: async (context, { date }) => {
    if (!(await context.may(watchRegisters, {}))) return { many: [], gone: [] }
    const { db } = context
    const [{ rows: away }, { rows: gone }] = await Promise.all([
      sql<{ id: string; name: string; session: string; ofClass: boolean; away: number; marked: number }>`
        select coalesce(h.id, k.id) as id, coalesce(h.name, k.name) as name, m.session, m.class_id is not null as of_class,
          (count(*) filter (where c.meaning in ('absent with reason', 'absent without reason')))::int as away,
          count(*)::int as marked
        from attendance_mark m join attendance_code c on c.school_id = m.school_id and c.id = m.code_id
        left join homeroom h on h.school_id = m.school_id and h.id = m.homeroom_id
        left join class k on k.school_id = m.school_id and k.id = m.class_id
        where m.session_date = ${date} and not m.kept group by h.id, k.id, h.name, k.name, m.session, of_class
        order by name, m.session`.execute(db),
      sql<{
        studentId: string
        name: string
        classId: string
        className: string
        period: string
        before: string
      }>`
        with at as (
          select m.student_id, m.class_id, m.session, c.meaning,
            case m.session when 'morning' then time '00:00' when 'afternoon' then time '12:00' else p.starts end as starts
          from attendance_mark m join attendance_code c on c.school_id = m.school_id and c.id = m.code_id
          left join timetable t on t.school_id = m.school_id and ${date} between t.first_day and coalesce(t.last_day, 'infinity')
          left join timetable_period p on p.school_id = t.school_id and p.timetable_id = t.id and p.number::text = m.session
          where m.session_date = ${date} and not m.kept
        )
        select a.student_id, s.sort_name as name, a.class_id, k.name as class_name, a.session as period, b.session as before
        from at a join lateral (
          select b.session, b.meaning from at b where b.student_id = a.student_id and b.starts < a.starts order by b.starts desc limit 1) b
          on b.meaning in ('present', 'late')
        join student s on s.id = a.student_id join class k on k.id = a.class_id
        where a.meaning = 'absent without reason' order by s.sort_name, a.session`.execute(db),
    ])
    return { many: away.filter(manyAway), gone }
  },
})
