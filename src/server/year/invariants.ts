import { sql } from 'kysely'
import type { Invariant } from '@/server/platform/invariants'

/** Nobody looks after a homeroom or a class after their last day at the school. */
export const postsEndWithTheirPeople: Invariant = {
  rule: 'Nobody has a homeroom or a class after their last day',
  words: 'Somebody would have homerooms or classes after their last day',
  tables: ['staffMember', 'homeroomTeacher', 'classTeacher'],
  broken: sql`select s.sort_name as which from staff_member s where s.last_day is not null and (
    exists (select 1 from homeroom_teacher t where t.school_id = s.school_id and t.staff_id = s.id and (upper(t.period) is null or upper(t.period) > s.last_day + 1))
    or exists (select 1 from class_teacher t where t.school_id = s.school_id and t.staff_id = s.id and (upper(t.period) is null or upper(t.period) > s.last_day + 1)))`,
}
