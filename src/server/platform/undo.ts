/* eslint-disable no-await-in-loop -- tables on their way back, one after the other */
import { sql, type RawBuilder } from 'kysely'
import { catalog, type Catalog } from './catalog'
import { Collapse, type NetChange } from './collapse'
import type { Context } from './context'
import { refusals } from './failure'
import { changesOf } from './history-rows'

const { refuse } = refusals('undo', {
  madeBefore: () =>
    'This was done before Kedge was updated, and can no longer be undone. Nothing was changed.',
})

type Values = Readonly<Record<string, unknown>>

/** A row that an undo put back or left, by the columns of its key. */
export interface UndoneRow {
  readonly table: string
  readonly key: Values
  /** The row's version after the undo, where it has one and is still there; else 0. */
  readonly version: number
}

export interface Undone {
  readonly restored: readonly UndoneRow[]
  /** Rows that were changed since, or that others refer to now; they stay as they are. */
  readonly left: readonly UndoneRow[]
}

/** What has left the school by then stays: a mail cannot be unsent. */
const outside = new Set(['mail', 'invitation'])

const columns = (names: readonly string[]) => sql.join(names.map((name) => sql.ref(name)))

/** One table of a run's changes on its way back. Every method is one statement, however many rows there are. */
class TableUndo {
  private readonly own: Set<string>
  private ownKeys: Catalog['foreignKeys'] | undefined

  constructor(
    private readonly context: Context,
    private readonly known: Catalog,
    readonly table: string,
    private readonly keys: readonly string[],
  ) {
    this.own = new Set(known.columns.get(table))
  }

  private get db() {
    return this.context.db.withoutPlugins()
  }

  private asked(changes: readonly NetChange[]): RawBuilder<unknown> {
    const steps = changes.flatMap((c) => c.step ?? [])
    // What stands in the history need not travel. It is read before it is joined: other rows of the history are of
    // other tables. A list whose length is not seen is looked up row by row,
    // not joined with whole tables.
    if (steps.length === changes.length)
      return sql`select (s.n - 1)::int as n, coalesce(h.before, '{}') as before, coalesce(h.after, '{}') as after,
        jsonb_populate_record(null::${sql.table(this.table)}, h.row_key) as k
        from unnest((select ${steps}::bigint[])) with ordinality as s(id, n)
        join history h on h.school_id = ${this.context.actor.schoolId} and h.id = s.id`
    const rows = changes.map((c, n) => ({ n, key: c.key, before: c.before, after: c.after }))
    return sql`select (x ->> 'n')::int as n, x -> 'before' as before, x -> 'after' as after,
      jsonb_populate_record(null::${sql.table(this.table)}, x -> 'key') as k
      from jsonb_array_elements(${JSON.stringify(rows)}::jsonb) as x`
  }

  private get sameRow(): RawBuilder<unknown> {
    const on = this.keys.map((key) => sql`t.${sql.ref(key)} = (u.k).${sql.ref(key)}`)
    return sql`t.school_id = ${this.context.actor.schoolId} and ${sql.join(on, sql` and `)}`
  }

  /** The columns that record who changed a row and when. */
  private get traces(): readonly (readonly [string, RawBuilder<unknown>])[] {
    return [
      ['changed_by', sql`${this.context.actor.name}`] as const,
      ['changed_at', sql`${this.context.now}::timestamptz`] as const,
    ].filter(([column]) => this.own.has(column))
  }

  private get answered(): RawBuilder<unknown> {
    return sql`u.n, ${this.own.has('version') ? sql`t.version` : sql`0`} as version`
  }

  /** Which of the rows are no longer as the run left them. */
  async changedSince(changes: readonly NetChange[]): Promise<ReadonlySet<NetChange>> {
    if (changes.length === 0) return new Set()
    const { rows } = await sql<{ n: number; found: boolean; same: boolean }>`
      with u as materialized (${this.asked(changes)})
      select u.n, t.school_id is not null as found, to_jsonb(t) || u.after = to_jsonb(t) as same
      from u left join ${sql.table(this.table)} t on ${this.sameRow}`.execute(this.db)
    return new Set(
      rows.flatMap(({ n, found, same }) => {
        const change = changes[n]
        if (!change) return []
        const intact = change.act === 'deleted' ? !found : found && same
        return intact ? [] : [change]
      }),
    )
  }

  /** Which created rows others refer to by now; those that the run itself created are gone already. */
  async referredTo(changes: readonly NetChange[]): Promise<ReadonlySet<NetChange>> {
    const references = this.known.foreignKeys.filter((key) => key.parent === this.table)
    if (changes.length === 0 || references.length === 0) return new Set()
    const exists = references.map(({ child, childColumns, parentColumns }) => {
      const on = childColumns.map(
        (column, i) => sql`c.${sql.ref(column)} = t.${sql.ref(parentColumns[i] ?? '')}`,
      )
      return sql`exists (select 1 from ${sql.table(child)} c where ${sql.join(on, sql` and `)})`
    })
    const { rows } = await sql<{ n: number }>`
      with u as materialized (${this.asked(changes)})
      select u.n from u join ${sql.table(this.table)} t on ${this.sameRow} where ${sql.join(exists, sql` or `)}`.execute(
      this.db,
    )
    return new Set(rows.flatMap(({ n }) => changes[n] ?? []))
  }

  async remove(changes: readonly NetChange[]): Promise<readonly UndoneRow[]> {
    if (changes.length === 0) return []
    await sql`with u as materialized (${this.asked(changes)}) delete from ${sql.table(this.table)} t using u where ${this.sameRow}`.execute(
      this.db,
    )
    return changes.map(({ table, key }) => ({ table, key, version: 0 }))
  }

  async recreate(changes: readonly NetChange[]): Promise<readonly UndoneRow[]> {
    if (changes.length === 0) return []
    const traces = this.traces
    const names = [...this.own].filter((c) => c in (changes[0]?.before ?? {}) || this.keys.includes(c))
    const { rows } = await sql<{ key: Values; version: number }>`
      with u as materialized (${this.asked(changes)})
      insert into ${sql.table(this.table)} as t (school_id, ${columns([...names, ...traces.map(([c]) => c)])})
      select ${this.context.actor.schoolId}, ${sql.join([...names.map((c) => sql`(r).${sql.ref(c)}`), ...traces.map(([, value]) => value)])}
      from u cross join lateral (select jsonb_populate_record(u.k, u.before) as r) x
      returning ${this.keyObject} as key, ${this.own.has('version') ? sql`t.version` : sql`0`} as version`.execute(
      this.db,
    )
    return rows.map(({ key, version }) => ({ table: this.table, key, version }))
  }

  private get keyObject(): RawBuilder<unknown> {
    return sql`jsonb_build_object(${sql.join(this.keys.map((key) => sql`${sql.lit(key)}, t.${sql.ref(key)}`))})`
  }

  async putBack(changes: readonly NetChange[]): Promise<readonly UndoneRow[]> {
    if (changes.length === 0) return []
    const names = [...new Set(changes.flatMap((c) => Object.keys(c.before)))].filter((c) => this.own.has(c))
    const sets = [
      ...names.map((c) => sql`${sql.ref(c)} = (jsonb_populate_record(t, u.before)).${sql.ref(c)}`),
      ...this.traces.map(([c, value]) => sql`${sql.ref(c)} = ${value}`),
    ]
    const { rows } = await sql<{ n: number; version: number }>`
      with u as materialized (${this.asked(changes)})
      update ${sql.table(this.table)} t set ${sql.join(sets)} from u where ${this.sameRow}
      returning ${this.answered}`.execute(this.db)
    return rows.flatMap(({ n, version }) => {
      const change = changes[n]
      return change
        ? [{ table: this.table, key: { ...change.key, ...pick(change.before, this.keys) }, version }]
        : []
    })
  }

  private get references() {
    return (this.ownKeys ??= this.known.foreignKeys.filter((key) => key.child === this.table))
  }

  get refersToItself(): boolean {
    return this.references.some((key) => key.parent === this.table)
  }

  /** The tables to which a change's columns refer. */
  private parentsOf(change: NetChange): readonly string[] {
    return this.references
      .filter((key) => key.childColumns.some((c) => c !== 'school_id' && c in change.before))
      .map((key) => key.parent)
  }

  /** Whether a change touches what refers to other tables. */
  refers(change: NetChange): boolean {
    return this.parentsOf(change).length > 0
  }

  /** Whether a row may refer to one that the run created, while those it referred to before are all still there. */
  lets(change: NetChange, actsOn: ReadonlyMap<string, ReadonlySet<NetChange['act']>>): boolean {
    const acts = this.parentsOf(change).map((table) => actsOn.get(table))
    return acts.some((on) => on?.has('created')) && !acts.some((on) => on?.has('deleted'))
  }
}

const pick = (values: Values, keys: readonly string[]): Values =>
  Object.fromEntries(Object.entries(values).filter(([key]) => keys.includes(key)))

/** Rows of one statement: few enough for its limit of time, and for saying how far it is. */
const atOnce = 5000

/**
 * Puts back the rows that a run of a command changed, created or deleted, table by table in the order that foreign
 * keys need. Rows that are no longer as the run left them are answered in `left` and not touched; whoever wants all
 * or nothing rolls back when there are any. Runs in one moment, so that nothing changes between look and deed.
 */
export async function undoRun(context: Context, runId: string): Promise<Undone> {
  const known = await catalog(context.db)
  const net = (await netChanges(context, runId)).filter((change) => !outside.has(change.table))
  const used = new Set(net.map((change) => change.table))
  // A part of a run is never undone alone: tables of earlier versions may be gone.
  if ([...used].some((table) => !known.columns.has(table))) throw refuse('madeBefore', {})
  const tables = known.parentsFirst
    .filter((table) => used.has(table))
    .map((table) => {
      const changes = net.filter((change) => change.table === table)
      return { changes, undo: new TableUndo(context, known, table, Object.keys(changes[0]?.key ?? {})) }
    })
  const left = new Set<NetChange>()
  const restored: UndoneRow[] = []
  const actsOn = new Map(
    [...used].map(
      (table) => [table, new Set(net.filter((c) => c.table === table).map((c) => c.act))] as const,
    ),
  )
  const letsGo = new Set(
    tables.flatMap(({ changes, undo }) => changes.filter((c) => c.act === 'updated' && undo.lets(c, actsOn))),
  )
  // Each row is looked at once and put back once.
  let done = 0
  const inParts = async (
    changes: readonly NetChange[],
    step: (part: readonly NetChange[]) => Promise<void>,
    most = atOnce,
  ): Promise<void> => {
    for (let from = 0; from < changes.length; from += most) {
      const part = changes.slice(from, from + most)
      await step(part)
      done += part.length
      await context.progress(Math.floor(done / 2), net.length)
    }
  }
  for (const { changes, undo } of tables)
    await inParts(changes, async (part) => {
      for (const change of await undo.changedSince(part)) left.add(change)
    })

  const todo = (changes: readonly NetChange[], act: NetChange['act']) =>
    changes.filter((change) => change.act === act && !left.has(change))
  const putBack = (undo: TableUndo, changes: readonly NetChange[]) =>
    inParts(changes, async (part) => void restored.push(...(await undo.putBack(part))))
  // What was turned to rows that the run created lets go of them, so that they can be removed.
  for (const { changes, undo } of tables)
    await putBack(
      undo,
      todo(changes, 'updated').filter((c) => letsGo.has(c)),
    )
  for (const { changes, undo } of [...tables].reverse())
    await inParts(
      todo(changes, 'created'),
      async (part) => {
        const needed = await undo.referredTo(part)
        for (const change of needed) left.add(change)
        restored.push(...(await undo.remove(part.filter((change) => !needed.has(change)))))
      },
      // Rows that refer to each other go in one statement.
      undo.refersToItself ? changes.length : atOnce,
    )
  // What refers to rows that come back waits for them; the rest makes room for them first.
  for (const { changes, undo } of tables)
    await putBack(
      undo,
      todo(changes, 'updated').filter((c) => !undo.refers(c)),
    )
  for (const { changes, undo } of tables)
    await inParts(
      todo(changes, 'deleted'),
      async (part) => void restored.push(...(await undo.recreate(part))),
    )
  for (const { changes, undo } of tables)
    await putBack(
      undo,
      todo(changes, 'updated').filter((c) => undo.refers(c) && !letsGo.has(c)),
    )
  return { restored, left: [...left].map(({ table, key }) => ({ table, key, version: 0 })) }
}

async function netChanges(context: Context, runId: string): Promise<readonly NetChange[]> {
  const collapsed = new Collapse()
  for await (const rows of changesOf(context, runId)) collapsed.add(rows)
  return collapsed.net()
}
