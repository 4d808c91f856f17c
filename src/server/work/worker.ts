import { EventEmitter } from 'node:events'
import { run, makeWorkerUtils, type Runner, type Task, type WorkerEvents } from 'graphile-worker'
import pg from 'pg'
import { log } from '@/server/platform/log'
import { runJob } from './run-job'
import { sendMail } from '@/server/mail/send-mail'

interface Payload {
  readonly schoolId: string
  readonly id: string
}

const tasks: Readonly<Record<string, (payload: Payload, attempt: { last: boolean }) => Promise<void>>> = {
  'run-job': runJob,
  'send-mail': sendMail,
}

/**
 * Frees tasks held by workers that died. A worker holds an advisory lock named after it as long as it lives;
 * whose lock can be taken is dead, and its tasks are taken up again at once.
 */
async function freeTasksOfDeadWorkers(ownerUrl: string, watch: pg.Client): Promise<void> {
  const { rows } = await watch.query<{ locked_by: string }>(
    'select distinct locked_by from graphile_worker._private_jobs where locked_by is not null',
  )
  const dead: string[] = []
  for (const { locked_by } of rows) {
    const { rows: taken } = await watch.query<{ free: boolean }>(
      'select pg_try_advisory_lock(hashtextextended($1, 7)) as free',
      [locked_by],
    )
    if (!taken[0]?.free) continue
    await watch.query('select pg_advisory_unlock(hashtextextended($1, 7))', [locked_by])
    dead.push(locked_by)
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
  const watch = new pg.Client({ connectionString: ownerUrl })
  await watch.connect()
  const lively = new pg.Client({ connectionString: ownerUrl })
  await lively.connect()

  const events: WorkerEvents = new EventEmitter()
  events.on('worker:create', ({ worker }) => {
    lively
      .query('select pg_advisory_lock(hashtextextended($1, 7))', [worker.workerId])
      .catch((error: Error) => log().error({ error: error.message }, 'this worker cannot show that it lives'))
  })
  const runner: Runner = await run({
    connectionString: ownerUrl,
    concurrency: 2,
    pollInterval: 1000,
    noHandleSignals: true,
    taskList: Object.fromEntries(
      Object.entries(tasks).map(([name, task]): [string, Task] => [
        name,
        (payload, { job }) => task(payload as Payload, { last: job.attempts >= job.max_attempts }),
      ]),
    ),
    events,
  })
  const look = () =>
    freeTasksOfDeadWorkers(ownerUrl, watch).catch((error: Error) =>
      log().error({ error: error.message }, 'looking for dead workers failed'),
    )
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
