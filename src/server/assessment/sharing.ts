import { sql } from 'kysely'
import { z } from 'zod'
import { v7 as uuid } from 'uuid'
import {
  describeInput,
  giveInput,
  handOverInput,
  sharesInput,
  type Audience,
} from '@/core/assessment/sharing-inputs'
import { id } from '@/core/inputs'
import type { Context } from '@/server/platform/context'
import { defineCommand, defineQuery } from '@/server/platform/define'
import { checkUnchanged, updateIfUnchanged } from '@/server/platform/write'
import { assessmentChanged, assessmentTopic } from './changed'
import { firstForm } from './document'
import { courseOf } from './own-classes'
import { editAssessment, giveAssessment, handOverAssessment, shareAssessment } from './rights'
import { refuseField } from './messages'

const one = z.object({ assessmentId: id })
const what = 'this assessment'

interface Offer {
  readonly id: string
  readonly name: string
}

/** Teachers of today but the actor, by name. */
const colleagues = async ({ db, actor, today }: Context): Promise<readonly Offer[]> =>
  (
    await sql<Offer>`select f.id, f.given_name || ' ' || f.family_name as name from staff_member f
      where f.id is distinct from ${actor.staffId} and (f.last_day is null or f.last_day >= ${today}::date)
        and exists (select 1 from class_teacher t where t.school_id = f.school_id and t.staff_id = f.id and t.period @> ${today}::date)
      order by f.sort_name, f.id`.execute(db)
  ).rows

const yearGroups = ({ db }: Context) =>
  db.selectFrom('yearGroup').select(['id', 'name']).orderBy('position').execute()

/** With whom an assessment is shared, and with whom it can be. */
export const sharing = defineQuery({
  input: one,
  right: shareAssessment,
  topics: (_context, { assessmentId }) => [assessmentTopic(assessmentId)],
  run: async (context, { assessmentId }) => {
    const { db } = context
    const [assessment, { rows: shares }, staff, courses, groups] = await Promise.all([
      db
        .selectFrom('assessment')
        .select(['id', 'version'])
        .where('id', '=', assessmentId)
        .executeTakeFirstOrThrow(),
      sql<{
        with: Audience
        of: string | null
        name: string | null
        maySeeResults: boolean
        mayGive: boolean
        mayEdit: boolean
      }>`select case when h.staff_id is not null then 'colleague' when h.course_id is not null then 'course'
            when h.year_group_id is not null then 'year group' else 'school' end as with,
          coalesce(h.staff_id, h.course_id, h.year_group_id) as of, coalesce(f.given_name || ' ' || f.family_name, k.name, g.name) as name,
          h.may_see_results, h.may_give, h.may_edit
        from assessment_share h
        left join staff_member f on f.school_id = h.school_id and f.id = h.staff_id
        left join course k on k.school_id = h.school_id and k.id = h.course_id
        left join year_group g on g.school_id = h.school_id and g.id = h.year_group_id
        where h.assessment_id = ${assessmentId} order by h.staff_id is null, h.course_id is null, h.year_group_id is null, f.sort_name, k.name, g.position`.execute(
        db,
      ),
      colleagues(context),
      db
        .selectFrom('course as k')
        .innerJoin('assessment as a', 'a.subjectId', 'k.subjectId')
        .select(['k.id', 'k.name'])
        .where('a.id', '=', assessmentId)
        .orderBy('k.name')
        .execute(),
      yearGroups(context),
    ])
    return { ...assessment, shares, offered: { colleague: staff, course: courses, 'year group': groups } }
  },
})

/** Says with whom an assessment is shared, all at once. */
export const setShares = defineCommand({
  input: sharesInput,
  right: shareAssessment,
  run: async (context, { assessmentId, expectedVersion: seen, shares }) => {
    const { db, actor } = context
    const version = await checkUnchanged(context, 'assessment', { id: assessmentId }, seen, what)
    const rows = shares.map(({ with: audience, of, ...may }) => ({
      schoolId: actor.schoolId,
      assessmentId,
      id: uuid(),
      staffId: audience === 'colleague' ? of : null,
      courseId: audience === 'course' ? of : null,
      yearGroupId: audience === 'year group' ? of : null,
      ...may,
    }))
    await checkKnown(context, shares)
    // What stays as it is, is not written again: the history tells only of what was changed.
    await sql`delete from assessment_share h where h.assessment_id = ${assessmentId} and not exists (
      select 1 from jsonb_to_recordset(${JSON.stringify(rows)}::jsonb) as n("staffId" uuid, "courseId" uuid, "yearGroupId" uuid)
      where (n."staffId", n."courseId", n."yearGroupId") is not distinct from (h.staff_id, h.course_id, h.year_group_id))`.execute(
      db,
    )
    if (rows.length > 0)
      await db
        .insertInto('assessmentShare')
        .values(rows)
        .onConflict((c) =>
          c.constraint('assessment_share_once').doUpdateSet((eb) => ({
            maySeeResults: eb.ref('excluded.maySeeResults'),
            mayGive: eb.ref('excluded.mayGive'),
            mayEdit: eb.ref('excluded.mayEdit'),
          })),
        )
        .execute()
    await assessmentChanged(context, assessmentId)
    return { version }
  },
})

/** Refuses whoever is not at the school any more, or never was. */
async function checkKnown(
  { db }: Context,
  shares: readonly { readonly with: Audience; readonly of: string | null }[],
): Promise<void> {
  const { rows } = await sql<{ of: string }>`
    select wanted.of from jsonb_to_recordset(${JSON.stringify(shares)}::jsonb) as wanted("with" text, of uuid)
    where wanted.of is not null and not exists (
      select 1 from staff_member f where wanted.with = 'colleague' and f.id = wanted.of
      union all select 1 from course k where wanted.with = 'course' and k.id = wanted.of
      union all select 1 from year_group g where wanted.with = 'year group' and g.id = wanted.of)`.execute(db)
  if (rows.length > 0) throw refuseField('shares', 'audienceGone', {})
}

/** Year groups an assessment can be for, and the tags that are in use, the most used first. */
export const describing = defineQuery({
  input: one,
  right: editAssessment,
  run: async (context) => {
    const [groups, { rows }] = await Promise.all([
      yearGroups(context),
      sql<{ tag: string }>`select tag from assessment a, unnest(a.tags) as tag
        group by tag order by count(*) desc, tag limit 200`.execute(context.db),
    ])
    return { yearGroups: groups, tags: rows.map((row) => row.tag) }
  },
})

/** Changes what an assessment is called, and what helps to find it. */
export const describe = defineCommand({
  input: describeInput,
  right: editAssessment,
  run: async (context, { assessmentId, expectedVersion: seen, name, description, tags, yearGroupId }) => {
    if (yearGroupId !== null) {
      const known = await context.db
        .selectFrom('yearGroup')
        .select('id')
        .where('id', '=', yearGroupId)
        .executeTakeFirst()
      if (!known) throw refuseField('yearGroupId', 'yearGroupGone', {})
    }
    const version = await updateIfUnchanged(
      context,
      'assessment',
      { id: assessmentId },
      seen,
      { name, description, tags, yearGroupId },
      { what },
    )
    await assessmentChanged(context, assessmentId)
    return { version }
  },
})

/** Gives an assessment to further classes of the actor's own, on a day of their own. */
export const give = defineCommand({
  input: giveInput,
  right: giveAssessment,
  needsNoVersion: 'creates',
  run: async (context, { assessmentId, classIds: asked, givenOn }) => {
    const { db, actor } = context
    const classIds = [...new Set(asked)]
    const { subjectId } = await courseOf(context, classIds)
    if (!actor.staffId) throw refuseField('classIds', 'notOwnClass', {})
    // Held until the end, so that nobody else gives it to one of these classes meanwhile.
    const assessment = await db
      .selectFrom('assessment')
      .select('subjectId')
      .where('id', '=', assessmentId)
      .forUpdate()
      .executeTakeFirstOrThrow()
    if (assessment.subjectId !== subjectId) throw refuseField('classIds', 'otherSubject', {})
    const before = await db
      .selectFrom('sittingClass as i')
      .innerJoin('class as c', 'c.id', 'i.classId')
      .select('c.name')
      .where('i.assessmentId', '=', assessmentId)
      .where('i.classId', 'in', classIds)
      .orderBy('c.name')
      .execute()
    if (before.length > 0)
      throw refuseField('classIds', 'alreadyGiven', { classes: before.map((c) => c.name).join(', ') })
    const sittingId = uuid()
    const ofIt = { schoolId: actor.schoolId, assessmentId }
    await db
      .insertInto('sitting')
      .values({
        ...ofIt,
        id: sittingId,
        formId: await firstForm(context, assessmentId),
        givenOn,
        givenBy: actor.staffId,
      })
      .execute()
    await db
      .insertInto('sittingClass')
      .values(classIds.map((classId) => ({ ...ofIt, sittingId, classId })))
      .execute()
    await assessmentChanged(context, assessmentId)
    return { assessmentId }
  },
})

/** Who can take an assessment over. */
export const handingOver = defineQuery({
  input: one,
  right: handOverAssessment,
  run: async (context) => ({ colleagues: await colleagues(context) }),
})

/** Hands an assessment over to another teacher, with what its owner gave to classes. */
export const handOver = defineCommand({
  input: handOverInput,
  right: handOverAssessment,
  undo: {
    days: 30,
    whenChangedSince: 'stop',
    topics: ({ assessmentId }: { assessmentId: string }) => [assessmentTopic(assessmentId)],
  },
  run: async (context, { assessmentId, expectedVersion: seen, staffId }) => {
    const { db } = context
    const known = await colleagues(context)
    if (!known.some((c) => c.id === staffId)) throw refuseField('staffId', 'notATeacher', {})
    await assessmentChanged(context, assessmentId)
    const { ownerId } = await db
      .selectFrom('assessment')
      .select('ownerId')
      .where('id', '=', assessmentId)
      .executeTakeFirstOrThrow()
    const version = await updateIfUnchanged(
      context,
      'assessment',
      { id: assessmentId },
      seen,
      { ownerId: staffId },
      { what },
    )
    await db
      .updateTable('sitting')
      .set({ givenBy: staffId })
      .where('assessmentId', '=', assessmentId)
      .where('givenBy', '=', ownerId)
      .execute()
    await db
      .deleteFrom('assessmentShare')
      .where('assessmentId', '=', assessmentId)
      .where('staffId', '=', staffId)
      .execute()
    await assessmentChanged(context, assessmentId)
    return { version }
  },
})
