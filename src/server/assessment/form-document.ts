import type { Context } from '@/server/platform/context'

/** What a form's document belongs to. */
export interface OfForm {
  readonly assessmentId: string
  readonly formId: string
}

/** Makes a PDF the document of a form, in place of the one it has. */
export async function putDocument(
  { db, actor }: Context,
  { assessmentId, formId }: OfForm,
  documentId: string,
): Promise<void> {
  await db
    .insertInto('formDocument')
    .values({ schoolId: actor.schoolId, assessmentId, formId, position: 1, documentId })
    .onConflict((c) =>
      c
        .columns(['schoolId', 'assessmentId', 'formId', 'position'])
        .doUpdateSet((eb) => ({ documentId: eb.ref('excluded.documentId') })),
    )
    .execute()
}
