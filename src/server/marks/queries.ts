import { sql } from 'kysely'
import { z } from 'zod'
import { termShownOn } from '@/core/calendar/school-year'
import { hasRole } from '@/server/platform/actor'
import { refuse } from '@/server/platform/failure'
import { civilDate, id } from '@/server/platform/inputs'
import { defineQuery, onlyRoles, type Context } from '@/server/platform/registry'
import { loadYear } from '@/server/year/load-year'
import { gradebookTopic, loadGradebooks } from './load-gradebooks'
import { maySeeGradebook } from './policy'

/** Members of a class on a date, in name order, with the date they joined it. */
export async function membersOf({ db }: Context, classId: string, date: string) {
  const { rows } = await sql<{ id: string; name: string; number: number; since: string }>`
    select s.id, s.sort_name as name, s.number, lower(m.period)::text as since
    from class_member m join student s on s.school_id = m.school_id and s.id = m.student_id
    where m.class_id = ${classId} and m.period @> ${date}::date order by s.sort_name, s.number`.execute(db)
  return rows
}

/** A class's gradebook for the term shown on a date. */
export const gradebook = defineQuery({
  name: 'marks.gradebook',
  input: z.object({ classId: id, date: civilDate }),
  allow: maySeeGradebook,
  topic: ({ classId }) => gradebookTopic(classId),
  run: async (context, { classId, date }) => {
    const { db, actor } = context
    const year = await loadYear(db, date)
    const term = year && termShownOn(year, date)
    if (!term) throw refuse('There is no academic year with terms yet. Make one under School year first.')
    const memberDate = date < term.firstDay ? term.firstDay : date > term.lastDay ? term.lastDay : date
    const [schoolClass, students, books] = await Promise.all([
      db.selectFrom('class').select(['id', 'name']).where('id', '=', classId).executeTakeFirstOrThrow(),
      membersOf(context, classId, memberDate),
      loadGradebooks(db, [classId], term.id),
    ])
    const book = books.get(classId)
    return {
      class: schoolClass,
      term,
      date,
      students,
      mayEdit: hasRole(actor, 'teacher'),
      book: book && {
        rules: book.rules,
        categories: book.categories,
        assignments: book.assignments.map((a) => ({
          ...a,
          assessmentId: book.linkedAssessments.get(a.id) ?? null,
        })),
        version: book.version,
        scores: book.scores,
      },
    }
  },
})

/** The history of one score: who, when, from what to what. Points of a linked assignment show the answers' history. */
export const scoreHistory = defineQuery({
  name: 'marks.scoreHistory',
  input: z.object({ classId: id, assignmentId: id, studentId: id }),
  allow: maySeeGradebook,
  run: async ({ db }, { classId, assignmentId, studentId }) => {
    const { rows } = await sql<{
      at: Date
      actor: string
      operation: string
      table_name: string
      before: Record<string, string> | null
      after: Record<string, string> | null
      question: number | null
    }>`
      select h.at, h.actor, h.operation, h.table_name, h.before, h.after, q.position as question
      from assignment a join history h on h.school_id = a.school_id and h.student_id = ${studentId}
        and ((h.table_name = 'score' and h.row_key ->> 'assignment_id' = a.id::text)
          or (h.table_name = 'answer' and h.row_key ->> 'assessment_id' = a.assessment_id::text))
      left join question q on q.school_id = a.school_id and q.assessment_id = a.assessment_id and q.id::text = h.row_key ->> 'question_id'
      where a.id = ${assignmentId} and a.class_id = ${classId} order by h.id desc limit 30`.execute(db)
    return rows.map((r) => ({ ...r, at: r.at.toISOString() }))
  },
})

/** The actor's classes, or for the head every class, on a date. */
export const classes = defineQuery({
  name: 'marks.classes',
  input: z.object({ date: civilDate }),
  allow: onlyRoles('administrator', 'head', 'office', 'records', 'teacher'),
  run: async ({ db, actor }, { date }) => {
    const { rows } = await sql<{
      id: string
      name: string
      subject: string
      teachers: string | null
      students: number
      own: boolean
    }>`
      select c.id, c.name, s.name as subject,
        (select string_agg(f.given_name || ' ' || f.family_name, ', ') from class_teacher t join staff_member f on f.school_id = t.school_id and f.id = t.staff_id
          where t.school_id = c.school_id and t.class_id = c.id and t.period @> ${date}::date) as teachers,
        (select count(*)::int from class_member m where m.school_id = c.school_id and m.class_id = c.id and m.period @> ${date}::date) as students,
        exists (select 1 from class_teacher t where t.school_id = c.school_id and t.class_id = c.id and t.staff_id = ${actor.personId} and t.period @> ${date}::date) as own
      from class c join course k on k.school_id = c.school_id and k.id = c.course_id
      join subject s on s.school_id = k.school_id and s.id = k.subject_id
      join year_group g on g.school_id = k.school_id and g.id = k.year_group_id
      where exists (select 1 from academic_year y where y.school_id = c.school_id and y.id = c.year_id and ${date}::date between y.first_day and y.last_day)
      order by g.position, s.position, c.name`.execute(db)
    return rows
  },
})
