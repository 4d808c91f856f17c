import pg from 'pg'
import { log } from '@/server/platform/log'

/** How long is waited before the next try, in milliseconds: longer each time, up to half a minute. */
const firstWait = 500
const longestWait = 30_000

/** Waits that grow from try to try, until something succeeds. */
export function growingWaits() {
  let next = firstWait
  return {
    next(): number {
      const now = next
      next = Math.min(longestWait, next * 2)
      return now
    },
    reset: () => void (next = firstWait),
  }
}

/** Says once when the database goes, and once when it is back, whoever of the worker notices first. */
export function tellOfDatabase() {
  let isAway = false
  return {
    away(error: unknown): void {
      if (isAway) return
      isAway = true
      log().error(
        { event: 'database', error: error instanceof Error ? error.message : String(error) },
        'the worker has lost the database, and goes on when it is back',
      )
    },
    back(): void {
      if (!isAway) return
      isAway = false
      log().info({ event: 'database' }, 'the worker has the database again')
    },
  }
}

export type Tell = ReturnType<typeof tellOfDatabase>

/** A connection that is made anew whenever it breaks, for example when the database is started again. */
export function lasting(url: string, tell: Tell, connected: (client: pg.Client) => Promise<void>) {
  let client: pg.Client | undefined
  let ended = false
  const waits = growingWaits()
  async function connect(): Promise<void> {
    const made = new pg.Client({ connectionString: url, keepAlive: true })
    let broken = false
    const again = (error?: Error) => {
      if (broken || ended) return
      broken = true
      client = undefined
      tell.away(error ?? new Error('the connection ended'))
      setTimeout(() => void (ended || connect()), waits.next())
    }
    made.on('error', again)
    made.on('end', () => again())
    try {
      await made.connect()
      await connected(made)
      client = made
      waits.reset()
      tell.back()
    } catch (error) {
      again(error instanceof Error ? error : undefined)
      // Half open, it would stay so.
      await made
        .end()
        .catch((e: Error) => log().debug({ error: e.message }, 'a broken connection would not close'))
    }
  }
  return {
    connect,
    now: () => client,
    async end() {
      ended = true
      await client?.end()
    },
  }
}
