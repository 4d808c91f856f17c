import { sql } from 'kysely'
import { z } from 'zod'
import { readFindings } from '@/core/assessment/findings'
import type { Context } from '@/server/platform/context'
import { defineQuery } from '@/server/platform/define'
import { civilDate, id } from '@/core/inputs'
import { whereMay } from '@/server/platform/rights'
import { isTeacherOf } from '@/server/school/facts'
import { loadYear } from '@/server/school/load-year'
import { inOtherYears, inYear } from '@/server/school/year-spans'
import { assessmentTopic } from './changed'
import { levelsOfStandard, loadLevels, loadQuestions, loadRoll } from './load-assessment'
import {
  createAssessment,
  editAssessment,
  enterAllAnswers,
  enterAnswers,
  giveAssessment,
  handOverAssessment,
  listAssessments,
  ownClassesOf,
  seeAllResults,
  seeAssessment,
  seeResults,
  shareAssessment,
} from './rights'

const one = z.object({ assessmentId: id })

/** What stands at the head of each page of an assessment, with what the actor may do there. */
async function loadHead(context: Context, assessmentId: string) {
  const { db, today } = context
  const one = { assessmentId }
  const [assessment, classes, levels, mine, mayEdit, mayEnter, maySeeResults, maySeeAll] = await Promise.all([
    db
      .selectFrom('assessment as a')
      .innerJoin('subject as s', 's.id', 'a.subjectId')
      .innerJoin('staffMember as o', 'o.id', 'a.ownerId')
      .leftJoin('formDocument as f', (j) => j.onRef('f.assessmentId', '=', 'a.id').on('f.position', '=', 1))
      .leftJoin('document as d', 'd.id', 'f.documentId')
      .select([
        'a.id',
        'a.name',
        'a.version',
        'a.subjectId',
        'a.seriesId',
        'a.description',
        'a.tags',
        'a.yearGroupId',
        's.name as subject',
        sql<string>`o.given_name || ' ' || o.family_name`.as('owner'),
        sql<boolean>`coalesce(o.last_day < ${today}::date, false)`.as('ownerLeft'),
        'd.id as documentId',
        'd.name as document',
        'd.pageCount',
      ])
      .where('a.id', '=', assessmentId)
      .executeTakeFirstOrThrow(),
    db
      .selectFrom('sittingClass as ic')
      .innerJoin('sitting as i', 'i.id', 'ic.sittingId')
      .innerJoin('class as c', 'c.id', 'ic.classId')
      .select(['c.id', 'c.name', 'i.givenOn'])
      .where('ic.assessmentId', '=', assessmentId)
      .orderBy('c.name')
      .execute(),
    loadLevels(db, assessmentId),
    context.may(shareAssessment, one),
    context.may(editAssessment, one),
    context.may(enterAnswers, one),
    context.may(seeResults, one),
    context.may(seeAllResults, one),
  ])
  return {
    ...assessment,
    classes,
    givenOn: classes.map((c) => c.givenOn).sort()[0] ?? null,
    ...levels,
    mine,
    mayEdit,
    mayEnter,
    maySeeResults,
    maySeeAll,
  }
}

/** Assessments of the academic year around a date that the actor may see, newest first, with how many have answers. */
export const list = defineQuery({
  input: z.object({ date: civilDate }),
  right: listAssessments,
  run: async (context, { date }) => {
    const year = await loadYear(context.db, date)
    const own = sql`select i.given_on as day from sitting i where ${whereMay(context, seeAssessment, sql.ref('i.assessment_id'))}`
    const [assessments, elsewhere, mayCreate] = await Promise.all([
      visible(context, year?.id),
      inOtherYears(context, own, year?.id),
      context.may(createAssessment, {}),
    ])
    return { assessments, year: year?.name, elsewhere, mayCreate }
  },
})

/** Whose assessment it is: one's own, one that a colleague shares, or the school's. */
export type From = 'own' | 'colleagues' | 'school'

const visible = (context: Context, yearId: string | undefined) =>
  context.db
    .selectFrom('assessment as a')
    .innerJoin('subject as s', 's.id', 'a.subjectId')
    .innerJoin('staffMember as o', 'o.id', 'a.ownerId')
    .leftJoin('yearGroup as g', 'g.id', 'a.yearGroupId')
    .innerJoin(
      (eb) =>
        eb
          .selectFrom('sitting')
          .select(({ fn, ref }) => ['assessmentId', fn.max(ref('givenOn')).as('givenOn')])
          .groupBy('assessmentId')
          .as('i'),
      (j) => j.onRef('i.assessmentId', '=', 'a.id'),
    )
    .select([
      'a.id',
      'a.name',
      's.name as subject',
      'i.givenOn',
      'o.sortName as owner',
      'a.description',
      'a.tags',
      'g.name as yearGroup',
      sql<From>`case when ${whereMay(context, shareAssessment, sql.ref('a.id'))} then 'own'
          when exists (select 1 from assessment_share h where h.assessment_id = a.id and num_nonnulls(h.staff_id, h.course_id, h.year_group_id) = 0)
          then 'school' else 'colleagues' end`.as('from'),
      whereMay(context, seeResults, sql.ref('a.id')).as('maySeeResults'),
      sql<string>`(select coalesce(string_agg(distinct concat_ws(' ', t.code, t.statement), ' '), '') from question_standard x
          join standard t on t.school_id = x.school_id and t.id = x.standard_id where x.assessment_id = a.id)`.as(
        'standards',
      ),
      sql<
        string | null
      >`(select string_agg(c.name, ', ' order by c.name) from sitting_class ic join class c on c.school_id = ic.school_id and c.id = ic.class_id
          where ic.assessment_id = a.id)`.as('classes'),
      sql<number>`(select count(*)::int from question q where q.assessment_id = a.id and q.position is not null)`.as(
        'questions',
      ),
      sql<number>`(select count(distinct x.student_id)::int from attempt x where x.assessment_id = a.id and x.state = 'handed in')`.as(
        'sheets',
      ),
      sql<number>`(select count(distinct m.student_id)::int from sitting t
          join sitting_class ic on ic.school_id = t.school_id and ic.assessment_id = t.assessment_id and ic.sitting_id = t.id
          join class_member m on m.school_id = ic.school_id and m.class_id = ic.class_id and m.period @> t.given_on
          where t.assessment_id = a.id)`.as('onRoll'),
    ])
    .where(whereMay(context, seeAssessment, sql.ref('a.id')))
    .where(inYear(sql.ref('i.givenOn'), yearId))
    .orderBy('i.givenOn', 'desc')
    .orderBy('a.name')
    .execute()

/** What a new assessment can be for: own classes with their subject. */
export const newForm = defineQuery({
  input: z.object({}),
  right: createAssessment,
  run: async ({ db, actor, today }) => {
    const classes = await db
      .selectFrom('class as c')
      .innerJoin('course as k', 'k.id', 'c.courseId')
      .innerJoin('subject as s', 's.id', 'k.subjectId')
      .select(['c.id', 'c.name', 's.id as subjectId', 's.name as subject'])
      .where(isTeacherOf(sql.ref('c.id'), actor.staffId, today))
      .orderBy('c.name')
      .execute()
    return { classes, today }
  },
})

/** Whether a standard is for a year group, by the number in its name; one for no year in particular is for all. */
const isForYear = (yearGroupId: string | null) =>
  sql<boolean>`(t.years = '{}' or ${yearGroupId}::uuid is null or exists (select 1 from year_group g
    where g.id = ${yearGroupId} and lpad(substring(g.name from '[0-9]+'), 2, '0') = any(t.years)))`

/**
 * The standards a question can be tagged with: those for the subject first, then those for all subjects; of each first
 * those for the year group.
 */
const standardsFor = ({ db }: Context, subjectId: string, yearGroupId: string | null) =>
  db
    .selectFrom('standard as t')
    .innerJoin('standardSet as f', 'f.id', 't.setId')
    .select(['t.id', 't.code', 't.statement', 't.parentId', 'f.id as setId', 'f.name as set'])
    .where((eb) => eb.or([eb('f.subjectId', '=', subjectId), eb('f.subjectId', 'is', null)]))
    .orderBy(sql`f.subject_id is null`)
    .orderBy(isForYear(yearGroupId), 'desc')
    .orderBy('f.name')
    .orderBy('t.position')
    .orderBy('t.code')
    .execute()

/** Standards by their identifiers, for naming them. */
const standardsNamed = ({ db }: Context, ids: readonly string[]) =>
  ids.length === 0
    ? []
    : db
        .selectFrom('standard')
        .select(['id', 'code', 'statement'])
        .where('id', 'in', ids)
        .orderBy('code')
        .execute()

/** An assessment with its key, its document and the learning standards its questions can be tagged with. */
export const key = defineQuery({
  input: one,
  right: seeAssessment,
  topics: (_context, { assessmentId }) => [assessmentTopic(assessmentId)],
  run: async (context, { assessmentId }) => {
    const head = await loadHead(context, assessmentId)
    const [questions, standards, attempts, sources, mayCopy, mayGive, mayHandOver] = await Promise.all([
      loadQuestions(context.db, assessmentId),
      standardsFor(context, head.subjectId, head.yearGroupId),
      context.db
        .selectFrom('attempt')
        .select(({ fn }) => fn.countAll<string>().as('n'))
        .where('assessmentId', '=', assessmentId)
        .where('state', '=', 'handed in')
        .executeTakeFirstOrThrow(),
      context.db
        .selectFrom('formSource as x')
        .innerJoin('document as d', 'd.id', 'x.documentId')
        .select(['d.id', 'd.name', 'x.jobId'])
        .where('x.assessmentId', '=', assessmentId)
        .orderBy('x.position')
        .execute(),
      context.may(createAssessment, {}),
      context.may(giveAssessment, { assessmentId }),
      context.may(handOverAssessment, { assessmentId }),
    ])
    return {
      ...head,
      questions,
      knownStandards: standards,
      sources,
      sheets: Number(attempts.n),
      mayCopy,
      mayGive,
      mayShare: head.mine,
      mayHandOver,
    }
  },
})

/** Everyone who was to sit it, with their answers to each question. */
export const answers = defineQuery({
  input: one,
  right: seeResults,
  topics: (_context, { assessmentId }) => [assessmentTopic(assessmentId)],
  run: async (context, { assessmentId }) => {
    const [head, questions, roll, mayEnterAll, own] = await Promise.all([
      loadHead(context, assessmentId),
      loadQuestions(context.db, assessmentId),
      loadRoll(context.db, assessmentId),
      context.may(enterAllAnswers, { assessmentId }),
      ownClassesOf(context, assessmentId),
    ])
    const shown = head.maySeeAll ? roll : roll.filter((s) => own.has(s.classId))
    return {
      ...head,
      classes: head.maySeeAll ? head.classes : head.classes.filter((c) => own.has(c.id)),
      questions,
      rows: shown.map((s) => ({
        mayEnter: mayEnterAll || (head.mayEnter && own.has(s.classId)),
        studentId: s.studentId,
        name: s.name,
        number: s.number,
        className: s.className,
        version: s.version,
        answers: s.answered
          ? questions.map((q) => ({
              questionId: q.id,
              value: s.responses.get(q.id)?.value ?? null,
              points: s.byHand.get(q.id) ?? null,
            }))
          : null,
      })),
    }
  },
})

/** The findings of an assessment, of all its classes or of one, with the students behind every figure. */
export const findings = defineQuery({
  input: one.extend({ classId: id.optional() }),
  right: seeResults,
  topics: (_context, { assessmentId }) => [assessmentTopic(assessmentId)],
  run: async (context, { assessmentId, classId }) => {
    const [head, questions, everybody, own] = await Promise.all([
      loadHead(context, assessmentId),
      loadQuestions(context.db, assessmentId),
      loadRoll(context.db, assessmentId),
      ownClassesOf(context, assessmentId),
    ])
    const isSeen = (ofClass: string) => head.maySeeAll || own.has(ofClass)
    const roll = everybody.filter(
      (s) => isSeen(s.classId) && (classId === undefined || s.classId === classId),
    )
    const read = readFindings(
      questions,
      roll.filter((s) => s.answered),
      head.levels,
      (standardId) => levelsOfStandard(head, standardId),
    )
    return {
      ...head,
      classes: head.classes.filter((c) => isSeen(c.id)),
      // Classes the actor gives it to can be linked with their gradebooks.
      ownClassIds: [...own],
      questions,
      knownStandards: await standardsNamed(context, [...new Set(questions.flatMap((q) => q.standardIds))]),
      students: roll.map((s) => ({ id: s.studentId, name: s.name, className: s.className })),
      missing: roll.filter((s) => !s.answered).map((s) => s.studentId),
      results: read.results,
      summary: read.summary,
      byLevel: read.byLevel,
      byQuestion: read.questions,
      byStandard: read.standards,
    }
  },
})

/** The assessments of a series that the actor may see, by day, each with how its students did. */
export const series = defineQuery({
  input: one,
  right: seeAllResults,
  topics: (_context, { assessmentId }) => [assessmentTopic(assessmentId)],
  run: async (context, { assessmentId }) => {
    const head = await loadHead(context, assessmentId)
    const { rows } = await sql<{
      id: string
      name: string
      givenOn: string
      classes: string | null
      questions: number
      assessed: number
      unmarked: number
      /** In percent of the points that can be had; null while nobody has answers. */
      mean: string | null
      lowest: string | null
      highest: string | null
    }>`
      select a.id, a.name, i.given_on, t.questions,
        (select string_agg(c.name, ', ' order by c.name) from sitting_class ic join class c on c.school_id = ic.school_id and c.id = ic.class_id
          where ic.assessment_id = a.id) as classes,
        coalesce(r.assessed, 0) as assessed, coalesce(r.unmarked, 0) as unmarked, round(100 * r.mean / t.most, 1)::text as mean,
        round(100 * r.lowest / t.most, 1)::text as lowest, round(100 * r.highest / t.most, 1)::text as highest
      from assessment a
      join lateral (select min(i.given_on) as given_on from sitting i where i.assessment_id = a.id) i on true
      join lateral (select count(*)::int as questions, nullif(sum(q.points) filter (where q.counts <> 'dropped'), 0) as most
        from asked_question q where q.assessment_id = a.id) t on true
      left join lateral (select count(*)::int as assessed, avg(r.points) as mean, min(r.points) as lowest, max(r.points) as highest,
        count(*) filter (where r.unmarked > 0)::int as unmarked from assessment_result r where r.assessment_id = a.id) r on true
      where a.series_id = (select s.series_id from assessment s where s.id = ${assessmentId})
        and ${whereMay(context, seeAllResults, sql.ref('a.id'))}
      order by i.given_on, a.name`.execute(context.db)
    return { ...head, assessments: rows }
  },
})
