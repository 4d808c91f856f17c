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
  const { rows } = await sql<{
    username: string
    name: string
    school_id: string
    school_name: string
    time_zone: string
    role: Actor['role']
    person_id: string
  }>`select * from kedge_actor(${accountId}, ${schoolId ?? null})`.execute(database())
  const found = rows[0]
  return (
    found && {
      accountId,
      username: found.username,
      name: found.name,
      schoolId: found.school_id,
      schoolName: found.school_name,
      timeZone: found.time_zone,
      role: found.role,
      personId: found.person_id,
      sessionToken,
    }
  )
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
