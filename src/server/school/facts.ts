import { sql, type RawBuilder } from 'kysely'

/** Facts that many statements need, each written once. References are column names of the statement around them. */

/** Whether a period holds a date. */
export const holds = (period: string, date: string): RawBuilder<boolean> =>
  sql<boolean>`${sql.ref(period)} @> ${date}::date`

/** Names of a class's teachers on a date, in the order of their sort names. */
export const classTeachers = (classId: string, date: string): RawBuilder<string | null> =>
  sql<string | null>`(select string_agg(f.given_name || ' ' || f.family_name, ', ' order by f.sort_name, f.id)
    from class_teacher t join staff_member f on f.school_id = t.school_id and f.id = t.staff_id
    where t.class_id = ${sql.ref(classId)} and t.period @> ${date}::date)`

/** All classes, for joins over many of them. */
const anyClass = sql`select id from class`

/**
 * For a join over many classes: each with the names of its teachers on a date, as `classTeachers` has them for one.
 * @param among a select of the ids of those that count
 */
export const teachersByClass = (date: string, among = anyClass) =>
  sql<{
    classId: string
    /** As in running text. */
    names: string
    /** As in lists, the family name first. */
    listed: string
  }>`(select t.class_id, string_agg(f.given_name || ' ' || f.family_name, ', ' order by f.sort_name, f.id) as names,
      string_agg(f.sort_name, '; ' order by f.sort_name, f.id) as listed
    from class_teacher t join staff_member f on f.school_id = t.school_id and f.id = t.staff_id
    where t.class_id in (${among}) and t.period @> ${date}::date group by t.class_id)`

/**
 * For a join over many classes: how many students each has on a date; a class without any is not among them.
 * @param among a select of the ids of those that count
 */
export const sizeByClass = (date: string, among = anyClass) =>
  sql<{ classId: string; students: number }>`(select m.class_id, count(*)::int as students
    from class_member m where m.class_id in (${among}) and m.period @> ${date}::date group by m.class_id)`

/** Names of a homeroom's teachers on a date, in the order of their sort names. */
export const homeroomTeachers = (homeroomId: string, date: string): RawBuilder<string | null> =>
  namesOfTeachers(sql`f.given_name || ' ' || f.family_name`, ', ', homeroomId, date)

/** The same for a column of a list: the family name first. */
export const homeroomTeachersListed = (homeroomId: string, date: string): RawBuilder<string | null> =>
  namesOfTeachers(sql`f.sort_name`, '; ', homeroomId, date)

const namesOfTeachers = (name: RawBuilder<unknown>, between: string, homeroomId: string, date: string) =>
  sql<string | null>`(select string_agg(${name}, ${sql.lit(between)} order by f.sort_name, f.id)
    from homeroom_teacher t join staff_member f on f.school_id = t.school_id and f.id = t.staff_id
    where t.homeroom_id = ${sql.ref(homeroomId)} and t.period @> ${date}::date)`

/** Whether a staff member teaches a class on a date. */
export const isTeacherOf = (
  classId: RawBuilder<unknown>,
  staffId: string | null,
  date: string,
): RawBuilder<boolean> =>
  sql<boolean>`exists (select 1 from class_teacher t where t.class_id = ${classId} and t.staff_id = ${staffId} and t.period @> ${date}::date)`

/** Whether a staff member is responsible for a homeroom on a date. */
export const isHomeroomTeacherOf = (
  homeroomId: RawBuilder<unknown>,
  staffId: string | null,
  date: string,
): RawBuilder<boolean> =>
  sql<boolean>`exists (select 1 from homeroom_teacher t where t.homeroom_id = ${homeroomId} and t.staff_id = ${staffId} and t.period @> ${date}::date)`

/** Whether a class runs in a term that is open to teachers. */
export const isOpen = (classId: string): RawBuilder<boolean> =>
  sql<boolean>`exists (select 1 from class_term x join term t on t.school_id = x.school_id and t.id = x.term_id
    where x.class_id = ${sql.ref(classId)} and t.open)`

/** How many students are in a homeroom on a date. */
export const homeroomSize = (homeroomId: string, date: string): RawBuilder<number> =>
  sql<number>`(select count(*)::int from homeroom_member m where m.homeroom_id = ${sql.ref(homeroomId)} and m.period @> ${date}::date)`

/** How many students belong to a homeroom at any time after a date. */
export const homeroomStudentsAfter = (homeroomId: string, date: string): RawBuilder<number> =>
  sql<number>`(select count(distinct m.student_id)::int from homeroom_member m
    where m.homeroom_id = ${sql.ref(homeroomId)} and (upper(m.period) is null or upper(m.period) > ${date}::date + 1))`

/** A count over the rows of a group that fulfil a condition. */
export const countWhere = (condition: RawBuilder<unknown>): RawBuilder<number> =>
  sql<number>`(count(*) filter (where ${condition}))::int`

export const firstDayOf = (period: string): RawBuilder<string> => sql<string>`lower(${sql.ref(period)})::text`

/** The first day on which a student who is on the roll on a date is not any more; null while there is none. */
export const enrolledUntil = (studentId: RawBuilder<unknown>, date: string): RawBuilder<string | null> =>
  sql`(select upper(r) from unnest((select range_agg(n.period) from enrolment n where n.student_id = ${studentId})) r
    where r @> ${date}::date)`
