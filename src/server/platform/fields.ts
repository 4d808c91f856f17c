/* eslint-disable no-await-in-loop -- the few fields of one record */
import { sameValue } from '@/core/same'
import { sql } from 'kysely'
import { z } from 'zod'
import { camelKeys, snakeCase } from '@/db/names'
import type { Tables } from '@/db/tables'
import { expectedVersion } from '@/core/inputs'
import type { Context } from './context'
import { defineCommand, type Command } from './entry'
import { changedMeanwhile, notFound, Refusal, type FieldProblem, type Json, type Standing } from './failure'
import type { Right } from './rights'
import type { Topic } from './topic'
import type { Cell, Written } from './write'

type Row = Readonly<Record<string, unknown>>
export type FieldKey = { readonly field: string }

interface FieldsRule<S> {
  readonly table: keyof Tables & string
  /** Whose record it is; also what a right is asked about. */
  readonly scope: z.ZodType<S>
  readonly idOf: (scope: S) => string
  /** Columns that are edited, each with what it may hold. */
  readonly fields: Readonly<Record<string, z.ZodType<Json>>>
  readonly right: Right<S>
  /** Fields that fewer people may change. */
  readonly narrower?: Readonly<Record<string, Right<S>>>
  /** Refuses what the school's rules forbid, and answers what else follows from the change, by column. */
  readonly check?: (context: Context, before: Row, changes: Row) => Promise<Row> | Row
  readonly topics: (scope: S) => readonly Topic[]
  /** What is in the way of a change, in words: "this record". */
  readonly what: string
}

/** The version of each field of a record, from its row; 0 for one that was never changed. */
export function versionOfField(row: { fieldVersions: unknown }, field: string): number {
  const versions = row.fieldVersions as Readonly<Record<string, number>>
  return versions[snakeCase(field)] ?? 0
}

/** The versions of all fields of a record that were ever changed, by the names the code uses for columns. */
export function versionsOfFields(row: { fieldVersions: unknown }): Readonly<Record<string, number>> {
  return camelKeys(row.fieldVersions as Record<string, number>)
}

const problemsOf = (path: string, issues: readonly z.core.$ZodIssue[]): readonly FieldProblem[] =>
  issues.map(({ message }) => ({ path, message }))

/**
 * Declares a record that is edited in place: each field is saved by itself, with the version its typing began on. Takes
 * `{ …scope, cells: { key: { field }, value, expectedVersion }[] }` and answers `{ key, version }[]`, all or none. Two people at
 * two fields of one record do not meet; two at one field do, and the conflict carries what is saved.
 */
export function defineFields<S extends object>(
  rule: FieldsRule<S>,
): Command<
  S & { cells: readonly Cell<FieldKey, Json>[] },
  readonly Written<FieldKey>[],
  S & { cells: readonly Cell<FieldKey, Json>[] }
> {
  const names = Object.keys(rule.fields) as [string, ...string[]]
  const cell = z
    .object({ key: z.object({ field: z.enum(names) }), value: z.unknown(), expectedVersion })
    .transform((asked, issues) => {
      const read = rule.fields[asked.key.field]?.safeParse(asked.value)
      if (read?.success) return { ...asked, value: read.data }
      for (const { path, message } of problemsOf('value', read?.error.issues ?? []))
        issues.addIssue({ code: 'custom', path: [path], message })
      return z.NEVER
    })
  const input = z.intersection(rule.scope, z.object({ cells: z.array(cell).min(1).max(names.length) }))
  type Input = S & { cells: readonly Cell<FieldKey, Json>[] }
  return defineCommand({
    input: input as unknown as z.ZodType<Input, Input>,
    right: rule.right,
    run: async (context, asked) => {
      const { cells } = asked
      for (const { key } of cells) {
        const narrower = rule.narrower?.[key.field]
        if (narrower && !(await context.may(narrower, asked))) throw new Refusal(notFound)
      }
      const id = rule.idOf(asked)
      const row = await lockRow(context, rule.table, id)
      const at = (key: FieldKey) => ({ value: row[key.field], version: versionOfField(row, key.field) })
      const against = cells.filter(
        ({ key, value, expectedVersion: expected }) =>
          at(key).version !== expected && !sameValue(at(key).value, value),
      )
      if (against.length > 0) {
        const standing = await Promise.all(
          against.map(async ({ key }): Promise<Standing> => ({
            key,
            value: at(key).value ?? null,
            version: at(key).version,
            by: await changedBy(context, rule.table, id, key.field),
          })),
        )
        throw changedMeanwhile(rule.what, standing)
      }
      const changes = Object.fromEntries(
        cells
          .filter(({ key, value }) => !sameValue(at(key).value, value))
          .map(({ key, value }) => [key.field, value]),
      )
      if (Object.keys(changes).length === 0)
        return cells.map(({ key }) => ({ key, version: at(key).version }))
      const also = (await rule.check?.(context, row, changes)) ?? {}
      const sets = Object.entries({ ...changes, ...also }).map(
        ([name, value]) => sql`${sql.ref(name)} = ${value as never}`,
      )
      const { rows } = await sql<{ fieldVersions: unknown }>`
        update ${sql.table(rule.table)} set ${sql.join(sets)} where id = ${id} returning field_versions`.execute(
        context.db,
      )
      context.changed(...rule.topics(asked))
      const after = rows[0] ?? { fieldVersions: {} }
      return cells.map(({ key }) => ({ key, version: versionOfField(after, key.field) }))
    },
  })
}

async function lockRow(
  { db }: Context,
  table: string,
  id: string,
): Promise<Row & { fieldVersions: unknown }> {
  const { rows } = await sql<Row & { fieldVersions: unknown }>`
    select * from ${sql.table(table)} where id = ${id} for update`.execute(db)
  if (!rows[0]) throw new Refusal(notFound)
  return rows[0]
}

/** Who changed a field last, from the history. */
async function changedBy({ db }: Context, table: string, id: string, field: string): Promise<string> {
  const { rows } = await sql<{ actor: string }>`
    select actor from history where table_name = ${sql.lit(snakeCase(table))} and row_key = ${JSON.stringify({ id })}::jsonb
      and after ? ${snakeCase(field)} order by id desc limit 1`.execute(db)
  return rows[0]?.actor ?? ''
}
