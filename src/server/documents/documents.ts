import { createHash } from 'node:crypto'
import { v7 as uuid } from 'uuid'
import { z } from 'zod'
import { inspectPdf } from '@/formats/pdf/inspect'
import { refuseField } from '@/server/platform/failure'
import { id, named } from '@/server/platform/inputs'
import { defineCommand, defineQuery, onlyRoles, type Context } from '@/server/platform/registry'
import { mayReadDocument } from './policy'

/** Largest upload, in bytes: 25 MiB. */
export const largestDocument = 25 * 1024 * 1024

/** Stores bytes; `documentId` given, storing the same again changes nothing. */
export async function storeDocument(
  { db, actor, now }: Context,
  {
    documentId = uuid(),
    name,
    bytes,
    pageCount,
  }: { documentId?: string; name: string; bytes: Buffer; pageCount: number | null },
): Promise<string> {
  await db
    .insertInto('document')
    .values({
      school_id: actor.schoolId,
      id: documentId,
      name,
      media_type: 'application/pdf',
      size: bytes.length,
      sha256: createHash('sha256').update(bytes).digest('hex'),
      page_count: pageCount,
      bytes,
      created_by: actor.accountId,
      created_at: now,
    })
    .onConflict((c) => c.doNothing())
    .execute()
  return documentId
}

/** The bytes of a document. */
export const read = defineQuery({
  name: 'documents.read',
  input: z.object({ documentId: id }),
  allow: mayReadDocument,
  run: ({ db }, { documentId }) =>
    db
      .selectFrom('document')
      .select(['name', 'media_type', 'bytes', 'sha256'])
      .where('id', '=', documentId)
      .executeTakeFirstOrThrow(),
})

/** Takes in a PDF, judged by its content, not by its name. */
export const upload = defineCommand({
  name: 'documents.upload',
  input: z.object({ name: named('The file name', 200), bytes: z.instanceof(Buffer) }),
  allow: onlyRoles('administrator', 'head', 'teacher'),
  run: async (context, { name, bytes }) => {
    if (bytes.length > largestDocument)
      throw refuseField(
        'file',
        `${name} has ${(bytes.length / 1048576).toFixed(1)} MiB; the most is 25 MiB. Save it with smaller pictures, or in parts.`,
      )
    const inspected = await inspectPdf(bytes)
    if (!inspected.ok) throw refuseField('file', `${name} ${inspected.problem}`)
    const documentId = await storeDocument(context, { name, bytes, pageCount: inspected.pageCount })
    return { documentId, name, pageCount: inspected.pageCount }
  },
})
