import { sql } from 'kysely'
import type { Context } from '@/server/platform/context'
import { coverTopic, lessonsTopic } from '@/server/school/topics'

/** Nobody covers from a day on who is not at the school by then: the lessons are their classes' own teachers' again. */
export async function endCover(context: Context, staffId: string, from: string): Promise<void> {
  const { rows } = await sql`update lesson_change set staff_id = null, changed_by = ${context.actor.name},
      changed_at = ${context.now}
    where staff_id = ${staffId} and on_date >= ${from} returning 1`.execute(context.db)
  await sql`delete from lesson_change where on_date >= ${from} and staff_id is null and room_id is null
    and not cancelled and note is null`.execute(context.db)
  if (rows.length > 0) context.changed(lessonsTopic(), coverTopic())
}
