import { sql } from 'kysely'
import { z } from 'zod'
import type { Entry } from '@/core/marks/gradebook'
import { Refusal, refuse } from '@/server/platform/failure'
import { decimal, expectedVersion, id } from '@/server/platform/inputs'
import { defineCommand, type Context } from '@/server/platform/registry'
import { gradebookTopic } from './load-gradebooks'
import { mayEditGradebook } from './policy'

const entry = z.discriminatedUnion('kind', [
  z.object({ kind: z.literal('points'), points: decimal('A score') }),
  z.object({ kind: z.literal('missing') }),
  z.object({ kind: z.literal('excused') }),
])

const cell = z.object({ assignmentId: id, studentId: id, entry: entry.nullable(), expectedVersion })
type Cell = z.infer<typeof cell>

const columnsOf = (e: Entry | null) => ({
  points: e?.kind === 'points' ? e.points : null,
  standing: e && e.kind !== 'points' ? e.kind : null,
})

async function checkCells({ db }: Context, classId: string, cells: readonly Cell[]) {
  const assignments = await db
    .selectFrom('assignment')
    .select(['id', 'name', 'max_points', 'assessment_id'])
    .where('class_id', '=', classId)
    .where('id', 'in', [...new Set(cells.map((c) => c.assignmentId))])
    .execute()
  const byId = new Map(assignments.map((a) => [a.id, a]))
  for (const c of cells) {
    const assignment = byId.get(c.assignmentId)
    if (!assignment) throw refuse('This assignment is not in the gradebook any more. Load the page again.')
    if (c.entry?.kind !== 'points') continue
    if (assignment.assessment_id)
      throw refuse(
        `${assignment.name} takes its scores from the assessment. Change the answer there and the score follows; here you can set missing or excused.`,
      )
    if (Number(c.entry.points) > Number(assignment.max_points))
      throw refuse(
        `${c.entry.points} is over the maximum of ${Number(assignment.max_points)} for ${assignment.name}. Type a lower score, or raise the maximum.`,
      )
  }
  const studentIds = [...new Set(cells.map((c) => c.studentId))]
  const members = await db
    .selectFrom('class_member')
    .select('student_id')
    .distinct()
    .where('class_id', '=', classId)
    .where('student_id', 'in', studentIds)
    .execute()
  if (members.length < studentIds.length)
    throw refuse('One of the students is not in this class. Load the page again.')
}

interface WrittenScore {
  assignment_id: string
  student_id: string
  version: number
}

/**
 * Sets any number of cells at once, all or none. A cell changed by somebody else meanwhile stops the whole, and
 * what stands there now is told.
 */
export const setScores = defineCommand({
  name: 'marks.setScores',
  input: z.object({ classId: id, cells: z.array(cell).min(1).max(4000) }),
  allow: mayEditGradebook,
  run: async (context, { classId, cells }) => {
    const { db, actor, now } = context
    await checkCells(context, classId, cells)
    const rows = JSON.stringify(
      cells.map((c) => ({
        assignment_id: c.assignmentId,
        student_id: c.studentId,
        ...columnsOf(c.entry),
        expected: c.expectedVersion,
      })),
    )
    const { rows: written } = await sql<WrittenScore>`
      with asked as (select * from jsonb_to_recordset(${rows}::jsonb) as r(assignment_id uuid, student_id uuid, points numeric, standing text, expected int)),
      inserted as (
        insert into score (school_id, assignment_id, student_id, points, standing, changed_by, changed_at)
        select ${actor.schoolId}, assignment_id, student_id, points, standing, ${actor.name}, ${now} from asked where expected = 0
        on conflict do nothing returning assignment_id, student_id, version
      ),
      updated as (
        update score s set points = a.points, standing = a.standing, changed_by = ${actor.name}, changed_at = ${now}, version = s.version + 1
        from asked a where a.expected > 0 and s.school_id = ${actor.schoolId} and s.assignment_id = a.assignment_id and s.student_id = a.student_id and s.version = a.expected
        returning s.assignment_id, s.student_id, s.version
      )
      select * from inserted union all select * from updated`.execute(db)
    if (written.length < cells.length) await refuseConflicts(context, cells, written)
    await context.changed(gradebookTopic(classId))
    return written.map((w) => ({
      assignmentId: w.assignment_id,
      studentId: w.student_id,
      version: w.version,
    }))
  },
})

async function refuseConflicts({ db }: Context, cells: readonly Cell[], written: readonly WrittenScore[]) {
  const done = new Set(written.map((w) => `${w.assignment_id} ${w.student_id}`))
  const lost = cells.filter((c) => !done.has(`${c.assignmentId} ${c.studentId}`))
  const { rows } = await sql<{
    assignment_id: string
    student_id: string
    points: string | null
    standing: string | null
    version: number
    changed_by: string
  }>`
    select s.assignment_id, s.student_id, s.points::text, s.standing, s.version, s.changed_by
    from score s join jsonb_to_recordset(${JSON.stringify(lost)}::jsonb) as r("assignmentId" uuid, "studentId" uuid)
    on s.assignment_id = r."assignmentId" and s.student_id = r."studentId"`.execute(db)
  throw new Refusal({
    kind: 'conflict',
    message: `${rows[0]?.changed_by ?? 'Somebody'} changed ${rows.length === 1 ? 'this score' : `${rows.length} of these scores`} meanwhile. Nothing was overwritten.`,
    current: rows,
  })
}
