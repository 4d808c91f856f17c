/* eslint-disable no-await-in-loop -- one statement for each rule */
import { sql, type RawBuilder } from 'kysely'
import type { Tables } from '@/db/tables'
import { snakeCase } from '@/db/names'
import { limits } from '@/core/limits'
import type { Context } from './context'
import { notAsKept } from './history-replay'

/**
 * A rule that holds for the whole school at the end of every change, where the tables alone do not say it. Commands keep
 * it by what they check; an undo, which puts rows back without a command, is checked against it, and so is the school
 * of every test.
 */
export interface Invariant {
  /** The rule as it holds, for whoever reads what was checked. */
  readonly rule: string
  /** Completes "… so this cannot be undone": what would be wrong. */
  readonly words: string
  /** The tables it speaks of: it is looked at when one of them was written. */
  readonly tables: readonly (keyof Tables & string)[]
  /** A select of `which`, the name of what breaks the rule; no rows where it holds. */
  readonly broken: RawBuilder<{ which: string }>
  /** Where the database cannot tell: which of the selected rows break the rule. Their columns are single words. */
  readonly isBroken?: (row: Readonly<Record<string, unknown>>) => boolean
}

const named = 3

/** What breaks a rule, so many at the most, each once and in order. */
async function whichBreak(
  { db }: Pick<Context, 'db'>,
  { broken, isBroken }: Invariant,
  most: number,
): Promise<readonly string[]> {
  if (!isBroken) {
    const { rows } = await sql<{ which: string }>`
      select which from (${broken}) b group by which order by which limit ${most}`.execute(db)
    return rows.map((row) => row.which)
  }
  const { rows } = await broken.execute(db)
  return [...new Set(rows.filter(isBroken).map((row) => row.which))].sort().slice(0, most)
}

/** The first rule that is broken among those that speak of some tables, with whom it is broken for. */
export async function firstBroken(
  context: Pick<Context, 'db'>,
  invariants: readonly Invariant[],
  written: ReadonlySet<string>,
): Promise<{ readonly words: string; readonly which: readonly string[] } | undefined> {
  for (const invariant of invariants) {
    if (!invariant.tables.some((table) => written.has(snakeCase(table)))) continue
    const which = await whichBreak(context, invariant, named)
    if (which.length > 0) return { words: invariant.words, which }
  }
  return undefined
}

/** What a check found about one rule. */
export interface Checked {
  readonly rule: string
  /** Whom or what it is broken for, so many at the most; empty where the rule holds. */
  readonly which: readonly string[]
}

/**
 * Goes through all rules, and whether every row is as the history has kept it. At a large school this takes longer than
 * anybody waits for a page.
 * @param days how far back the history is compared, in days; all of it without
 */
export async function checkAll(
  context: Pick<Context, 'db'>,
  invariants: readonly Invariant[],
  days?: number,
): Promise<readonly Checked[]> {
  await sql`set local statement_timeout = '10min'`.execute(context.db)
  const checked: Checked[] = []
  for (const invariant of invariants)
    checked.push({ rule: invariant.rule, which: await whichBreak(context, invariant, limits.foundBroken) })

  const which = await notAsKept(context, limits.foundBroken, days)
  return [...checked, { rule: 'Every record that was changed lately is as its history has kept it', which }]
}
