import { sql } from 'kysely'
import type { Invariant } from '@/server/platform/invariants'

/** Whoever is in a homeroom, a class or a group is on the roll of the school on all those days. */
export const membersAreEnrolled: Invariant = {
  rule: 'Whoever is in a homeroom, a class or a group is on the roll on all those days',
  words: 'Students would be in homerooms, classes or groups on days on which they are not on the roll',
  tables: ['enrolment', 'homeroomMember', 'classMember', 'analysisGroupMember'],
  broken: sql`
    with held as (select student_id, range_agg(period) as periods from enrolment group by student_id)
    select s.sort_name as which from (
      select student_id, period from homeroom_member union all select student_id, period from class_member
      union all select student_id, period from analysis_group_member) m
    join student s on s.id = m.student_id left join held on held.student_id = m.student_id
    where not coalesce(held.periods, '{}'::datemultirange) @> m.period`,
}

/** Nobody is in a homeroom after its last day. */
export const closedHomeroomsAreEmpty: Invariant = {
  rule: 'Nobody is in a homeroom after its last day',
  words: 'Students would be in a homeroom that is closed by then',
  tables: ['homeroomMember', 'homeroom'],
  broken: sql`select h.name || ', ' || s.sort_name as which from homeroom h
    join homeroom_member m on m.homeroom_id = h.id and (upper(m.period) is null or upper(m.period) > h.last_day + 1)
    join student s on s.id = m.student_id where h.last_day is not null`,
}

/** A record that was merged into another is on no roll. */
export const mergedRecordsAreEmpty: Invariant = {
  rule: 'A record that was merged into another is on no roll',
  words: 'Something would belong to a record that was merged into another',
  tables: ['student', 'enrolment', 'homeroomMember', 'classMember', 'analysisGroupMember'],
  broken: sql`select s.sort_name as which from student s where s.merged_into is not null and (
    exists (select 1 from enrolment m where m.student_id = s.id) or exists (select 1 from homeroom_member m where m.student_id = s.id)
    or exists (select 1 from class_member m where m.student_id = s.id) or exists (select 1 from analysis_group_member m where m.student_id = s.id))`,
}
