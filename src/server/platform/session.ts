import { sql } from 'kysely'
import type { Actor, Role } from './actor'
import { database } from './database'
import { isIdle } from './session-limits'
import { endSession, noteActivity, sessionAccount } from './sign-in'

export type SignInSession =
  | { readonly kind: 'signed in' | 'password first'; readonly actor: Actor }
  /** Belongs to several schools and has not said which, or to none any more. */
  | { readonly kind: 'choose school'; readonly name: string; readonly schools: readonly SchoolChoice[] }
  | { readonly kind: 'signed out' }

export interface SchoolChoice {
  readonly id: string
  readonly name: string
  readonly roles: readonly Role[]
}

const asChoice = ({ schoolId, schoolName, roles }: Actor): SchoolChoice => ({
  id: schoolId,
  name: schoolName,
  roles,
})

/** Who an account is, in each school it is an active member of, or in one of them. */
export async function actorsOf(
  accountId: string,
  { schoolId, sessionToken = '' }: { schoolId?: string; sessionToken?: string } = {},
): Promise<readonly Actor[]> {
  const { rows } = await sql<
    Omit<Actor, 'kind' | 'accountId' | 'sessionToken' | 'severalSchools'>
  >`select * from kedge_actor(${accountId}, ${schoolId ?? null})`.execute(database())
  return rows.map((row) => ({ ...row, kind: 'person', accountId, severalSchools: false, sessionToken }))
}

/**
 * Who asks, from the request's cookies. The session names its school; with only one there is nothing to choose. One in
 * which nothing was done for too long is over.
 * @param options.isAct the person does something: opens a page, saves. What a page asks by itself is no act.
 */
export async function readSession(headers: Headers, { isAct = false } = {}): Promise<SignInSession> {
  const account = await sessionAccount(headers)
  if (!account) return { kind: 'signed out' }
  const actors = await actorsOf(account.id, { sessionToken: account.token })
  const roles = actors.flatMap((a) => a.roles)
  if (isIdle(account, roles, Date.now())) {
    await endSession(account.token)
    return { kind: 'signed out' }
  }
  // Once a minute is enough; most pages need not write.
  if (isAct && Date.now() - account.activeAt.getTime() > 60_000) await noteActivity(account.token)
  const actor =
    actors.length === 1
      ? actors[0]
      : account.schoolId === undefined
        ? await whereLast(account, actors)
        : actors.find((a) => a.schoolId === account.schoolId)
  if (!actor)
    return {
      kind: 'choose school',
      name: account.name,
      schools: actors.map(asChoice),
    }
  return {
    kind: account.mustChangePassword ? 'password first' : 'signed in',
    actor: { ...actor, severalSchools: actors.length > 1 },
  }
}

/** A new session of somebody with several schools begins where they worked last; from then on it stays there. */
async function whereLast(
  { id, token }: { readonly id: string; readonly token: string },
  actors: readonly Actor[],
): Promise<Actor | undefined> {
  const db = database().withoutPlugins()
  const last = await db.selectFrom('auth.user').select('lastSchoolId').where('id', '=', id).executeTakeFirst()
  const actor = actors.find((a) => a.schoolId === last?.lastSchoolId)
  if (actor)
    await db
      .updateTable('auth.session')
      .set({ schoolId: actor.schoolId })
      .where('token', '=', token)
      .where('schoolId', 'is', null)
      .execute()
  return actor
}

/** Who is signed in, with all their schools; undefined for nobody. */
export async function schoolsOf(
  headers: Headers,
): Promise<{ name: string; schools: readonly SchoolChoice[] } | undefined> {
  const account = await sessionAccount(headers)
  if (!account) return undefined
  return { name: account.name, schools: (await actorsOf(account.id)).map(asChoice) }
}

/**
 * Works from now on in one of the account's schools.
 * @returns whether the account is a member there
 */
export async function enterSchool(headers: Headers, schoolId: string): Promise<boolean> {
  const account = await sessionAccount(headers)
  if (!account || (await actorsOf(account.id, { schoolId })).length === 0) return false
  await database()
    .withoutPlugins()
    .updateTable('auth.session')
    .set({ schoolId })
    .where('token', '=', account.token)
    .execute()
  await database()
    .withoutPlugins()
    .updateTable('auth.user')
    .set({ lastSchoolId: schoolId })
    .where('id', '=', account.id)
    .execute()
  return true
}
