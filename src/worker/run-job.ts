import type { Tables } from '@/db/tables'
import { clockActor, type Actor } from '@/server/platform/actor'
import { now } from '@/server/platform/clock'
import type { Context } from '@/server/platform/context'
import { actInSchool } from '@/server/platform/in-school'
import { failureOf } from '@/server/platform/database-errors'
import type { AnyJob } from '@/server/platform/define'
import { Refusal, type Result } from '@/server/platform/failure'
import { Cancelled } from '@/server/platform/cancelled'
import { workTopic, type JobEnd, type Steps } from '@/server/platform/job'
import { log } from '@/server/platform/log'
import { executeQuery, preview, executeCommand } from '@/server/platform/run'
import { actorsOf } from '@/server/platform/session'
import { jobs } from '@/server/registry'

/** What the queue hands over: a school, and the id of a job or mail of it. */
export interface Payload {
  readonly schoolId: string
  readonly id: string
}

interface Progress {
  readonly done?: number
  readonly total?: number
  readonly state?: Tables['job']['state']['__select__']
  readonly message?: string | null
  readonly documentId?: string
  readonly result?: string
  readonly runId?: string
  readonly dismissedAt?: Date
  readonly finished?: readonly string[]
  readonly startedAt?: Date
  readonly finishedAt?: Date | null
  readonly attempts?: number
}

/** Works in a school without anybody's rights: for what the worker notes about its own work. */
export function asClock<T>(
  schoolId: string,
  command: string,
  work: (context: Context) => Promise<T>,
): Promise<T> {
  const actor = clockActor({ id: schoolId, name: '', timeZone: 'UTC' })
  return actInSchool(actor, { command }, work)
}

/** Writes progress where everyone looking sees it at once, and says whether the work was cancelled. */
function report({ schoolId, id }: Payload, { finished, ...progress }: Progress): Promise<boolean> {
  return asClock(schoolId, 'work.run', async ({ db, changed }) => {
    const job = await db
      .updateTable('job')
      .set({ ...progress, ...(finished ? { finished: JSON.stringify(finished) } : {}) })
      .where('id', '=', id)
      .returning(['cancelAsked', 'accountId'])
      .executeTakeFirstOrThrow()
    changed(workTopic(job.accountId))
    return job.cancelAsked
  })
}

function valueOf<T>(result: Result<T>): T {
  if (result.ok) return result.value
  // What is away now may be back soon: the queue tries again. Everything else is an answer.
  if (result.failure.kind === 'unavailable' || result.failure.kind === 'fault')
    throw new Error(result.failure.message)
  throw new Refusal(result.failure)
}

/** A word every quarter of a second is lively enough and costs nothing. */
const lively = 250

function stepsFor(
  payload: Payload,
  actor: Actor,
  job: { title: string; createdAt: string; finished: readonly string[] | null },
): Steps {
  let last = 0
  const isTime = () => Date.now() - last >= lively
  async function note(progress: {
    done: number
    total: number
    finished?: readonly string[]
  }): Promise<void> {
    last = Date.now()
    if (await report(payload, progress)) throw new Cancelled(progress.done, progress.total)
  }
  const progress: Steps['progress'] = async (done, total) => {
    if (done === total || isTime()) await note({ done, total })
  }
  // What an act counts is its own matter.
  const share: Steps['progress'] = (done, total) => progress(Math.floor((100 * done) / (total || 1)), 100)
  return {
    jobId: payload.id,
    actor,
    title: job.title,
    createdAt: job.createdAt,
    query: async (query, input) => valueOf(await executeQuery(query, actor, input)),
    execute: async (command, input) => valueOf(await executeCommand(command, actor, input)),
    act: async (command, input, { expecting }) => {
      const result = await executeCommand(command, actor, input, {
        key: payload.id,
        expecting,
        progress: share,
      })
      return { value: valueOf(result), run: result.ok ? result.run : undefined }
    },
    preview: async (command, input, describe) =>
      valueOf(await preview(command, actor, input, describe, share)),
    progress,
    each: async (all, keyOf, step) => {
      const finished = [...(job.finished ?? [])]
      const known = new Set(finished)
      await note({ done: finished.length, total: all.length })
      for (const one of all) {
        const key = keyOf(one)
        if (known.has(key)) continue
        await step(one)
        finished.push(key)
        if (isTime()) await note({ done: finished.length, total: all.length, finished })
      }
      await note({ done: finished.length, total: all.length, finished })
    },
  }
}

const apology = 'Something went wrong in Kedge. The error has been logged. Please try again later.'

/**
 * Carries out background work in the name of the person who asked for it. A refusal or a cancellation ends it;
 * any other error is thrown so that the queue tries again, and on the last try noted as failed.
 */
export async function runJob(payload: Payload, { last }: { last: boolean }): Promise<void> {
  const job = await asClock(payload.schoolId, 'work.run', ({ db }) =>
    db.selectFrom('job').selectAll().where('id', '=', payload.id).executeTakeFirst(),
  )
  if (!job || (job.state !== 'waiting' && job.state !== 'running')) return
  const finish = (progress: Progress) => report(payload, { ...progress, finishedAt: now('UTC') })
  const kind = jobs.get(job.kind)
  if (job.cancelAsked)
    return void (await finish({
      state: 'cancelled',
      message: kind?.isWhole ? 'Cancelled. Nothing was changed.' : 'Cancelled. Try again adds the rest.',
    }))
  const [actor] = await actorsOf(job.accountId, { schoolId: payload.schoolId })
  if (!actor)
    return void (await finish({
      state: 'failed',
      message: 'The account that asked for this is no longer active.',
    }))
  await report(payload, {
    state: 'running',
    startedAt: now('UTC'),
    attempts: job.attempts + 1,
    message: null,
  })
  try {
    const end = await work(kind, job, stepsFor(payload, actor, job))
    await finish({ ...progressOf(end), state: 'done' })
  } catch (error) {
    if (error instanceof Cancelled)
      return void (await finish({
        state: 'cancelled',
        message: kind?.isWhole
          ? 'Cancelled. Nothing was changed.'
          : `Cancelled after ${error.done} of ${error.total}. Try again adds the rest.`,
      }))
    if (error instanceof Refusal)
      return void (await finish({
        state: 'failed',
        message: error.failure.message,
        result: JSON.stringify({ failure: error.failure }),
      }))
    log().error(
      { jobId: payload.id, kind: job.kind, error: error instanceof Error ? error.stack : String(error) },
      'background work failed',
    )
    if (last || failureOf(error).kind === 'fault') await finish({ state: 'failed', message: apology })
    else throw error
  }
}

const progressOf = ({ result, isQuiet, ...end }: JobEnd): Progress => ({
  ...end,
  ...(result === undefined ? {} : { result: JSON.stringify(result) }),
  ...(isQuiet ? { dismissedAt: now('UTC') } : {}),
})

async function work(kind: AnyJob | undefined, job: { kind: string; input: unknown }, steps: Steps) {
  if (!kind) throw new Error(`there is no background work of the kind ${job.kind}`)
  return kind.run(steps, kind.input.parse(job.input))
}

/**
 * Work that no task in the queue belongs to any more would stay running for good: it is noted as failed.
 * @param alive asks which jobs the queue still has; asked after the jobs are read, so that one started meanwhile is
 *   never taken for lost
 */
export async function endLostJobs(schoolId: string, alive: () => Promise<readonly string[]>): Promise<void> {
  const open = await asClock(schoolId, 'work.run', ({ db }) =>
    db.selectFrom('job').select('id').where('state', 'in', ['waiting', 'running']).execute(),
  )
  if (open.length === 0) return
  const inQueue = new Set(await alive())
  const gone = open.flatMap((job) => (inQueue.has(job.id) ? [] : [job.id]))
  if (gone.length === 0) return
  await asClock(schoolId, 'work.run', async ({ db, changed, now: moment }) => {
    const lost = await db
      .updateTable('job')
      .set({
        state: 'failed',
        message: 'This stopped before it was finished. Please try again.',
        finishedAt: moment,
      })
      .where('state', 'in', ['waiting', 'running'])
      .where('id', 'in', gone)
      .returning('accountId')
      .execute()
    changed(...lost.map((job) => workTopic(job.accountId)))
  })
}
