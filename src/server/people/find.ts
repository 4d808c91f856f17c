import { sql } from 'kysely'
import { z } from 'zod'
import { hasRole } from '@/server/platform/actor'
import { defineQuery } from '@/server/platform/registry'
import { maySeeStudents } from './policy'

/** Students, classes, homerooms and assessments whose name holds all the words typed; at most eight of each. */
export const find = defineQuery({
  name: 'people.find',
  input: z.object({ text: z.string().trim().max(80) }),
  allow: maySeeStudents,
  run: async ({ db, actor, today }, { text }) => {
    const words = text
      .toLowerCase()
      .split(/\s+/)
      .filter(Boolean)
      .map((w) => `%${w.replace(/[\\%_]/g, '\\$&')}%`)
    if (words.length === 0) return []
    const marks = hasRole(actor, 'administrator', 'head')
    const { rows } = await sql<{
      kind: 'student' | 'homeroom' | 'class' | 'assessment'
      id: string
      name: string
      detail: string
    }>`
      (select 'student' as kind, s.id, s.sort_name as name, coalesce('no. ' || lpad(s.number::text, 4, '0'), 'accepted') || coalesce(', ' || h.name, '') as detail
        from student s left join homeroom_member m on m.school_id = s.school_id and m.student_id = s.id and m.period @> ${today}::date
        left join homeroom h on h.school_id = m.school_id and h.id = m.homeroom_id
        where lower(s.sort_name || ' ' || s.legal_given_name || ' ' || coalesce(lpad(s.number::text, 4, '0'), '')) like all (${words}) order by s.sort_name limit 8)
      union all (select 'homeroom', h.id, h.name, 'register' from homeroom h where lower(h.name || ' register') like all (${words}) order by h.name limit 8)
      union all (select 'class', c.id, c.name, 'gradebook' from class c
        where lower(c.name || ' gradebook') like all (${words}) and (${marks} or exists (select 1 from class_teacher t where t.school_id = c.school_id and t.class_id = c.id and t.staff_id = ${actor.personId} and t.period @> ${today}::date))
        order by c.name limit 8)
      union all (select 'assessment', a.id, a.name, 'assessment' from assessment a
        where lower(a.name || ' assessment') like all (${words}) and (${marks} or a.owner_id = ${actor.personId}) order by a.given_on desc limit 8)`.execute(
      db,
    )
    return rows
  },
})
