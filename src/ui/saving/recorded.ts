import { cellsOf, isBulk, recordOf, type Edit, type PageOfEdit } from './edit'
import type { Ended, Outbox, OutboxState } from './outbox'
import type { Rejected } from './shelf'

/** A record as the server's answer shows it. */
export interface Stored<V> {
  readonly value: V
  /** 0 where nothing is saved. */
  readonly version: number
}

/** What names a record among those of a page. */
export type Key = Readonly<Record<string, unknown>>

/** A value to save, with the key of its record. */
export interface Typed<V, K extends Key = Key> {
  readonly key: K
  readonly value: V
}

/** What is edited on a page, described once: for sending, for showing on top, for undo and for conflicts. */
export interface About<V> {
  readonly command: string
  /** Names a record by its key, see Edit. */
  readonly record: string
  readonly table?: string
  readonly scope: string
  readonly place: PageOfEdit
  /** What all cells of one edit have in common; `cells` is added to it. Or how one record is written as a whole. */
  readonly input: object | ((value: V, expectedVersion: number) => object)
  /** What a record holds where nothing is saved. */
  readonly empty: V
  /** The value in an edit of one record as a whole. */
  readonly valueIn?: (input: unknown) => V
  /** What a bulk command puts into which records, given what they hold; empty where only the server knows. */
  readonly bulk?: Readonly<
    Record<
      string,
      (input: unknown, now: (record: string) => V) => readonly (readonly [record: string, value: V])[]
    >
  >
}

interface Acknowledged<V> {
  /** Undefined while only the server knows what it holds. */
  readonly value: V | undefined
  readonly version: number
}

/** A value that was typed, with what stood there before. */
interface Change<V, K extends Key> extends Typed<V, K> {
  readonly record: string
  readonly before: V
}

type Step<V, K extends Key> =
  | {
      readonly kind: 'values'
      readonly edits: readonly string[]
      readonly changes: readonly Change<V, K>[]
      readonly label: string
    }
  | { readonly kind: 'run'; readonly run: string; readonly label: string }

/** What an undo or a redo did: where, and in words. */
export interface Undone<K extends Key = Key> {
  readonly label: string
  readonly keys: readonly K[]
}

const same = (a: unknown, b: unknown) => JSON.stringify(a) === JSON.stringify(b)

/**
 * The records of one page as they are edited: what was typed lies on top of the server's answer until that shows it;
 * every edit carries the version that was in sight when its typing began; undo and redo carry the version that the
 * edits made here left behind.
 */
export class Recorded<V, K extends Key = Key> {
  private stored: ReadonlyMap<string, Stored<V>> = new Map()
  private acknowledged: ReadonlyMap<string, Acknowledged<V>> = new Map()
  private readonly drafts = new Map<string, number>()
  private undoSteps: Step<V, K>[] = []
  private redoSteps: Step<V, K>[] = []

  constructor(
    private readonly outbox: Outbox,
    private readonly about: About<V>,
    private readonly options: {
      readonly newId: () => string
      /** Asks the server again; settles once the answer is shown. */
      readonly refresh: () => Promise<unknown>
      /** The bulk command that undoes a run. */
      readonly undoCommand?: string
    },
  ) {}

  /** Follows how edits end. Answers a function that ends it. */
  open(): () => void {
    return this.outbox.onEnd((ended) => this.ended(ended))
  }

  /** Takes note of the server's answer. */
  show(stored: ReadonlyMap<string, Stored<V>>): void {
    this.stored = stored
  }

  /**
   * The values that lie on top of the server's answer: what is saved but not yet shown by it, and over that what
   * still waits, in the order it was typed. An answer asked for before an edit was saved cannot take it back.
   */
  values(
    stored: ReadonlyMap<string, Stored<V>>,
    { waiting }: Pick<OutboxState, 'waiting'>,
  ): ReadonlyMap<string, V> {
    const values = new Map<string, V>()
    for (const [record, { value, version }] of this.acknowledged)
      if (value !== undefined && version > (stored.get(record)?.version ?? 0)) values.set(record, value)
    for (const edit of waiting)
      for (const [record, value] of this.typedIn(edit, this.over(values, stored))) values.set(record, value)
    return values
  }

  /**
   * Typing begins: what is saved from it replaces the version in sight now, whatever comes in meanwhile.
   * @param expectedVersion the version in sight when a draft that was kept was begun
   */
  begin(key: K, expectedVersion?: number): void {
    const record = this.recordOf(key)
    if (!this.drafts.has(record)) this.drafts.set(record, expectedVersion ?? this.version(record))
  }

  /** The version that typing began on, to be kept with a draft; undefined while nothing is typed. */
  begunOn(key: K): number | undefined {
    return this.drafts.get(this.recordOf(key))
  }

  /** Typing ends with nothing to save. */
  cancel(key: K): void {
    this.drafts.delete(this.recordOf(key))
  }

  /** Whether what the server shows of a record was saved from here. */
  isOwn = (record: string): boolean =>
    (this.acknowledged.get(record)?.version ?? 0) >= (this.stored.get(record)?.version ?? 0)

  /**
   * Saves values. Those that are as they were are left out.
   * @returns how many are saved
   */
  save(
    typed: readonly Typed<V, K>[],
    label: string,
    { undoable = true }: { undoable?: boolean } = {},
  ): number {
    const now = this.now()
    const changes = typed.flatMap((t): Change<V, K>[] => {
      const record = this.recordOf(t.key)
      const before = now(record)
      return same(before, t.value) ? [] : [{ ...t, record, before }]
    })
    const edit = this.send(changes, label, (record) => this.drafts.get(record) ?? this.version(record))
    for (const t of typed) this.cancel(t.key)
    if (edit && undoable) {
      this.undoSteps.push({ kind: 'values', edits: [edit.id], changes, label })
      this.redoSteps = []
    }
    return changes.length
  }

  /** The version that a change of a record starts from now. */
  versionOf(key: K): number {
    return this.version(this.recordOf(key))
  }

  /** Undoes a run of a command as a whole. */
  undoRun(run: string, label: string): void {
    if (this.options.undoCommand) this.act(this.options.undoCommand, { run }, `Undo: ${label}`)
  }

  /** Sends another command about these records; with `expectedVersion` in its input it keeps its place among edits of them. */
  act(command: string, input: object, label: string): void {
    this.outbox.add(this.editOf(command, input, label))
  }

  /** Takes the last act back. Undefined when there is none. */
  undo(): Undone<K> | undefined {
    return this.step(this.undoSteps, this.redoSteps, 'Undo')
  }

  /** Does what was undone last again. */
  redo(): Undone<K> | undefined {
    return this.step(this.redoSteps, this.undoSteps, 'Redo')
  }

  /** The edits of this page that were set aside. */
  rejectedOf({ rejected }: Pick<OutboxState, 'rejected'>): readonly Rejected[] {
    return rejected.filter((a) => a.edit.scope === this.about.scope)
  }

  /** What an edit puts into which records; a bulk edit depends on what they hold. */
  typedIn(edit: Edit, now: (record: string) => V): readonly (readonly [record: string, value: V])[] {
    if (edit.scope !== this.about.scope) return []
    if (isBulk(edit)) return this.about.bulk?.[edit.command]?.(edit.input, now) ?? []
    if (edit.command !== this.about.command) return []
    return cellsOf(edit).map(
      (c) => [c.record, this.about.valueIn ? this.about.valueIn(c.value) : (c.value as V)] as const,
    )
  }

  recordOf(key: K): string {
    return recordOf(this.about.record, key)
  }

  /** What a record holds at this moment, with what was typed a moment ago. */
  valueNow(key: K): V {
    return this.now()(this.recordOf(key))
  }

  private version(record: string): number {
    const acknowledged = this.acknowledged.get(record)
    if (acknowledged?.version === 0) return 0
    return Math.max(this.stored.get(record)?.version ?? 0, acknowledged?.version ?? 0)
  }

  /** What each record holds now, as the page shows it. */
  private now(): (record: string) => V {
    return this.over(this.values(this.stored, this.outbox.read()), this.stored)
  }

  private over(
    values: ReadonlyMap<string, V>,
    stored: ReadonlyMap<string, Stored<V>>,
  ): (record: string) => V {
    return (record) =>
      values.has(record) ? (values.get(record) as V) : (stored.get(record)?.value ?? this.about.empty)
  }

  private editOf(command: string, input: object, label: string): Edit {
    const { record, table, scope, place } = this.about
    return { id: this.options.newId(), command, input, record, table, scope, label, madeOn: place, at: 0 }
  }

  private send(
    changes: readonly Change<V, K>[],
    label: string,
    versionOf: (record: string) => number,
  ): Edit | undefined {
    const [first] = changes
    if (!first) return undefined
    const { command, input } = this.about
    const edit = this.editOf(
      command,
      typeof input === 'function'
        ? input(first.value, versionOf(first.record))
        : {
            ...input,
            cells: changes.map((c) => ({ key: c.key, value: c.value, expectedVersion: versionOf(c.record) })),
          },
      label,
    )
    this.outbox.add(edit)
    return edit
  }

  private step(from: Step<V, K>[], to: Step<V, K>[], word: string): Undone<K> | undefined {
    const step = from.pop()
    if (!step) return undefined
    if (step.kind === 'run') {
      this.undoRun(step.run, step.label)
      return { label: step.label, keys: [] }
    }
    const changes = step.changes.map((c) => ({ ...c, before: c.value, value: c.before }))
    const edit = this.send(
      changes,
      `${word}: ${step.label}`,
      (record) => this.acknowledged.get(record)?.version ?? this.version(record),
    )
    if (edit) to.push({ ...step, edits: [edit.id], changes })
    return { label: step.label, keys: changes.map((c) => c.key) }
  }

  private ended(ended: Ended): void {
    const { edit } = ended
    if (edit.scope !== this.about.scope) return
    if (ended.kind === 'replaced') this.follow(edit.id, ended.by.id)
    if (ended.kind === 'rejected') this.drop(ended.edit)
    if (ended.kind === 'done') this.land(ended)
  }

  private land({ edit, versions, run }: Extract<Ended, { kind: 'done' }>): void {
    const others = { waiting: this.outbox.read().waiting.filter((e) => e.id !== edit.id) }
    const typed = new Map(this.typedIn(edit, this.over(this.values(this.stored, others), this.stored)))
    const expectedVersion = new Map(cellsOf(edit).map((c) => [c.record, c.expectedVersion]))
    const acknowledged = new Map(this.acknowledged)
    for (const [record, version] of versions) {
      acknowledged.set(record, { value: typed.get(record), version })
      // Typing that began on what this edit replaced goes on from what it left.
      const draft = this.drafts.get(record)
      if (draft !== undefined && (isBulk(edit) || draft === expectedVersion.get(record)))
        this.drafts.set(record, version)
    }
    this.acknowledged = acknowledged
    const isUndo = edit.command === this.options.undoCommand
    if (isBulk(edit) && !isUndo && run && versions.size > 0) {
      this.undoSteps.push({ kind: 'run', run, label: edit.label })
      this.redoSteps = []
    }
    const unknown = [...versions.keys()].filter((record) => !typed.has(record) || versions.get(record) === 0)
    if (isBulk(edit) || unknown.length > 0) void this.refreshed(unknown, acknowledged)
  }

  /** Once an answer asked for after the edit is shown, it alone says what such records hold. */
  private async refreshed(
    records: readonly string[],
    since: ReadonlyMap<string, Acknowledged<V>>,
  ): Promise<void> {
    await this.options.refresh()
    this.acknowledged = new Map(
      [...this.acknowledged].filter(
        ([record, now]) => !records.includes(record) || now !== since.get(record) || now.version > 0,
      ),
    )
  }

  /** An edit that was replaced before it was sent lives on in the one that replaced it. */
  private follow(id: string, by: string): void {
    const following = (step: Step<V, K>): Step<V, K> =>
      step.kind === 'values' && step.edits.includes(id) ? { ...step, edits: [...step.edits, by] } : step
    this.undoSteps = this.undoSteps.map(following)
    this.redoSteps = this.redoSteps.map(following)
  }

  /** What was not saved cannot be undone. */
  private drop(edit: Edit): void {
    const records = new Set(cellsOf(edit).map((c) => c.record))
    const ids = new Set([edit.id, edit.origin])
    const without = (steps: readonly Step<V, K>[]) =>
      steps.flatMap((step): Step<V, K>[] => {
        if (step.kind !== 'values' || !step.edits.some((id) => ids.has(id))) return [step]
        const changes = step.changes.filter((c) => !records.has(c.record))
        return changes.length > 0 ? [{ ...step, changes }] : []
      })
    this.undoSteps = without(this.undoSteps)
    this.redoSteps = without(this.redoSteps)
    void this.options.refresh()
  }
}
