import { sql } from 'kysely'
import type { Context } from '@/server/platform/context'
import { copyColumns } from './copy-columns'
import { gradebookTopic } from './load-gradebooks'

/**
 * Gives classes the categories, rules and columns that others have in another term, where they have none there yet. Scores
 * and assignments do not travel, nor columns that read what the other class lacks.
 * @param pairs each class with the one that gets its settings; the same one within a year
 */
export async function carryGradebooks(
  context: Context,
  pairs: readonly { readonly from: string; readonly to: string }[],
  { from, to }: { readonly from: string; readonly to: string },
): Promise<void> {
  const school = context.actor.schoolId
  const { rows } = await sql<{ classId: string }>`with pair as (
      select * from unnest(${pairs.map((p) => p.from)}::uuid[], ${pairs.map((p) => p.to)}::uuid[]) p(old_id, new_id)),
    book as (
      insert into gradebook (school_id, class_id, term_id, method, decimals, empty_counts, missing_counts, incomplete_counts, late_percent, late_of, most)
      select ${school}, p.new_id, ${to}, g.method, g.decimals, g.empty_counts, g.missing_counts, g.incomplete_counts, g.late_percent, g.late_of, g.most
      from pair p join gradebook g on g.class_id = p.old_id and g.term_id = ${from}
      on conflict do nothing returning class_id),
    categories as (
      insert into category (school_id, id, class_id, term_id, name, weight, within, drop_lowest, position)
      select ${school}, gen_random_uuid(), p.new_id, ${to}, c.name, c.weight, c.within, c.drop_lowest, c.position
      from book join pair p on p.new_id = book.class_id
        join category c on c.class_id = p.old_id and c.term_id = ${from})
    select class_id from book`.execute(context.db)
  const made = new Set(rows.map((r) => r.classId))
  await copyColumns(
    context,
    pairs.filter((p) => made.has(p.to)),
    { from, to },
  )
  context.changed(...pairs.map((p) => gradebookTopic(p.to)))
}
