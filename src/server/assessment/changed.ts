import { gradebookTopic } from '@/server/marks/load-gradebooks'
import type { Context } from '@/server/platform/registry'
import { assessmentTopic } from './load-assessment'

/** Tells those who look at the assessment, and at every gradebook it feeds. */
export async function assessmentChanged(context: Context, assessmentId: string) {
  await context.changed(assessmentTopic(assessmentId))
  const classes = await context.db
    .selectFrom('assessment_class')
    .select('class_id')
    .where('assessment_id', '=', assessmentId)
    .execute()
  for (const { class_id } of classes) await context.changed(gradebookTopic(class_id))
  await context.changed('today')
}
