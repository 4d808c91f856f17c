import type { Context } from '@/server/platform/context'
import { defineTopic } from '@/server/platform/topic'

/** An assessment: its key and its answers. */
export const assessmentTopic = defineTopic<[assessmentId: string]>('assessment', 'assessment')
/** All assessments given to a class; its gradebook and its report entries rest on them. */
export const classAssessmentsTopic = defineTopic<[classId: string]>('assessments of class', 'class')
/** The school's sets of learning standards. */
export const standardsTopic = defineTopic('standards')
/** Answers that a teacher still has to type. */
export const answersDueTopic = defineTopic<[staffId: string]>('answers due', 'staff')

/** Tells everyone whose page rests on an assessment that it changed. */
export async function assessmentChanged(context: Context, assessmentId: string): Promise<void> {
  const rows = await context.db
    .selectFrom('assessment as a')
    .leftJoin('sitting as i', 'i.assessmentId', 'a.id')
    .leftJoin('sittingClass as c', 'c.sittingId', 'i.id')
    .select(['a.ownerId', 'i.givenBy', 'c.classId'])
    .where('a.id', '=', assessmentId)
    .execute()
  context.changed(assessmentTopic(assessmentId))
  for (const { ownerId, givenBy, classId } of rows) {
    context.changed(answersDueTopic(ownerId))
    if (givenBy) context.changed(answersDueTopic(givenBy))
    if (classId) context.changed(classAssessmentsTopic(classId))
  }
}
