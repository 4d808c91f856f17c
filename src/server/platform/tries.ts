import { createHmac } from 'node:crypto'
import { sql } from 'kysely'
import { config } from './config'
import { database } from './database'

/** How often something may be tried within a day without waiting, and how long one then waits, in seconds. */
export interface Allowance {
  readonly free: number
  /** After the free tries; it doubles with each that follows. */
  readonly step: number
  readonly longest: number
}

/**
 * What is tried, as it is kept: a hash under the installation's secret. A password typed where the user name belongs
 * cannot be read from it, nor guessed without the secret.
 */
export const keyed = (what: string): string =>
  createHmac('sha256', config().KEDGE_SECRET).update(what).digest('base64url')

/**
 * Puts down that something is tried, unless one must wait.
 * @param what such as `name r.achterberg`
 * @returns 0 when it may be tried now, otherwise the seconds to wait
 */
export async function secondsToWait(what: string, { free, step, longest }: Allowance): Promise<number> {
  const { rows } = await sql<{ wait: number }>`
    select kedge_try(${keyed(what)}, ${free}, ${step}, ${longest}) as wait`.execute(database())
  return rows[0]?.wait ?? 0
}

/** The seconds until something may be tried, without putting anything down. */
export async function secondsLeft(what: string, { free, step, longest }: Allowance): Promise<number> {
  const { rows } = await sql<{ wait: number | null }>`
    select kedge_wait(${keyed(what)}, ${free}, ${step}, ${longest}) as wait`.execute(database())
  return rows[0]?.wait ?? 0
}

/** Puts down that something failed. */
export async function noteFailure(what: string): Promise<void> {
  await database()
    .withoutPlugins()
    .insertInto('auth.sign_in_attempt')
    .values({ name: keyed(what) })
    .execute()
}

/** Forgets the tries of something that went well, or is to be tried anew. */
export async function forgetTries(what: readonly string[]): Promise<void> {
  await database()
    .withoutPlugins()
    .deleteFrom('auth.sign_in_attempt')
    .where('name', 'in', what.map(keyed))
    .execute()
}

/** Takes the newest try of something back: it was not looked at, so it does not count. */
export async function takeBackTry(what: string): Promise<void> {
  await sql`delete from auth.sign_in_attempt where ctid in (
    select ctid from auth.sign_in_attempt where name = ${keyed(what)} order by at desc limit 1)`.execute(
    database(),
  )
}

/** A time to wait in words. */
export const waitInWords = (seconds: number): string => {
  if (seconds < 60) return seconds === 1 ? '1 second' : `${seconds} seconds`
  const minutes = Math.ceil(seconds / 60)
  return minutes === 1 ? '1 minute' : `${minutes} minutes`
}
