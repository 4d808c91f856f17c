import { sql } from 'kysely'
import { z } from 'zod'
import { civilDate } from '@/core/inputs'
import { defineQuery } from '@/server/platform/define'
import { rollTopic } from '@/server/school/topics'
import { listGuardians } from './rights'

/** The guardians of students on roll on a date, each once, with their students. One statement. */
export const guardians = defineQuery({
  input: z.object({ date: civilDate }),
  right: listGuardians,
  topics: () => [rollTopic()],
  run: async ({ db }, { date }) => {
    const { rows } = await sql<{
      id: string
      name: string
      phone: string | null
      email: string | null
      language: string
      address: string | null
      students: readonly { readonly id: string; readonly name: string; readonly relation: string }[]
    }>`select g.id, g.family_name || ', ' || g.given_name as name, g.phone, g.email, g.language, g.address,
        json_agg(json_build_object('id', s.id, 'name', s.sort_name, 'relation', r.relation) order by s.sort_name) as students
      from guardian g join guardianship r on r.guardian_id = g.id join student s on s.id = r.student_id
        join enrolment e on e.student_id = s.id and e.period @> ${date}::date
      group by g.school_id, g.id order by g.family_name, g.given_name, g.id`.execute(db)
    return rows
  },
})
