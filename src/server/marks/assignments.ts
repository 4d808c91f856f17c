import { sql } from 'kysely'
import { v7 as uuid } from 'uuid'
import { z } from 'zod'
import { termShownOn } from '@/core/calendar/school-year'
import { id, expectedVersion } from '@/core/inputs'
import { limits } from '@/core/limits'
import {
  assignmentInput,
  assignmentOrderInput,
  copyAssignmentInput,
  newAssignmentInput,
  type AssignmentFields,
} from '@/core/marks/inputs'
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

/** What is kept of an assignment as it was entered. */
const columnsOf = ({ classId: _, ...fields }: AssignmentFields) => fields

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

/**
 * Changes an assignment. The maximum cannot fall below an existing score. With a due date in another term it moves there,
 * into the category of the same name, unless a column reads it.
 */
export const saveAssignment = defineCommand({
  input: assignmentInput,
  right: enterScores,
  run: async (context, { assignmentId, expectedVersion: seen, ...asked }) => {
    const { db } = context
    const { classId } = asked
    const term = await termOfDue(context, asked.dueOn)
    const own = await ownAssignment(context, { classId, assignmentId })
    await categoryOf(context, classId, own.termId, asked.categoryId)
    const isMoved = own.termId !== term.id
    if (isMoved) await checkNotRead(context, 'assignmentId', [assignmentId])
    const categoryId = isMoved
      ? await sameCategoryIn(context, classId, term.id, asked.categoryId)
      : asked.categoryId
    // Written first: whoever enters a score waits for this, or this waits for them.
    const version = await updateIfUnchanged(
      context,
      'assignment',
      { id: assignmentId },
      seen,
      { ...columnsOf({ ...asked, categoryId }), termId: term.id, ...(isMoved ? { position: null } : {}) },
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

/** The category of the same name in another term of the class. */
async function sameCategoryIn({ db }: Context, classId: string, termId: string, categoryId: string) {
  const { rows } = await sql<{ id: string | null; name: string; className: string; taught: boolean }>`
    select k.id, own.name, c.name as class_name,
      exists (select 1 from class_term t where t.school_id = c.school_id and t.class_id = c.id and t.term_id = ${termId}) as taught
    from category own join class c on c.school_id = own.school_id and c.id = own.class_id
    left join category k on k.school_id = own.school_id and k.class_id = own.class_id and k.term_id = ${termId}
      and lower(btrim(k.name)) = lower(btrim(own.name))
    where own.id = ${categoryId} and own.class_id = ${classId} order by k.position limit 1`.execute(db)
  const [found] = rows
  if (!found?.taught) throw refuseField('dueOn', 'termOfOther', {})
  const { id: there, className, name } = found
  if (there === null) throw refuseField('dueOn', 'categoryMissing', { className, name })
  return there
}

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
    for (const table of ['score', 'scoreNote'] as const)
      // eslint-disable-next-line no-await-in-loop -- two
      await context.db.deleteFrom(table).where('assignmentId', '=', assignmentId).execute()
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

/** Adds another assignment like one of the class, with or without its scores; those of an assessment become its own. */
export const copyAssignment = defineCommand({
  input: copyAssignmentInput,
  right: enterScores,
  needsNoVersion: 'creates',
  undo: {
    days: 30,
    whenChangedSince: 'stop',
    topics: ({ classId }: { classId: string }) => [gradebookTopic(classId)],
  },
  run: async (context, { classId, assignmentId, withScores }) => {
    const { db, actor, now } = context
    await ownAssignment(context, { classId, assignmentId })
    const made = uuid()
    await sql`insert into assignment (school_id, id, class_id, term_id, category_id, name, max_points, due_on, counts, extra, description, tags, given_on)
      select a.school_id, ${made}, a.class_id, a.term_id, a.category_id,
        left(a.name, ${limits.shortName - ', copy'.length}) || ', copy',
        case when a.assessment_id is null or a.scaled then a.max_points else coalesce(${linkedMost}, a.max_points) end,
        a.due_on, a.counts, a.extra, a.description, a.tags, a.given_on from assignment a where a.id = ${assignmentId}`.execute(
      db,
    )
    if (withScores)
      await sql`insert into score (school_id, assignment_id, student_id, points, standing, late, changed_by, changed_at)
        select ${actor.schoolId}, ${made}, x.student_id, x.points, x.standing, x.late, ${actor.name}, ${now} from (
          select l.student_id, l.points::numeric as points, null::text as standing, null::boolean as late
            from (${linkedScores(sql`a.id = ${assignmentId}`)}) l where l.unmarked = 0
          union all
          select s.student_id, s.points, s.standing, s.late from score s where s.assignment_id = ${assignmentId}
            and (s.points is not null or s.standing is not null)
            and not exists (select 1 from (${linkedScores(sql`a.id = ${assignmentId}`)}) l where l.student_id = s.student_id)) x
        where exists (select 1 from class_member m where m.class_id = ${classId} and m.student_id = x.student_id)`.execute(
        db,
      )
    context.changed(gradebookTopic(classId))
    return { assignmentId: made }
  },
})

/** Puts the assignments of a term in an order by hand, or back by category and due date. */
export const orderAssignments = defineCommand({
  input: assignmentOrderInput,
  right: enterScores,
  needsNoVersion: 'compares the whole list',
  undo: {
    days: 30,
    whenChangedSince: 'stop',
    topics: ({ classId }: { classId: string }) => [gradebookTopic(classId)],
  },
  run: async (context, { classId, termId, ids }) => {
    const { db } = context
    const rows = await db
      .selectFrom('assignment')
      .select('id')
      .where('classId', '=', classId)
      .where('termId', '=', termId)
      .orderBy('id')
      .forUpdate()
      .execute()
    const there = new Set(rows.map((row) => row.id))
    const isWhole = there.size === new Set(ids).size && ids.every((one) => there.has(one))
    if (ids.length > 0 && !isWhole) throw refuse('orderGone', {})
    await sql`update assignment a set position = o.n from (
        select x.id, (select n from unnest(${ids}::uuid[]) with ordinality as u(id, n) where u.id = x.id) as n
        from assignment x where x.class_id = ${classId} and x.term_id = ${termId}) o
      where a.id = o.id and a.position is distinct from o.n`.execute(db)
    context.changed(gradebookTopic(classId))
    return null
  },
})
