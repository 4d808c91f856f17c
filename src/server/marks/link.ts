/* eslint-disable no-await-in-loop -- assignments that are there are written one by one; an act has few */
import { sql } from 'kysely'
import { v7 as uuid } from 'uuid'
import { z } from 'zod'
import { id } from '@/core/inputs'
import { limits } from '@/core/limits'
import { linkInput, type LinkTarget } from '@/core/marks/link-input'
import { assessmentTopic, seeResults } from '@/server/assessment'
import type { Context } from '@/server/platform/context'
import { defineCommand, defineQuery } from '@/server/platform/define'
import { whereMay } from '@/server/platform/rights'
import { updateIfUnchanged } from '@/server/platform/write'
import { enterScores, enterScoresInAll } from './rights'
import { gradebookTopic } from './load-gradebooks'
import { refuse, refuseField } from './messages'

/** What an assignment can show of an assessment: the whole, or one of its learning standards. */
interface Part {
  readonly standardId: string | null
  /** What stands after the assessment's name. */
  readonly code: string
  readonly most: string
}

/** The assessment's parts with what they are worth. */
async function partsOf({ db }: Context, assessmentId: string, byStandard: boolean): Promise<readonly Part[]> {
  const { rows } = byStandard
    ? await sql<Part>`select t.standard_id, coalesce(s.code, s.statement) as code, t.most::text as most
        from assessment_standard_total t join standard s on s.school_id = t.school_id and s.id = t.standard_id
        where t.assessment_id = ${assessmentId} order by s.code, s.position`.execute(db)
    : await sql<Part>`select null as standard_id, '' as code, t.most::text as most
        from assessment_total t where t.assessment_id = ${assessmentId}`.execute(db)
  if (byStandard && rows.length === 0) throw refuse('noStandards', {})
  const parts = rows.filter((part) => Number(part.most) > 0)
  if (parts.length === 0) throw refuse('noPoints', {})
  return parts
}

/** A class that sat the assessment, with where its gradebook is to show it. */
interface Target extends LinkTarget {
  readonly className: string
  readonly assessment: string
  readonly givenOn: string
  readonly termId: string
}

/** The classes as they sat the assessment; one that did not, or in no term, is refused. */
async function targetsOf(
  { db }: Context,
  assessmentId: string,
  asked: readonly LinkTarget[],
): Promise<readonly Target[]> {
  const { rows } = await sql<{
    classId: string
    className: string
    assessment: string | null
    givenOn: string | null
    termId: string | null
  }>`
    select distinct on (c.id) c.id as class_id, c.name as class_name, a.name as assessment, i.given_on, t.id as term_id
    from class c
    left join sitting_class ic on ic.school_id = c.school_id and ic.class_id = c.id and ic.assessment_id = ${assessmentId}
    left join sitting i on i.school_id = ic.school_id and i.assessment_id = ic.assessment_id and i.id = ic.sitting_id
    left join assessment a on a.school_id = i.school_id and a.id = i.assessment_id
    left join term t on t.school_id = c.school_id and i.given_on between t.first_day and t.last_day
    where c.id = any(${asked.map((t) => t.classId)}::uuid[]) order by c.id, i.given_on`.execute(db)
  return rows.map(({ classId, className, assessment, givenOn, termId }) => {
    if (assessment === null || givenOn === null) throw refuse('notGiven', { className })
    if (termId === null) throw refuseField('targets', 'givenInNoTerm', { className })
    const own = asked.find((t) => t.classId === classId)
    return { ...own, classId, className, assessment, givenOn, termId }
  })
}

/** Shows an assessment in an assignment that already exists and has no scores of its own. */
async function linkExisting(
  context: Context,
  { classId, className }: Target,
  { id: assignmentId, expectedVersion }: NonNullable<LinkTarget['assignment']>,
  link: { assessmentId: string; most: string; maxPoints: string | null },
): Promise<void> {
  const { assessmentId, most, maxPoints } = link
  const { db } = context
  const { rows } = await sql<{ name: string; isLinked: boolean; scores: number; twice: boolean }>`
    select a.name, a.assessment_id is not null as is_linked,
      (select count(*)::int from score s where s.school_id = a.school_id and s.assignment_id = a.id and s.points is not null) as scores,
      exists (select 1 from assignment o where o.school_id = a.school_id and o.class_id = a.class_id
        and o.assessment_id = ${assessmentId} and o.standard_id is null) as twice
    from assignment a where a.id = ${assignmentId} and a.class_id = ${classId}`.execute(db)
  const [own] = rows
  if (!own) throw refuseField('targets', 'assignmentGone', {})
  if (own.isLinked) throw refuseField('targets', 'linkedOtherwise', { name: own.name })
  if (own.scores > 0) throw refuseField('targets', 'hasScores', { name: own.name, scores: own.scores })
  if (own.twice) throw refuse('alreadyLinked', { className })
  await updateIfUnchanged(
    context,
    'assignment',
    { id: assignmentId },
    expectedVersion,
    { assessmentId, scaled: maxPoints !== null, maxPoints: maxPoints ?? most },
    { what: own.name, saved: () => Promise.resolve({ value: null }) },
  )
}

/** Makes an assignment in each class for each part that has none there yet; a class with none to make is refused. */
async function linkNew(
  { db, actor }: Context,
  targets: readonly Target[],
  link: { assessmentId: string; parts: readonly Part[]; maxPoints: string | null },
): Promise<readonly { classId: string; assignmentId: string }[]> {
  if (targets.length === 0) return []
  const { assessmentId, parts, maxPoints } = link
  const { rows: classes } = await sql<{ classId: string }>`
    select k.class_id from category k
    join jsonb_to_recordset(${JSON.stringify(targets)}::jsonb) as t("classId" uuid, "termId" uuid, "categoryId" uuid)
      on k.id = t."categoryId" and k.class_id = t."classId" and k.term_id = t."termId"`.execute(db)
  const known = new Set(classes.map((k) => k.classId))
  if (targets.some((t) => !known.has(t.classId))) throw refuseField('targets', 'categoryOfOther', {})
  const made = await db
    .insertInto('assignment')
    .values(
      targets.flatMap(({ classId, termId, categoryId = '', assessment, givenOn }) =>
        parts.map(({ standardId, code, most }) => ({
          schoolId: actor.schoolId,
          id: uuid(),
          classId,
          termId,
          categoryId,
          name: (code === '' ? assessment : `${assessment} ${code}`).slice(0, limits.shortName).trim(),
          maxPoints: maxPoints ?? most,
          scaled: maxPoints !== null,
          dueOn: givenOn,
          assessmentId,
          standardId,
        })),
      ),
    )
    .onConflict((c) => c.doNothing())
    .returning(['id as assignmentId', 'classId'])
    .execute()
  const twice = targets.find((t) => !made.some((m) => m.classId === t.classId))
  if (twice) throw refuse('alreadyLinked', { className: twice.className })
  return made
}

/**
 * Puts an assessment's result into the gradebooks of classes, all of them or none: as one linked assignment, new or
 * already there, or as one for each of its learning standards. Later changes of answers or key follow by themselves.
 */
export const linkAssessment = defineCommand({
  input: linkInput,
  right: enterScoresInAll,
  needsNoVersion: 'creates, or fills only what is empty',
  undo: {
    days: 30,
    whenChangedSince: 'stop',
    topics: ({ targets, assessmentId }: z.infer<typeof linkInput>) => [
      ...targets.map((t) => gradebookTopic(t.classId)),
      assessmentTopic(assessmentId),
    ],
  },
  run: async (context, { assessmentId, targets: asked, byStandard, maxPoints }) => {
    const targets = await targetsOf(context, assessmentId, asked)
    const parts = await partsOf(context, assessmentId, byStandard)
    const made = await linkNew(
      context,
      targets.filter((t) => !t.assignment),
      { assessmentId, parts, maxPoints },
    )
    const [whole] = parts
    const filled = targets.flatMap((t) => (t.assignment ? [{ ...t, assignment: t.assignment }] : []))
    for (const target of filled)
      await linkExisting(context, target, target.assignment, {
        assessmentId,
        most: whole?.most ?? '0',
        maxPoints,
      })
    context.changed(...targets.map((t) => gradebookTopic(t.classId)), assessmentTopic(assessmentId))
    return {
      assignments: [...made, ...filled.map((t) => ({ classId: t.classId, assignmentId: t.assignment.id }))],
    }
  },
})

/** The classes that sat an assessment and whose scores the actor enters, each with where its gradebook could show it. */
export const linkTargets = defineQuery({
  input: z.object({ assessmentId: id }),
  right: seeResults,
  run: async (context, { assessmentId }) => {
    const { rows } = await sql<{
      classId: string
      className: string
      givenOn: string
      isLinked: boolean
      categories: readonly { id: string; name: string }[]
      assignments: readonly { id: string; name: string; version: number }[]
    }>`
      select c.id as class_id, c.name as class_name, i.given_on,
        exists (select 1 from assignment a where a.school_id = c.school_id and a.class_id = c.id and a.assessment_id = i.assessment_id) as is_linked,
        coalesce((select json_agg(json_build_object('id', k.id, 'name', k.name) order by k.position)
          from category k where k.school_id = c.school_id and k.class_id = c.id and k.term_id = t.id), '[]') as categories,
        coalesce((select json_agg(json_build_object('id', a.id, 'name', a.name, 'version', a.version) order by a.due_on, a.name)
          from assignment a where a.school_id = c.school_id and a.class_id = c.id and a.term_id = t.id and a.assessment_id is null
            and not exists (select 1 from score s where s.school_id = a.school_id and s.assignment_id = a.id and s.points is not null)), '[]') as assignments
      from sitting i
      join sitting_class ic on ic.school_id = i.school_id and ic.assessment_id = i.assessment_id and ic.sitting_id = i.id
      join class c on c.school_id = ic.school_id and c.id = ic.class_id
      left join term t on t.school_id = i.school_id and i.given_on between t.first_day and t.last_day
      where i.assessment_id = ${assessmentId} and ${whereMay(context, enterScores, sql.ref('c.id'))}
      order by c.name, c.id`.execute(context.db)
    return rows
  },
})
