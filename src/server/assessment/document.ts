import { z } from 'zod'
import { id, expectedVersion } from '@/core/inputs'
import type { Context } from '@/server/platform/context'
import { defineCommand } from '@/server/platform/define'
import { checkUnchanged } from '@/server/platform/write'
import { assessmentChanged } from './changed'
import { editAssessment } from './rights'
import { refuseField } from './messages'

/** Refuses a document that was not uploaded by whoever attaches it. */
export async function checkDocument({ db, actor }: Context, documentId: string): Promise<void> {
  const document = await db
    .selectFrom('document')
    .select('id')
    .where('id', '=', documentId)
    .where('createdBy', '=', actor.accountId)
    .executeTakeFirst()
  if (!document) throw refuseField('documentId', 'documentGone', {})
}

/** The form that is given where none is chosen: the first. */
export async function firstForm({ db }: Context, assessmentId: string): Promise<string> {
  const { id: formId } = await db
    .selectFrom('form')
    .select('id')
    .where('assessmentId', '=', assessmentId)
    .orderBy('position')
    .limit(1)
    .executeTakeFirstOrThrow()
  return formId
}

/** Attaches or replaces the document; the key stays as it is. */
export const setDocument = defineCommand({
  input: z.object({ assessmentId: id, documentId: id, expectedVersion }),
  right: editAssessment,
  run: async (context, { assessmentId, documentId, expectedVersion: seen }) => {
    await checkDocument(context, documentId)
    const version = await checkUnchanged(context, 'assessment', { id: assessmentId }, seen, 'this assessment')
    const formId = await firstForm(context, assessmentId)
    await context.db
      .insertInto('formDocument')
      .values({ schoolId: context.actor.schoolId, assessmentId, formId, position: 1, documentId })
      .onConflict((c) =>
        c
          .columns(['schoolId', 'assessmentId', 'formId', 'position'])
          .doUpdateSet((eb) => ({ documentId: eb.ref('excluded.documentId') })),
      )
      .execute()
    await assessmentChanged(context, assessmentId)
    return { version }
  },
})
