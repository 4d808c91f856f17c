import { sql, type Transaction } from 'kysely'
import { termMark } from '@/core/marks/term-mark'
import type { Tables } from '@/db/tables'
import { loadGradebooks } from '@/server/marks'

/** What handing in keeps: each student's mark and grade as they are on the day. */
export async function holdMarks(db: Transaction<Tables>, today: string): Promise<void> {
  const entries = await db
    .selectFrom('reportEntry as e')
    .innerJoin('classEntries as c', (j) =>
      j.onRef('c.roundId', '=', 'e.roundId').onRef('c.classId', '=', 'e.classId'),
    )
    .innerJoin('reportRound as r', 'r.id', 'e.roundId')
    .innerJoin('classMember as m', (j) =>
      j
        .onRef('m.classId', '=', 'e.classId')
        .onRef('m.studentId', '=', 'e.studentId')
        .on(sql<boolean>`m.period @> ${today}::date`),
    )
    .select(['e.classId', 'e.studentId', 'r.termId', sql<string>`lower(m.period)::text`.as('since')])
    .where('c.state', '=', 'handed in')
    .execute()
  for (const classId of new Set(entries.map((e) => e.classId))) {
    const own = entries.filter((e) => e.classId === classId)
    const book = (await loadGradebooks(db, [classId], own[0]?.termId ?? '')).get(classId)
    if (!book) continue
    const marks = own.map(({ studentId, since }) => {
      const { mark = null, grade = null } = termMark(book, book.entriesOf(studentId), { on: today, since })
      return { studentId, mark, grade }
    })
    await sql`update report_entry e set handed_mark = m.mark, handed_grade = m.grade
      from jsonb_to_recordset(${JSON.stringify(marks)}::jsonb) as m("studentId" uuid, mark text, grade text)
      where e.class_id = ${classId} and e.student_id = m."studentId"`.execute(db)
  }
}
