import { sql } from 'kysely'
import type { Actor } from './actor'
import { database } from './database'
import type { Failure } from './failure'
import { sessionAccount } from './sign-in'

export type Session =
  | { readonly kind: 'signed in'; readonly actor: Actor }
  | { readonly kind: 'password first'; readonly actor: Actor }
  | { readonly kind: 'signed out' }

/** The actor an account is, in its first active school; undefined when it belongs to none. */
export async function actorOf(
  accountId: string,
  { schoolId, sessionToken = '' }: { schoolId?: string; sessionToken?: string } = {},
): Promise<Actor | undefined> {
  return database()
    .transaction()
    .execute(async (db) => {
      await sql`select set_config('kedge.account', ${accountId}, true), set_config('kedge.school', ${schoolId ?? ''}, true)`.execute(
        db,
      )
      const found = await db
        .selectFrom('membership as m')
        .innerJoin('auth.user as u', 'u.id', 'm.account_id')
        .select(['m.school_id', 'm.role', 'm.person_id', 'm.name', 'u.username'])
        .where('m.account_id', '=', accountId)
        .where('m.active', '=', true)
        .$if(schoolId !== undefined, (q) => q.where('m.school_id', '=', schoolId ?? ''))
        .orderBy('m.school_id')
        .limit(1)
        .executeTakeFirst()
      if (!found) return undefined
      await sql`select set_config('kedge.school', ${found.school_id}, true)`.execute(db)
      const school = await db
        .selectFrom('school')
        .select(['name', 'time_zone'])
        .where('id', '=', found.school_id)
        .executeTakeFirstOrThrow()
      return {
        accountId,
        username: found.username,
        name: found.name,
        schoolId: found.school_id,
        schoolName: school.name,
        timeZone: school.time_zone,
        role: found.role,
        personId: found.person_id,
        sessionToken,
      }
    })
}

/** Who asks, from the request's cookies. */
export async function readSession(headers: Headers): Promise<Session> {
  const account = await sessionAccount(headers)
  if (!account) return { kind: 'signed out' }
  const actor = await actorOf(account.id, { sessionToken: account.token })
  if (!actor) return { kind: 'signed out' }
  return { kind: account.mustChangePassword ? 'password first' : 'signed in', actor }
}

export const signedOut: Failure = {
  kind: 'signed out',
  message: 'You are signed out. Sign in again; what you typed is kept.',
}
export const passwordFirst: Failure = {
  kind: 'password first',
  message: 'Choose a password of your own first.',
}
