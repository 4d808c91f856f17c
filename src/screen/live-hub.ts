import { pageOwner, tab } from './server'

interface Subscription {
  readonly query: string
  readonly input: string
  readonly onChange: () => void
  /** For what this page itself changed; most answers already show that. */
  readonly onOwnChange?: () => void
  /** When its answer was asked for at the earliest, on this page's clock in milliseconds. */
  askedAt: number
}

/** Whether changes others make arrive by themselves. */
export type LiveState = 'live' | 'connecting' | 'not live'

/** What a page comes with was asked for when one went to it; a slow network may take so long, in milliseconds. */
const journey = 30_000

const subscriptions = new Set<Subscription>()
const listeners = new Set<() => void>()
const retryAfter = [1000, 2000, 4000, 8000, 15000, 30000]
/** The server shows every 20 seconds that it lives; after more than two of them missed the connection is dead. */
const silence = 50_000
/** A new connection is made in a moment and says nothing; only a longer gap is worth telling. */
const gap = 4000

let source: EventSource | undefined
let carried: readonly string[] = []
let open = false
let failures = 0
let state: LiveState = 'connecting'
let scheduled: ReturnType<typeof setTimeout> | undefined
let watchdog: ReturnType<typeof setTimeout> | undefined
let telling: ReturnType<typeof setTimeout> | undefined
let lastHeard = 0
/** When a page was last brought up from the history. */
let wentBack = -Infinity

const keyOf = (s: Subscription) => `${s.query} ${s.input}`
const wantedNow = () => [...new Set([...subscriptions].map(keyOf))].sort()

function become(next: LiveState): void {
  clearTimeout(telling)
  if (next === state) return
  state = next
  for (const listener of listeners) listener()
}

function heard(): void {
  lastHeard = Date.now()
  clearTimeout(watchdog)
  watchdog = setTimeout(broken, silence)
}

function askAgain(s: Subscription): void {
  s.askedAt = performance.now()
  s.onChange()
}

function close(): void {
  clearTimeout(watchdog)
  source?.close()
  source = undefined
  open = false
}

/** The connection has ended: the page asks for itself, and connects again after a while. */
function broken(): void {
  close()
  carried = []
  if (subscriptions.size === 0) return
  telling ??= setTimeout(() => {
    telling = undefined
    if (!open) become('not live')
  }, gap)
  const wait = retryAfter[Math.min(failures++, retryAfter.length - 1)] ?? 30000
  // Asking tells why: a session that ended opens the sign-in dialog, a server that is away is shown as such.
  if (failures === 2) for (const s of subscriptions) askAgain(s)
  schedule(wait)
}

/** One connection for the whole page carries all its topics; browsers allow few connections to one server. */
function connect(): void {
  scheduled = undefined
  const wanted = wantedNow()
  if (wanted.join('\n') === carried.join('\n') && source) return
  close()
  carried = wanted
  if (wanted.length === 0) return
  const topics = wanted.map((key) => ({
    query: key.slice(0, key.indexOf(' ')),
    input: JSON.parse(key.slice(key.indexOf(' ') + 1)) as unknown,
  }))
  const oldest = Math.min(...[...subscriptions].map((s) => s.askedAt))
  const age = Math.ceil(performance.now() - oldest)
  const address = new URLSearchParams({ topics: JSON.stringify(topics), as: pageOwner() })
  if (Number.isFinite(age)) address.set('age', String(age))
  const made = new EventSource(`/api/live?${address}`)
  source = made
  made.addEventListener('ready', (event: MessageEvent<string>) => {
    open = true
    failures = 0
    heard()
    clearTimeout(telling)
    telling = undefined
    become('live')
    // What may have changed between drawing the page and listening, or while the connection was away.
    const { changed } = JSON.parse(event.data) as { changed: readonly number[] }
    const old = new Set(changed.map((i) => wanted[i]))
    for (const s of subscriptions) if (old.has(keyOf(s))) askAgain(s)
  })
  made.addEventListener('beat', heard)
  made.addEventListener('changed', (event: MessageEvent<string>) => {
    heard()
    const change = JSON.parse(event.data) as { topic: number; tab: string | null }
    for (const s of subscriptions) {
      if (keyOf(s) !== wanted[change.topic]) continue
      if (change.tab === tab) s.onOwnChange?.()
      else askAgain(s)
    }
  })
  made.addEventListener('error', () => source === made && broken())
}

function schedule(milliseconds: number): void {
  clearTimeout(scheduled)
  scheduled = setTimeout(connect, milliseconds)
}

/** Connects at once, for example after signing in again. */
export function reconnect(): void {
  failures = 0
  close()
  carried = []
  schedule(0)
}

/**
 * Calls back when the answer of a query may have changed, and as soon as changes are listened for.
 * @returns a function that ends it
 */
export function follow(
  query: string,
  input: unknown,
  onChange: () => void,
  onOwnChange?: () => void,
): () => void {
  const subscription = {
    query,
    input: JSON.stringify(input),
    onChange,
    onOwnChange,
    // What Back brings up may have been drawn long ago.
    askedAt: performance.now() - wentBack < journey ? -Infinity : performance.now() - journey,
  }
  subscriptions.add(subscription)
  // Listened for already: nothing else would ask, and the page may have been drawn long ago.
  if (open && carried.includes(keyOf(subscription))) askAgain(subscription)
  schedule(30)
  return () => {
    subscriptions.delete(subscription)
    schedule(30)
  }
}

/** Whether changes arrive, and when the server was last heard, in milliseconds. */
export const live = {
  read: (): LiveState => state,
  heardAt: (): number => lastHeard,
  /** Whether the connection has ended and no new one was made yet. */
  isBroken: (): boolean => failures > 0,
  subscribe: (listener: () => void) => {
    listeners.add(listener)
    return () => void listeners.delete(listener)
  },
}

if (typeof window !== 'undefined') {
  window.addEventListener('online', () => {
    if (!open) reconnect()
  })
  window.addEventListener('popstate', () => {
    wentBack = performance.now()
  })
  window.addEventListener('pageshow', (event) => {
    if (event.persisted) wentBack = performance.now()
  })
}
