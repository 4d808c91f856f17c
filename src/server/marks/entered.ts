import { sql, type Transaction } from 'kysely'
import { z } from 'zod'
import { readTypedEntry } from '@/core/marks/columns/entered'
import { isCalculated } from '@/core/marks/columns/column'
import { id } from '@/core/inputs'
import { limits } from '@/core/limits'
import type { Tables } from '@/db/tables'
import type { Context } from '@/server/platform/context'
import { defineWrite, type Cell } from '@/server/platform/write'
import { loadColumns } from './columns'
import { gradebookTopic } from './load-gradebooks'
import { checkMembers } from './check-members'
import { refuse } from './messages'
import { enterScores } from './rights'

type Key = { columnId: string; studentId: string }

export interface StoredEntry {
  readonly columnId: string
  readonly studentId: string
  readonly value: string | null
  readonly version: number
  readonly changedBy: string
}

/** What is entered by hand in the columns of classes. */
export async function loadEntries(
  db: Transaction<Tables>,
  classIds: readonly string[],
): Promise<readonly StoredEntry[]> {
  const { rows } = await sql<StoredEntry>`
    select e.column_id, e.student_id, e.value, e.version, e.changed_by from mark_column c
    join column_entry e on e.school_id = c.school_id and e.column_id = c.id
    where c.class_id = any(${[...classIds]}::uuid[])`.execute(db)
  return rows
}

async function check(
  context: Context,
  { classId }: { classId: string },
  cells: readonly Cell<Key, string | null>[],
): Promise<void> {
  const { db } = context
  // Held until the end, so that no choice is taken out while it is being entered.
  await db
    .selectFrom('markColumn')
    .select('id')
    .where('classId', '=', classId)
    .where('id', 'in', [...new Set(cells.map((c) => c.key.columnId))])
    .orderBy('id')
    .forShare()
    .execute()
  const columns = new Map((await loadColumns(db, [classId])).map((c) => [c.id, c]))
  for (const { key, value } of cells) {
    const column = columns.get(key.columnId)
    if (!column) throw refuse('columnGone', {})
    if (isCalculated(column)) throw refuse('columnCalculated', { name: column.name })
    const read = value === null ? undefined : readTypedEntry(value, column)
    if (value !== null && !(read?.ok && read.value === value))
      throw refuse('entryUnknown', { value, column: column.name })
  }
  await checkMembers(context, classId, cells)
}

/** Sets what is entered by hand in columns of a class, any number at once. */
export const setColumnEntries = defineWrite<{ classId: string }, Key, string | null>({
  table: 'columnEntry',
  what: 'this entry',
  scope: z.object({ classId: id }),
  key: z.object({ columnId: id, studentId: id }),
  value: z.string().min(1).max(limits.partName).nullable(),
  right: enterScores,
  keyColumns: (_scope, { columnId, studentId }) => ({ columnId, studentId }),
  columns: (value) => ({ value }),
  keyOf: (row) => ({ columnId: row.columnId as string, studentId: row.studentId as string }),
  valueOf: ({ value }) => value as string | null,
  check,
  topics: (_context, { classId }) => [gradebookTopic(classId)],
})
