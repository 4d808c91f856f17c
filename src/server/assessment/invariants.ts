import { sql } from 'kysely'
import type { Invariant } from '@/server/platform/invariants'

/** Answers are of students who were at some time in a class the assessment is for. */
export const answersAreOfMembers: Invariant = {
  rule: 'Every answered sheet belongs to somebody who was in a class of the assessment',
  words: 'Answers would belong to students who were never in a class of the assessment',
  tables: ['answerSheet', 'answer', 'assessmentClass', 'classMember'],
  broken: sql`select a.name || ', ' || s.sort_name as which from answer_sheet h
    join assessment a on a.school_id = h.school_id and a.id = h.assessment_id
    join student s on s.school_id = h.school_id and s.id = h.student_id and s.merged_into is null
    where h.answered and not exists (
      select 1 from assessment_class c join class_member m on m.school_id = c.school_id and m.class_id = c.class_id
      where c.school_id = h.school_id and c.assessment_id = h.assessment_id and m.student_id = h.student_id)`,
}

/** No answer names a choice that its question does not have. */
export const answersAreChoices: Invariant = {
  rule: 'Every answer is one of the choices of its question',
  words: 'Answers would name choices that their questions do not have',
  tables: ['answer', 'question'],
  broken: sql`select a.name || ', question ' || q.position as which from answer n
    join question q on q.school_id = n.school_id and q.assessment_id = n.assessment_id and q.id = n.question_id
    join assessment a on a.school_id = n.school_id and a.id = n.assessment_id
    where ascii(n.choice) - 64 > q.choices`,
}
