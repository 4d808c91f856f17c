import { databaseFit } from './database-fit'
import { keepFit, type Fit } from './last-fit'
import { log } from './log'

/** How often it is looked whether the database still fits, in milliseconds. */
const lookEvery = 10_000

/** Looks now, keeps what was found for the whole process, and says it in the log where it is something new. */
export async function lookAtDatabase(): Promise<Fit> {
  const now = await databaseFit()
  const before = keepFit(now)
  const words = now.kind === 'fits' ? '' : now.why
  if (before?.kind === now.kind && (before.kind === 'fits' ? '' : before.why) === words) return now
  if (now.kind !== 'fits') log().error({ event: 'database', fit: now.kind }, words)
  else if (before) log().info({ event: 'database', fit: now.kind }, 'the database is right again')
  return now
}

/**
 * Goes on looking until it is stopped.
 * @param onLook told what was found each time
 */
export function watchDatabase(onLook: (fit: Fit) => void): () => void {
  const timer = setInterval(() => void lookAtDatabase().then(onLook), lookEvery)
  timer.unref()
  return () => clearInterval(timer)
}
