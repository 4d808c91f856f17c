import { sql } from 'kysely'
import type { Context } from './context'

/**
 * Where the contents of stored files are. What they are called, whose they are and who may read them always stands in the
 * table `document`, in the transaction of whoever stores one; its row goes first, and its contents with it.
 */
export interface FileStore {
  /** Keeps the contents of a file whose row was just made; they count once the transaction does. */
  readonly put: (context: Context, documentId: string, bytes: Buffer) => Promise<void>
  /** At most `most` bytes from an offset on; fewer at the end, none behind it. */
  readonly readPart: (context: Context, documentId: string, from: number, most: number) => Promise<Buffer>
}

/** In the database beside the row: one back-up holds everything, and what is rolled back was never stored. */
export const fileStore: FileStore = {
  put: async ({ db, actor }, documentId, bytes) => {
    await db.insertInto('documentContents').values({ schoolId: actor.schoolId, documentId, bytes }).execute()
  },
  readPart: async ({ db }, documentId, from, most) => {
    const part = await db
      .selectFrom('documentContents')
      .select(sql<Buffer>`substring(bytes from ${from + 1}::int for ${most}::int)`.as('bytes'))
      .where('documentId', '=', documentId)
      .executeTakeFirstOrThrow()
    return part.bytes
  },
}
