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
