import { sql } from 'kysely'
import { z } from 'zod'
import { maySeeHistory } from '@/server/people/policy'
import { id } from '@/server/platform/inputs'
import { defineQuery } from '@/server/platform/registry'
import { describeChange, type ChangeRow } from './describe'

/** Everything that happened to a student's data, newest first: who, when, from what to what. */
export const ofStudent = defineQuery({
  name: 'history.ofStudent',
  input: z.object({ studentId: id, before: z.string().regex(/^\d+$/).optional() }),
  allow: maySeeHistory,
  run: async ({ db }, { studentId, before }) => {
    const { rows } = await sql<ChangeRow>`
      select h.id::text, h.at, h.actor, h.command, h.table_name, h.operation, h.row_key, h.before, h.after
      from history h where h.student_id = ${studentId} and (${before ?? null}::bigint is null or h.id < ${before ?? null}::bigint)
      order by h.id desc limit 200`.execute(db)
    // Every identifier in these rows is looked up at once, whatever table it names.
    const ids = [
      ...new Set(
        JSON.stringify(rows).match(/[0-9a-f]{8}-[0-9a-f]{4}-[0-9a-f]{4}-[0-9a-f]{4}-[0-9a-f]{12}/g) ?? [],
      ),
    ]
    const { rows: names } = await sql<{ id: string; name: string }>`
      with wanted as (select unnest(${ids}::uuid[]) as id)
      select id, name from homeroom join wanted using (id) union all select id, name from class join wanted using (id)
      union all select id, name from year_group join wanted using (id) union all select id, name from assignment join wanted using (id)
      union all select id, name from assessment join wanted using (id) union all select id, name from report_round join wanted using (id)
      union all select id, name from academic_year join wanted using (id)
      union all select id, code || ' ' || label from attendance_code join wanted using (id)
      union all select id, given_name || ' ' || family_name from guardian join wanted using (id)
      union all select q.id, 'question ' || position from question q join wanted w on w.id = q.id`.execute(db)
    const nameOf = new Map(names.map((n) => [n.id, n.name]))
    const student = await db
      .selectFrom('student')
      .select(['id', 'sort_name', 'number'])
      .where('id', '=', studentId)
      .executeTakeFirstOrThrow()
    return {
      student,
      changes: rows.map((row) => ({
        id: row.id,
        at: row.at.toISOString(),
        actor: row.actor,
        ...describeChange(row, nameOf),
      })),
      more: rows.length === 200,
    }
  },
})
