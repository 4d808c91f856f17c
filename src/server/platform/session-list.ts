import { sql } from 'kysely'
import { limits } from '@/core/limits'
import { z } from 'zod'
import type { Context } from './context'
import { browserInWords } from './browser-words'
import { database } from './database'

type Db = Context['db']

/** One session as people see it; its token never leaves the server. */
export interface ListedSession {
  readonly id: string
  readonly browser: string
  readonly sharedComputer: boolean
  /** Minutes since signing in, and since anything was done. */
  readonly minutes: number
  readonly idleMinutes: number
  /** Whether it is the one that asks. */
  readonly here: boolean
}

/** Which session: the number that the list gives, made by the sign-in package. */
export const sessionInput = z.object({ sessionId: z.string().min(1).max(limits.key) })

/** Sessions at one school: also those that have not chosen a school yet. */
const atSchool = (schoolId: string) => sql<boolean>`("schoolId" is null or "schoolId" = ${schoolId})`

const minutesSince = (column: string) =>
  sql<number>`greatest(0, floor(extract(epoch from clock_timestamp() - ${sql.ref(column)}) / 60))::integer`

/**
 * The sessions of an account that have not ended, the latest first.
 * @param options.schoolId only those that work at this school
 * @param options.own the token of the session that asks
 */
export async function sessionsOf(
  accountId: string,
  { schoolId, own }: { readonly schoolId?: string; readonly own: string },
): Promise<readonly ListedSession[]> {
  const rows = await database()
    .withoutPlugins()
    .selectFrom('auth.session')
    .select(['id', 'token', 'userAgent', 'shared_computer'])
    .select([minutesSince('createdAt').as('minutes'), minutesSince('active_at').as('idleMinutes')])
    .where('userId', '=', accountId)
    .where('expiresAt', '>', sql<string>`clock_timestamp()`)
    .$if(schoolId !== undefined, (q) => q.where(atSchool(schoolId ?? '')))
    .orderBy('active_at', 'desc')
    .execute()
  return rows.map((row) => ({
    id: row.id,
    browser: browserInWords(row.userAgent),
    sharedComputer: row.shared_computer,
    minutes: row.minutes,
    idleMinutes: row.idleMinutes,
    here: row.token === own,
  }))
}

/** Ends one session of an account, at one school or anywhere. */
export async function endSessionOf(
  db: Db,
  accountId: string,
  sessionId: string,
  { schoolId }: { readonly schoolId?: string } = {},
): Promise<void> {
  await db
    .withoutPlugins()
    .deleteFrom('auth.session')
    .where('userId', '=', accountId)
    .where('id', '=', sessionId)
    .$if(schoolId !== undefined, (q) => q.where(atSchool(schoolId ?? '')))
    .execute()
}

/** Ends all sessions in which an account works at a school; those at another school go on. */
export async function endSessionsAt(db: Db, accountId: string, schoolId: string): Promise<void> {
  await db
    .withoutPlugins()
    .deleteFrom('auth.session')
    .where('userId', '=', accountId)
    .where(atSchool(schoolId))
    .execute()
}
