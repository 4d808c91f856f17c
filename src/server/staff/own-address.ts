import { sql } from 'kysely'
import { z } from 'zod'
import { shareAddressInput } from '@/core/people/inputs'
import { defineCommand, defineQuery } from '@/server/platform/define'
import { notFound, Refusal } from '@/server/platform/failure'
import { ownAddress as mayDecide, seeChildrensTeachers } from './rights'
import { staffTopic } from './topics'

/** The actor's own e-mail address at the school, and whether guardians may see it. */
export const ownAddress = defineQuery({
  input: z.object({}),
  right: mayDecide,
  run: async ({ db, actor }) => {
    const own = await db
      .selectFrom('staffMember')
      .select(['email', 'emailForGuardians as shared'])
      .where('id', '=', actor.staffId)
      .executeTakeFirst()
    return own ?? { email: null, shared: false }
  },
})

/** Agrees that guardians of one's own students see one's e-mail address, or takes that back. */
export const shareAddress = defineCommand({
  input: shareAddressInput,
  right: mayDecide,
  needsNoVersion: "the actor's own decision",
  run: async ({ db, actor, changed }, { shared }) => {
    const done = await db
      .updateTable('staffMember')
      .set({ emailForGuardians: shared })
      .where('id', '=', actor.staffId)
      .returning('id')
      .executeTakeFirst()
    if (!done) throw new Refusal(notFound)
    changed(staffTopic())
    return null
  },
})

/** The homeroom teachers of a guardian's children today, with the address of those who agreed to that. */
export const ofChildren = defineQuery({
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
