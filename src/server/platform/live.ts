import pg from 'pg'
import { config } from './config'
import { log } from './log'
import { defineTopic, type Topic } from './topic'

/** What one transaction has changed. */
interface Change {
  /** All schools, where it is about an account or about everything. */
  readonly school: string
  readonly topics: readonly string[]
  readonly tab?: string
}

interface Listener {
  readonly school: string
  readonly topics: ReadonlySet<string>
  readonly call: (tab: string | undefined) => void
}

/** A change of a topic that waits until the topic has been quiet for a moment. */
interface Waiting {
  /** The tab that made all of the changes; none where there were several. */
  tab: string | undefined
  changed: boolean
}

interface Hub {
  readonly listeners: Set<Listener>
  /** The one connection of the process that listens; there as long as anybody does, and a little longer. */
  client: pg.Client | undefined
  /** Since when nothing has been missed, in milliseconds; undefined while it is not connected. */
  hears: number | undefined
  /** When each topic of each school last changed. */
  readonly recent: Map<string, number>
  /** Topics that were told of a moment ago. */
  readonly resting: Map<string, Waiting>
  ending: ReturnType<typeof setTimeout> | undefined
}

/** How long it is remembered what has changed, and how long one listens when nobody follows, in milliseconds. */
const memory = 10 * 60_000
const lingers = 60_000
/** The changes of one topic within so many milliseconds are told as one. */
const quiet = 250
/** One notification of the database holds at most 8000 bytes. */
const mostBytes = 7000
const everything = '*'

/** What changes whether an account may go on following: its sessions, roles and posts. The database itself tells of it. */
export const accountTopic = defineTopic<[accountId: string]>('account', 'account')

const shared = globalThis as typeof globalThis & { kedgeHub?: Hub }
const hub = (shared.kedgeHub ??= {
  listeners: new Set(),
  client: undefined,
  hears: undefined,
  recent: new Map(),
  resting: new Map(),
  ending: undefined,
})

const nameOf = (school: string, topic: string) => `${school} ${topic}`

/**
 * What one transaction tells of its topics: one notification, or as many as their names fill.
 * @param tab the browser tab that made the change
 */
export function announcements(
  school: string,
  topics: readonly Topic[],
  tab: string | undefined,
): readonly string[] {
  const parts: Topic[][] = []
  let bytes = Infinity
  for (const topic of topics) {
    if (bytes + topic.length > mostBytes) {
      parts.push([])
      bytes = 200
    }
    parts.at(-1)?.push(topic)
    bytes += topic.length + 3
  }
  return parts.map((part) => JSON.stringify({ school, topics: part, tab } satisfies Change))
}

/** Puts down what has changed, and tells whoever follows it: at once, or when the topic was told of a moment ago, after that moment. */
function hear({ school, topics, tab }: Change): void {
  const now = Date.now()
  for (const topic of topics) {
    // Written anew, so that the oldest come first.
    const name = nameOf(school, topic)
    hub.recent.delete(name)
    hub.recent.set(name, now)
    const waiting = hub.resting.get(name)
    if (waiting) {
      waiting.tab = waiting.changed && waiting.tab !== tab ? undefined : tab
      waiting.changed = true
    } else tellOf(school, topic, tab)
  }
  for (const [old, at] of hub.recent) {
    if (at > now - memory) break
    hub.recent.delete(old)
  }
}

function tellOf(school: string, topic: string, tab: string | undefined): void {
  const name = nameOf(school, topic)
  hub.resting.set(name, { tab: undefined, changed: false })
  setTimeout(() => {
    const waiting = hub.resting.get(name)
    hub.resting.delete(name)
    if (waiting?.changed) tellOf(school, topic, waiting.tab)
  }, quiet).unref()
  for (const listener of hub.listeners)
    if (
      topic === everything ||
      ((school === everything || listener.school === school) && listener.topics.has(topic))
    )
      listener.call(tab)
}

/** Listens until nobody does any more. When the connection breaks, it is made anew and all are told to look again. */
async function listen(): Promise<void> {
  const client = new pg.Client({ connectionString: config().DATABASE_URL })
  hub.client = client
  const again = (error?: Error) => {
    if (hub.client !== client) return
    hub.client = undefined
    hub.hears = undefined
    if (hub.listeners.size === 0) return
    log().warn({ error: error?.message }, 'live updates lost the database')
    setTimeout(() => void (hub.listeners.size > 0 && !hub.client && listen()), 1000)
  }
  client.on('error', again)
  client.on('end', () => again())
  client.on('notification', ({ payload }) => hear(JSON.parse(payload ?? '{}') as Change))
  try {
    await client.connect()
    await client.query('listen kedge')
    hub.hears = Date.now()
    hear({ school: everything, topics: [everything] })
  } catch (error) {
    again(error as Error)
  }
}

/**
 * Whether one of some topics of a school has changed since a moment, as far as this process can tell; where it cannot,
 * it may have.
 * @param since in milliseconds, on this machine's clock
 */
export function mayHaveChanged(schoolId: string, topics: readonly Topic[], since: number): boolean {
  if (hub.hears === undefined || since < hub.hears || since < Date.now() - memory) return true
  return topics.some((topic) => (hub.recent.get(nameOf(schoolId, topic)) ?? 0) >= since)
}

/**
 * Calls back whenever one of some topics of a school changes, or may have changed while the database was away.
 * @returns a function that ends it
 */
export function onChange(
  schoolId: string,
  topics: readonly Topic[],
  call: (tab: string | undefined) => void,
): () => void {
  const listener: Listener = { school: schoolId, topics: new Set<string>(topics), call }
  hub.listeners.add(listener)
  clearTimeout(hub.ending)
  if (!hub.client) void listen()
  return () => {
    hub.listeners.delete(listener)
    if (hub.listeners.size > 0) return
    // Between two pages of one person nobody follows for a moment.
    clearTimeout(hub.ending)
    hub.ending = setTimeout(hangUp, lingers)
    hub.ending.unref()
  }
}

function hangUp(): void {
  const { client } = hub
  if (hub.listeners.size > 0 || !client) return
  hub.client = undefined
  hub.hears = undefined
  client
    .end()
    .catch((error: Error) => log().debug({ error: error.message }, 'closing the connection that listened'))
}
