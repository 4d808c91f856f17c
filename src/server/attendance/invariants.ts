import { sql } from 'kysely'
import type { Invariant } from '@/server/platform/invariants'

/** The code of a mark belongs to the set of codes in use on its day. */
export const marksAreOfTheirSet: Invariant = {
  rule: 'Every mark has a code that is in use on its day',
  words: 'Marks would have codes that are not in use on their days',
  tables: ['attendanceMark', 'attendanceCode', 'attendanceCodeSet'],
  broken: sql`select s.name || ', ' || c.code as which from attendance_code_set s
    join attendance_code c on c.set_id = s.id join attendance_mark m on m.code_id = c.id
    where not m.session_date between s.first_day and coalesce(s.last_day, 'infinity') group by s.name, c.code`,
}

/** Planned absences whose code is missing on some of their days, or says there that the student is here. */
export const plansWithoutCode = sql`select u.sort_name as student, o.code, p.first_day, p.last_day from planned_absence p
  join student u on u.school_id = p.school_id and u.id = p.student_id
  join attendance_code o on o.school_id = p.school_id and o.id = p.code_id
  join attendance_code_set s on s.school_id = p.school_id and s.first_day <= p.last_day and coalesce(s.last_day, 'infinity') >= p.first_day
  left join attendance_code n on n.school_id = s.school_id and n.set_id = s.id and n.code = o.code
  where n.id is null or n.meaning in ('present', 'late')`

/** What is planned has a code on each of its days, and one that does not say that the student is here. */
export const plansHaveCodes: Invariant = {
  rule: 'Every planned absence has a code on each of its days',
  words: 'Planned absences would have no code that stands for an absence on some of their days',
  tables: ['plannedAbsence', 'attendanceCode', 'attendanceCodeSet'],
  broken: sql`select p.student as which from (${plansWithoutCode}) p`,
}

/** Nothing is planned for a record that was merged into another. */
export const plansAreOfOneRecord: Invariant = {
  rule: 'No absence is planned for a record that was merged into another',
  words: 'Absences would be planned for a record that was merged into another',
  tables: ['plannedAbsence', 'student'],
  broken: sql`select s.sort_name as which from planned_absence p
    join student s on s.id = p.student_id and s.merged_into is not null`,
}

/** A mark that counts stands on a day of the school year with school; others are kept from before. */
export const marksAreOfSchoolDays: Invariant = {
  rule: 'Every mark that counts stands on a school day',
  words: 'Marks would count on days without school',
  tables: ['attendanceMark', 'closure', 'academicYear'],
  broken: sql`select to_char(m.session_date, 'Dy FMDD Mon YYYY') as which from (
      select distinct school_id, session_date from attendance_mark where code_id is not null and not kept) m
    where extract(isodow from m.session_date) > 5
      or not exists (select 1 from academic_year y where y.school_id = m.school_id and m.session_date between y.first_day and y.last_day)
      or exists (select 1 from closure c where c.school_id = m.school_id and m.session_date between c.first_day and c.last_day)`,
}

/** Marks belong to students who were on the roll at some time, or are expected in the homeroom: those can be marked, too. */
export const marksAreOfStudents: Invariant = {
  rule: 'Every mark belongs to somebody who was on the roll, or is expected',
  words: 'Marks would belong to students who were never on the roll',
  tables: ['attendanceMark', 'enrolment', 'student'],
  broken: sql`select s.sort_name as which from student s
    where exists (select 1 from attendance_mark m where m.school_id = s.school_id and m.student_id = s.id and m.code_id is not null)
      and not exists (select 1 from enrolment e where e.school_id = s.school_id and e.student_id = s.id)
      and s.merged_into is null and s.expected_in is null`,
}
