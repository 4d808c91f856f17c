import type { Edit } from '@/ui/saving/edit'
import type { SendResult } from '@/ui/saving/outbox'
import type { Kept, Shelf } from '@/ui/saving/shelf'

/** Numbers from 0 to below 1 that depend on the seed alone (mulberry32). */
export function chance(seed: number): () => number {
  let a = seed
  return () => {
    a = (a + 0x6d2b79f5) | 0
    let t = Math.imul(a ^ (a >>> 15), 1 | a)
    t = (t + Math.imul(t ^ (t >>> 7), 61 | t)) ^ t
    return ((t ^ (t >>> 14)) >>> 0) / 4294967296
  }
}

/** Lets everything that waits for a promise go on. */
export async function settle(): Promise<void> {
  for (let n = 0; n < 12; n++) await Promise.resolve()
}

export interface Row {
  readonly value: string | null
  readonly version: number
  readonly by: string
}

const nothing: Row = { value: null, version: 0, by: '' }

interface Write {
  readonly record: string
  readonly replaced: Row
  readonly version: number
  readonly edit: Edit
  readonly by: string
}

type Cell = {
  readonly key: { readonly id: string }
  readonly value: string | null
  readonly expectedVersion: number
}

/** What the server promises: versions, conflicts, idempotency keys and accounts. */
export class Server {
  readonly rows = new Map<string, Row>()
  readonly writes: Write[] = []
  /** Labels of all edits that were taken, also those that found what they asked for. */
  readonly taken = new Set<string>()
  away = false
  private version = 0
  private readonly answers = new Map<string, SendResult>()
  private readonly runs = new Map<string, ReadonlyMap<string, Row | undefined>>()

  constructor(private readonly checksAccounts = true) {}

  /** @param account who is signed in; @param as whose page asks */
  handle(edit: Edit, account: string | undefined, as: string): SendResult {
    if (this.away) return { kind: 'unavailable' }
    if (!account) return { kind: 'signed out' }
    if (account !== as && this.checksAccounts) return { kind: 'other account' }
    const known = this.answers.get(edit.id)
    if (known) return known
    const answer = this.run(edit, account)
    if (answer.kind === 'done') {
      this.answers.set(edit.id, answer)
      this.taken.add(edit.label)
    }
    return answer
  }

  private put(record: string, value: string | null, edit: Edit, by: string): number {
    const version = ++this.version
    this.writes.push({ record, replaced: this.rows.get(record) ?? nothing, version, edit, by })
    this.rows.set(record, { value, version, by })
    return version
  }

  private run(edit: Edit, by: string): SendResult {
    const input = edit.input as { cells?: readonly Cell[]; fill?: string; run?: string }
    if (input.run !== undefined) return this.undo(edit, input.run, by)
    if (input.fill !== undefined) {
      const empty = [...this.rows].filter(([, row]) => row.value === null)
      this.runs.set(edit.id, new Map(empty))
      const value = empty.map(([record]) => ({
        key: { id: record },
        version: this.put(record, input.fill ?? '', edit, by),
      }))
      return { kind: 'done', value, run: edit.id }
    }
    const cells = input.cells ?? []
    if (cells.some((c) => c.value?.includes('poison'))) return { kind: 'fault', message: 'fault' }
    if (cells.some((c) => c.value?.includes('forbidden'))) return { kind: 'refused', message: 'forbidden' }
    const against = cells.filter((c) => {
      const row = this.rows.get(c.key.id)
      return (row?.version ?? 0) !== c.expectedVersion && row?.value !== c.value
    })
    if (against.length > 0) {
      const standing = against.map((c) => {
        const row = this.rows.get(c.key.id)
        return { key: c.key, value: row?.value ?? null, version: row?.version ?? 0, by: row?.by ?? '' }
      })
      return { kind: 'conflict', message: 'conflict', standing }
    }
    const value = cells.map((c) => {
      const row = this.rows.get(c.key.id)
      return row && row.version !== c.expectedVersion
        ? { key: c.key, version: row.version }
        : { key: c.key, version: this.put(c.key.id, c.value, edit, by) }
    })
    return { kind: 'done', value, run: edit.id }
  }

  /** Puts back what a run filled in, where nothing has changed it since. */
  private undo(edit: Edit, run: string, by: string): SendResult {
    const before = this.runs.get(run)
    const mine = this.writes.filter((w) => w.edit.id === run)
    if (!before || mine.some((w) => this.rows.get(w.record)?.version !== w.version))
      return { kind: 'refused', message: 'changed since' }
    const restored = mine.map((w) => ({
      table: 'cell',
      key: { id: w.record },
      version: this.put(w.record, before.get(w.record)?.value ?? null, edit, by),
    }))
    return { kind: 'done', value: { restored, left: [] } }
  }
}

interface Message {
  readonly run: () => void
  /** Settles what waits for it when the message is lost. */
  readonly lost: () => void
}

/** Messages and timers on their way, let through in any order. */
export class Network {
  private messages: Message[] = []
  private timers: { at: number; call: () => void }[] = []
  time = 0
  constructor(private readonly random: () => number) {}

  get busy(): boolean {
    return this.messages.length + this.timers.length > 0
  }

  later = (call: () => void, milliseconds: number) =>
    void this.timers.push({ at: this.time + milliseconds, call })

  /** Carries a question to the server and its answer back, unless either is lost. */
  carry<T>(ask: () => T, unreachable: T): Promise<T> {
    return new Promise((resolve) => {
      const lost = () => resolve(unreachable)
      this.messages.push({
        lost,
        run: () => {
          const answer = ask()
          // The network may deliver the same question twice.
          if (this.random() < 0.08) this.messages.push({ run: () => void ask(), lost: () => {} })
          this.messages.push({ run: () => resolve(answer), lost })
        },
      })
    })
  }

  /** One message or timer, whichever chance says. */
  step(loses: number): void {
    const n = Math.floor(this.random() * (this.messages.length + this.timers.length))
    const [message] = n < this.messages.length ? this.messages.splice(n, 1) : []
    if (message) return this.random() < loses ? message.lost() : message.run()
    this.timers.sort((a, b) => a.at - b.at)
    const timer = this.timers.shift()
    if (!timer) return
    this.time = Math.max(this.time, timer.at)
    timer.call()
  }

  /** The server dies with everything on its way. */
  drop(): void {
    for (const message of this.messages.splice(0)) message.lost()
  }
}

/** A device's storage: what a page keeps, and what closed pages left. */
export class Device {
  private readonly kept = new Map<string, { readonly tab: number; readonly text: string }>()
  readonly open = new Set<number>()

  shelf(tab: number, account: string): Shelf {
    const prefix = `${account} `
    return {
      load: () => {
        const mine = [...this.kept].filter(
          ([key, k]) => key.startsWith(prefix) && (k.tab === tab || !this.open.has(k.tab)),
        )
        for (const [key, k] of mine) this.kept.set(key, { ...k, tab })
        return Promise.resolve(mine.map(([, k]) => JSON.parse(k.text) as Kept))
      },
      put: (kept) => {
        this.kept.set(prefix + kept.edit.id, { tab, text: JSON.stringify(kept) })
        return true
      },
      drop: (id) => void this.kept.delete(prefix + id),
    }
  }

  /** Everything kept for an account. */
  of(account: string): readonly Kept[] {
    return [...this.kept]
      .filter(([key]) => key.startsWith(`${account} `))
      .map(([, k]) => JSON.parse(k.text) as Kept)
  }
}
