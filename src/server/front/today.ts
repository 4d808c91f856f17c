import { sql } from 'kysely'
import { z } from 'zod'
import { dayKind, nearestSchoolDay } from '@/core/calendar/school-year'
import { staffRoles } from '@/server/platform/actor'
import type { Context } from '@/server/platform/context'
import { defineDomain, defineQuery, type DueItem } from '@/server/platform/define'
import { civilDate } from '@/core/inputs'
import { once } from '@/server/platform/once'
import { onlyRoles } from '@/server/platform/rights'
import type { Topic } from '@/server/platform/topic'
import { loadYear } from '@/server/school/load-year'
import { yearTopic } from '@/server/school/topics'
import { fromAll } from './all'
import { checkDue } from './check'

const sources = () => [...fromAll((domain) => domain.due), checkDue]

const seeToday = onlyRoles('see what is due', ...staffRoles)

/** Everything that is due for the actor on a date, registers first, then by due date. */
export function dueItems(context: Context, date: string): Promise<readonly DueItem[]> {
  return once(context, `due ${date}`, () => readDue(context, date))
}

async function readDue(context: Context, date: string): Promise<readonly DueItem[]> {
  const answers = await Promise.all(
    sources().map(async (source) => ({
      first: source.first ?? false,
      items: await source.items(context, date),
    })),
  )
  const of = (first: boolean) => answers.filter((a) => a.first === first).flatMap((a) => a.items)
  return [...of(true), ...[...of(false)].sort((a, b) => a.due.localeCompare(b.due))]
}

/** What the actor's due items follow: by role, and by their own homerooms and classes. */
export async function dueTopics(context: Context): Promise<readonly Topic[]> {
  const topics = await Promise.all(sources().map((source) => source.topics(context)))
  return [yearTopic(), ...topics.flat()]
}

/** Whether the school has taken its first register. */
async function hasBegun({ db }: Context): Promise<boolean> {
  const { rows } = await sql<{
    begun: boolean
  }>`select exists (select 1 from attendance_mark) as begun`.execute(db)
  return rows[0]?.begun ?? false
}

/** What is due for the actor on a date, and what kind of day it is. */
const due = defineQuery({
  input: z.object({ date: civilDate }),
  right: seeToday,
  topics: dueTopics,
  run: async (context, { date }) => {
    const [year, items, begun] = await Promise.all([
      loadYear(context.db, date),
      dueItems(context, date),
      hasBegun(context),
    ])
    return {
      items,
      day: year && dayKind(year, date),
      next: year && nearestSchoolDay(year, date, 1),
      previous: year && nearestSchoolDay(year, date, -1),
      empty: !year,
      /** Whether a register was ever taken; before, the school is being set up. */
      begun,
    }
  },
})

/** What is due, from all domains. */
export const today = defineDomain({
  name: 'today',
  tables: [],
  reads: ['year', 'attendance'],
  queries: { due },
  commands: {},
  places: [{ name: 'Today', href: '/today', right: seeToday, position: 1 }],
})
