import { z } from 'zod'
import { id } from '@/core/inputs'
import { limits } from '@/core/limits'
import type { Context } from '@/server/platform/context'
import { defineWrite, type Cell } from '@/server/platform/write'
import { checkMembers } from './check-members'
import { gradebookTopic } from './load-gradebooks'
import { refuse } from './messages'
import { enterScores } from './rights'

type Key = { assignmentId: string; studentId: string }

/** The notes to scores of a class in a term. */
export const loadNotes = ({ db }: Context, classId: string, termId: string) =>
  db
    .selectFrom('scoreNote as n')
    .innerJoin('assignment as a', 'a.id', 'n.assignmentId')
    .select(['n.assignmentId', 'n.studentId', 'n.note', 'n.version', 'n.changedBy'])
    .where('a.classId', '=', classId)
    .where('a.termId', '=', termId)
    .execute()

async function check(
  context: Context,
  { classId }: { classId: string },
  cells: readonly Cell<Key, string>[],
): Promise<void> {
  const assignmentIds = [...new Set(cells.map((c) => c.key.assignmentId))]
  const assignments = await context.db
    .selectFrom('assignment')
    .select('id')
    .where('classId', '=', classId)
    .where('id', 'in', assignmentIds)
    .orderBy('id')
    .forShare()
    .execute()
  if (assignments.length < assignmentIds.length) throw refuse('assignmentGone', {})
  await checkMembers(context, classId, cells)
}

/** Keeps notes to scores as they are typed; they are for those who teach the class. */
export const setScoreNotes = defineWrite<{ classId: string }, Key, string>({
  table: 'scoreNote',
  what: 'this note',
  scope: z.object({ classId: id }),
  key: z.object({ assignmentId: id, studentId: id }),
  value: z.string().max(limits.remark, `A note can have at most ${limits.remark} characters.`),
  right: enterScores,
  keyColumns: (_scope, { assignmentId, studentId }) => ({ assignmentId, studentId }),
  columns: (note) => ({ note }),
  keyOf: (row) => ({ assignmentId: row.assignmentId as string, studentId: row.studentId as string }),
  valueOf: ({ note }) => note as string,
  check,
  topics: (_context, { classId }) => [gradebookTopic(classId)],
})
