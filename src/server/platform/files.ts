import { createHash } from 'node:crypto'
import { v7 as uuid } from 'uuid'
import type { Tables } from '@/db/tables'
import { limits } from '@/core/limits'
import type { Context } from './context'
import { fileStore } from './file-store'
import type { Right } from './rights'

/** Where stored files are used, and who may read them there. */
export interface FileUse {
  readonly table: keyof Tables & string
  /** The column that points at the file. */
  readonly column: string
  /** Who may read it, judged by the object that `object` points at. */
  readonly right: Right<never>
  readonly object: string
  /** Days after which the reference is cleared and the file deleted; kept for good without. */
  readonly days?: number
}

/** What a file is stored for. Each purpose has a limit; the database's own is the highest. */
const purposes = {
  /** Sent by a person. */
  upload: limits.upload,
  /** Photos of students, made small. */
  photo: limits.upload,
  /** Drawn by Kedge: cards, prints. */
  print: limits.file,
} as const

export interface FileToStore {
  readonly purpose: keyof typeof purposes
  /** Given, storing the same again changes nothing. */
  readonly documentId?: string
  readonly name: string
  /** A PDF without. */
  readonly mediaType?: string
  readonly bytes: Buffer
  readonly pageCount: number | null
}

/**
 * Stores a file.
 * @returns its id
 * @throws RangeError when it is larger than its purpose allows
 */
export async function storeFile(
  context: Context,
  { purpose, documentId = uuid(), name, mediaType, bytes, pageCount }: FileToStore,
): Promise<string> {
  if (bytes.length > purposes[purpose]) throw new RangeError(`${name} has ${bytes.length} bytes`)
  const { db, actor, now } = context
  const made = await db
    .insertInto('document')
    .values({
      schoolId: actor.schoolId,
      id: documentId,
      purpose,
      name: name.slice(0, limits.fileName),
      mediaType: mediaType ?? 'application/pdf',
      size: bytes.length,
      sha256: createHash('sha256').update(bytes).digest('hex'),
      pageCount,
      createdBy: actor.accountId,
      createdAt: now,
    })
    .onConflict((c) => c.doNothing())
    .returning('id')
    .executeTakeFirst()
  if (made) await fileStore.put(context, documentId, bytes)
  return documentId
}
