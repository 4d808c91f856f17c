import { sql } from 'kysely'
import { keyPoints } from '@/core/assessment/scoring'
import { hundredths } from '@/core/marks/rational'
import type { Invariant } from '@/server/platform/invariants'

/** Answers are of students who were at some time in a class the assessment is for. */
export const answersAreOfMembers: Invariant = {
  rule: 'Every attempt belongs to somebody who was in a class of the assessment',
  words: 'Answers would belong to students who were never in a class of the assessment',
  tables: ['attempt', 'response', 'sittingClass', 'classMember'],
  broken: sql`select a.name || ', ' || s.sort_name as which from attempt t
    join assessment a on a.school_id = t.school_id and a.id = t.assessment_id
    join student s on s.school_id = t.school_id and s.id = t.student_id and s.merged_into is null
    where t.state = 'handed in' and not exists (
      select 1 from sitting_class c join class_member m on m.school_id = c.school_id and m.class_id = c.class_id
      where c.school_id = t.school_id and c.assessment_id = t.assessment_id and m.student_id = t.student_id)`,
}

/** No answer names a choice that its question does not have. */
export const answersAreChoices: Invariant = {
  rule: 'Every answer is one of the choices of its question',
  words: 'Answers would name choices that their questions do not have',
  tables: ['response', 'question', 'questionKey'],
  broken: sql`select a.name || ', question ' || q.position as which from response r
    join asked_question q on q.school_id = r.school_id and q.assessment_id = r.assessment_id and q.id = r.question_id
    join assessment a on a.school_id = r.school_id and a.id = r.assessment_id
    where q.content ? 'choices' and not (q.content -> 'choices' @> r.value)`,
}

/** A question that is asked has a key that holds, and one that is not has none. */
export const askedQuestionsHaveKeys: Invariant = {
  rule: 'Every question that is asked has one key, and a retired one has none',
  words: 'Questions would be without a key',
  tables: ['question', 'questionKey'],
  broken: sql`select a.name || ', question ' || coalesce(q.position::text, 'retired') as which from question q
    join assessment a on a.school_id = q.school_id and a.id = q.assessment_id
    where (q.position is not null) <> exists (select 1 from question_key k where k.school_id = q.school_id
      and k.assessment_id = q.assessment_id and k.question_id = q.id and k.until_version is null)`,
}

/** Points of the key are those of the key that holds, for what was answered. */
export const pointsAreOfAnswers: Invariant = {
  rule: 'Points that a key gave belong to an answer, and to the key that holds',
  words: 'Points would not belong to the answers or to the key',
  tables: ['response', 'responsePoints', 'questionKey'],
  broken: sql`select a.name || ', question ' || q.position as which from response_points p
    join asked_question q on q.school_id = p.school_id and q.assessment_id = p.assessment_id and q.id = p.question_id
    join assessment a on a.school_id = p.school_id and a.id = p.assessment_id
    where p.source = 'key' and (p.key_version <> q.from_version or p.points > q.points or not exists (
      select 1 from response r where r.school_id = p.school_id and r.assessment_id = p.assessment_id and r.student_id = p.student_id
        and r.attempt = p.attempt and r.question_id = p.question_id))`,
}

/** What is kept of points is what the key gives for the answer: worked out again, and compared. */
export const pointsAreWorkedOut: Invariant = {
  rule: 'Points that a key gave are what it gives for the answer',
  words: 'Points would not be what the key gives',
  tables: ['response', 'responsePoints', 'questionKey'],
  broken: sql`select distinct a.name || ', question ' || q.position as which, q.kind, q.content, q.points::text as points,
      r.value, p.points::text as stored
    from response r
    join asked_question q on q.school_id = r.school_id and q.assessment_id = r.assessment_id and q.id = r.question_id
    join assessment a on a.school_id = r.school_id and a.id = r.assessment_id
    left join response_points p on p.school_id = r.school_id and p.assessment_id = r.assessment_id and p.student_id = r.student_id
      and p.attempt = r.attempt and p.question_id = r.question_id and p.source = 'key'
    -- What is longer than any answer a key compares is a marker's.
    where length(r.value::text) <= 1000 or p.points is not null`,
  isBroken: ({ kind, content, points, value, stored }) => {
    const given = keyPoints({ kind, content, points } as Parameters<typeof keyPoints>[0], value)
    return given !== (stored === null ? undefined : hundredths(String(stored)))
  },
}

/** Learning standards make trees. */
export const standardsAreTrees: Invariant = {
  rule: 'No learning standard stands under itself',
  words: 'Learning standards would stand under themselves',
  tables: ['standard'],
  broken: sql`with recursive above as (
      select s.school_id, s.id as start, s.parent_id from standard s where s.parent_id is not null
      union select s.school_id, v.start, s.parent_id from above v
        join standard s on s.school_id = v.school_id and s.id = v.parent_id where s.parent_id is not null)
    select coalesce(s.code, s.statement) as which from above v join standard s on s.school_id = v.school_id and s.id = v.start
    where v.parent_id = v.start`,
}
