import { sql } from 'kysely'
import { z } from 'zod'
import { defineQuery } from '@/server/platform/define'
import { seeChildrensTeachers } from './rights'

/** The homeroom teachers of a guardian's children today, with the address of those who agreed to that. */
export const childrensTeachers = defineQuery({
  input: z.object({}),
  right: seeChildrensTeachers,
  run: async ({ db, actor, today }) => {
    const { rows } = await sql<{
      student: string
      homeroom: string
      teacher: string
      email: string | null
    }>`
      select s.sort_name as student, h.name as homeroom, f.sort_name as teacher,
        case when f.email_for_guardians then nullif(f.email, '') end as email
      from guardianship g join student s on s.school_id = g.school_id and s.id = g.student_id
        join homeroom_member m on m.school_id = s.school_id and m.student_id = s.id and m.period @> ${today}::date
        join homeroom h on h.school_id = m.school_id and h.id = m.homeroom_id
        join homeroom_teacher t on t.school_id = h.school_id and t.homeroom_id = h.id and t.period @> ${today}::date
        join staff_member f on f.school_id = t.school_id and f.id = t.staff_id
      where g.guardian_id = ${actor.guardianId} and g.may_receive_reports
      order by s.sort_name, f.sort_name`.execute(db)
    return rows
  },
})
