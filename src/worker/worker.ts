import { EventEmitter } from 'node:events'
import {
  Logger,
  makeWorkerUtils,
  parseCronItems,
  run,
  type Runner,
  type Task,
  type WorkerEvents,
} from 'graphile-worker'
import type pg from 'pg'
import { log } from '@/server/platform/log'
import { lookAtDatabase, watchDatabase } from '@/server/platform/watch-database'
import { workerLock } from '@/server/platform/worker-lock'
import { growingWaits, lasting, tellOfDatabase } from './lasting'
import { runJob, type Payload } from './run-job'
import { sendMail } from './send-mail'
import { tick } from './tick'

const tasks: Readonly<Record<string, (payload: Payload, attempt: { last: boolean }) => Promise<void>>> = {
  'run-job': runJob,
  'send-mail': sendMail,
}

const lock = 'select pg_advisory_lock(hashtextextended($1, 7))'

/**
 * Frees tasks held by workers that died. A worker holds an advisory lock named after it as long as it lives;
 * whose lock can be taken is dead, and its tasks are taken up again at once.
 * @param own the workers of this process, which are alive whatever their locks say
 */
async function freeTasksOfDeadWorkers(
  ownerUrl: string,
  watch: pg.Client,
  own: ReadonlySet<string>,
): Promise<void> {
  const { rows } = await watch.query<{ locked_by: string }>(
    'select distinct locked_by from graphile_worker._private_jobs where locked_by is not null',
  )
  const dead: string[] = []
  for (const { locked_by: id } of rows) {
    if (own.has(id)) continue
    const { rows: taken } = await watch.query<{ free: boolean }>(
      'select pg_try_advisory_lock(hashtextextended($1, 7)) as free',
      [id],
    )
    if (!taken[0]?.free) continue
    await watch.query('select pg_advisory_unlock(hashtextextended($1, 7))', [id])
    dead.push(id)
  }
  if (dead.length === 0) return
  const utils = await makeWorkerUtils({ connectionString: ownerUrl })
  await utils.forceUnlockWorkers(dead)
  await utils.release()
  log().warn({ dead }, 'took up the work of a worker that died')
}

/**
 * The queue's clock asks the database each minute and holds on to nothing that comes of it: when the database is away at
 * that moment, nobody catches what it throws, and a process ends that could wait.
 */
const isOfTheClock = (error: unknown): boolean =>
  error instanceof Error && /graphile-worker.*cron/.test(error.stack ?? '')

/** What the queue says itself: its failed tasks as warnings, the rest where somebody looks closely. */
const queueLogger = new Logger(() => (level, message) => {
  const isFailure = String(level) === 'error' && message.startsWith('Failed task')
  log()[isFailure ? 'warn' : 'debug']({ event: 'queue' }, message)
})

const wait = (milliseconds: number, until: AbortSignal) =>
  new Promise<void>((resolve) => {
    const timer = setTimeout(resolve, milliseconds)
    until.addEventListener('abort', () => (clearTimeout(timer), resolve()), { once: true })
  })

/**
 * Runs background work until stopped. Any number of workers may run; one that is killed loses nothing. A database that
 * is away, or that another version of Kedge has migrated, is waited for, however long it takes.
 * @param ownerUrl connection of the role that owns the queue
 */
export async function startWorker(
  ownerUrl: string,
): Promise<{ stop: () => Promise<void>; finished: Promise<void> }> {
  const own = new Set<string>()
  const tell = tellOfDatabase()
  const watch = lasting(ownerUrl, tell, async () => {})
  const lively = lasting(ownerUrl, tell, async (client) => {
    await client.query('select pg_advisory_lock_shared($1, $2)', [workerLock.space, workerLock.key])
    for (const id of own) await client.query(lock, [id])
  })
  const done = new Set<string>()
  const events: WorkerEvents = new EventEmitter()
  events.on('worker:create', ({ worker }) => {
    own.add(worker.workerId)
    lively
      .now()
      ?.query(lock, [worker.workerId])
      .catch((error: Error) => log().error({ error: error.message }, 'this worker cannot show that it lives'))
  })
  const begin = () =>
    run({
      connectionString: ownerUrl,
      concurrency: 2,
      pollInterval: 1000,
      noHandleSignals: true,
      logger: queueLogger,
      // One tick a minute, however many workers there are; what is due in which school is looked up then.
      parsedCronItems: parseCronItems([
        { task: 'tick', match: '* * * * *', options: { maxAttempts: 1, backfillPeriod: 0 } },
      ]),
      taskList: {
        ...Object.fromEntries(
          Object.entries(tasks).map(([name, task]): [string, Task] => [
            name,
            (payload, { job }) => task(payload as Payload, { last: job.attempts >= job.max_attempts }),
          ]),
        ),
        tick: async () => {
          const client = watch.now()
          if (client) await tick(client, done)
        },
      },
      events,
    })

  const stopping = new AbortController()
  let runner: Runner | undefined
  /** Runs the queue's own runner, which gives up after some seconds without a database, over and over. */
  async function keepRunning(): Promise<void> {
    const waits = growingWaits()
    while (!stopping.signal.aborted) {
      try {
        const fit = await lookAtDatabase()
        if (fit.kind === 'unsafe') throw new Unsafe(fit.why)
        if (fit.kind === 'fits') {
          runner = await begin()
          tell.back()
          waits.reset()
          if (stopping.signal.aborted) await runner.stop()
          await runner.promise
        }
      } catch (error) {
        if (error instanceof Unsafe) throw error
        if (!stopping.signal.aborted) tell.away(error)
      }
      runner = undefined
      await wait(waits.next(), stopping.signal)
    }
  }
  // The clock stands still after that, so the queue's runner is begun anew. Everything else ends the process as ever.
  const onUncaught = (error: unknown) => {
    if (!isOfTheClock(error)) throw error
    tell.away(error)
    runner?.stop().catch((e: Error) => log().debug({ error: e.message }, 'the runner had stopped by itself'))
  }
  process.on('unhandledRejection', onUncaught)
  const look = async () => {
    const client = watch.now()
    if (client)
      await freeTasksOfDeadWorkers(ownerUrl, client, own).catch((error: Error) =>
        log().warn({ error: error.message }, 'looking for dead workers failed'),
      )
  }
  const first = await lookAtDatabase()
  if (first.kind === 'unsafe') throw new Unsafe(first.why)
  await Promise.all([watch.connect(), lively.connect()])
  // What no longer fits is looked at again before anything else is begun.
  const stopWatching = watchDatabase((fit) => {
    if (fit.kind === 'unsafe' || fit.kind === 'other version') void runner?.stop()
  })
  const finished = keepRunning()
  if (first.kind === 'fits') await look()
  const timer = setInterval(() => void look(), 5000)
  return {
    finished,
    async stop() {
      clearInterval(timer)
      process.off('unhandledRejection', onUncaught)
      stopWatching()
      stopping.abort()
      await runner?.stop()
      await finished
      await watch.end()
      await lively.end()
    },
  }
}

/** Schools would see each other: nothing may run. */
export class Unsafe extends Error {}
