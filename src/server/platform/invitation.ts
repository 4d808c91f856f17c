/* eslint-disable no-await-in-loop -- the few accounts of one guardian */
import { sql } from 'kysely'
import { makeAccount } from './account'
import { askAgain, setConfirmed } from './confirmed-address'
import type { Context } from './context'
import { withLink, oneTimeLink, type OpenLink } from './one-time-link'
import { endSessionsAt } from './session-list'
import { sessionAccount } from './sign-in'
import { unmetPasswordRules } from './password-rule'

/**
 * Ends the access of a guardian: the account is no member as this person any more, open invitations stop working, and
 * sessions at this school end, unless the account has another role here.
 * @returns whether there was an account
 */
export async function endAccess({ db, actor }: Context, personId: string): Promise<boolean> {
  const ended = await db
    .deleteFrom('membership')
    .where('personId', '=', personId)
    .where('role', '=', 'guardian')
    .returning('accountId')
    .execute()
  const plain = db.withoutPlugins()
  await plain
    .updateTable('auth.one_time_link')
    .set({ used_at: sql<string>`clock_timestamp()` })
    .where('used_at', 'is', null)
    .where(sql<boolean>`invitation_id in (select id from invitation where person_id = ${personId})`)
    .execute()
  for (const { accountId } of ended)
    if (!(await isMemberHere(db, accountId))) await endSessionsAt(db, accountId, actor.schoolId)
  return ended.length > 0
}

async function isMemberHere(db: Context['db'], accountId: string): Promise<boolean> {
  const one = db.selectFrom('membership').select('role').where('accountId', '=', accountId).limit(1)
  return (await one.executeTakeFirst()) !== undefined
}

/** How long an invitation's link works, in days. Sending the invitation again makes a new one. */
const linkDays = 14

/** Makes a link that accepts an invitation; only its hash is kept. */
export const invitationLink = (context: Context, invitationId: string): Promise<string> =>
  oneTimeLink(context, 'invitation', { invitation_id: invitationId }, linkDays * 24)

/** An invitation as its link shows it. */
export interface OpenInvitation {
  readonly schoolName: string
  readonly name: string
  readonly email: string
  /** Whether an account with this address exists, which then has to accept by signing in. */
  readonly hasAccount: boolean
}

type Invitation = {
  id: string
  role: 'guardian' | 'student'
  personId: string
  name: string
  email: string
}

const withInvitation = <T>(
  token: string,
  work: (link: OpenLink, invitation: Invitation) => Promise<T>,
): Promise<T | undefined> =>
  withLink(token, 'account.acceptInvitation', async (link) => {
    const { context, invitationId } = link
    const invitation = await context.db
      .selectFrom('invitation')
      .select(['id', 'role', 'personId', 'name', 'email'])
      .where('id', '=', invitationId)
      .where('acceptedAt', 'is', null)
      // It was sent to an address. Where the record has another by now, or no guardian any more (an enrolment that was
      // undone), whoever has that mailbox is nobody's guardian.
      .where(
        sql<boolean>`exists (select 1 from guardian g
        where g.id = invitation.person_id and lower(g.email) = lower(invitation.email))`,
      )
      // Each invitation takes the place of those before it, and one account is all that a person has.
      .where(
        sql<boolean>`not exists (select 1 from invitation later
        where later.person_id = invitation.person_id and later.id > invitation.id)`,
      )
      .where(
        sql<boolean>`not exists (select 1 from membership m
        where m.person_id = invitation.person_id and m.role = invitation.role)`,
      )
      .executeTakeFirst()
    return invitation && work(link, invitation)
  })

const accountWith = (db: Context['db'], email: string) =>
  db.withoutPlugins().selectFrom('auth.user').select('id').where('email', '=', email).executeTakeFirst()

/** What a link invites to, or undefined when it does not work any more. */
export function openInvitation(token: string): Promise<OpenInvitation | undefined> {
  return withInvitation(token, async ({ context: { db, actor } }, { name, email }) => ({
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
  const accepted = await withInvitation(token, async ({ context, use }, invitation): Promise<Accepted> => {
    const { db, actor, now } = context
    const { name, email } = invitation
    if (password === undefined && !own) return { kind: 'sign in first' }
    let accountId = own?.id
    if (password !== undefined) {
      if (await accountWith(db, email)) return { kind: 'sign in first' }
      const problems = unmetPasswordRules(password, [email, name, actor.schoolName])
      if (problems.length > 0) return { kind: 'password', problems }
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
    // The invitation came to this address; of an address from another school the person shows again that it is theirs.
    if (own && own.email !== email.toLowerCase()) await askAgain(context, accountId)
    else await setConfirmed(context, accountId, email)
    await use()
    return { kind: 'accepted', email }
  })
  return accepted ?? { kind: 'used' }
}
