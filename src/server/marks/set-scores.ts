import { sql } from 'kysely'
import { z } from 'zod'
import { limits } from '@/core/limits'
import { standings, type ScoreEntry, type Standing } from '@/core/marks/gradebook'
import { resultsOf } from '@/server/assessment'
import type { Context } from '@/server/platform/context'
import { decimal, id } from '@/core/inputs'
import { defineWrite, type Cell } from '@/server/platform/write'
import { gradebookTopic, plainDecimal } from './load-gradebooks'
import { enterScores } from './rights'
import { checkMembers } from './check-members'
import { refuse } from './messages'

type Key = { assignmentId: string; studentId: string }

const entry = z.discriminatedUnion('kind', [
  z.object({
    kind: z.literal('points'),
    points: decimal('A score', limits.points),
    late: z.literal(true).optional(),
  }),
  ...standings.map((kind) => z.object({ kind: z.literal(kind) })),
])

async function check(
  context: Context,
  { classId }: { classId: string },
  cells: readonly Cell<Key, ScoreEntry | null>[],
) {
  const { db } = context
  // Held until the end, so that no maximum is lowered while a score is being saved.
  const assignments = await db
    .selectFrom('assignment')
    .select(['id', 'name', 'maxPoints', 'assessmentId'])
    .where('classId', '=', classId)
    .where('id', 'in', [...new Set(cells.map((c) => c.key.assignmentId))])
    .orderBy('id')
    .forShare()
    .execute()
  const byId = new Map(assignments.map((a) => [a.id, a]))
  for (const { key, value } of cells) {
    const assignment = byId.get(key.assignmentId)
    if (!assignment) throw refuse('assignmentGone', {})
    if (value?.kind !== 'points') continue
    if (assignment.assessmentId) throw refuse('linkedScore', { assignment: assignment.name })
    if (Number(value.points) > Number(assignment.maxPoints))
      throw refuse('overMaximum', {
        points: value.points,
        most: plainDecimal(assignment.maxPoints),
        assignment: assignment.name,
      })
  }
  await checkMembers(context, classId, cells)
  if (assignments.some((a) => a.assessmentId)) await checkAnswers(db, assignments, cells)
}

/** Over answers of a linked assessment, a standing would be saved and never seen. */
async function checkAnswers(
  db: Context['db'],
  assignments: readonly { id: string; name: string; assessmentId: string | null }[],
  cells: readonly Cell<Key, ScoreEntry | null>[],
) {
  const linked = [...new Set(assignments.flatMap((a) => a.assessmentId ?? []))]
  const { rows: answered } = await sql<{ assessmentId: string; studentId: string; sortName: string }>`
    select r.assessment_id, r.student_id, s.sort_name
    from (${resultsOf(sql`select unnest(${linked}::uuid[])`, [...new Set(cells.map((c) => c.key.studentId))])}) r
    join student s on s.id = r.student_id`.execute(db)
  for (const { key, value } of cells) {
    if (value === null) continue
    const assignment = assignments.find((a) => a.id === key.assignmentId)
    const sheet = answered.find(
      (x) => x.assessmentId === assignment?.assessmentId && x.studentId === key.studentId,
    )
    if (assignment && sheet)
      throw refuse('linkedAnswers', { assignment: assignment.name, student: sheet.sortName })
  }
}

/** Sets any number of scores of a class at once. */
export const setScores = defineWrite<{ classId: string }, Key, ScoreEntry | null>({
  table: 'score',
  what: 'this score',
  scope: z.object({ classId: id }),
  key: z.object({ assignmentId: id, studentId: id }),
  value: entry.nullable(),
  right: enterScores,
  keyColumns: (_scope, { assignmentId, studentId }) => ({ assignmentId, studentId }),
  columns: (value) => ({
    points: value?.kind === 'points' ? value.points : null,
    standing: value && value.kind !== 'points' ? value.kind : null,
    late: value?.kind === 'points' && value.late ? true : null,
  }),
  keyOf: (row) => ({ assignmentId: row.assignmentId as string, studentId: row.studentId as string }),
  valueOf: ({ points, standing, late }) =>
    points !== null
      ? { kind: 'points', points: plainDecimal(points as string), ...(late ? { late: true } : {}) }
      : standing !== null
        ? { kind: standing as Standing }
        : null,
  check,
  topics: (_context, { classId }) => [gradebookTopic(classId)],
})
