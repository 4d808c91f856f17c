import { sql } from 'kysely'
import { limits } from '@/core/limits'
import { z } from 'zod'
import { countedBy, type ClassCount, type CountedBy } from '@/core/calendar/set-up-check'
import { civilDate } from '@/core/inputs'
import { defineQuery } from '@/server/platform/define'
import { loadYear } from '@/server/school/load-year'
import { rollTopic, yearTopic } from '@/server/school/topics'
import { checkSetUp } from '@/server/year'

/** A thing to mend: what it is called, what is said of it, and where. */
export interface ToMend {
  readonly id: string
  readonly name: string
  readonly detail: string
}

/** Students on roll on the date, with their year group. */
const onRoll = (date: string) => sql`enrolment e join student s on s.id = e.student_id
  join year_group g on g.id = e.year_group_id where e.period @> ${date}::date`

/** The condition for one heading of the crossed table, as the table's own titles say it. */
const underTitle = (by: CountedBy, title: string) => {
  switch (by) {
    case 'subject':
      return sql`s.name = ${title}`
    case 'class':
      return sql`c.name = ${title}`
    case 'year group':
      return sql`g.name = ${title}`
    case 'term':
      return sql`t.name = ${title}`
    case 'teacher':
      return sql`case when ${title} = 'no teacher' then not exists (
          select 1 from class_teacher h where h.class_id = c.id and h.period @> at.day)
        else exists (select 1 from class_teacher h join staff_member f on f.id = h.staff_id
          where h.class_id = c.id and h.period @> at.day and f.sort_name = ${title}) end`
  }
}

/** Classes of a year in each of their terms, with the day on which a term that is over or to come is counted. */
const classesInTerms = (
  yearId: string | null,
  date: string,
) => sql`class c join course k on k.id = c.course_id
  join subject s on s.id = k.subject_id join year_group g on g.id = k.year_group_id
  join class_term ct on ct.class_id = c.id join term t on t.id = ct.term_id and c.year_id = ${yearId}
  cross join lateral (select greatest(t.first_day, least(t.last_day, ${date}::date)) as day) at`

/** The enrolments behind a number of the crossed table: each student with class and term. */
export const enrolledIn = defineQuery({
  input: z.object({
    date: civilDate,
    chosen: z
      .array(z.object({ by: z.enum(countedBy), title: z.string().min(1).max(limits.line) }))
      .min(1)
      .max(2),
  }),
  right: checkSetUp,
  topics: () => [yearTopic(), rollTopic()],
  run: async ({ db }, { date, chosen }) => {
    const year = await loadYear(db, date)
    const { rows } = await sql<{
      studentId: string
      student: string
      classId: string
      class: string
      term: string
    }>`
      select p.id as student_id, p.sort_name as student, c.id as class_id, c.name as class, t.name as term
      from ${classesInTerms(year?.id ?? null, date)}
        join class_member m on m.class_id = c.id and m.period @> at.day join student p on p.id = m.student_id
      where ${sql.join(
        chosen.map(({ by, title }) => underTitle(by, title)),
        sql` and `,
      )}
      order by p.sort_name, p.number, c.name, t.first_day`.execute(db)
    return rows
  },
})

/**
 * Whether a year is set up right on a date: enrolments in classes, and lists of what is missing. One statement for
 * each list, however large the school is.
 */
export const check = defineQuery({
  input: z.object({ date: civilDate }),
  right: checkSetUp,
  topics: () => [yearTopic(), rollTopic()],
  run: async ({ db }, { date }) => {
    const year = await loadYear(db, date)
    const yearId = year?.id ?? null
    const day = sql`${date}::date`
    const list = (statement: ReturnType<typeof sql>) =>
      sql<ToMend>`${statement}`.execute(db).then((r) => r.rows)
    const [
      counts,
      emptyClasses,
      classesWithoutTeacher,
      studentsWithoutHomeroom,
      studentsWithoutClass,
      wrongYearGroup,
      teachersWithoutAccount,
      guardiansWithoutEmail,
    ] = await Promise.all([
      sql<ClassCount>`
          select c.id as class_id, c.name as class, s.name as subject, g.name as year_group, t.name as term,
            coalesce(f.sort_name, '') as teacher, (
              select count(*)::int from class_member m where m.class_id = c.id and m.period @> at.day) as students
          from ${classesInTerms(yearId, date)}
            left join class_teacher h on h.class_id = c.id and h.period @> at.day
            left join staff_member f on f.id = h.staff_id
          order by g.position, s.position, c.name, t.first_day, f.sort_name`
        .execute(db)
        .then((r) => r.rows),
      list(sql`select c.id, c.name, g.name as detail from class c join course k on k.id = c.course_id
          join year_group g on g.id = k.year_group_id
          where c.year_id = ${yearId} and not exists (select 1 from class_member m where m.class_id = c.id and m.period @> ${day})
          order by g.position, c.name`),
      list(sql`select c.id, c.name, g.name as detail from class c join course k on k.id = c.course_id
          join year_group g on g.id = k.year_group_id
          where c.year_id = ${yearId} and not exists (select 1 from class_teacher h where h.class_id = c.id and h.period @> ${day})
          order by g.position, c.name`),
      list(sql`select s.id, s.sort_name as name, g.name as detail from ${onRoll(date)}
          and not exists (select 1 from homeroom_member m where m.student_id = s.id and m.period @> ${day})
          order by g.position, s.sort_name`),
      list(sql`select s.id, s.sort_name as name, g.name as detail from ${onRoll(date)}
          and not exists (select 1 from class_member m where m.student_id = s.id and m.period @> ${day})
          order by g.position, s.sort_name`),
      list(sql`select s.id, s.sort_name as name, g.name || ', in ' || string_agg(c.name, ', ' order by c.name) as detail
          from enrolment e join student s on s.id = e.student_id join year_group g on g.id = e.year_group_id
            join class_member m on m.student_id = s.id and m.period @> ${day} join class c on c.id = m.class_id
            join course k on k.id = c.course_id and k.year_group_id <> e.year_group_id
          where e.period @> ${day} group by s.id, s.sort_name, g.name, g.position order by g.position, s.sort_name`),
      list(sql`select f.id, f.sort_name as name, string_agg(distinct c.name, ', ' order by c.name) as detail
          from class_teacher h join class c on c.id = h.class_id and c.year_id = ${yearId} join staff_member f on f.id = h.staff_id
          where h.period @> ${day} and not exists (select 1 from membership m where m.person_id = f.id and m.active)
          group by f.id, f.sort_name order by f.sort_name`),
      list(sql`select distinct on (name, d.id) s.id, d.family_name || ', ' || d.given_name as name,
          s.sort_name || ', ' || r.relation as detail
        from guardian d join guardianship r on r.guardian_id = d.id join student s on s.id = r.student_id
          join enrolment e on e.student_id = s.id and e.period @> ${day}
        where coalesce(d.email, '') = '' order by name, d.id, s.sort_name`),
    ])
    return {
      year: year && { id: year.id, name: year.name },
      counts,
      lists: {
        emptyClasses,
        classesWithoutTeacher,
        studentsWithoutHomeroom,
        studentsWithoutClass,
        wrongYearGroup,
        teachersWithoutAccount,
        guardiansWithoutEmail,
      },
    }
  },
})
