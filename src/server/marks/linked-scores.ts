import { sql, type RawBuilder } from 'kysely'
import { resultsOf, standardResultsOf } from '@/server/assessment'

/** What a linked assignment is worth at the assessment: as a whole, or in the standard it shows; null without points. */
export const linkedMost = sql`(case when a.standard_id is null
  then (select t.most from assessment_total t where t.school_id = a.school_id and t.assessment_id = a.assessment_id)
  else (select t.most from assessment_standard_total t where t.school_id = a.school_id and t.assessment_id = a.assessment_id
    and t.standard_id = a.standard_id) end)`

const scaled = sql`case when a.scaled then coalesce(round(v.points::numeric * a.max_points / nullif(${linkedMost}, 0), 2), 0)::text else v.points end`

/**
 * What the students of linked assignments have, read from the assessments and scaled where the assignment says so:
 * id, class_id, student_id, points, unmarked, version, changed_by, changed_at.
 * @param those a condition on the assignments, as `a`
 */
export const linkedScores = (those: RawBuilder<unknown>): RawBuilder<unknown> => {
  const assessments = sql`select a.assessment_id from assignment a where a.assessment_id is not null and ${those}`
  const columns = sql`a.id, a.class_id, v.student_id, ${scaled} as points, v.unmarked, v.version, v.changed_by, v.changed_at`
  return sql`select ${columns} from assignment a join (${resultsOf(assessments)}) v on v.assessment_id = a.assessment_id
      where a.standard_id is null and ${those}
    union all
    select ${columns} from assignment a join (${standardResultsOf(assessments)}) v
      on v.assessment_id = a.assessment_id and v.standard_id = a.standard_id where ${those}`
}
