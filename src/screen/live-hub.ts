import { tab } from './server'

interface Subscription {
  readonly query: string
  readonly input: string
  readonly onChange: () => void
  /** For what this page itself changed; most answers already show that. */
  readonly onOwnChange?: () => void
}

const subscriptions = new Set<Subscription>()
let source: EventSource | undefined
let scheduled = false
let connected = ''

const keyOf = (s: Subscription) => `${s.query} ${s.input}`

/** One connection for the whole page carries all its topics; browsers allow few connections to one place. */
function connect(): void {
  scheduled = false
  const wanted = [...new Set([...subscriptions].map(keyOf))].sort()
  const joined = wanted.join('\n')
  if (joined === connected) return
  connected = joined
  source?.close()
  source = undefined
  if (wanted.length === 0) return
  const topics = wanted.map((key) => ({
    query: key.slice(0, key.indexOf(' ')),
    input: JSON.parse(key.slice(key.indexOf(' ') + 1)) as unknown,
  }))
  source = new EventSource(`/api/live?topics=${encodeURIComponent(JSON.stringify(topics))}`)
  let first = true
  source.addEventListener('ready', () => {
    // After a break something may have been missed; at the very start the page is fresh.
    if (!first) for (const s of subscriptions) s.onChange()
    first = false
  })
  source.addEventListener('changed', (event: MessageEvent<string>) => {
    const change = JSON.parse(event.data) as { topic: number; tab: string | null }
    for (const s of subscriptions) {
      if (keyOf(s) !== wanted[change.topic]) continue
      if (change.tab === tab) s.onOwnChange?.()
      else s.onChange()
    }
  })
}

function schedule(): void {
  if (scheduled) return
  scheduled = true
  setTimeout(connect, 30)
}

/** Calls back when the answer of a query may have changed. Answers a function that ends it. */
export function follow(
  query: string,
  input: unknown,
  onChange: () => void,
  onOwnChange?: () => void,
): () => void {
  const subscription = { query, input: JSON.stringify(input), onChange, onOwnChange }
  subscriptions.add(subscription)
  schedule()
  return () => {
    subscriptions.delete(subscription)
    schedule()
  }
}
