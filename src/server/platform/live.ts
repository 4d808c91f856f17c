import pg from 'pg'
import { config } from './config'
import { log } from './log'
import type { Topic } from './topic'

interface Change {
  readonly school: string
  readonly topic: string
  readonly tab?: string
}

type Listener = (change: Change) => void

interface Hub {
  readonly listeners: Set<Listener>
  /** The one connection of the process that listens; there as long as anybody does, and a little longer. */
  client: pg.Client | undefined
  /** Since when nothing has been missed, in milliseconds; undefined while it is not connected. */
  hears: number | undefined
  /** When each topic of each school last changed. */
  readonly recent: Map<string, number>
  ending: ReturnType<typeof setTimeout> | undefined
}

/** How long it is remembered what has changed, and how long one listens when nobody follows, in milliseconds. */
const memory = 10 * 60_000
const lingers = 60_000

const shared = globalThis as typeof globalThis & { kedgeHub?: Hub }
const hub = (shared.kedgeHub ??= {
  listeners: new Set(),
  client: undefined,
  hears: undefined,
  recent: new Map(),
  ending: undefined,
})

const nameOf = (school: string, topic: string) => `${school} ${topic}`

function tellAll(change: Change): void {
  // Written anew, so that the oldest come first.
  const name = nameOf(change.school, change.topic)
  const now = Date.now()
  hub.recent.delete(name)
  hub.recent.set(name, now)
  for (const [old, at] of hub.recent) {
    if (at > now - memory) break
    hub.recent.delete(old)
  }
  for (const listener of hub.listeners) listener(change)
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
  client.on('notification', ({ payload }) => tellAll(JSON.parse(payload ?? '{}') as Change))
  try {
    await client.connect()
    await client.query('listen kedge')
    hub.hears = Date.now()
    tellAll({ school: '*', topic: '*' })
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
  const followed = new Set<string>(topics)
  const listener: Listener = (change) => {
    if (change.topic === '*' || (change.school === schoolId && followed.has(change.topic))) call(change.tab)
  }
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
