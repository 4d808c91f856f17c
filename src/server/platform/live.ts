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
  /** The one connection of the process that listens; there as long as anybody does. */
  client: pg.Client | undefined
}

const shared = globalThis as typeof globalThis & { kedgeHub?: Hub }
const hub = (shared.kedgeHub ??= { listeners: new Set(), client: undefined })

function tellAll(change: Change): void {
  for (const listener of hub.listeners) listener(change)
}

/** Listens until nobody does any more. When the connection breaks, it is made anew and all are told to look again. */
async function listen(): Promise<void> {
  const client = new pg.Client({ connectionString: config().DATABASE_URL })
  hub.client = client
  const again = (error?: Error) => {
    if (hub.client !== client) return
    hub.client = undefined
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
    tellAll({ school: '*', topic: '*' })
  } catch (error) {
    again(error as Error)
  }
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
  if (!hub.client) void listen()
  return () => {
    hub.listeners.delete(listener)
    const { client } = hub
    if (hub.listeners.size > 0 || !client) return
    hub.client = undefined
    client
      .end()
      .catch((error: Error) => log().debug({ error: error.message }, 'closing the connection that listened'))
  }
}
