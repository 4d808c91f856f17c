/* eslint-disable no-await-in-loop -- one statement for each use of files */
import { sql, type RawBuilder } from 'kysely'
import { z } from 'zod'
import { limits } from '@/core/limits'
import { testTypes } from '@/formats/kind-of-file'
import type { Context } from '@/server/platform/context'
import { defineCommand, defineDomain, defineQuery } from '@/server/platform/define'
import { fileStore } from '@/server/platform/file-store'
import { storeFile, type FileUse } from '@/server/platform/files'
import { id, named } from '@/core/inputs'
import { defineRecurring } from '@/server/platform/recurring'
import { onlyRoles, whereMay, type Right } from '@/server/platform/rights'
import { hasRole, roles } from '@/server/platform/actor'
import { fromAll } from './all'
import { work } from './work'

const uploaders = ['administrator', 'head', 'teacher'] as const
const sendFiles = onlyRoles('upload a document', ...uploaders)

const uses = (): readonly FileUse[] => [...fromAll((domain) => domain.files), ...(work.files ?? [])]

/**
 * Whether a file is used where the actor may read it. One that is used nowhere yet may be read by whoever uploaded it;
 * from then on its use decides, also for them.
 */
function mayRead(context: Context, documentId: RawBuilder<unknown>): RawBuilder<boolean> {
  const { actor } = context
  const used = uses().map(
    (use) => sql<boolean>`exists (select 1 from ${sql.table(use.table)} used
      where used.${sql.ref(use.column)} = ${documentId} and ${whereMay(context, use.right, sql.ref(`used.${use.object}`))})`,
  )
  const anywhere = uses().map(
    (use) =>
      sql<boolean>`exists (select 1 from ${sql.table(use.table)} used where used.${sql.ref(use.column)} = ${documentId})`,
  )
  const sent = sql<boolean>`(${hasRole(actor, ...uploaders)} and exists (
    select 1 from document own where own.id = ${documentId} and own.created_by = ${actor.accountId})
    and not (${sql.join(anywhere, sql` or `)}))`
  return sql<boolean>`(${sql.join([sent, ...used], sql` or `)})`
}

/** Who may read a stored file follows from what it is used for. */
const readFile: Right<{ documentId: string }> = {
  words: 'read a stored file',
  grants: [{ roles, when: { words: 'may see what it is used for', holds: mayRead } }],
  object: 'document',
  of: ({ documentId }) => documentId,
}

/** What a file is called and how large it is. */
const describe = defineQuery({
  input: z.object({ documentId: id }),
  right: readFile,
  run: ({ db }, { documentId }) =>
    db
      .selectFrom('document')
      .select(['name', 'mediaType', 'size', 'pageCount'])
      .where('id', '=', documentId)
      .executeTakeFirstOrThrow(),
})

/** Bytes of a file from an offset on, at most `most`; a download asks part after part and never holds the whole. */
const readPart = defineQuery({
  input: z.object({
    documentId: id,
    from: z.number().int().min(0).max(limits.file),
    most: z.number().int().min(1).max(limits.filePart),
  }),
  right: readFile,
  by: 'server',
  run: (context, { documentId, from, most }) => fileStore.readPart(context, documentId, from, most),
})

/** Keeps a file that was looked through before: a PDF's pages are counted outside of the transaction. */
const upload = defineCommand({
  input: z.object({
    name: named('the file name', limits.fileName),
    bytes: z.instanceof(Buffer),
    mediaType: z.enum(Object.values(testTypes)),
    pageCount: z.number().int().min(1).max(limits.pages).nullable(),
  }),
  right: sendFiles,
  needsNoVersion: 'creates',
  run: async (context, { name, bytes, mediaType, pageCount }) => ({
    documentId: await storeFile(context, { purpose: 'upload', name, mediaType, bytes, pageCount }),
    name,
    mediaType,
    pageCount,
  }),
})

const idleDays = 2

/** Clears references whose time is over, then deletes files that nothing uses. */
const deleteUnused = defineRecurring({
  at: '03:10',
  on: 'every day',
  run: async ({ db, now }) => {
    for (const use of uses())
      if (use.days !== undefined)
        await sql`update ${sql.table(use.table)} set ${sql.ref(use.column)} = null
          where ${sql.ref(use.column)} is not null and created_at < ${now}::timestamptz - make_interval(days => ${use.days})`.execute(
          db,
        )
    const used = uses().map(
      (use) =>
        sql`not exists (select 1 from ${sql.table(use.table)} used where used.${sql.ref(use.column)} = document.id)`,
    )
    await sql`delete from document where created_at < ${now}::timestamptz - make_interval(days => ${idleDays})
      and ${sql.join(used, sql` and `)}`.execute(db)
  },
})

/** Stored files: uploads, prints and cards. */
export const files = defineDomain({
  name: 'files',
  tables: ['document', 'documentContents'],
  reads: [],
  queries: { describe, readPart },
  commands: { upload },
  recurring: { deleteUnused },
})
