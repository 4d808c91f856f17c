import { sql } from 'kysely'
import { limits } from '@/core/limits'
import { z } from 'zod'
import { comparableName } from '@/core/people/names'
import { staffRoles } from '@/server/platform/actor'
import { defineDomain, defineQuery } from '@/server/platform/define'
import { onlyRoles } from '@/server/platform/rights'
import { fromAll } from './all'

/** Everything whose name holds all the words typed, from all domains; at most eight of each kind. */
const anything = defineQuery({
  input: z.object({ text: z.string().trim().max(limits.findText) }),
  right: onlyRoles('find anything they may open', ...staffRoles),
  run: async (context, { text }) => {
    const words = comparableName(text)
      .split(' ')
      .filter(Boolean)
      .map((word) => `%${word.replace(/[\\%_]/g, '\\$&')}%`)
    const sources = fromAll((domain) => domain.find).flatMap((source) => source(context, words) ?? [])
    if (words.length === 0 || sources.length === 0) return []
    const union = sql.join(
      sources.map((source) => sql`(${source})`),
      sql` union all `,
    )
    const { rows } = await sql<{
      kind: string
      id: string
      name: string
      detail: string
      href: string
    }>`${union}`.execute(context.db)
    return rows
  },
})

/** The find box. */
export const find = defineDomain({ name: 'find', tables: [], reads: [], queries: { anything }, commands: {} })
