import { config } from './config'
import { askDatabase } from './database'
import { databaseFit } from './database-fit'
import { isStopping } from './stopping'
import { workerLock } from './worker-lock'

/** How long work may wait before somebody should look, in seconds. */
const longWait = 300
/** The clock of the workers ticks once a minute. */
const longTick = 180

interface Queue {
  readonly workers: number
  readonly due: number
  readonly given_up: number
  readonly waited: number
  readonly ticked: number | null
  readonly database_bytes: string
}

const queue = `select (select count(*)::int from pg_locks l join pg_database d on d.oid = l.database and d.datname = current_database()
    where l.locktype = 'advisory' and l.objsubid = 2 and l.classid = ${workerLock.space} and l.objid = ${workerLock.key} and l.granted) as workers,
  q.due, q.given_up, coalesce(extract(epoch from now() - q.oldest), 0)::int as waited,
  extract(epoch from now() - q.ticked)::int as ticked, pg_database_size(current_database())::text as database_bytes
  from kedge_queue() q`

const warningsOf = ({ workers, waited, ticked, given_up }: Queue): readonly string[] => [
  ...(workers === 0 ? ['No worker runs: mail and background work wait.'] : []),
  ...(workers > 0 && waited > longWait
    ? [`Work that is due has waited for ${Math.round(waited / 60)} minutes.`]
    : []),
  ...(workers > 0 && ticked !== null && ticked > longTick
    ? [`The clock of the workers has not ticked for ${Math.round(ticked / 60)} minutes.`]
    : []),
  ...(given_up > 0 ? [`${given_up} pieces of work were given up.`] : []),
]

/** Whether pages can be answered, and what those who run Kedge should look at. Sizes in bytes, times in seconds. */
export async function readiness() {
  const version = config().KEDGE_VERSION
  if (isStopping())
    return { status: 'unavailable', version, reason: 'This process is about to end.' } as const
  const fit = await databaseFit()
  if (fit.kind !== 'fits')
    return { status: 'unavailable', version, database: fit.kind, reason: fit.why } as const
  let found: Queue | undefined
  try {
    ;[found] = await askDatabase<Queue & Record<string, unknown>>(queue)
  } catch (error) {
    const reason = error instanceof Error ? error.message : 'the database does not answer'
    return { status: 'unavailable', version, database: 'away', reason } as const
  }
  if (!found) throw new Error('the queue answers one row')
  const warnings = warningsOf(found)
  return {
    status: warnings.length > 0 ? 'warning' : 'ok',
    version,
    database: 'ok',
    databaseBytes: Number(found.database_bytes),
    workers: found.workers,
    queue: {
      due: found.due,
      oldestSeconds: found.waited,
      givenUp: found.given_up,
      lastTickSeconds: found.ticked,
    },
    warnings,
  } as const
}
