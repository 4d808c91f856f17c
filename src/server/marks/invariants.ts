import { sql } from 'kysely'
import type { Invariant } from '@/server/platform/invariants'

/** Scores are of students who were in the class at some time. */
export const scoresAreOfMembers: Invariant = {
  rule: 'Every score belongs to somebody who was in the class',
  words: 'Scores would belong to students who were never in the class',
  tables: ['score', 'classMember', 'assignment'],
  broken: sql`select c.name || ', ' || s.sort_name as which from score x
    join assignment a on a.school_id = x.school_id and a.id = x.assignment_id
    join class c on c.school_id = a.school_id and c.id = a.class_id
    join student s on s.school_id = x.school_id and s.id = x.student_id and s.merged_into is null
    where (x.points is not null or x.standing is not null) and not exists (
      select 1 from class_member m where m.school_id = a.school_id and m.class_id = a.class_id and m.student_id = x.student_id)`,
}

/**
 * No score is above what its assignment is out of, and one that shows an assessment has no points of its own; it may have
 * a standing, such as excused.
 */
export const scoresFit: Invariant = {
  rule: 'No score is above the maximum of its assignment; points of an assessment come from its answers alone',
  words: 'Scores would be above the maximum of their assignments',
  tables: ['score', 'assignment'],
  broken: sql`select c.name || ', ' || a.name as which from score x
    join assignment a on a.school_id = x.school_id and a.id = x.assignment_id
    join class c on c.school_id = a.school_id and c.id = a.class_id
    where x.points > a.max_points or (a.assessment_id is not null and x.points is not null)`,
}

/** A formula reads what is in its own class, and in sight: of its term, or of the whole year. */
export const columnsReadTheirClass: Invariant = {
  rule: 'A calculated column reads only its own class: of its term, or of the whole year',
  words: 'Calculated columns would read another class or term',
  tables: ['markColumn', 'markColumnPart', 'assignment', 'category'],
  broken: sql`select c.name || ', ' || m.name as which from mark_column_part p
    join mark_column m on m.school_id = p.school_id and m.id = p.column_id
    join class c on c.school_id = m.school_id and c.id = m.class_id
    left join assignment a on a.school_id = p.school_id and a.id = p.assignment_id
    left join category k on k.school_id = p.school_id and k.id = p.category_id
    left join mark_column o on o.school_id = p.school_id and o.id = p.part_column_id
    left join term_period r on r.school_id = p.school_id and r.id = p.period_id
    where (coalesce(a.class_id, k.class_id, o.class_id, m.class_id), coalesce(a.term_id, k.term_id, o.term_id, m.term_id))
        is distinct from (m.class_id, m.term_id)
      or (o.id is not null and o.term_id is not null and m.term_id is null)
      or r.term_id <> p.marks_term_id`,
}

/** No column feeds itself, not through others either. */
export const columnsAreNoCircle: Invariant = {
  rule: 'No calculated column feeds itself, directly or through others',
  words: 'Calculated columns would feed themselves',
  tables: ['markColumn', 'markColumnPart'],
  broken: sql`with recursive reads(school_id, start_id, at_id) as (
      select school_id, column_id, part_column_id from mark_column_part where part_column_id is not null
      union
      select r.school_id, r.start_id, p.part_column_id from reads r
      join mark_column_part p on p.school_id = r.school_id and p.column_id = r.at_id and p.part_column_id is not null)
    select c.name || ', ' || m.name as which from reads r
    join mark_column m on m.school_id = r.school_id and m.id = r.start_id
    join class c on c.school_id = m.school_id and c.id = m.class_id where r.start_id = r.at_id`,
}

/** What is entered in a column by hand is one of its choices, or a number, and belongs to somebody of the class. */
export const entriesFitTheirColumn: Invariant = {
  rule: 'An entry of a column is one of its choices, or a number, of somebody who was in the class',
  words: 'Entries of columns would be none of their choices, or of students who were never in the class',
  tables: ['columnEntry', 'markColumn', 'markColumnLevel', 'classMember'],
  broken: sql`select c.name || ', ' || m.name as which from column_entry e
    join mark_column m on m.school_id = e.school_id and m.id = e.column_id
    join class c on c.school_id = m.school_id and c.id = m.class_id
    join student s on s.school_id = e.school_id and s.id = e.student_id and s.merged_into is null
    where e.value is not null and (case m.does
        when 'choice' then not exists (select 1 from mark_column_level l
          where l.school_id = e.school_id and l.column_id = e.column_id and l.name = e.value)
        when 'number' then e.value !~ '^[0-9]{1,5}([.][0-9]{1,2})?$' else true end
      or not exists (select 1 from class_member x
        where x.school_id = m.school_id and x.class_id = m.class_id and x.student_id = e.student_id))`,
}

/** Values are held exactly as long as marks are confirmed. */
export const openMarksHoldNothing: Invariant = {
  rule: 'Open marks hold no values',
  words: 'Marks that are open would hold values',
  tables: ['classMarks', 'heldMark'],
  broken: sql`select c.name as which from class_marks m join class c on c.school_id = m.school_id and c.id = m.class_id
    where m.state = 'open' and exists (select 1 from held_mark h where h.school_id = m.school_id and h.marks_id = m.id)`,
}

/** Held marks are of the class: its columns, and students who were in it. */
export const heldMarksAreOfTheirClass: Invariant = {
  rule: 'A held mark is of a column of its class, and of somebody who was in it',
  words: 'Held marks would be of other classes',
  tables: ['heldMark', 'classMarks', 'markColumn', 'classMember'],
  broken: sql`select c.name as which from held_mark h
    join class_marks m on m.school_id = h.school_id and m.id = h.marks_id
    join class c on c.school_id = m.school_id and c.id = m.class_id
    join student s on s.school_id = h.school_id and s.id = h.student_id and s.merged_into is null
    left join mark_column k on k.school_id = h.school_id and k.id = h.column_id
    where k.class_id <> m.class_id or not exists (select 1 from class_member x
      where x.school_id = m.school_id and x.class_id = m.class_id and x.student_id = h.student_id)`,
}
