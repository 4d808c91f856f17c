import {
  cellsOf,
  covers,
  isBulk,
  overlap,
  partOf,
  recordOf,
  versionsAfter,
  withExpectedVersions,
  type Edit,
  type Standing,
} from './edit'
import type { Rejected, Shelf } from './shelf'

/** How sending an edit ended. */
export type SendResult =
  | { readonly kind: 'done'; readonly value: unknown; readonly run?: string }
  /** Nobody answered in time. */
  | { readonly kind: 'unreachable' }
  /** The server says "later": the same again may succeed. */
  | { readonly kind: 'unavailable' }
  | { readonly kind: 'signed out' }
  /** Someone else is signed in at this browser. */
  | { readonly kind: 'other account'; readonly message?: string }
  /** An error of ours, or an answer that cannot be read. */
  | { readonly kind: 'fault'; readonly message: string }
  | { readonly kind: 'refused'; readonly message: string }
  | { readonly kind: 'conflict'; readonly message: string; readonly standing: readonly Standing[] }

export type Trouble = 'none' | 'unreachable' | 'unavailable' | 'signed out' | 'other account'

export interface OutboxState {
  readonly waiting: readonly Edit[]
  readonly rejected: readonly Rejected[]
  /** Why nothing can be sent at the moment. */
  readonly trouble: Trouble
  readonly savedAt: number | undefined
  /** Whether the device keeps what waits, should the page be closed. */
  readonly kept: boolean
}

/** How an edit ended. */
export type Ended =
  | {
      readonly kind: 'done'
      readonly edit: Edit
      readonly value: unknown
      readonly run: string | undefined
      readonly versions: ReadonlyMap<string, number>
    }
  | { readonly kind: 'rejected'; readonly edit: Edit; readonly rejected: Rejected }
  | { readonly kind: 'replaced'; readonly edit: Edit; readonly by: Edit }

export interface OutboxOptions {
  readonly send: (edit: Edit) => Promise<SendResult>
  readonly shelf: Shelf
  readonly newId: () => string
  readonly now: () => number
  readonly later: (call: () => void, milliseconds: number) => void
}

const retryAfter = [500, 1000, 2000, 4000, 8000, 15000]
const waitBefore = (attempt: number) => retryAfter[Math.min(attempt, retryAfter.length - 1)] ?? 15000
/** How often an edit may meet an error of ours before it is set aside. */
const faultsAllowed = 3
/** Browsers keep about six connections to one server; one is the live connection. */
const atOnce = 4

/**
 * Sends edits, each record's in the order they were made and different records' at the same time. Keeps every edit
 * until the server has taken it or the person has discarded it, and says at any time what is not saved. Knows nothing
 * of what the edits are about.
 */
export class Outbox {
  private state: OutboxState = { waiting: [], rejected: [], trouble: 'none', savedAt: undefined, kept: true }
  private readonly sending = new Set<string>()
  /** Edits the server may have seen already: never replaced, since their answer may be lost. */
  private readonly tried = new Set<string>()
  private readonly faults = new Map<string, number>()
  private readonly resting = new Set<string>()
  private readonly unkept = new Set<string>()
  private failures = 0
  private pausing = false
  private stopped = false
  private lastAt = 0
  private readonly listeners = new Set<() => void>()
  private readonly ended = new Set<(ended: Ended) => void>()

  constructor(private readonly options: OutboxOptions) {}

  /** The state now; the same object until something changes. */
  read = (): OutboxState => this.state

  subscribe = (listener: () => void): (() => void) => {
    this.listeners.add(listener)
    return () => void this.listeners.delete(listener)
  }

  /** Calls back when an edit was saved, set aside, or replaced by a later one before it was sent. */
  onEnd(call: (ended: Ended) => void): () => void {
    this.ended.add(call)
    return () => void this.ended.delete(call)
  }

  /** Takes over what this page, or a page that was closed, left on the device. */
  async adopt(): Promise<void> {
    const kept = [...(await this.options.shelf.load())].sort((a, b) => a.edit.at - b.edit.at)
    const known = new Set([...this.state.waiting, ...this.state.rejected.map((a) => a.edit)].map((e) => e.id))
    const fresh = kept.filter((k) => !known.has(k.edit.id))
    if (fresh.length === 0 || this.stopped) return
    for (const { edit } of fresh) {
      this.tried.add(edit.id)
      this.lastAt = Math.max(this.lastAt, edit.at)
    }
    const waiting = fresh.flatMap((k) => (k.rejected ? [] : [k.edit]))
    this.change({
      waiting: [...waiting, ...this.state.waiting],
      rejected: [
        ...fresh.flatMap((k) => (k.rejected ? [{ edit: k.edit, ...k.rejected }] : [])),
        ...this.state.rejected,
      ],
    })
    this.pump()
  }

  /**
   * Takes an edit. What still waits for the same records is replaced by it, and the edit then builds on the version
   * that one was typed over.
   */
  add(asked: Edit): void {
    const { waiting } = this.state
    const inherited = new Map(
      waiting.flatMap((e) => cellsOf(e).map((c) => [c.record, c.expectedVersion] as const)),
    )
    this.lastAt = Math.max(this.options.now(), this.lastAt + 1)
    const edit = withExpectedVersions({ ...asked, at: this.lastAt }, inherited)
    this.keep(edit)
    const replaced = waiting.filter(
      (e) => !this.tried.has(e.id) && !isBulk(e) && e.command === edit.command && covers(edit, e),
    )
    const answered = this.state.rejected.filter((a) => covers(edit, a.edit))
    for (const e of [...replaced, ...answered.map((a) => a.edit)]) this.forget(e.id)
    this.change({
      waiting: [...waiting.filter((e) => !replaced.includes(e)), edit],
      rejected: this.state.rejected.filter((a) => !answered.includes(a)),
    })
    for (const e of [...replaced, ...answered.map((a) => a.edit)])
      this.announce({ kind: 'replaced', edit: e, by: edit })
    this.pump()
  }

  /** Tries at once, for example because the network is back or the person signed in again. */
  resume(): void {
    if (this.state.trouble === 'other account') return
    this.failures = 0
    this.pausing = false
    this.resting.clear()
    if (this.state.trouble === 'signed out') this.change({ trouble: 'none' })
    this.pump()
  }

  /** Sends an edit that was set aside again; after a conflict in place of what is saved now. */
  tryAgain(editId: string): void {
    const found = this.state.rejected.find((a) => a.edit.id === editId)
    if (!found) return
    const { edit, standing } = found
    this.discard(editId)
    if (standing.length === 0) return this.add(edit)
    const versions = new Map(standing.map((s) => [recordOf(edit.record, s.key), s.version]))
    this.add({ ...withExpectedVersions(edit, versions), id: this.options.newId() })
  }

  /** Deletes an edit that was set aside. */
  discard(editId: string): void {
    this.forget(editId)
    this.change({ rejected: this.state.rejected.filter((a) => a.edit.id !== editId) })
  }

  /** Whether leaving the page now would interrupt something that is being saved. */
  get isBusy(): boolean {
    return !this.stopped && this.state.waiting.length > 0
  }

  /** Sends nothing any more; what waits stays on the device. */
  stop(trouble?: 'other account'): void {
    this.stopped = true
    if (trouble) this.change({ trouble })
  }

  private change(part: Partial<OutboxState>): void {
    this.state = { ...this.state, ...part, kept: this.unkept.size === 0 }
    for (const listener of [...this.listeners]) listener()
  }

  private announce(ended: Ended): void {
    for (const call of [...this.ended]) call(ended)
  }

  private keep(edit: Edit, rejected?: Omit<Rejected, 'edit'>): void {
    if (this.options.shelf.put({ edit, rejected })) this.unkept.delete(edit.id)
    else this.unkept.add(edit.id)
  }

  private forget(editId: string): void {
    this.options.shelf.drop(editId)
    this.unkept.delete(editId)
    this.faults.delete(editId)
    this.tried.delete(editId)
  }

  /** Sends whatever waits for nothing else. */
  private pump(): void {
    if (this.stopped || this.pausing || this.state.trouble === 'signed out') return
    const before: Edit[] = []
    for (const edit of this.state.waiting) {
      if (this.sending.size >= atOnce) return
      const free = !before.some((e) => overlap(e, edit))
      before.push(edit)
      if (free && !this.sending.has(edit.id) && !this.resting.has(edit.id)) void this.sendOne(edit)
    }
  }

  private async sendOne(edit: Edit): Promise<void> {
    this.sending.add(edit.id)
    this.tried.add(edit.id)
    const result = await this.options.send(edit)
    this.sending.delete(edit.id)
    if (this.stopped) return
    if (result.kind === 'done') this.settle(edit, result)
    else if (result.kind === 'unreachable' || result.kind === 'unavailable') this.pause(result.kind)
    else if (result.kind === 'signed out') this.change({ trouble: 'signed out' })
    else if (result.kind === 'other account') this.stop('other account')
    else if (result.kind === 'fault') this.afterFault(edit, result.message)
    else this.reject(edit, result)
    this.pump()
  }

  private pause(trouble: Trouble): void {
    this.change({ trouble })
    if (this.pausing) return
    this.pausing = true
    this.options.later(() => {
      this.pausing = false
      this.pump()
    }, waitBefore(this.failures++))
  }

  private afterFault(edit: Edit, message: string): void {
    const faults = (this.faults.get(edit.id) ?? 0) + 1
    this.faults.set(edit.id, faults)
    if (faults >= faultsAllowed) return this.reject(edit, { kind: 'fault', message })
    this.resting.add(edit.id)
    this.options.later(() => {
      this.resting.delete(edit.id)
      this.pump()
    }, waitBefore(faults))
  }

  private settle(edit: Edit, { value, run }: Extract<SendResult, { kind: 'done' }>): void {
    this.failures = 0
    const versions = versionsAfter(edit, value)
    const waiting = this.state.waiting
      .filter((e) => e.id !== edit.id)
      .map((e) => {
        const rebased = withExpectedVersions(e, versions)
        if (rebased !== e) this.keep(rebased)
        return rebased
      })
    this.forget(edit.id)
    // Whoever shows what was typed hears that it is saved before it stops waiting, so that it never blinks.
    this.announce({ kind: 'done', edit, value, run, versions })
    this.change({ waiting, trouble: 'none', savedAt: this.options.now() })
  }

  private reject(edit: Edit, result: Extract<SendResult, { kind: Rejected['reason'] }>): void {
    this.failures = 0
    const standing = result.kind === 'conflict' ? result.standing : []
    const contested = new Set(standing.map((s) => recordOf(edit.record, s.key)))
    const rest =
      contested.size > 0 ? partOf(edit, this.options.newId(), (record) => !contested.has(record)) : undefined
    const cut = rest ? partOf(edit, this.options.newId(), (record) => contested.has(record)) : edit
    this.forget(edit.id)
    if (rest) this.keep(rest)
    const waiting = this.state.waiting.flatMap((e) => (e.id === edit.id ? (rest ? [rest] : []) : [e]))
    if (!cut) return this.change({ waiting })
    const later = waiting.find((e) => e !== rest && covers(e, cut))
    if (later) {
      // The person has typed something else since; that one meets whatever is in the way by itself.
      this.change({ waiting, trouble: 'none' })
      return this.announce({ kind: 'replaced', edit: cut, by: later })
    }
    const rejected: Rejected = { edit: cut, reason: result.kind, message: result.message, standing }
    this.keep(cut, { reason: rejected.reason, message: rejected.message, standing })
    this.change({ waiting, trouble: 'none', rejected: [...this.state.rejected, rejected] })
    this.announce({ kind: 'rejected', edit: cut, rejected })
  }
}
