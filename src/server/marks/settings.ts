import { sql } from 'kysely'
import { v7 as uuid } from 'uuid'
import { z } from 'zod'
import { termShownOn } from '@/core/calendar/school-year'
import { Refusal, refuse, refuseField } from '@/server/platform/failure'
import { civilDate, decimal, expectedVersion, id, named } from '@/server/platform/inputs'
import { defineCommand, type Context } from '@/server/platform/registry'
import { loadYear } from '@/server/year/load-year'
import { gradebookTopic } from './load-gradebooks'
import { mayEditGradebook } from './policy'

const category = z.object({
  id: id.optional(),
  name: named('The name of a category', 60),
  weight: decimal('The weight'),
  dropLowest: z.number().int().min(0).max(20),
})

/** Sets categories, weights and what counts. A category that holds assignments cannot be taken away. */
export const saveSettings = defineCommand({
  name: 'marks.saveSettings',
  input: z.object({
    classId: id,
    termId: id,
    expectedVersion,
    decimals: z.number().int().min(0).max(3),
    emptyCounts: z.enum(['nothing', 'zero after due']),
    missingCounts: z.enum(['nothing', 'zero']),
    categories: z.array(category).min(1, 'A gradebook needs at least one category.').max(20),
  }),
  allow: mayEditGradebook,
  run: async (context, asked) => {
    const { db, actor } = context
    const own = { school_id: actor.schoolId, class_id: asked.classId, term_id: asked.termId }
    const rules = {
      decimals: asked.decimals,
      empty_counts: asked.emptyCounts,
      missing_counts: asked.missingCounts,
    }
    const written =
      asked.expectedVersion === 0
        ? await db
            .insertInto('gradebook')
            .values({ ...own, ...rules })
            .onConflict((c) => c.doNothing())
            .returning('version')
            .executeTakeFirst()
        : await db
            .updateTable('gradebook')
            .set((eb) => ({ ...rules, version: eb('version', '+', 1) }))
            .where('class_id', '=', asked.classId)
            .where('term_id', '=', asked.termId)
            .where('version', '=', asked.expectedVersion)
            .returning('version')
            .executeTakeFirst()
    if (!written)
      throw new Refusal({
        kind: 'conflict',
        message: 'Somebody else changed these settings meanwhile. Theirs are shown now.',
        current: null,
      })
    const kept = asked.categories.flatMap((c) => c.id ?? [])
    const used = await db
      .selectFrom('category as c')
      .innerJoin('assignment as a', 'a.category_id', 'c.id')
      .select('c.name')
      .where('c.class_id', '=', asked.classId)
      .where('c.term_id', '=', asked.termId)
      .$if(kept.length > 0, (q) => q.where('c.id', 'not in', kept))
      .executeTakeFirst()
    if (used)
      throw refuseField(
        'categories',
        `${used.name} still holds assignments. Move them to another category first.`,
      )
    await db
      .deleteFrom('category')
      .where('class_id', '=', asked.classId)
      .where('term_id', '=', asked.termId)
      .$if(kept.length > 0, (q) => q.where('id', 'not in', kept))
      .execute()
    await db
      .insertInto('category')
      .values(
        asked.categories.map((c, i) => ({
          ...own,
          id: c.id ?? uuid(),
          name: c.name,
          weight: c.weight,
          drop_lowest: c.dropLowest,
          position: i + 1,
        })),
      )
      .onConflict((c) =>
        c
          .columns(['school_id', 'id'])
          .doUpdateSet((eb) => ({
            name: eb.ref('excluded.name'),
            weight: eb.ref('excluded.weight'),
            drop_lowest: eb.ref('excluded.drop_lowest'),
            position: eb.ref('excluded.position'),
          }))
          .where('category.class_id', '=', asked.classId),
      )
      .execute()
    await context.changed(gradebookTopic(asked.classId))
    return { version: written.version }
  },
})

async function termOfDue({ db }: Context, dueOn: string) {
  const year = await loadYear(db, dueOn)
  const term = year && termShownOn(year, dueOn)
  if (!year || !term || dueOn < term.firstDay || dueOn > term.lastDay)
    throw refuseField('dueOn', 'The date lies in no term. Choose a day within a term.')
  return term
}

async function categoryOf({ db }: Context, classId: string, termId: string, categoryId: string) {
  const found = await db
    .selectFrom('category')
    .select('id')
    .where('id', '=', categoryId)
    .where('class_id', '=', classId)
    .where('term_id', '=', termId)
    .executeTakeFirst()
  if (!found)
    throw refuseField(
      'categoryId',
      "This category is not in the gradebook of the date's term. Choose one from the list.",
    )
}

/** Makes or changes an assignment. The maximum cannot fall below a score that is there. */
export const saveAssignment = defineCommand({
  name: 'marks.saveAssignment',
  input: z.object({
    classId: id,
    assignmentId: id.nullish(),
    name: named('The name', 60),
    categoryId: id,
    maxPoints: decimal('The maximum').refine((m) => Number(m) > 0, 'The maximum must be above zero.'),
    dueOn: civilDate,
    counts: z.boolean(),
  }),
  allow: mayEditGradebook,
  run: async (context, asked) => {
    const { db, actor } = context
    const term = await termOfDue(context, asked.dueOn)
    await categoryOf(context, asked.classId, term.id, asked.categoryId)
    const values = {
      name: asked.name,
      category_id: asked.categoryId,
      max_points: asked.maxPoints,
      due_on: asked.dueOn,
      counts: asked.counts,
    }
    if (asked.assignmentId) {
      const over = await db
        .selectFrom('score as s')
        .innerJoin('student as x', 'x.id', 's.student_id')
        .select(['x.sort_name', 's.points'])
        .where('s.assignment_id', '=', asked.assignmentId)
        .where(sql<boolean>`s.points > ${asked.maxPoints}::numeric`)
        .executeTakeFirst()
      if (over)
        throw refuseField(
          'maxPoints',
          `${over.sort_name} has ${Number(over.points)} here. The maximum cannot be lower than a score that is there.`,
        )
      const updated = await db
        .updateTable('assignment')
        .set((eb) => ({ ...values, version: eb('version', '+', 1) }))
        .where('id', '=', asked.assignmentId)
        .where('class_id', '=', asked.classId)
        .where('term_id', '=', term.id)
        .returning('id')
        .executeTakeFirst()
      if (!updated) throw refuse('This assignment is not in the gradebook of that term.')
      await context.changed(gradebookTopic(asked.classId))
      return { assignmentId: asked.assignmentId }
    }
    const assignmentId = uuid()
    await db
      .insertInto('assignment')
      .values({
        school_id: actor.schoolId,
        id: assignmentId,
        class_id: asked.classId,
        term_id: term.id,
        assessment_id: null,
        ...values,
      })
      .execute()
    await context.changed(gradebookTopic(asked.classId))
    return { assignmentId }
  },
})

/** Takes an assignment out of the gradebook, with its scores; the history keeps both. */
export const removeAssignment = defineCommand({
  name: 'marks.removeAssignment',
  input: z.object({ classId: id, assignmentId: id }),
  allow: mayEditGradebook,
  run: async (context, { classId, assignmentId }) => {
    const own = await context.db
      .selectFrom('assignment')
      .select('id')
      .where('id', '=', assignmentId)
      .where('class_id', '=', classId)
      .executeTakeFirst()
    if (!own) throw refuse('This assignment is not in this gradebook any more.')
    await context.db.deleteFrom('score').where('assignment_id', '=', assignmentId).execute()
    await context.db.deleteFrom('assignment').where('id', '=', assignmentId).execute()
    await context.changed(gradebookTopic(classId))
    return null
  },
})

/** Puts an assessment's result into the gradebook as a linked assignment: later changes of answers or key follow by themselves. */
export const linkAssessment = defineCommand({
  name: 'marks.linkAssessment',
  input: z.object({ classId: id, assessmentId: id, categoryId: id }),
  allow: mayEditGradebook,
  run: async (context, { classId, assessmentId, categoryId }) => {
    const { db, actor } = context
    const assessment = await db
      .selectFrom('assessment as a')
      .innerJoin('assessment_class as ac', 'ac.assessment_id', 'a.id')
      .select(['a.name', 'a.given_on'])
      .where('a.id', '=', assessmentId)
      .where('ac.class_id', '=', classId)
      .executeTakeFirst()
    if (!assessment) throw refuse('This assessment was not given to this class.')
    const term = await termOfDue(context, assessment.given_on)
    await categoryOf(context, classId, term.id, categoryId)
    const { total } = await db
      .selectFrom('question')
      .select(({ fn }) => fn.sum<string>('points').as('total'))
      .where('assessment_id', '=', assessmentId)
      .executeTakeFirstOrThrow()
    if (!(Number(total) > 0)) throw refuse('The questions carry no points yet. Set their points first.')
    const assignmentId = uuid()
    const made = await db
      .insertInto('assignment')
      .values({
        school_id: actor.schoolId,
        id: assignmentId,
        class_id: classId,
        term_id: term.id,
        category_id: categoryId,
        name: assessment.name,
        max_points: total,
        due_on: assessment.given_on,
        assessment_id: assessmentId,
      })
      .onConflict((c) => c.doNothing())
      .returning('id')
      .executeTakeFirst()
    if (!made) throw refuse('This assessment is in the gradebook already.')
    await context.changed(gradebookTopic(classId))
    return { assignmentId }
  },
})
