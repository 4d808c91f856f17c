import { sql } from 'kysely'
import { v7 as uuid } from 'uuid'
import { z } from 'zod'
import { id, expectedVersion } from '@/core/inputs'
import { newPasswordInput, staffFields, staffInput, staffRolesInput } from '@/core/people/inputs'
import { sortName } from '@/core/people/names'
import { makeAccount, noAddress } from '@/server/platform/account'
import { config } from '@/server/platform/config'
import { addressOf, isUsedElsewhere, opensByMail } from '@/server/platform/confirmed-address'
import type { Context } from '@/server/platform/context'
import { defineCommand } from '@/server/platform/define'
import { defineFields } from '@/server/platform/fields'
import { queueMails } from '@/server/platform/mail'
import { storePassword } from '@/server/platform/new-password'
import { endSessionOf, endSessionsAt, sessionInput } from '@/server/platform/session-list'
import { checkUnchanged } from '@/server/platform/write'
import { accountOpened } from './mails'
import { addStaff, changeStaff } from './rights'
import { staffTopic } from './topics'
import { refuse, refuseField } from './messages'
import { unmetPasswordRules } from '@/server/platform/password-rule'

function checkStrength(password: string, own: readonly string[]): void {
  const rules = unmetPasswordRules(password, own)
  if (rules.length > 0) throw refuseField('password', 'weak', { rules })
}

/** Refuses a user name or an address that another account of the installation has. */
async function checkFree({ db }: Context, username: string | undefined, email: string | null, own?: string) {
  const taken = await db
    .withoutPlugins()
    .selectFrom('auth.user')
    .select(['username', 'email'])
    .where((eb) =>
      eb.or([
        ...(username ? [eb('username', '=', username)] : []),
        ...(email ? [eb('email', '=', email)] : []),
        eb.val(false),
      ]),
    )
    .$if(own !== undefined, (q) => q.where('id', '!=', own ?? ''))
    .execute()
  if (username && taken.some((u) => u.username === username))
    throw refuseField('username', 'usernameTaken', { username })
  if (email && taken.length > 0) throw refuseField('email', 'emailTaken', { email })
}

/** Adds a member of staff with an account. The initial password is typed or made by whoever adds them. */
export const create = defineCommand({
  input: staffInput,
  right: addStaff,
  needsNoVersion: 'creates',
  run: async (context, { givenName, familyName, username, roles, email: typed, phone, password }) => {
    const { db, actor } = context
    const email = typed?.toLowerCase() ?? null
    const name = `${givenName} ${familyName}`
    checkStrength(password, [username, name, actor.schoolName])
    // Two who choose the same user name at once come one after the other.
    await sql`select pg_advisory_xact_lock(hashtextextended(${`account ${username}`}, 3))`.execute(db)
    await checkFree(context, username, email)
    const staffId = uuid()
    await db
      .insertInto('staffMember')
      .values({
        schoolId: actor.schoolId,
        id: staffId,
        givenName,
        familyName,
        sortName: sortName(givenName, familyName),
        email,
        phone,
      })
      .execute()
    const accountId = await makeAccount(db, {
      name,
      email: email ?? noAddress(username, actor.schoolId),
      username,
      password,
      mustChangePassword: true,
    })
    await db
      .insertInto('membership')
      .values(roles.map((role) => ({ schoolId: actor.schoolId, accountId, role, personId: staffId, name })))
      .execute()
    context.changed(staffTopic())
    return { staffId, username }
  },
})

/** Keeps the fields of a staff record as they are typed; name and address of the account follow. */
export const setMember = defineFields<{ staffId: string }>({
  table: 'staffMember',
  what: 'this field',
  scope: z.object({ staffId: id }),
  idOf: ({ staffId }) => staffId,
  fields: staffFields,
  right: changeStaff,
  check: async (context, before, changes) => {
    const { db } = context
    const after = { ...before, ...changes } as {
      id: string
      givenName: string
      familyName: string
      email: string | null
    }
    const account = await accountOf(context, after.id)
    const email = after.email?.toLowerCase() ?? null
    // An account that another school uses too is not this school's to change.
    const own =
      account && !(await isUsedElsewhere(context.db, context.actor.schoolId, account.accountId))
        ? account
        : undefined
    if (email && own) await checkFree(context, undefined, email, own.accountId)
    const name = `${after.givenName} ${after.familyName}`
    if (own)
      await db
        .withoutPlugins()
        .updateTable('auth.user')
        .set({
          name,
          ...('email' in changes
            ? { email: email ?? noAddress(own.accountId, context.actor.schoolId), emailVerified: false }
            : {}),
        })
        .where('id', '=', own.accountId)
        .execute()
    await db.updateTable('membership').set({ name }).where('personId', '=', after.id).execute()
    return { sortName: sortName(after.givenName, after.familyName) }
  },
  topics: () => [staffTopic()],
})

/** The account of a staff member at this school, its rows locked. */
export async function accountOf({ db }: Context, staffId: string) {
  const rows = await db
    .selectFrom('membership')
    .select(['accountId', 'role', 'active', 'name'])
    .where('personId', '=', staffId)
    .where('role', 'not in', ['guardian', 'student'])
    .orderBy('role')
    .forUpdate()
    .execute()
  const [first] = rows
  return (
    first && {
      accountId: first.accountId,
      name: first.name,
      roles: rows.map((row) => row.role),
      active: first.active,
    }
  )
}

export async function accountIfUnchanged(context: Context, staffId: string, version: number) {
  await checkUnchanged(context, 'staffMember', { id: staffId }, version, 'this account')
  const account = await accountOf(context, staffId)
  if (!account) {
    const { sortName: name } = await context.db
      .selectFrom('staffMember')
      .select('sortName')
      .where('id', '=', staffId)
      .executeTakeFirstOrThrow()
    throw refuse('noAccount', { name })
  }
  return account
}

/** Refuses to leave the school without an active administrator; two who try it at once come one after the other. */
export async function keepAdministrator({ db, actor }: Context, accountId: string, name: string) {
  await sql`select pg_advisory_xact_lock(hashtextextended(${`administrators ${actor.schoolId}`}, 4))`.execute(
    db,
  )
  const other = await db
    .selectFrom('membership')
    .innerJoin('staffMember', 'staffMember.id', 'membership.personId')
    .select('accountId')
    .where('role', '=', 'administrator')
    .where('active', '=', true)
    .where('lastDay', 'is', null)
    .where('accountId', '!=', accountId)
    .limit(1)
    .executeTakeFirst()
  if (!other) throw refuse('lastAdministrator', { name })
}

/** Ends the sessions in which an account works at this school; those at another school go on. */
export const endSessions = ({ db, actor }: Context, accountId: string) =>
  endSessionsAt(db, accountId, actor.schoolId)

/** Sets what a member of staff may do. Their other pages follow at the next request. */
export const setRoles = defineCommand({
  input: staffRolesInput,
  right: changeStaff,
  run: async (context, { staffId, expectedVersion: version, roles }) => {
    const { db, actor } = context
    const account = await accountIfUnchanged(context, staffId, version)
    if (account.roles.includes('administrator') && !roles.includes('administrator'))
      await keepAdministrator(context, account.accountId, account.name)
    const gone = account.roles.filter((role) => !(roles as readonly string[]).includes(role))
    const added = roles.filter((role) => !account.roles.includes(role))
    if (added.length > 0)
      await db
        .insertInto('membership')
        .values(
          added.map((role) => ({
            schoolId: actor.schoolId,
            accountId: account.accountId,
            role,
            personId: staffId,
            name: account.name,
            active: account.active,
          })),
        )
        .execute()
    if (gone.length > 0)
      await db.deleteFrom('membership').where('personId', '=', staffId).where('role', 'in', gone).execute()
    context.changed(staffTopic())
    return null
  },
})

/** Gives a member of staff a new initial password; they are signed out everywhere and choose their own. */
export const resetPassword = defineCommand({
  input: newPasswordInput,
  right: changeStaff,
  run: async (context, { staffId, expectedVersion: version, password }) => {
    const { actor } = context
    const account = await accountIfUnchanged(context, staffId, version)
    if (await isUsedElsewhere(context.db, actor.schoolId, account.accountId))
      throw refuse('usedElsewhere', { name: account.name })
    const db = context.db.withoutPlugins()
    const user = await db
      .selectFrom('auth.user')
      .select('username')
      .where('id', '=', account.accountId)
      .executeTakeFirstOrThrow()
    checkStrength(password, [user.username ?? '', account.name, actor.schoolName])
    await storePassword(context, account.accountId, password, { mustChange: true })
    await endSessions(context, account.accountId)
    context.changed(staffTopic())
    return null
  },
})

/**
 * Mails a member of staff their user name, with a link to choose a password: instead of handing over a slip, or when
 * they have forgotten theirs. A password itself is never mailed. The one they have works until the link is used.
 */
export const mailSignIn = defineCommand({
  input: z.object({ staffId: id }),
  right: changeStaff,
  needsNoVersion: 'creates',
  run: async (context, { staffId }) => {
    const { actor, runId } = context
    const account = await accountOf(context, staffId)
    if (!account?.active) throw refuse('notActive', {})
    const address = await addressOf(context, account.accountId)
    if (!address) throw refuse('noAddress', { name: account.name })
    if (!(await opensByMail(account.accountId, address))) throw refuse('notConfirmed', { name: account.name })
    const { username } = await context.db
      .withoutPlugins()
      .selectFrom('auth.user')
      .select('username')
      .where('id', '=', account.accountId)
      .executeTakeFirstOrThrow()
    await queueMails(context, accountOpened, [
      {
        dedupe: `sign-in:${runId}`,
        toName: account.name,
        toAddress: address.email,
        about: {
          accountId: account.accountId,
          school: actor.schoolName,
          name: account.name,
          username: username ?? address.email,
          address: config().KEDGE_URL,
        },
      },
    ])
    return { email: address.email }
  },
})

/** Ends one session of a member of staff at this school: a computer left open, a telephone that was lost. */
export const endSession = defineCommand({
  input: sessionInput.extend({ staffId: id }),
  right: changeStaff,
  needsNoVersion: 'ends what there is',
  run: async (context, { staffId, sessionId }) => {
    const account = await accountOf(context, staffId)
    if (account)
      await endSessionOf(context.db, account.accountId, sessionId, { schoolId: context.actor.schoolId })
    return null
  },
})

/** Opens an account again, with the roles and the password it had. What they taught was given up and stays so. */
export const reactivate = defineCommand({
  input: z.object({ staffId: id, expectedVersion }),
  right: changeStaff,
  run: async (context, { staffId, expectedVersion: version }) => {
    await accountIfUnchanged(context, staffId, version)
    await context.db.updateTable('membership').set({ active: true }).where('personId', '=', staffId).execute()
    await context.db.updateTable('staffMember').set({ lastDay: null }).where('id', '=', staffId).execute()
    context.changed(staffTopic())
    return null
  },
})
