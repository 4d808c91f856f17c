import { z } from 'zod'
import { limits } from '@/core/limits'
import { id } from '@/core/inputs'
import { docxAsPdf } from '@/formats/docx/as-pdf'
import { asPicture } from '@/formats/image/picture'
import { testTypes } from '@/formats/kind-of-file'
import { inspectPdf } from '@/formats/pdf/inspect'
import { picturePages, type PagePicture } from '@/formats/pdf/picture-pages'
import { defineCommand, defineQuery } from '@/server/platform/define'
import { fileStore } from '@/server/platform/file-store'
import { storeFile } from '@/server/platform/files'
import { defineJob, type Steps } from '@/server/platform/job'
import { assessmentChanged } from './changed'
import { putDocument } from './form-document'
import { editAssessment } from './rights'
import { refuse } from './messages'

const ofJob = z.object({ assessmentId: id, jobId: id })

interface Source {
  readonly documentId: string
  readonly name: string
  readonly mediaType: string
}

/** The files that a piece of work makes a document from; none where others were chosen meanwhile. */
export const sources = defineQuery({
  input: ofJob,
  right: editAssessment,
  by: 'server',
  run: ({ db }, { assessmentId, jobId }): Promise<readonly Source[]> =>
    db
      .selectFrom('formSource as s')
      .innerJoin('document as d', 'd.id', 's.documentId')
      .select(['d.id as documentId', 'd.name', 'd.mediaType'])
      .where('s.assessmentId', '=', assessmentId)
      .where('s.jobId', '=', jobId)
      .orderBy('s.position')
      .execute(),
})

/** What one of these files holds. */
export const sourceBytes = defineQuery({
  input: z.object({ assessmentId: id, documentId: id }),
  right: editAssessment,
  by: 'server',
  run: async (context, { assessmentId, documentId }) => {
    const known = await context.db
      .selectFrom('formSource')
      .select('documentId')
      .where('assessmentId', '=', assessmentId)
      .where('documentId', '=', documentId)
      .limit(1)
      .executeTakeFirst()
    if (!known) throw refuse('replacedMeanwhile', {})
    return fileStore.readPart(context, documentId, 0, limits.upload)
  },
})

/** Keeps the document that was made, under the id of its work, so that work done twice stores it once. */
export const keepDocument = defineCommand({
  input: ofJob.extend({
    name: z.string(),
    bytes: z.instanceof(Buffer),
    pageCount: z.number().int().min(1).max(limits.pages),
  }),
  right: editAssessment,
  needsNoVersion: 'only for the files it was made from',
  by: 'job',
  run: async (context, { assessmentId, jobId, name, bytes, pageCount }) => {
    const of = await context.db
      .updateTable('formSource')
      .set({ jobId: null })
      .where('assessmentId', '=', assessmentId)
      .where('jobId', '=', jobId)
      .returning('formId')
      .execute()
    const [form] = of
    if (!form) throw refuse('replacedMeanwhile', {})
    const documentId = await storeFile(context, {
      purpose: 'print',
      documentId: jobId,
      name,
      bytes,
      pageCount,
    })
    await putDocument(context, { assessmentId, formId: form.formId }, documentId)
    await assessmentChanged(context, assessmentId)
    return null
  },
})

/** Pictures upright, one after the other; each counts as a step. */
async function* picturesOf(
  steps: Steps,
  assessmentId: string,
  files: readonly Source[],
): AsyncGenerator<PagePicture> {
  for (const [i, { documentId, name }] of files.entries()) {
    // One at a time: each takes up to hundreds of megabytes while it is read.
    // eslint-disable-next-line no-await-in-loop
    const picture = await asPicture(await steps.query(sourceBytes, { assessmentId, documentId }))
    if (!picture.ok) throw refuse('notConverted', { name, problem: picture.problem })
    yield picture
    // eslint-disable-next-line no-await-in-loop
    await steps.progress(i + 1, files.length)
  }
}

/** A text, or pictures, as one PDF, so that every test is shown in the same way and its questions have places on pages. */
export const convertJob = defineJob({
  input: z.object({ assessmentId: id }),
  right: editAssessment,
  about: 'assessmentId',
  isWhole: true,
  run: async (steps, { assessmentId }) => {
    const { jobId } = steps
    const files = await steps.query(sources, { assessmentId, jobId })
    const [first] = files
    if (!first) throw refuse('replacedMeanwhile', {})
    const keep = (name: string, bytes: Buffer, pageCount: number) =>
      steps.execute(keepDocument, { assessmentId, jobId, name, bytes, pageCount })
    const pages = (count: number) => `${count} ${count === 1 ? 'page' : 'pages'}`
    if (first.mediaType !== testTypes.docx) {
      const made = await picturePages(steps.title, picturesOf(steps, assessmentId, files))
      await keep(first.name, made.bytes, made.pageCount)
      return { message: pages(made.pageCount), isQuiet: true }
    }
    await steps.progress(0, 2)
    const made = await docxAsPdf(
      await steps.query(sourceBytes, { assessmentId, documentId: first.documentId }),
    )
    if (!made.ok) throw refuse('notConverted', { name: first.name, problem: made.problem })
    await steps.progress(1, 2)
    const inspected = await inspectPdf(made.bytes)
    if (!inspected.ok) throw refuse('notConverted', { name: first.name, problem: inspected.problem })
    await keep(first.name, made.bytes, inspected.pageCount)
    if (made.leftOut.length === 0) return { message: pages(inspected.pageCount), isQuiet: true }
    return {
      message: `${pages(inspected.pageCount)}, without its ${made.leftOut.join(' and ')}: compare it with the original.`,
    }
  },
})
