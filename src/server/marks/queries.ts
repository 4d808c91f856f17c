import { sql } from 'kysely'
import { z } from 'zod'
import { kindOf } from '@/core/assessment/kinds'
import { dayWithin, termShownOn } from '@/core/calendar/school-year'
import { assessmentTopic, classAssessmentsTopic, seeResults } from '@/server/assessment'
import { hasRole } from '@/server/platform/actor'
import { defineQuery } from '@/server/platform/define'
import { civilDate, id } from '@/core/inputs'
import { whereMay } from '@/server/platform/rights'
import { isOpen, isTeacherOf, sizeByClass, teachersByClass } from '@/server/school/facts'
import { loadYear } from '@/server/school/load-year'
import { membersOf } from '@/server/school/members'
import { rollTopic, yearTopic } from '@/server/school/topics'
import { loadColumns } from './columns'
import { loadElsewhere, marksElsewhere, termsOfAll } from './elsewhere'
import { loadEntries } from './entered'
import { gradebookTopic, loadGradebooks, type AssignmentWords } from './load-gradebooks'
import { loadNotes } from './notes'
import { periodsOf } from './periods'
import { closeMarksOf, enterScores, listClasses, reopenMarksOf, seeGradebook } from './rights'
import { refuse } from './messages'

const noWords: AssignmentWords = {
  description: '',
  tags: [],
  givenOn: null,
  shownFrom: null,
  isPlaced: false,
}

/** A class's gradebook for the term shown on a date. */
export const gradebook = defineQuery({
  input: z.object({ classId: id, date: civilDate }),
  right: seeGradebook,
  topics: (_context, { classId }) => [gradebookTopic(classId), classAssessmentsTopic(classId)],
  run: async (context, { classId, date }) => {
    const { db } = context
    const year = await loadYear(db, date)
    const term = year && termShownOn(year, date)
    if (!term) throw refuse('noYear', {})
    const memberDate = dayWithin(term, date)
    const [
      schoolClass,
      students,
      books,
      mayEdit,
      mayClose,
      mayReopen,
      columns,
      allTerms,
      entries,
      periods,
      notes,
    ] = await Promise.all([
      db.selectFrom('class').select(['id', 'name']).where('id', '=', classId).executeTakeFirstOrThrow(),
      membersOf(context, classId, memberDate),
      loadGradebooks(db, [classId], term.id),
      context.may(enterScores, { classId }),
      context.may(closeMarksOf, { targets: [{ classId }] }),
      context.may(reopenMarksOf, { classId }),
      loadColumns(db, [classId], term.id),
      termsOfAll(context, [classId]),
      loadEntries(db, [classId]),
      periodsOf(context, classId),
      loadNotes(context, classId, term.id),
    ])
    const book = books.get(classId)
    const terms = allTerms.get(classId) ?? []
    const elsewhere = await loadElsewhere(context, term.id, [{ classId, columns, terms }])
    return {
      columns,
      terms,
      elsewhere: marksElsewhere(elsewhere(classId), students),
      entries: entries.filter((e) => columns.some((c) => c.id === e.columnId)),
      periods,
      notes,
      class: schoolClass,
      term,
      date,
      students,
      mayEdit,
      mayClose,
      mayReopen,
      book: book && {
        rules: book.rules,
        categories: book.categories,
        assignments: book.assignments.map((a) => ({
          ...a,
          ...(book.about.get(a.id) ?? noWords),
          assessmentId: book.linkedAssessments.get(a.id) ?? null,
          version: book.versions.get(a.id) ?? 0,
        })),
        version: book.version,
        scores: book.scores,
      },
    }
  },
})

/** What a line of the history holds, an answer as it is typed. */
function shownIn(
  values: Readonly<Record<string, unknown>> | null,
  kind: string | null,
): {
  readonly points?: number
  readonly late?: true
  readonly standing?: string
  readonly answer?: string
} | null {
  if (!values) return null
  const { points, standing, late, value } = values
  return {
    ...(points == null ? {} : { points: Number(points) }),
    ...(late === true ? { late } : {}),
    ...(standing == null ? {} : { standing: String(standing) }),
    ...(value === undefined || kind === null ? {} : { answer: kindOf(kind).show(value) }),
  }
}

/** The history of one score: who, when, from what to what. Points of a linked assignment show the answers' history. */
export const scoreHistory = defineQuery({
  input: z.object({ classId: id, assignmentId: id, studentId: id }),
  right: seeGradebook,
  run: ({ db }, { classId, assignmentId, studentId }) =>
    db
      .selectFrom('assignment as a')
      .innerJoin('history as h', (j) =>
        j.on('h.studentId', '=', studentId).on(
          sql<boolean>`((h.table_name = 'score' and h.row_key ->> 'assignment_id' = a.id::text)
              or (h.table_name = 'response' and h.row_key ->> 'assessment_id' = a.assessment_id::text)
              or (h.table_name = 'response_points' and h.row_key ->> 'assessment_id' = a.assessment_id::text and h.row_key ->> 'source' <> 'key'))`,
        ),
      )
      .leftJoin('question as q', (j) =>
        j
          .onRef('q.assessmentId', '=', 'a.assessmentId')
          .on(sql<boolean>`q.id::text = h.row_key ->> 'question_id'`),
      )
      .select([
        'h.at',
        'h.actor',
        'h.operation',
        'h.tableName',
        'h.before',
        'h.after',
        'q.position as question',
        'q.kind',
      ])
      .where('a.id', '=', assignmentId)
      .where('a.classId', '=', classId)
      .orderBy('h.id', 'desc')
      .limit(30)
      .execute()
      .then((rows) =>
        rows.map((r) => ({
          ...r,
          before: shownIn(r.before, r.kind),
          after: shownIn(r.after, r.kind),
        })),
      ),
})

/** The classes whose gradebooks hold an assessment. */
export const linkedTo = defineQuery({
  input: z.object({ assessmentId: id }),
  right: seeResults,
  topics: (_context, { assessmentId }) => [assessmentTopic(assessmentId)],
  run: async ({ db }, { assessmentId }) => {
    const links = await db
      .selectFrom('assignment')
      .select('classId')
      .where('assessmentId', '=', assessmentId)
      .orderBy('classId')
      .execute()
    return links.map(({ classId }) => classId)
  },
})

/** The classes of a date, in the order of year groups and subjects, with which are the actor's own. */
export const classes = defineQuery({
  input: z.object({ date: civilDate }),
  right: listClasses,
  topics: () => [rollTopic(), yearTopic()],
  run: (context, { date }) =>
    context.db
      .selectFrom('class as c')
      .innerJoin('course as k', 'k.id', 'c.courseId')
      .innerJoin('subject as s', 's.id', 'k.subjectId')
      .innerJoin('yearGroup as g', 'g.id', 'k.yearGroupId')
      .innerJoin('academicYear as y', 'y.id', 'c.yearId')
      .leftJoin(teachersByClass(date).as('a'), (j) => j.onRef('a.classId', '=', 'c.id'))
      .leftJoin(sizeByClass(date).as('n'), (j) => j.onRef('n.classId', '=', 'c.id'))
      .select([
        'c.id',
        'c.name',
        's.name as subject',
        'a.listed as teachers',
        sql<number>`coalesce(n.students, 0)`.as('students'),
        isTeacherOf(sql.ref('c.id'), context.actor.staffId, date).as('own'),
        whereMay(context, seeGradebook, sql.ref('c.id')).as('mayOpen'),
      ])
      .where('y.firstDay', '<=', date)
      .where('y.lastDay', '>=', date)
      // Classes that run only in closed terms would make teachers' lists longer.
      .$if(!hasRole(context.actor, 'administrator', 'head', 'office'), (q) => q.where(isOpen('c.id')))
      .orderBy('g.position')
      .orderBy('s.position')
      .orderBy('c.name')
      .execute(),
})
