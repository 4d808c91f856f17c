import { z } from 'zod'
import type { Context } from '@/server/platform/context'
import {
  defineCommand,
  defineDomain,
  defineQuery,
  type DueSource,
  type Place,
} from '@/server/platform/define'
import { checkAll, type Checked } from '@/server/platform/invariants'
import { hasRole } from '@/server/platform/actor'
import { defineRecurring } from '@/server/platform/recurring'
import { onlyRoles } from '@/server/platform/rights'
import { defineTopic } from '@/server/platform/topic'
import { fromAll } from './all'

const seeCheck = onlyRoles('see what the check of the data found', 'administrator')

/** What the check of the data found last. */
const checkTopic = defineTopic('data-check')

const found = z.array(z.object({ rule: z.string(), which: z.array(z.string()) }))

/** What the last check found; undefined before the first. */
async function lastCheck({ db }: Context) {
  const row = await db.selectFrom('dataCheck').select(['checkedAt', 'found']).executeTakeFirst()
  return row && { checkedAt: row.checkedAt, found: found.parse(row.found) }
}

/** How far back the nightly check compares the history, in days: whatever was done since the last one, and more. */
const lately = 30

/**
 * Goes through all rules that always hold, and keeps what it found in place of what was found before.
 * @param days how far back the history is compared; all of it without
 */
export async function check(context: Context, days?: number): Promise<readonly Checked[]> {
  const checked = await checkAll(
    context,
    fromAll((domain) => domain.invariants),
    days,
  )
  const { actor, now } = context
  const row = { schoolId: actor.schoolId, checkedAt: now, found: JSON.stringify(checked) }
  await context.db
    .insertInto('dataCheck')
    .values(row)
    .onConflict((c) => c.column('schoolId').doUpdateSet({ checkedAt: now, found: row.found }))
    .execute()
  context.changed(checkTopic())
  return checked
}

/** The rules, and whom or what each is broken for. */
const last = defineQuery({
  input: z.object({}),
  right: seeCheck,
  topics: () => [checkTopic()],
  run: async (context) => (await lastCheck(context)) ?? null,
})

/** Checks now instead of waiting for the night. */
const now = defineCommand({
  input: z.object({}),
  right: seeCheck,
  needsNoVersion: 'looks at what there is',
  run: async (context) => {
    await check(context, lately)
    return null
  },
})

/** Checks every night, when nobody waits for it. */
const nightly = defineRecurring({
  at: '03:10',
  on: 'every day',
  run: async (context) => void (await check(context, lately)),
})

/** An administrator hears of a rule that is broken. */
export const checkDue: DueSource = {
  topics: ({ actor }) => (hasRole(actor, 'administrator') ? [checkTopic()] : []),
  items: async (context) => {
    if (!hasRole(context.actor, 'administrator')) return []
    const checked = await lastCheck(context)
    const broken = checked?.found.filter(({ which }) => which.length > 0) ?? []
    const [first] = broken
    if (!checked || !first) return []
    return [
      {
        what: 'Data that breaks a rule',
        detail: broken.length === 1 ? first.rule : `${broken.length} rules`,
        href: '/school/check',
        due: checked.checkedAt.slice(0, 10),
        overdue: false,
        since: true,
        act: 'Look at it',
        count: broken.length,
      },
    ]
  },
}

/** A page of the place School. */
export const checkPlaces = (): readonly Place[] => [
  {
    name: 'Data check',
    href: '/school/check',
    right: seeCheck,
    of: 'School',
    group: 'Running it',
    position: 10,
  },
]

/** Whether what must always hold does hold, looked at every night. */
export const dataCheck = defineDomain({
  name: 'check',
  tables: ['dataCheck'],
  reads: [],
  queries: { last },
  commands: { now },
  recurring: { nightly },
})
