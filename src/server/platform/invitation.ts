import { createHash, randomBytes } from 'node:crypto'
import { sql } from 'kysely'
import { checkPassword } from '@/core/people/password-rule'
import { makeAccount } from './account'
import { clockActor } from './actor'
import { config } from './config'
import { inSchool, type Context } from './context'
import { database } from './database'
import { sessionAccount } from './sign-in'

/** How long an invitation's link works, in days. Sending the invitation again makes a new one. */
const linkDays = 14

const hashOf = (token: string) => createHash('sha256').update(token).digest('hex')

/** Makes a link that accepts an invitation; only its hash is kept. */
export async function invitationLink({ db, actor }: Context, invitationId: string): Promise<string> {
  const token = randomBytes(24).toString('base64url')
  await db
    .withoutPlugins()
    .insertInto('auth.one_time_link')
    .values({
      token_hash: hashOf(token),
      school_id: actor.schoolId,
      invitation_id: invitationId,
      expires_at: sql<string>`clock_timestamp() + make_interval(days => ${linkDays})`,
    })
    .execute()
  return `${config().KEDGE_URL}/invitation/${token}`
}

/** An invitation as its link shows it. */
export interface OpenInvitation {
  readonly schoolName: string
  readonly name: string
  readonly email: string
  /** Whether an account with this address exists, which then has to accept by signing in. */
  readonly hasAccount: boolean
}

async function withInvitation<T>(
  token: string,
  work: (
    context: Context,
    invitation: { id: string; role: 'guardian' | 'student'; personId: string; name: string; email: string },
  ) => Promise<T>,
): Promise<T | undefined> {
  return database()
    .transaction()
    .execute(async (db) => {
      const link = await db
        .withoutPlugins()
        .selectFrom('auth.one_time_link')
        .selectAll()
        .where('token_hash', '=', hashOf(token))
        .where('used_at', 'is', null)
        .where('expires_at', '>', sql<string>`clock_timestamp()`)
        .forUpdate()
        .executeTakeFirst()
      if (!link) return undefined
      await sql`select set_config('kedge.school', ${link.school_id}, true)`.execute(db)
      const school = await db
        .selectFrom('school')
        .select(['id', 'name', 'timeZone'])
        .executeTakeFirstOrThrow()
      return inSchool(db, clockActor(school), { command: 'account.acceptInvitation' }, async (context) => {
        const invitation = await db
          .selectFrom('invitation')
          .select(['id', 'role', 'personId', 'name', 'email'])
          .where('id', '=', link.invitation_id)
          .where('acceptedAt', 'is', null)
          // An enrolment that was undone takes its guardian with it.
          .where((eb) =>
            eb.exists(
              eb.selectFrom('guardian').select('id').whereRef('guardian.id', '=', 'invitation.personId'),
            ),
          )
          .executeTakeFirst()
        return invitation && work(context, invitation)
      })
    })
}

const accountWith = (db: Context['db'], email: string) =>
  db.withoutPlugins().selectFrom('auth.user').select('id').where('email', '=', email).executeTakeFirst()

/** What a link invites to, or undefined when it does not work any more. */
export function openInvitation(token: string): Promise<OpenInvitation | undefined> {
  return withInvitation(token, async ({ db, actor }, { name, email }) => ({
    schoolName: actor.schoolName,
    name,
    email,
    hasAccount: (await accountWith(db, email)) !== undefined,
  }))
}

export type Accepted =
  | { readonly kind: 'accepted'; readonly email: string }
  | { readonly kind: 'used' | 'sign in first' }
  | { readonly kind: 'password'; readonly problems: readonly string[] }

/**
 * Accepts an invitation: a new account with the password typed, or the account that is signed in, whoever that is.
 * An account that exists never becomes a member without its owner doing this.
 */
export async function acceptInvitation(
  token: string,
  { password, headers }: { password?: string; headers: Headers },
): Promise<Accepted> {
  const own = password === undefined ? await sessionAccount(headers) : undefined
  const accepted = await withInvitation(token, async (context, invitation): Promise<Accepted> => {
    const { db, actor, now } = context
    const { name, email } = invitation
    if (password === undefined && !own) return { kind: 'sign in first' }
    let accountId = own?.id
    if (password !== undefined) {
      if (await accountWith(db, email)) return { kind: 'sign in first' }
      const unmet = checkPassword(password, [email, name, actor.schoolName]).filter((check) => !check.met)
      if (unmet.length > 0) return { kind: 'password', problems: unmet.map((check) => check.text) }
      accountId = await makeAccount(db, { name, email, password, mustChangePassword: false })
    }
    if (!accountId) return { kind: 'sign in first' }
    await db
      .insertInto('membership')
      .values({
        schoolId: actor.schoolId,
        accountId,
        role: invitation.role,
        personId: invitation.personId,
        name,
      })
      .onConflict((c) => c.doNothing())
      .execute()
    await db
      .updateTable('invitation')
      .set({ acceptedAt: now, accountId })
      .where('id', '=', invitation.id)
      .execute()
    await db
      .withoutPlugins()
      .updateTable('auth.one_time_link')
      .set({ used_at: sql<string>`clock_timestamp()` })
      .where('token_hash', '=', hashOf(token))
      .execute()
    return { kind: 'accepted', email }
  })
  return accepted ?? { kind: 'used' }
}
