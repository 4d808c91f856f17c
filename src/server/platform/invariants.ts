import { sql, type RawBuilder } from 'kysely'
import type { Tables } from '@/db/tables'
import type { Context } from './context'

/**
 * A rule that holds for the whole school at the end of every change, where the tables alone do not say it. Commands keep
 * it by what they check; an undo, which puts rows back without a command, is checked against it, and so is the school
 * of every test.
 */
export interface Invariant {
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
    if (!tables.some((table) => written.has(snake(table)))) continue
    const { rows } = await sql<{ which: string }>`
      select which from (${broken}) b group by which order by which limit ${named}`.execute(db)
    if (rows.length > 0) return { words, which: rows.map((row) => row.which) }
  }
  return undefined
}

const snake = (name: string) => name.replace(/[A-Z]/g, (c) => `_${c.toLowerCase()}`)
