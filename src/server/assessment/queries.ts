import { sql } from 'kysely'
import { z } from 'zod'
import { writeLetters } from '@/core/assessment/answer-key'
import { readFindings } from '@/core/assessment/findings'
import type { Context } from '@/server/platform/context'
import { defineQuery } from '@/server/platform/define'
import { civilDate, id } from '@/core/inputs'
import { whereMay } from '@/server/platform/rights'
import { isTeacherOf } from '@/server/school/facts'
import { loadYear } from '@/server/school/load-year'
import { inOtherYears, inYear } from '@/server/school/year-spans'
import { assessmentTopic } from './changed'
import { loadQuestions, loadSheets } from './load-assessment'
import { createAssessment, editAssessment, listAssessments, seeAssessment } from './rights'

const one = z.object({ assessmentId: id })

async function loadHead({ db }: Context, assessmentId: string) {
  const [assessment, classes] = await Promise.all([
    db
      .selectFrom('assessment as a')
      .innerJoin('subject as s', 's.id', 'a.subjectId')
      .leftJoin('document as d', 'd.id', 'a.documentId')
      .select([
        'a.id',
        'a.name',
        'a.givenOn',
        'a.secureFrom',
        'a.nearlyFrom',
        'a.version',
        'a.documentId',
        'a.subjectId',
        's.name as subject',
        'd.name as document',
        'd.pageCount',
      ])
      .where('a.id', '=', assessmentId)
      .executeTakeFirstOrThrow(),
    db
      .selectFrom('assessmentClass as ac')
      .innerJoin('class as c', 'c.id', 'ac.classId')
      .select(['c.id', 'c.name'])
      .where('ac.assessmentId', '=', assessmentId)
      .orderBy('c.name')
      .execute(),
  ])
  return { ...assessment, classes }
}

/** Assessments of the academic year around a date that the actor may see, newest first, with how many have answers. */
export const list = defineQuery({
  input: z.object({ date: civilDate }),
  right: listAssessments,
  run: async (context, { date }) => {
    const year = await loadYear(context.db, date)
    const own = sql`select a.given_on as day from assessment a where ${whereMay(context, seeAssessment, sql.ref('a.id'))}`
    const [assessments, elsewhere, mayCreate] = await Promise.all([
      visible(context, year?.id),
      inOtherYears(context, own, year?.id),
      context.may(createAssessment, {}),
    ])
    return { assessments, year: year?.name, elsewhere, mayCreate }
  },
})

const visible = (context: Context, yearId: string | undefined) =>
  context.db
    .selectFrom('assessment as a')
    .innerJoin('subject as s', 's.id', 'a.subjectId')
    .innerJoin('staffMember as o', 'o.id', 'a.ownerId')
    .select([
      'a.id',
      'a.name',
      's.name as subject',
      'a.givenOn',
      'o.sortName as owner',
      sql<
        string | null
      >`(select string_agg(c.name, ', ' order by c.name) from assessment_class ac join class c on c.school_id = ac.school_id and c.id = ac.class_id
          where ac.assessment_id = a.id)`.as('classes'),
      sql<number>`(select count(*)::int from question q where q.assessment_id = a.id)`.as('questions'),
      sql<number>`(select count(*)::int from answer_sheet x where x.assessment_id = a.id and x.answered)`.as(
        'sheets',
      ),
      sql<number>`(select count(distinct m.student_id)::int from assessment_class ac join class_member m on m.school_id = ac.school_id and m.class_id = ac.class_id and m.period @> a.given_on
          where ac.assessment_id = a.id)`.as('onRoll'),
    ])
    .where(whereMay(context, seeAssessment, sql.ref('a.id')))
    .where(inYear(sql.ref('a.givenOn'), yearId))
    .orderBy('a.givenOn', 'desc')
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

/** An assessment with its key, its document and the learning standards its questions can be tagged with. */
export const key = defineQuery({
  input: one,
  right: seeAssessment,
  topics: (_context, { assessmentId }) => [assessmentTopic(assessmentId)],
  run: async (context, { assessmentId }) => {
    const head = await loadHead(context, assessmentId)
    const [questions, standards, sheets, mayEdit] = await Promise.all([
      loadQuestions(context.db, assessmentId),
      context.db
        .selectFrom('learningStandard')
        .select(['id', 'code', 'statement'])
        .where('subjectId', '=', head.subjectId)
        .orderBy('code')
        .execute(),
      context.db
        .selectFrom('answerSheet')
        .select(({ fn }) => fn.countAll<string>().as('n'))
        .where('assessmentId', '=', assessmentId)
        .where('answered', '=', true)
        .executeTakeFirstOrThrow(),
      context.may(editAssessment, { assessmentId }),
    ])
    return {
      ...head,
      questions,
      standards,
      sheets: Number(sheets.n),
      mayEdit,
    }
  },
})

/** Everyone who was to sit it, with their answers as a row of letters each. */
export const answers = defineQuery({
  input: one,
  right: seeAssessment,
  topics: (_context, { assessmentId }) => [assessmentTopic(assessmentId)],
  run: async (context, { assessmentId }) => {
    const [head, questions, sheets, mayEdit] = await Promise.all([
      loadHead(context, assessmentId),
      loadQuestions(context.db, assessmentId),
      loadSheets(context.db, assessmentId),
      context.may(editAssessment, { assessmentId }),
    ])
    return {
      ...head,
      mayEdit,
      questions,
      rows: sheets.map((s) => ({
        studentId: s.studentId,
        name: s.name,
        className: s.className,
        version: s.version,
        letters: s.answered ? writeLetters(questions.map((q) => s.answers.get(q.id))) : '',
      })),
    }
  },
})

/** The findings of an assessment, with the students behind every figure. */
export const findings = defineQuery({
  input: one,
  right: seeAssessment,
  topics: (_context, { assessmentId }) => [assessmentTopic(assessmentId)],
  run: async (context, { assessmentId }) => {
    const [head, questions, sheets, standards, mayEdit] = await Promise.all([
      loadHead(context, assessmentId),
      loadQuestions(context.db, assessmentId),
      loadSheets(context.db, assessmentId),
      context.db.selectFrom('learningStandard').select(['id', 'code', 'statement']).execute(),
      context.may(editAssessment, { assessmentId }),
    ])
    const given = sheets.filter((s) => s.answered)
    const read = readFindings(questions, given, {
      secureFrom: head.secureFrom,
      nearlyFrom: head.nearlyFrom,
    })
    const used = new Set(questions.map((q) => q.standardId))
    return {
      ...head,
      mayEdit,
      questions,
      standards: standards.filter((s) => used.has(s.id)),
      students: sheets.map((s) => ({
        id: s.studentId,
        name: s.name,
        className: s.className,
        letters: writeLetters(questions.map((q) => s.answers.get(q.id))),
      })),
      missing: sheets.filter((s) => !s.answered).map((s) => s.studentId),
      results: read.results,
      summary: read.summary,
      byLevel: read.byLevel,
      byQuestion: read.questions.map((q) => ({
        ...q,
        chosenBy: [...q.chosenBy].map(([letter, students]) => ({ letter, students })),
      })),
      byStandard: read.standards,
    }
  },
})
