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
}

const named = 3

/** The first rule that is broken among those that speak of some tables, with whom it is broken for. */
export async function firstBroken(
  { db }: Pick<Context, 'db'>,
  invariants: readonly Invariant[],
  written: ReadonlySet<string>,
): Promise<{ readonly words: string; readonly which: readonly string[] } | undefined> {
  for (const { words, tables, broken } of invariants) {
    if (!tables.some((table) => written.has(snakeCase(table)))) continue
    const { rows } = await sql<{ which: string }>`
      select which from (${broken}) b group by which order by which limit ${named}`.execute(db)
    if (rows.length > 0) return { words, which: rows.map((row) => row.which) }
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
  for (const { rule, broken } of invariants) {
    const { rows } = await sql<{ which: string }>`
      select which from (${broken}) b group by which order by which limit ${limits.foundBroken}`.execute(
      context.db,
    )
    checked.push({ rule, which: rows.map((row) => row.which) })
  }
  const which = await notAsKept(context, limits.foundBroken, days)
  return [...checked, { rule: 'Every record that was changed lately is as its history has kept it', which }]
}
