import { sql } from 'kysely'
import { z } from 'zod'
import { orderInput, partInput, partKinds, type PartKind } from '@/core/calendar/inputs'
import { id, expectedVersion } from '@/core/inputs'
import type { Context } from '@/server/platform/context'
import { isForeignKeyViolation } from '@/server/platform/database-errors'
import { defineCommand } from '@/server/platform/define'
import { updateIfUnchanged } from '@/server/platform/write'
import { registersTopic, rollTopic, yearTopic } from '@/server/school/topics'
import { setUpYear } from './rights'
import { refuse, refuseField } from './messages'

const undo = {
  days: 30,
  whenChangedSince: 'stop',
  topics: () => [yearTopic(), rollTopic(), registersTopic()],
} as const

const tables = {
  'year group': 'yearGroup',
  homeroom: 'homeroom',
  subject: 'subject',
  room: 'room',
} as const satisfies Record<PartKind, string>

/** Names are unique among their kind; those of homerooms within their year. */
async function checkName({ db }: Context, kind: PartKind, partId: string, name: string): Promise<void> {
  const table = sql.table(tables[kind])
  const sameYear = kind === 'homeroom' ? sql`and o.year_id = p.year_id` : sql``
  const { rows } = await sql`select 1 from ${table} p join ${table} o on o.id <> p.id ${sameYear}
    where p.id = ${partId} and lower(o.name) = lower(${name})`.execute(db)
  if (rows.length > 0) throw refuseField('name', 'partExists', { name })
}

/** Gives a year group, a homeroom or a subject another name. */
export const renamePart = defineCommand({
  input: partInput,
  right: setUpYear,
  undo,
  run: async (context, { kind, partId, expectedVersion: version, name }) => {
    await checkName(context, kind, partId, name)
    await updateIfUnchanged(
      context,
      tables[kind],
      { id: partId },
      version,
      { name },
      { what: `this ${kind}` },
    )
    context.changed(yearTopic(), rollTopic(), registersTopic())
    return null
  },
})

/** Removes a part that nothing rests on; one with a history stays. */
export const removePart = defineCommand({
  input: z.object({ kind: z.enum(partKinds), partId: id, expectedVersion }),
  right: setUpYear,
  undo,
  run: async (context, { kind, partId, expectedVersion: version }) => {
    const { db } = context
    await updateIfUnchanged(context, tables[kind], { id: partId }, version, {}, { what: `this ${kind}` })
    const { rows } = await sql<{
      name: string
    }>`select name from ${sql.table(tables[kind])} where id = ${partId}`.execute(db)
    try {
      if (kind === 'homeroom') {
        await db.deleteFrom('homeroomTeacher').where('homeroomId', '=', partId).execute()
        await db.deleteFrom('homeroomClass').where('homeroomId', '=', partId).execute()
      }
      await db.deleteFrom(tables[kind]).where('id', '=', partId).execute()
    } catch (error) {
      if (!isForeignKeyViolation(error)) throw error
      throw refuse('partInUse', { kind, name: rows[0]?.name ?? '' })
    }
    context.changed(yearTopic(), rollTopic(), registersTopic())
    return null
  },
})

/** Puts all year groups or all subjects into another order; the order of year groups is that in which students move up. */
export const orderParts = defineCommand({
  input: orderInput,
  right: setUpYear,
  needsNoVersion: 'compares the whole list',
  undo,
  run: async (context, { kind, ids }) => {
    const table = sql.table(tables[kind])
    // Locked in one order, so that two who order at once come one after the other.
    const { rows } = await sql<{ id: string }>`select id from ${table} order by id for update`.execute(
      context.db,
    )
    const there = new Set(rows.map((row) => row.id))
    if (there.size !== new Set(ids).size || ids.some((x) => !there.has(x))) throw refuse('orderGone', {})
    await sql`update ${table} t set position = o.n from unnest(${ids}::uuid[]) with ordinality as o(id, n)
      where t.id = o.id and t.position <> o.n`.execute(context.db)
    context.changed(yearTopic(), rollTopic())
    return null
  },
})
