import { sql } from 'kysely'
import type { Invariant } from '@/server/platform/invariants'

/** Entries are of students who were in the class at some time. */
export const entriesAreOfMembers: Invariant = {
  rule: 'Every entry of a report belongs to somebody who was in the class',
  words: 'Entries of reports would belong to students who were never in the class',
  tables: ['reportEntry', 'classMember'],
  broken: sql`select c.name || ', ' || s.sort_name as which from report_entry e
    join class c on c.school_id = e.school_id and c.id = e.class_id
    join student s on s.school_id = e.school_id and s.id = e.student_id and s.merged_into is null
    where (e.effort is not null or e.comment <> '') and not exists (
      select 1 from class_member m where m.school_id = e.school_id and m.class_id = e.class_id and m.student_id = e.student_id)`,
}

/** A card shows what was checked: no card without a class that was checked or released, and one valid issue of each. */
export const cardsAreChecked: Invariant = {
  rule: 'Every valid report card has an entry that was checked, and is the only one of its student and round',
  words: 'Report cards would stand without a checked entry',
  tables: ['reportCard', 'classEntries', 'reportEntry'],
  broken: sql`select s.sort_name as which from (
      select school_id, round_id, student_id, count(*) as valid from report_card where replaced_at is null group by 1, 2, 3) k
    join student s on s.school_id = k.school_id and s.id = k.student_id
    where k.valid > 1 or not exists (
      select 1 from report_entry e join class_entries x using (school_id, round_id, class_id)
      where e.school_id = k.school_id and e.round_id = k.round_id and e.student_id = k.student_id and x.state in ('checked', 'released'))`,
}

/** Entries that were handed in show marks that are held. */
export const entriesGoWithMarks: Invariant = {
  rule: 'Entries that are handed in, checked or released go with confirmed marks',
  words: 'Report entries would be handed in while the marks of their class are open',
  tables: ['classEntries', 'classMarks', 'reportRound'],
  broken: sql`select c.name || ', ' || r.name as which from class_entries e
    join report_round r on r.school_id = e.school_id and r.id = e.round_id
    join class c on c.school_id = e.school_id and c.id = e.class_id
    where e.state in ('handed in', 'checked', 'released') and not exists (select 1 from class_marks m
      where m.school_id = e.school_id and m.class_id = e.class_id and m.term_id = r.term_id and m.period_id is null and m.state <> 'open')`,
}

/** A line is filled by a column of the class, in sight of the round's term. */
export const feedsAreInSight: Invariant = {
  rule: "A line of a report is filled by a column of its class, of the round's term or of the whole year",
  words: 'Lines of reports would be filled by columns of other classes or terms',
  tables: ['feed', 'markColumn', 'reportRound'],
  broken: sql`select c.name || ', ' || r.name as which from feed f
    join report_round r on r.school_id = f.school_id and r.id = f.round_id
    join class c on c.school_id = f.school_id and c.id = f.class_id
    join mark_column m on m.school_id = f.school_id and m.id = f.column_id
    where m.class_id <> f.class_id or m.term_id <> r.term_id`,
}
