import { sql } from 'kysely'
import { v7 as uuid } from 'uuid'
import { z } from 'zod'
import { termShownOn } from '@/core/calendar/school-year'
import { id, expectedVersion } from '@/core/inputs'
import { assignmentInput, newAssignmentInput } from '@/core/marks/inputs'
import { assessmentTopic } from '@/server/assessment'
import type { Context } from '@/server/platform/context'
import { defineCommand } from '@/server/platform/define'
import { updateIfUnchanged } from '@/server/platform/write'
import { loadYear } from '@/server/school/load-year'
import { checkNotRead } from './columns'
import { linkedMost, linkedScores } from './linked-scores'
import { gradebookTopic, plainDecimal } from './load-gradebooks'
import { enterScores, enterScoresHereAndIn } from './rights'
import { refuse, refuseField } from './messages'

export async function termOfDue({ db }: Context, dueOn: string) {
  const year = await loadYear(db, dueOn)
  const term = year && termShownOn(year, dueOn)
  if (!year || !term || dueOn < term.firstDay || dueOn > term.lastDay)
    throw refuseField('dueOn', 'noTerm', {})
  return term
}

export async function categoryOf({ db }: Context, classId: string, termId: string, categoryId: string) {
  const found = await db
    .selectFrom('category')
    .select('id')
    .where('id', '=', categoryId)
    .where('classId', '=', classId)
    .where('termId', '=', termId)
    .executeTakeFirst()
  if (!found) throw refuseField('categoryId', 'categoryOfOther', {})
}

const columnsOf = ({
  name,
  categoryId,
  maxPoints,
  dueOn,
  counts,
  extra,
}: z.infer<typeof assignmentInput>) => ({
  name,
  categoryId,
  maxPoints,
  dueOn,
  counts,
  extra,
})

/** The categories of the same name in other classes' gradebooks of the term; a class that has none is refused. */
async function alikeIn(
  { db }: Context,
  classIds: readonly string[],
  { termId, categoryId }: { termId: string; categoryId: string },
): Promise<readonly { classId: string; categoryId: string }[]> {
  const { rows } = await sql<{ classId: string; className: string; name: string; categoryId: string | null }>`
    select distinct on (c.id) c.id as class_id, c.name as class_name, own.name, k.id as category_id
    from class c join category own on own.school_id = c.school_id and own.id = ${categoryId}
    left join category k on k.school_id = c.school_id and k.class_id = c.id and k.term_id = ${termId}
      and lower(btrim(k.name)) = lower(btrim(own.name))
    where c.id = any(${[...classIds]}::uuid[]) order by c.id, k.position`.execute(db)
  return rows.map(({ classId, className, name, categoryId: found }) => {
    if (found === null) throw refuseField('others', 'categoryMissing', { className, name })
    return { classId, categoryId: found }
  })
}

/** Adds an assignment to the gradebook of a class, and of others at once, in the term of its due date; all or none. */
export const createAssignment = defineCommand({
  input: newAssignmentInput,
  right: enterScoresHereAndIn,
  needsNoVersion: 'creates',
  undo: {
    days: 30,
    whenChangedSince: 'stop',
    topics: ({ classId, others }: z.infer<typeof newAssignmentInput>) =>
      [classId, ...others].map(gradebookTopic),
  },
  run: async (context, { others, ...asked }) => {
    const term = await termOfDue(context, asked.dueOn)
    const { classId, categoryId } = asked
    await categoryOf(context, classId, term.id, categoryId)
    const alike = await alikeIn(
      context,
      others.filter((other) => other !== classId),
      { termId: term.id, categoryId },
    )
    const made = [{ classId, categoryId }, ...alike].map((place) => ({
      schoolId: context.actor.schoolId,
      id: uuid(),
      termId: term.id,
      assessmentId: null,
      ...columnsOf({ ...asked, ...place }),
      classId: place.classId,
    }))
    await context.db.insertInto('assignment').values(made).execute()
    context.changed(...made.map((m) => gradebookTopic(m.classId)))
    return { assignmentId: made[0]?.id ?? '', classes: made.length }
  },
})

/** Changes an assignment. The maximum cannot fall below an existing score. */
export const saveAssignment = defineCommand({
  input: assignmentInput.extend({ assignmentId: id, expectedVersion }),
  right: enterScores,
  run: async (context, asked) => {
    const { db } = context
    const { classId, assignmentId } = asked
    const term = await termOfDue(context, asked.dueOn)
    await categoryOf(context, classId, term.id, asked.categoryId)
    const own = await ownAssignment(context, asked)
    if (own.termId !== term.id) throw refuseField('dueOn', 'otherTerm', {})
    // Written first: whoever enters a score waits for this, or this waits for them.
    const version = await updateIfUnchanged(
      context,
      'assignment',
      { id: assignmentId },
      asked.expectedVersion,
      columnsOf(asked),
      { what: own.name, saved: () => Promise.resolve({ value: null }) },
    )
    const over = await db
      .selectFrom('score as s')
      .innerJoin('student as x', 'x.id', 's.studentId')
      .select(['x.sortName', 's.points'])
      .where('s.assignmentId', '=', assignmentId)
      .where(sql<boolean>`s.points > ${asked.maxPoints}::numeric`)
      .executeTakeFirst()
    if (over?.points)
      throw refuseField('maxPoints', 'belowScore', {
        student: over.sortName,
        points: plainDecimal(over.points),
      })
    context.changed(gradebookTopic(classId))
    return { assignmentId, version }
  },
})

async function ownAssignment(
  { db }: Context,
  { classId, assignmentId }: { classId: string; assignmentId: string },
) {
  const own = await db
    .selectFrom('assignment')
    .select(['termId', 'name', 'assessmentId'])
    .where('id', '=', assignmentId)
    .where('classId', '=', classId)
    .executeTakeFirst()
  if (!own) throw refuse('assignmentGone', {})
  return own
}

/** Deletes an assignment from the gradebook, with its scores; the history keeps both. */
export const removeAssignment = defineCommand({
  input: z.object({ classId: id, assignmentId: id, expectedVersion }),
  right: enterScores,
  undo: {
    days: 30,
    whenChangedSince: 'stop',
    topics: ({ classId }: { classId: string }) => [gradebookTopic(classId)],
  },
  run: async (context, { classId, assignmentId, expectedVersion: version }) => {
    const own = await ownAssignment(context, { classId, assignmentId })
    await updateIfUnchanged(
      context,
      'assignment',
      { id: assignmentId },
      version,
      {},
      {
        what: own.name,
        saved: () => Promise.resolve({ value: null }),
      },
    )
    await checkNotRead(context, 'assignmentId', [assignmentId])
    await context.db.deleteFrom('score').where('assignmentId', '=', assignmentId).execute()
    await context.db.deleteFrom('assignment').where('id', '=', assignmentId).execute()
    context.changed(gradebookTopic(classId))
    return null
  },
})

/**
 * Ends the link of an assignment with its assessment: the scores that are final stay as scores of its own, and later
 * changes there do not follow any more. What is not marked yet is left empty.
 */
export const unlinkAssessment = defineCommand({
  input: z.object({ classId: id, assignmentId: id, expectedVersion }),
  right: enterScores,
  undo: {
    days: 30,
    whenChangedSince: 'stop',
    topics: ({ classId }: { classId: string }) => [gradebookTopic(classId)],
  },
  run: async (context, { classId, assignmentId, expectedVersion: version }) => {
    const { db, actor, now } = context
    const own = await ownAssignment(context, { classId, assignmentId })
    if (!own.assessmentId) throw refuse('notLinked', {})
    // Held until the end, so that no answer is typed meanwhile.
    await db.selectFrom('assessment').select('id').where('id', '=', own.assessmentId).forShare().execute()
    // What counts now is read before the link is gone.
    const { rows: scores } = await sql<{ studentId: string; points: string; unmarked: number }>`
      select l.student_id, l.points, l.unmarked from (${linkedScores(sql`a.id = ${assignmentId}`)}) l`.execute(
      db,
    )
    const { rows: worth } = await sql<{ most: string | null }>`
      select case when a.scaled then a.max_points else ${linkedMost} end as most from assignment a where a.id = ${assignmentId}`.execute(
      db,
    )
    const most = worth[0]?.most
    const written = await updateIfUnchanged(
      context,
      'assignment',
      { id: assignmentId },
      version,
      {
        assessmentId: null,
        standardId: null,
        scaled: false,
        ...(Number(most) > 0 ? { maxPoints: most } : {}),
      },
      { what: own.name, saved: () => Promise.resolve({ value: null }) },
    )
    await sql`
      insert into score (school_id, assignment_id, student_id, points, changed_by, changed_at)
      select ${actor.schoolId}, ${assignmentId}, r.student_id, r.points, ${actor.name}, ${now}
      from jsonb_to_recordset(${JSON.stringify(scores.map((s) => ({ student_id: s.studentId, points: s.points, unmarked: s.unmarked })))}::jsonb)
        as r(student_id uuid, points numeric, unmarked integer)
      where r.unmarked = 0 and exists (select 1 from class_member m where m.class_id = ${classId} and m.student_id = r.student_id)
      on conflict (school_id, assignment_id, student_id) do update set points = excluded.points, standing = null, late = null,
        changed_by = excluded.changed_by, changed_at = excluded.changed_at`.execute(db)
    context.changed(gradebookTopic(classId), assessmentTopic(own.assessmentId))
    return { version: written }
  },
})
