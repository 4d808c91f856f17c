import { sql, type RawBuilder } from 'kysely'
import type { HalfDay } from '@/core/attendance/sessions'
import { plannedOn, type Planned } from './planned'

/** What is known of a student before a lesson; without an id where the register of the half-day says it. */
export type Known = Omit<Planned, 'id'> & { readonly id: string | null }

/**
 * What is known of students before a lesson: absences planned for it, else the mark of the half-day where that says
 * that a student is away with a reason, elsewhere or not expected.
 */
export const knownInLesson = (date: string, period: number, half: HalfDay): RawBuilder<Known> => sql<Known>`
  select distinct on (k.student_id) k.* from (
    select p.*, 0 as rank from (${plannedOn(date, half, period)}) p
    union all
    select null::uuid, m.student_id, m.code_id, ${date}, ${date}, m.note, 0, 1
    from attendance_mark m join attendance_code c on c.school_id = m.school_id and c.id = m.code_id
    where m.session_date = ${date} and m.session = ${half} and not m.kept and c.meaning in ('absent with reason', 'elsewhere', 'not expected')
  ) k order by k.student_id, k.rank`
