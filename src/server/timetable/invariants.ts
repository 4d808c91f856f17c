import { sql } from 'kysely'
import type { Invariant } from '@/server/platform/invariants'

/** Nobody covers a lesson after their last day at the school. */
export const coverEndsWithItsPeople: Invariant = {
  rule: 'Nobody has a lesson to cover after their last day',
  words: 'Somebody would have lessons to cover after their last day',
  tables: ['staffMember', 'lessonChange'],
  broken: sql`select s.sort_name as which from staff_member s where s.last_day is not null and
    exists (select 1 from lesson_change c where c.school_id = s.school_id and c.staff_id = s.id and c.on_date > s.last_day and not c.cancelled)`,
}
