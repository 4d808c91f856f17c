import { sql } from 'kysely'
import { z } from 'zod'
import { termShownOn } from '@/core/calendar/school-year'
import { civilDate, id } from '@/core/inputs'
import { resultsOf, seesResultOf } from '@/server/assessment'
import { loadFigures, seeFigures } from '@/server/attendance'
import { markItself, marksOf, plainDecimal, seeGradebook } from '@/server/marks'
import { seeDetails, seeStudent, studentTopic } from '@/server/people'
import type { Context } from '@/server/platform/context'
import { defineDomain, defineQuery } from '@/server/platform/define'
import { whereMay } from '@/server/platform/rights'
import { readCard } from '@/server/reports'
import { loadYear } from '@/server/school/load-year'
import { merge } from './merge'

/** The student's marks in the term, of the classes whose gradebook the actor may see: confirmed ones, or those so far. */
async function marksInTerm(context: Context, studentId: string, term: { id: string }, date: string) {
  const { db } = context
  const classes = await db
    .selectFrom('classMember as m')
    .innerJoin('class as c', 'c.id', 'm.classId')
    .innerJoin('classTerm as t', (j) => j.onRef('t.classId', '=', 'c.id').on('t.termId', '=', term.id))
    .innerJoin('gradebook as g', (j) => j.onRef('g.classId', '=', 'c.id').onRef('g.termId', '=', 't.termId'))
    .select([
      'c.id',
      'c.name',
      sql<string>`lower(m.period)::text`.as('since'),
      sql<number>`(select count(*)::int from assignment a join score x on x.school_id = a.school_id and x.assignment_id = a.id
        where a.class_id = c.id and a.term_id = t.term_id and x.student_id = m.student_id and x.standing = 'missing')`.as(
        'missing',
      ),
    ])
    .where('m.studentId', '=', studentId)
    .where(sql<boolean>`m.period @> ${date}::date`)
    .where(whereMay(context, seeGradebook, sql.ref('c.id')))
    .orderBy('c.name')
    .execute()
  const marks = await marksOf(
    { db, today: date },
    classes.map((c) => c.id),
    { termId: term.id, periodId: null },
    'where open',
  )
  return classes.map(({ id: classId, name, since, missing }) => {
    const { mark, grade } = marks.get(classId)?.valueOf({ id: studentId, since }, markItself) ?? {}
    return { classId, name, mark, grade, missing }
  })
}

/** The latest assessments the student has answered, of those the actor may see. */
async function assessmentsOf(context: Context, studentId: string, date: string) {
  const mine = sql`select t.assessment_id from attempt t where t.student_id = ${studentId}`
  const { rows } = await sql<{
    id: string
    name: string
    givenOn: string
    points: string
    most: string
    unmarked: number
  }>`
    select a.id, a.name, i.given_on, v.points, v.unmarked, t.most::text as most
    from (${resultsOf(mine, [studentId])}) v
    join assessment a on a.id = v.assessment_id
    join assessment_total t on t.assessment_id = a.id
    join lateral (select max(i.given_on) as given_on from sitting i where i.assessment_id = a.id) i on i.given_on <= ${date}
    where ${seesResultOf(context, sql.ref('a.id'), sql`${studentId}::uuid`)}
    order by i.given_on desc, a.id limit 5`.execute(context.db)
  return rows.map((row) => ({ ...row, points: plainDecimal(row.points), most: plainDecimal(row.most) }))
}

/** What other pages know of a student, in short: each part for those who may open its page. */
const short = defineQuery({
  input: z.object({ studentId: id, date: civilDate }),
  right: seeStudent,
  topics: (_context, { studentId }) => [studentTopic(studentId)],
  run: async (context, { studentId, date }) => {
    const { db } = context
    const year = await loadYear(db, date)
    const term = year && termShownOn(year, date)
    const [maySee, maySeeFigures] = await Promise.all([
      context.may(seeDetails, { studentId }),
      context.may(seeFigures, { id: studentId }),
    ])
    const [figures, marks, assessments, cards] = await Promise.all([
      year && maySee ? loadFigures(context, year, [studentId], year.firstDay, date) : undefined,
      term ? marksInTerm(context, studentId, term, date) : [],
      assessmentsOf(context, studentId, date),
      db
        .selectFrom('reportCard as c')
        .innerJoin('reportRound as r', 'r.id', 'c.roundId')
        .select(['c.id', 'c.documentId', 'c.releasedAt', 'r.name as round'])
        .where('c.studentId', '=', studentId)
        .where('c.replacedAt', 'is', null)
        .where(whereMay(context, readCard, sql.ref('c.studentId')))
        .orderBy('c.releasedAt', 'desc')
        .execute(),
    ])
    return {
      year: year?.name,
      term: term?.name,
      attendance: figures?.get(studentId),
      maySeeFigures,
      marks,
      assessments,
      cards,
    }
  },
})

/** What concerns a student across all domains. */
export const record = defineDomain({
  name: 'record',
  tables: [],
  reads: ['people', 'attendance', 'assessment', 'marks', 'reports', 'year'],
  queries: { short },
  commands: { merge },
})
