import { sql } from 'kysely'
import { z } from 'zod'
import { groupBy } from '@/core/group-by'
import { termShownOn } from '@/core/calendar/school-year'
import { explainMark } from '@/core/marks/explanation'
import { defineQuery } from '@/server/platform/define'
import { classTeachers } from '@/server/school/facts'
import { loadYear } from '@/server/school/load-year'
import { isGuardianOf } from '@/server/school/relations'
import { loadGradebooks } from './load-gradebooks'
import { seeOwnMarks } from './rights'

interface Place {
  readonly studentId: string
  readonly student: string
  readonly classId: string
  readonly className: string
  readonly subject: string
  readonly teachers: string | null
  readonly since: string
}

/**
 * What a guardian sees of the own children's marks in the term under way: the assignments that are shown by today, with
 * their scores, and the mark that follows from these alone, explained as the teacher reads it.
 */
export const mine = defineQuery({
  input: z.object({}),
  right: seeOwnMarks,
  run: async (context) => {
    const { db, today } = context
    const year = await loadYear(db, today)
    const term = year && termShownOn(year, today)
    if (!term) return { term: undefined, children: [] }
    const { rows: places } = await sql<Place>`
      select m.student_id, s.sort_name as student, c.id as class_id, c.name as class_name, j.name as subject,
        ${classTeachers('c.id', today)} as teachers, lower(m.period)::text as since
      from class_member m join student s on s.school_id = m.school_id and s.id = m.student_id
      join class c on c.school_id = m.school_id and c.id = m.class_id
      join class_term t on t.school_id = c.school_id and t.class_id = c.id and t.term_id = ${term.id}
      join course k on k.school_id = c.school_id and k.id = c.course_id join subject j on j.school_id = k.school_id and j.id = k.subject_id
      where m.period @> ${today}::date and ${isGuardianOf.holds(context, sql.ref('m.student_id'))}
      order by s.sort_name, s.number, j.position, c.name`.execute(db)
    const books = await loadGradebooks(db, [...new Set(places.map((p) => p.classId))], term.id)
    const children = [...groupBy(places, (p) => p.studentId)].map(([studentId, own]) => ({
      studentId,
      name: own[0]?.student ?? '',
      classes: own.flatMap(({ classId, className, subject, teachers, since }) => {
        const book = books.get(classId)
        const assignments = (book?.assignments ?? []).filter((a) => {
          const from = book?.about.get(a.id)?.shownFrom
          return from != null && from <= today
        })
        if (!book || assignments.length === 0) return []
        const shown = { ...book, assignments }
        const { whatIf: _, ...why } = explainMark(shown, book.entriesOf(studentId), { on: today, since })
        return [
          {
            classId,
            className,
            subject,
            teachers: teachers ?? '',
            byPoints: book.rules.method === 'points',
            why,
            assignments: assignments.map((a) => ({
              id: a.id,
              name: a.name,
              dueOn: a.dueOn,
              description: book.about.get(a.id)?.description ?? '',
            })),
          },
        ]
      }),
    }))
    return { term: { name: term.name }, children }
  },
})
