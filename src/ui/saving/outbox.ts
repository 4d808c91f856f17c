/** One change a person made, on its way to the server. */
export interface Edit {
  /** Idempotency key: sent again after a lost answer, it still counts once. */
  readonly id: string
  /** Edits of one slot replace each other while they wait. */
  readonly slot: string
  readonly command: string
  readonly input: unknown
  /** What it is, in words: "Ilse Okonjo-Marsh, A1". */
  readonly label: string
  readonly at: number
}

/** How sending an edit ended. */
export type SendResult =
  | { readonly kind: 'done'; readonly value: unknown; readonly run?: string }
  /** Nobody answered, or only to say "later": keep it and try again. */
  | { readonly kind: 'unreachable' }
  | { readonly kind: 'signed out' }
  /** It will never be taken as it is. */
  | {
      readonly kind: 'refused'
      readonly message: string
      readonly conflict: boolean
      readonly current: unknown
    }

export interface Refused {
  readonly edit: Edit
  readonly message: string
  readonly conflict: boolean
  readonly current: unknown
}

export interface OutboxState {
  readonly waiting: readonly Edit[]
  readonly trouble: 'none' | 'unreachable' | 'signed out'
  readonly savedAt: number | undefined
  readonly refused: readonly Refused[]
}

/** Where edits are kept so that a closed page loses none. */
export interface Shelf {
  readonly load: () => readonly Edit[]
  readonly put: (edit: Edit) => void
  readonly drop: (id: string) => void
}

export interface OutboxOptions {
  readonly send: (edit: Edit) => Promise<SendResult>
  readonly shelf: Shelf
  /** Brings a waiting edit up to date with what an earlier one just did, for example its expected version. */
  readonly rebase: (waiting: Edit, done: Edit, value: unknown) => Edit
  readonly now: () => number
  readonly later: (call: () => void, milliseconds: number) => void
}

type Listener = () => void
type Ended = (edit: Edit, result: { value: unknown; run?: string } | { refused: Refused }) => void

const retryAfter = [500, 1000, 2000, 4000, 8000]

/**
 * Sends edits one after another in the order they were made, keeps them until the server has taken them, and says
 * at any time what is not saved. Knows nothing of what the edits are about.
 */
export class Outbox {
  private waiting: Edit[]
  private state: OutboxState
  private sending: Edit | undefined
  private failures = 0
  private readonly listeners = new Set<Listener>()
  private readonly ended = new Set<Ended>()

  constructor(private readonly options: OutboxOptions) {
    this.waiting = [...options.shelf.load()].sort((a, b) => a.at - b.at)
    this.state = { waiting: this.waiting, trouble: 'none', savedAt: undefined, refused: [] }
  }

  /** The state now; the same object until something changes. */
  read = (): OutboxState => this.state

  subscribe = (listener: Listener): (() => void) => {
    this.listeners.add(listener)
    return () => void this.listeners.delete(listener)
  }

  /** Calls back when an edit was taken or refused. */
  onEnd(call: Ended): () => void {
    this.ended.add(call)
    return () => void this.ended.delete(call)
  }

  /** Takes an edit. One of the same slot that is not yet being sent is replaced by it. */
  add(edit: Edit): void {
    const replaced = this.waiting.find((e) => e.slot === edit.slot && e !== this.sending)
    if (replaced) {
      this.options.shelf.drop(replaced.id)
      this.waiting = this.waiting.filter((e) => e !== replaced)
    }
    this.options.shelf.put(edit)
    this.waiting = [...this.waiting, edit]
    this.change({ waiting: this.waiting })
    void this.pump()
  }

  /** Tries at once, for example because the network is back or the person signed in again. */
  resume(): void {
    this.failures = 0
    if (this.state.trouble === 'signed out') this.change({ trouble: 'none' })
    void this.pump()
  }

  /** Takes note that the person has dealt with a refused edit. */
  dismiss(editId: string): void {
    this.change({ refused: this.state.refused.filter((r) => r.edit.id !== editId) })
  }

  /** Whether an edit of this slot has not been taken yet. */
  isWaiting(slot: string): boolean {
    return this.waiting.some((e) => e.slot === slot)
  }

  private change(part: Partial<OutboxState>): void {
    this.state = { ...this.state, ...part }
    for (const listener of this.listeners) listener()
  }

  private async pump(): Promise<void> {
    const edit = this.waiting[0]
    if (!edit || this.sending || this.state.trouble === 'signed out') return
    this.sending = edit
    const result = await this.options.send(edit)
    this.sending = undefined
    if (result.kind === 'unreachable') {
      const wait = retryAfter[Math.min(this.failures, retryAfter.length - 1)] ?? 8000
      this.failures++
      this.change({ trouble: 'unreachable' })
      this.options.later(() => void this.pump(), wait)
      return
    }
    if (result.kind === 'signed out') {
      this.change({ trouble: 'signed out' })
      return
    }
    this.failures = 0
    this.settle(edit, result)
    void this.pump()
  }

  private settle(edit: Edit, result: Extract<SendResult, { kind: 'done' | 'refused' }>): void {
    this.options.shelf.drop(edit.id)
    this.waiting = this.waiting.filter((e) => e.id !== edit.id)
    if (result.kind === 'done') {
      this.waiting = this.waiting.map((e) => {
        const rebased = this.options.rebase(e, edit, result.value)
        if (rebased !== e) this.options.shelf.put(rebased)
        return rebased
      })
      // Whoever shows what was typed hears that it has landed before it stops waiting, so that it never blinks.
      for (const call of this.ended) call(edit, { value: result.value, run: result.run })
      this.change({ waiting: this.waiting, trouble: 'none', savedAt: this.options.now() })
    } else {
      const refused = { edit, message: result.message, conflict: result.conflict, current: result.current }
      this.change({ waiting: this.waiting, trouble: 'none', refused: [...this.state.refused, refused] })
      for (const call of this.ended) call(edit, { refused })
    }
  }
}
