import { sql } from 'kysely'
import type { Relation } from '@/server/platform/rights'
import { isHomeroomTeacherOf, isTeacherOf } from './facts'

/** How people stand to classes, homerooms and students today. */

export const teachesClass: Relation = {
  words: 'teaches the class',
  holds: ({ actor, today }, id) => isTeacherOf(id, actor.staffId, today),
}

export const looksAfterHomeroom: Relation = {
  words: 'looks after the homeroom',
  holds: ({ actor, today }, id) => isHomeroomTeacherOf(id, actor.staffId, today),
}

/** Teaches a class of the student, looks after the homeroom, or has the student expected in it. */
export const teachesStudent: Relation = {
  words: 'teaches the student',
  holds: ({ actor, today }, id) => sql<boolean>`exists (
    select 1 from class_member m join class_teacher t using (school_id, class_id)
    where m.student_id = ${id} and t.staff_id = ${actor.staffId} and m.period @> ${today}::date and t.period @> ${today}::date
    union all
    select 1 from homeroom_member m join homeroom_teacher t using (school_id, homeroom_id)
    where m.student_id = ${id} and t.staff_id = ${actor.staffId} and m.period @> ${today}::date and t.period @> ${today}::date
    union all
    select 1 from student e join homeroom_teacher t on t.school_id = e.school_id and t.homeroom_id = e.expected_in
    where e.id = ${id} and e.number is null and t.staff_id = ${actor.staffId} and t.period @> ${today}::date)`,
}

/** The school shows this much of every student to all its teachers. */
export const schoolShows = (...levels: readonly ('details' | 'contacts')[]): Relation => ({
  words: 'works where the school shows this to all teachers',
  holds: ({ actor }) => sql<boolean>`exists (
    select 1 from school_setting s where s.school_id = ${actor.schoolId} and s.teachers_see = any(${[...levels]}::text[]))`,
})

export const isGuardianOf: Relation = {
  words: 'is a guardian who receives reports',
  holds: ({ actor }, id) =>
    sql<boolean>`exists (select 1 from guardianship g where g.student_id = ${id} and g.guardian_id = ${actor.guardianId} and g.may_receive_reports)`,
}
