import pg from 'pg'
import { config } from './config'
import { log } from './log'

interface Change {
  readonly school: string
  readonly topic: string
  readonly tab?: string
}

type Listener = (change: Change) => void

const shared = globalThis as typeof globalThis & { kedgeListeners?: Set<Listener>; kedgeListening?: boolean }
const listeners = (shared.kedgeListeners ??= new Set())

/** Keeps one connection listening for the whole process; when it breaks, all listeners are told to look again. */
async function listen(): Promise<void> {
  const client = new pg.Client({ connectionString: config().DATABASE_URL })
  let ended = false
  const again = (error?: Error) => {
    if (ended) return
    ended = true
    if (error) log().warn({ error: error.message }, 'live updates lost the database')
    client.end().catch((e: Error) => log().debug({ error: e.message }, 'closing the broken connection'))
    setTimeout(() => void listen(), 1000)
  }
  client.on('error', again)
  client.on('end', () => again())
  client.on('notification', ({ payload }) => {
    const change = JSON.parse(payload ?? '{}') as Change
    for (const listener of listeners) listener(change)
  })
  try {
    await client.connect()
    await client.query('listen kedge')
    for (const listener of listeners) listener({ school: '*', topic: '*' })
  } catch (error) {
    again(error as Error)
  }
}

/**
 * Calls back whenever a topic of a school changes, or may have changed while the database was away.
 * @returns a function that ends it
 */
export function onChange(
  schoolId: string,
  topic: string,
  call: (tab: string | undefined) => void,
): () => void {
  if (!shared.kedgeListening) {
    shared.kedgeListening = true
    void listen()
  }
  const listener: Listener = (change) => {
    if (change.topic === '*' || (change.school === schoolId && change.topic === topic)) call(change.tab)
  }
  listeners.add(listener)
  return () => void listeners.delete(listener)
}
