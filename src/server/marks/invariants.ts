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
