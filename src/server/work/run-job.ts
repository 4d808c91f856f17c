import { sql } from 'kysely'
import type { Tables } from '@/db/tables'
import { printCards } from '@/formats/pdf/report-card'
import type { Actor } from '@/server/platform/actor'
import { now } from '@/server/platform/clock'
import { database } from '@/server/platform/database'
import type { Result } from '@/server/platform/failure'
import { log } from '@/server/platform/log'
import { ask, tell } from '@/server/platform/registry'
import { actorOf } from '@/server/platform/session'
import * as cards from '@/server/reports/cards'
import { workTopic } from './ask-for-work'

interface Progress {
  readonly done?: number
  readonly total?: number
  readonly state?: Tables['job']['state']['__select__']
  readonly message?: string | null
  readonly document_id?: string
  readonly started_at?: Date
  readonly finished_at?: Date | null
  readonly attempts?: number
}

/** Writes progress where everyone looking sees it at once, and says whether to stop. */
async function report(schoolId: string, jobId: string, progress: Progress): Promise<'go on' | 'stop'> {
  return database()
    .transaction()
    .execute(async (db) => {
      await sql`select set_config('kedge.school', ${schoolId}, true)`.execute(db)
      const job = await db
        .updateTable('job')
        .set(progress)
        .where('id', '=', jobId)
        .returning(['cancel_asked', 'account_id'])
        .executeTakeFirstOrThrow()
      await sql`select pg_notify('kedge', ${JSON.stringify({ school: schoolId, topic: workTopic(job.account_id) })})`.execute(
        db,
      )
      return job.cancel_asked ? 'stop' : 'go on'
    })
}

function valueOf<T>(result: Result<T>): T {
  if (result.ok) return result.value
  throw new Error(result.failure.message)
}

interface Work {
  readonly jobId: string
  readonly actor: Actor
  readonly title: string
  readonly createdAt: Date
  readonly report: (progress: Progress) => Promise<'go on' | 'stop'>
}

async function printAll(
  work: Work,
  { roundId, homeroomId }: { roundId: string; homeroomId: string | null },
): Promise<Progress> {
  const contents = valueOf(await ask(cards.cardsToPrint, work.actor, { roundId, homeroomId }))
  if (contents.length === 0)
    return { state: 'failed', message: 'There are no students in this group, so there is nothing to print.' }
  await work.report({ total: contents.length, done: 0 })
  let last = Date.now()
  const printed = await printCards(contents, async (done) => {
    // A word every quarter of a second is lively enough and costs nothing.
    if (Date.now() - last < 250 && done < contents.length) return 'go on'
    last = Date.now()
    return work.report({ done })
  })
  if (printed.stopped) return { state: 'cancelled', message: 'Stopped before the end; nothing was kept.' }
  const kept = valueOf(
    await tell(cards.keepPrint, work.actor, {
      roundId,
      homeroomId,
      jobId: work.jobId,
      name: `${work.title}.pdf`,
      bytes: printed.bytes,
      pageCount: printed.pageCount,
    }),
  )
  return {
    state: 'done',
    done: contents.length,
    document_id: kept.documentId,
    message: `${contents.length} cards on ${printed.pageCount} pages`,
  }
}

async function releaseAll(work: Work, { roundId }: { roundId: string }): Promise<Progress> {
  const students = valueOf(await ask(cards.cardsToRelease, work.actor, { roundId }))
  await work.report({ total: students.length, done: 0 })
  let released = 0
  for (const [i, studentId] of students.entries()) {
    if (valueOf(await tell(cards.releaseCard, work.actor, { roundId, studentId })).released) released++
    if ((await work.report({ done: i + 1 })) === 'stop')
      return {
        state: 'cancelled',
        message: `Stopped after ${i + 1} of ${students.length}. Releasing again adds the rest.`,
      }
  }
  valueOf(
    await tell(cards.finishRelease, work.actor, { roundId, checkedBefore: work.createdAt.toISOString() }),
  )
  return {
    state: 'done',
    message:
      released === students.length
        ? `${released} cards released`
        : `${released} cards released; ${students.length - released} had been released before and are unchanged`,
  }
}

/** Carries out one piece of background work in the name of the person who asked for it. Safe to be run again from the start. */
export async function runJob({ schoolId, id: jobId }: { schoolId: string; id: string }): Promise<void> {
  const job = await database()
    .transaction()
    .execute(async (db) => {
      await sql`select set_config('kedge.school', ${schoolId}, true)`.execute(db)
      return db.selectFrom('job').selectAll().where('id', '=', jobId).executeTakeFirst()
    })
  if (!job || job.state === 'done' || job.state === 'cancelled') return
  const actor = await actorOf(job.account_id, { schoolId })
  if (!actor) {
    await report(schoolId, jobId, {
      state: 'failed',
      message: 'The account that asked for this is not active any more.',
      finished_at: new Date(),
    })
    return
  }
  await report(schoolId, jobId, {
    state: 'running',
    started_at: now(actor.timeZone),
    attempts: job.attempts + 1,
    message: null,
  })
  const work: Work = {
    jobId,
    actor,
    title: job.title,
    createdAt: job.created_at,
    report: (progress) => report(schoolId, jobId, progress),
  }
  try {
    const input = job.input as { roundId: string; homeroomId: string | null }
    const end = job.kind === 'print cards' ? await printAll(work, input) : await releaseAll(work, input)
    await work.report({ ...end, finished_at: now(actor.timeZone) })
  } catch (error) {
    log().error(
      { jobId, error: error instanceof Error ? error.stack : String(error) },
      'background work failed',
    )
    await work.report({
      state: 'failed',
      message: error instanceof Error ? error.message : 'It failed for an unknown reason.',
      finished_at: now(actor.timeZone),
    })
  }
}
