import { z } from 'zod'
import { documentIds } from '@/core/assessment/inputs'
import { id, expectedVersion } from '@/core/inputs'
import { testTypes } from '@/formats/kind-of-file'
import type { Context } from '@/server/platform/context'
import { defineCommand } from '@/server/platform/define'
import { startJob } from '@/server/platform/job'
import { checkUnchanged } from '@/server/platform/write'
import { assessmentChanged } from './changed'
import { convertJob } from './convert'
import { putDocument, type OfForm } from './form-document'
import { editAssessment } from './rights'
import { refuseField } from './messages'

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

interface Attached extends OfForm {
  readonly name: string
}

/** Files that the actor has sent, in the order in which they are named. */
async function ownFiles({ db, actor }: Context, ids: readonly string[]) {
  const found = await db
    .selectFrom('document')
    .select(['id', 'mediaType'])
    .where('id', 'in', ids)
    .where('createdBy', '=', actor.accountId)
    .execute()
  const byId = new Map(found.map((file) => [file.id, file]))
  const files = ids.flatMap((one) => byId.get(one) ?? [])
  if (files.length < ids.length) throw refuseField('documentIds', 'documentGone', {})
  return files
}

/** Keeps the files of a form's document in their order, with the work that makes it until that is done. */
export async function keepSources(
  { db, actor }: Context,
  { assessmentId, formId }: OfForm,
  files: readonly string[],
  jobId: string | null,
): Promise<void> {
  const ofIt = { schoolId: actor.schoolId, assessmentId, formId, jobId }
  await db
    .insertInto('formSource')
    .values(files.map((documentId, i) => ({ ...ofIt, position: i + 1, documentId })))
    .execute()
}

/** Keeps the files a document is to be made from, and has it made. */
export async function makeDocument(
  context: Context,
  { assessmentId, formId, name }: Attached,
  files: readonly string[],
): Promise<void> {
  const jobId = await startJob(context, convertJob, { assessmentId }, { title: `Document of ${name}` })
  await keepSources(context, { assessmentId, formId }, files, jobId)
}

/** Attaches what was sent: a PDF at once, a text or pictures once they were made into one. */
export async function attach(context: Context, to: Attached, ids: readonly string[]): Promise<void> {
  const files = await ownFiles(context, ids)
  await context.db.deleteFrom('formSource').where('formId', '=', to.formId).execute()
  const [first] = files
  if (!first) return
  if (files.length === 1 && first.mediaType === testTypes.pdf) return putDocument(context, to, first.id)
  const isPicture = (file: typeof first) =>
    file.mediaType === testTypes.jpeg || file.mediaType === testTypes.png
  if (files.length > 1 && !files.every(isPicture)) throw refuseField('documentIds', 'mixedFiles', {})
  await makeDocument(
    context,
    to,
    files.map((file) => file.id),
  )
}

/** Attaches or replaces the document; the key stays as it is. */
export const setDocument = defineCommand({
  input: z.object({
    assessmentId: id,
    documentIds: documentIds.min(1, 'Choose a file.'),
    expectedVersion,
  }),
  right: editAssessment,
  run: async (context, { assessmentId, documentIds: ids, expectedVersion: seen }) => {
    const version = await checkUnchanged(context, 'assessment', { id: assessmentId }, seen, 'this assessment')
    const formId = await firstForm(context, assessmentId)
    const { name } = await context.db
      .selectFrom('assessment')
      .select('name')
      .where('id', '=', assessmentId)
      .executeTakeFirstOrThrow()
    await attach(context, { assessmentId, formId, name }, ids)
    await assessmentChanged(context, assessmentId)
    return { version }
  },
})
