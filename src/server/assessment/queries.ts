import { sql } from 'kysely'
import { z } from 'zod'
import { writeLetters } from '@/core/assessment/answer-key'
import { readFindings } from '@/core/assessment/findings'
import { hasRole } from '@/server/platform/actor'
import { id } from '@/server/platform/inputs'
import { defineQuery, onlyRoles, type Context } from '@/server/platform/registry'
import { assessmentTopic, loadQuestions, loadSheets } from './load-assessment'
import { maySeeAssessment } from './policy'

const one = z.object({ assessmentId: id })

async function loadHead({ db }: Context, assessmentId: string) {
  const [assessment, classes] = await Promise.all([
    db
      .selectFrom('assessment as a')
      .innerJoin('subject as s', 's.id', 'a.subject_id')
      .leftJoin('document as d', 'd.id', 'a.document_id')
      .select([
        'a.id',
        'a.name',
        'a.given_on',
        'a.secure_from',
        'a.nearly_from',
        'a.version',
        'a.document_id',
        'a.subject_id',
        's.name as subject',
        'd.name as document',
        'd.page_count',
      ])
      .where('a.id', '=', assessmentId)
      .executeTakeFirstOrThrow(),
    db
      .selectFrom('assessment_class as ac')
      .innerJoin('class as c', 'c.id', 'ac.class_id')
      .leftJoin('assignment as x', (j) =>
        j.onRef('x.assessment_id', '=', 'ac.assessment_id').onRef('x.class_id', '=', 'ac.class_id'),
      )
      .select(['c.id', 'c.name', 'x.id as assignment_id'])
      .where('ac.assessment_id', '=', assessmentId)
      .orderBy('c.name')
      .execute(),
  ])
  return { ...assessment, classes }
}

/** Assessments the actor may see, newest first, with how many have answers. */
export const list = defineQuery({
  name: 'assessment.list',
  input: z.object({}),
  allow: onlyRoles('administrator', 'head', 'teacher'),
  run: async ({ db, actor, today }) => {
    const all = hasRole(actor, 'administrator', 'head')
    const { rows } = await sql<{
      id: string
      name: string
      subject: string
      given_on: string
      classes: string | null
      questions: number
      sheets: number
      on_roll: number
      owner: string
    }>`
      select a.id, a.name, s.name as subject, a.given_on, o.sort_name as owner,
        (select string_agg(c.name, ', ' order by c.name) from assessment_class ac join class c on c.school_id = ac.school_id and c.id = ac.class_id
          where ac.school_id = a.school_id and ac.assessment_id = a.id) as classes,
        (select count(*)::int from question q where q.school_id = a.school_id and q.assessment_id = a.id) as questions,
        (select count(*)::int from answer_sheet x where x.school_id = a.school_id and x.assessment_id = a.id and x.answered) as sheets,
        (select count(*)::int from assessment_class ac join class_member m on m.school_id = ac.school_id and m.class_id = ac.class_id and m.period @> a.given_on
          where ac.school_id = a.school_id and ac.assessment_id = a.id) as on_roll
      from assessment a join subject s on s.school_id = a.school_id and s.id = a.subject_id
      join staff_member o on o.school_id = a.school_id and o.id = a.owner_id
      where ${all} or a.owner_id = ${actor.personId} or exists (
        select 1 from assessment_class ac join class_teacher t on t.school_id = ac.school_id and t.class_id = ac.class_id
        where ac.school_id = a.school_id and ac.assessment_id = a.id and t.staff_id = ${actor.personId} and t.period @> ${today}::date)
      order by a.given_on desc, a.name limit 200`.execute(db)
    return rows
  },
})

/** What a new assessment can be for: own classes with their subject. */
export const newForm = defineQuery({
  name: 'assessment.newForm',
  input: z.object({}),
  allow: onlyRoles('teacher'),
  run: async ({ db, actor, today }) => {
    const { rows } = await sql<{ id: string; name: string; subject_id: string; subject: string }>`
      select c.id, c.name, s.id as subject_id, s.name as subject from class_teacher t
      join class c on c.school_id = t.school_id and c.id = t.class_id
      join course k on k.school_id = c.school_id and k.id = c.course_id join subject s on s.school_id = k.school_id and s.id = k.subject_id
      where t.staff_id = ${actor.personId} and t.period @> ${today}::date order by c.name`.execute(db)
    return { classes: rows, today }
  },
})

/** An assessment with its key, its document and the learning standards its questions can be tagged with. */
export const key = defineQuery({
  name: 'assessment.key',
  input: one,
  allow: maySeeAssessment,
  topic: ({ assessmentId }) => assessmentTopic(assessmentId),
  run: async (context, { assessmentId }) => {
    const head = await loadHead(context, assessmentId)
    const [questions, standards, sheets] = await Promise.all([
      loadQuestions(context.db, assessmentId),
      context.db
        .selectFrom('learning_standard')
        .select(['id', 'code', 'statement'])
        .where('subject_id', '=', head.subject_id)
        .orderBy('code')
        .execute(),
      context.db
        .selectFrom('answer_sheet')
        .select(({ fn }) => fn.countAll<string>().as('n'))
        .where('assessment_id', '=', assessmentId)
        .where('answered', '=', true)
        .executeTakeFirstOrThrow(),
    ])
    return {
      ...head,
      questions,
      standards,
      sheets: Number(sheets.n),
      mayEdit: hasRole(context.actor, 'teacher'),
    }
  },
})

/** Everyone who was to sit it, with their answers as one string each. */
export const answers = defineQuery({
  name: 'assessment.answers',
  input: one,
  allow: maySeeAssessment,
  topic: ({ assessmentId }) => assessmentTopic(assessmentId),
  run: async (context, { assessmentId }) => {
    const [head, questions, sheets] = await Promise.all([
      loadHead(context, assessmentId),
      loadQuestions(context.db, assessmentId),
      loadSheets(context.db, assessmentId),
    ])
    return {
      ...head,
      mayEdit: hasRole(context.actor, 'teacher'),
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
  name: 'assessment.findings',
  input: one,
  allow: maySeeAssessment,
  topic: ({ assessmentId }) => assessmentTopic(assessmentId),
  run: async (context, { assessmentId }) => {
    const [head, questions, sheets, standards] = await Promise.all([
      loadHead(context, assessmentId),
      loadQuestions(context.db, assessmentId),
      loadSheets(context.db, assessmentId),
      context.db.selectFrom('learning_standard').select(['id', 'code', 'statement']).execute(),
    ])
    const given = sheets.filter((s) => s.answered)
    const read = readFindings(questions, given, {
      secureFrom: head.secure_from,
      nearlyFrom: head.nearly_from,
    })
    const used = new Set(questions.map((q) => q.standardId))
    return {
      ...head,
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
