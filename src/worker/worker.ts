import { EventEmitter } from 'node:events'
import {
  makeWorkerUtils,
  parseCronItems,
  run,
  type Runner,
  type Task,
  type WorkerEvents,
} from 'graphile-worker'
import pg from 'pg'
import { log } from '@/server/platform/log'
import { runJob, type Payload } from './run-job'
import { sendMail } from './send-mail'
import { tick } from './tick'

const tasks: Readonly<Record<string, (payload: Payload, attempt: { last: boolean }) => Promise<void>>> = {
  'run-job': runJob,
  'send-mail': sendMail,
}

/** A connection that is made anew whenever it breaks, for example when the database is started again. */
function lasting(url: string, connected: (client: pg.Client) => Promise<void>) {
  let client: pg.Client | undefined
  let ended = false
  async function connect(): Promise<void> {
    const made = new pg.Client({ connectionString: url, keepAlive: true })
    let broken = false
    const again = (error?: Error) => {
      if (broken || ended) return
      broken = true
      client = undefined
      log().warn({ error: error?.message }, 'the worker lost the database')
      setTimeout(() => void (ended || connect()), 1000)
    }
    made.on('error', again)
    made.on('end', () => again())
    try {
      await made.connect()
      await connected(made)
      client = made
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
 * Runs background work until stopped. Any number of workers may run; one that is killed loses nothing.
 * @param ownerUrl connection of the role that owns the queue
 */
export async function startWorker(
  ownerUrl: string,
): Promise<{ stop: () => Promise<void>; finished: Promise<void> }> {
  const own = new Set<string>()
  const watch = lasting(ownerUrl, async () => {})
  const lively = lasting(ownerUrl, async (client) => {
    for (const id of own) await client.query(lock, [id])
  })
  await Promise.all([watch.connect(), lively.connect()])

  const done = new Set<string>()
  const events: WorkerEvents = new EventEmitter()
  events.on('worker:create', ({ worker }) => {
    own.add(worker.workerId)
    lively
      .now()
      ?.query(lock, [worker.workerId])
      .catch((error: Error) => log().error({ error: error.message }, 'this worker cannot show that it lives'))
  })
  const runner: Runner = await run({
    connectionString: ownerUrl,
    concurrency: 2,
    pollInterval: 1000,
    noHandleSignals: true,
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
  const look = async () => {
    const client = watch.now()
    if (client)
      await freeTasksOfDeadWorkers(ownerUrl, client, own).catch((error: Error) =>
        log().error({ error: error.message }, 'looking for dead workers failed'),
      )
  }
  await look()
  const timer = setInterval(() => void look(), 5000)
  return {
    finished: runner.promise,
    async stop() {
      clearInterval(timer)
      await runner.stop()
      await watch.end()
      await lively.end()
    },
  }
}
