import { sql } from 'kysely'
import type { Context } from '@/server/platform/context'
import { isHomeroomTeacherOf } from '@/server/school/facts'
import { coverTopic, lessonsTopic, registersTopic, timetableTopic } from '@/server/school/topics'
import { watchRegisters } from './rights'
import { registerTopic } from './roll'

/** The registers whose changes a person follows: all for those who look after all, else their own and what they cover. */
export async function ownTopics(context: Context) {
  const { db, actor, today } = context
  if (await context.may(watchRegisters, {})) return [registersTopic(), lessonsTopic(), timetableTopic()]
  const { rows } = await sql<{ homeroomId: string; classId: null } | { homeroomId: null; classId: string }>`
    select h.id as homeroom_id, null::uuid as class_id from homeroom h
      where ${isHomeroomTeacherOf(sql.ref('h.id'), actor.staffId, today)}
    union all select null, t.class_id from class_teacher t where t.staff_id = ${actor.staffId} and t.period @> ${today}::date
    union all select null, x.class_id from lesson_change x where x.staff_id = ${actor.staffId} and x.on_date = ${today}`.execute(
    db,
  )
  return [timetableTopic(), coverTopic(), ...rows.map(registerTopic)]
}
