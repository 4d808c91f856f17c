import { sql } from 'kysely'
import { v7 as uuid } from 'uuid'
import { limits } from '@/core/limits'
import { linkInput } from '@/core/marks/link-input'
import { assessmentTopic } from '@/server/assessment'
import type { Context } from '@/server/platform/context'
import { defineCommand } from '@/server/platform/define'
import { updateIfUnchanged } from '@/server/platform/write'
import { categoryOf, termOfDue } from './assignments'
import { enterScores } from './rights'
import { gradebookTopic } from './load-gradebooks'
import { refuse, refuseField } from './messages'

/** What an assignment can show of an assessment: the whole, or one of its learning standards. */
interface Part {
  readonly standardId: string | null
  /** What stands after the assessment's name. */
  readonly code: string
  readonly most: string
}

/** The assessment as a class sat it, and its parts with what they are worth. */
async function given({ db }: Context, classId: string, assessmentId: string, byStandard: boolean) {
  const assessment = await db
    .selectFrom('assessment as a')
    .innerJoin('sittingClass as c', 'c.assessmentId', 'a.id')
    .innerJoin('sitting as i', 'i.id', 'c.sittingId')
    .leftJoin('assessmentTotal as t', 't.assessmentId', 'a.id')
    .select(['a.name', 'i.givenOn', 't.most'])
    .where('a.id', '=', assessmentId)
    .where('c.classId', '=', classId)
    .executeTakeFirst()
  if (!assessment) throw refuse('notGiven', {})
  const whole: readonly Part[] = [{ standardId: null, code: '', most: assessment.most ?? '0' }]
  const { rows } = byStandard
    ? await sql<Part>`select t.standard_id, coalesce(s.code, s.statement) as code, t.most::text as most
        from assessment_standard_total t join standard s on s.school_id = t.school_id and s.id = t.standard_id
        where t.assessment_id = ${assessmentId} order by s.code, s.position`.execute(db)
    : { rows: whole }
  if (rows.length === 0) throw refuse('noStandards', {})
  const parts = rows.filter((part) => Number(part.most) > 0)
  if (parts.length === 0) throw refuse('noPoints', {})
  return { ...assessment, parts }
}

/** Shows an assessment in an assignment that already exists and has no scores of its own. */
async function linkExisting(
  context: Context,
  link: { classId: string; assessmentId: string; assignment: { id: string; expectedVersion: number } },
  { most, maxPoints }: { most: string; maxPoints: string | null },
): Promise<string> {
  const { db } = context
  const { classId, assessmentId } = link
  const { id: assignmentId, expectedVersion } = link.assignment
  const { rows } = await sql<{ name: string; isLinked: boolean; scores: number }>`
    select a.name, a.assessment_id is not null as is_linked,
      (select count(*)::int from score s where s.school_id = a.school_id and s.assignment_id = a.id and s.points is not null) as scores
    from assignment a where a.id = ${assignmentId} and a.class_id = ${classId}`.execute(db)
  const [own] = rows
  if (!own) throw refuseField('assignment', 'assignmentGone', {})
  if (own.isLinked) throw refuseField('assignment', 'linkedOtherwise', { name: own.name })
  if (own.scores > 0) throw refuseField('assignment', 'hasScores', { name: own.name, scores: own.scores })
  const twice = await db
    .selectFrom('assignment')
    .select('id')
    .where('classId', '=', classId)
    .where('assessmentId', '=', assessmentId)
    .where('standardId', 'is', null)
    .executeTakeFirst()
  if (twice) throw refuse('alreadyLinked', {})
  await updateIfUnchanged(
    context,
    'assignment',
    { id: assignmentId },
    expectedVersion,
    { assessmentId, scaled: maxPoints !== null, maxPoints: maxPoints ?? most },
    { what: own.name, saved: () => Promise.resolve({ value: null }) },
  )
  return assignmentId
}

interface NewLinks {
  readonly classId: string
  readonly assessmentId: string
  readonly termId: string
  readonly categoryId: string | undefined
  readonly name: string
  readonly givenOn: string
  readonly parts: readonly Part[]
  readonly maxPoints: string | null
}

/** Makes an assignment for each part that has none yet; answers the first. */
async function linkNew(context: Context, link: NewLinks): Promise<string> {
  const { classId, assessmentId, termId, categoryId = '', name, givenOn, parts, maxPoints } = link
  await categoryOf(context, classId, termId, categoryId)
  const made = await context.db
    .insertInto('assignment')
    .values(
      parts.map(({ standardId, code, most }) => ({
        schoolId: context.actor.schoolId,
        id: uuid(),
        classId,
        termId,
        categoryId,
        name: (code === '' ? name : `${name} ${code}`).slice(0, limits.shortName).trim(),
        maxPoints: maxPoints ?? most,
        scaled: maxPoints !== null,
        dueOn: givenOn,
        assessmentId,
        standardId,
      })),
    )
    .onConflict((c) => c.doNothing())
    .returning('id')
    .execute()
  const [first] = made
  if (!first) throw refuse('alreadyLinked', {})
  return first.id
}

/**
 * Puts an assessment's result into a class's gradebook: as one linked assignment, new or already there, or as one for
 * each of its learning standards. Later changes of answers or key follow by themselves.
 */
export const linkAssessment = defineCommand({
  input: linkInput,
  right: enterScores,
  needsNoVersion: 'creates, or fills only what is empty',
  run: async (context, { classId, assessmentId, categoryId, assignment, byStandard, maxPoints }) => {
    const { name, givenOn, parts } = await given(context, classId, assessmentId, byStandard)
    const term = await termOfDue(context, givenOn)
    const made = assignment
      ? await linkExisting(
          context,
          { classId, assessmentId, assignment },
          { most: parts[0]?.most ?? '0', maxPoints },
        )
      : await linkNew(context, {
          classId,
          assessmentId,
          termId: term.id,
          categoryId,
          name,
          givenOn,
          parts,
          maxPoints,
        })
    context.changed(gradebookTopic(classId), assessmentTopic(assessmentId))
    return { assignmentId: made }
  },
})
