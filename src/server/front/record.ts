import { sql } from 'kysely'
import { z } from 'zod'
import { termShownOn } from '@/core/calendar/school-year'
import { civilDate, id } from '@/core/inputs'
import { termMark } from '@/core/marks/term-mark'
import { resultsOf, seesResultOf } from '@/server/assessment'
import { loadFigures, seeFigures } from '@/server/attendance'
import { loadGradebooks, plainDecimal, seeGradebook } from '@/server/marks'
import { seeDetails, seeStudent, studentTopic } from '@/server/people'
import type { Context } from '@/server/platform/context'
import { defineDomain, defineQuery } from '@/server/platform/define'
import { whereMay } from '@/server/platform/rights'
import { readCard } from '@/server/reports'
import { loadYear } from '@/server/school/load-year'
import { merge } from './merge'

/** The student's marks so far in the term, of the classes whose gradebook the actor may see. */
async function marksOf(context: Context, studentId: string, term: { id: string }, date: string) {
  const classes = await context.db
    .selectFrom('classMember as m')
    .innerJoin('class as c', 'c.id', 'm.classId')
    .innerJoin('classTerm as t', (j) => j.onRef('t.classId', '=', 'c.id').on('t.termId', '=', term.id))
    .select(['c.id', 'c.name', sql<string>`lower(m.period)::text`.as('since')])
    .where('m.studentId', '=', studentId)
    .where(sql<boolean>`m.period @> ${date}::date`)
    .where(whereMay(context, seeGradebook, sql.ref('c.id')))
    .orderBy('c.name')
    .execute()
  const books = await loadGradebooks(
    context.db,
    classes.map((c) => c.id),
    term.id,
  )
  return classes.flatMap(({ id: classId, name, since }) => {
    const book = books.get(classId)
    if (!book) return []
    const entries = book.entriesOf(studentId)
    const { mark, grade } = termMark(book, entries, { on: date, since })
    const missing = [...entries.values()].filter((entry) => entry.kind === 'missing').length
    return [{ classId, name, mark, grade, missing }]
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
      term ? marksOf(context, studentId, term, date) : [],
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
