import { sql } from 'kysely'
import { v7 as uuid } from 'uuid'
import { z } from 'zod'
import { sortName } from '@/core/people/names'
import { queueMails } from '@/server/mail/queue-mail'
import { config } from '@/server/platform/config'
import { refuseField } from '@/server/platform/failure'
import { named, optionalLine } from '@/server/platform/inputs'
import type { Context } from '@/server/platform/registry'
import { initialPassword, makeAccount } from '@/server/platform/make-account'

/** A student's guardian as the office types it. */
export const guardianInput = z.object({
  givenName: named("The guardian's given name", 80),
  familyName: named("The guardian's family name", 80),
  relation: named('The relation', 40),
  email: z
    .email('This is not an e-mail address. It needs a name, an @ and a place, such as bram@hollins.example.')
    .nullish()
    .or(z.literal('').transform(() => null)),
  phone: optionalLine("The guardian's telephone", 40),
})

/** Finds a guardian by e-mail or makes a new one, with an account and an invitation when there is an address. */
export async function guardianFor(
  context: Context,
  guardian: z.infer<typeof guardianInput>,
): Promise<{ guardianId: string; invited: boolean }> {
  const { db, actor } = context
  const email = guardian.email?.toLowerCase() ?? null
  const known = email
    ? await db
        .selectFrom('guardian')
        .selectAll()
        .where(sql`lower(email)`, '=', email)
        .executeTakeFirst()
    : undefined
  if (known) {
    if (
      sortName(known.given_name, known.family_name).toLowerCase() !==
      sortName(guardian.givenName, guardian.familyName).toLowerCase()
    )
      throw refuseField(
        'guardian.email',
        `This address belongs to ${known.given_name} ${known.family_name}. Use that name for the same person, or another address.`,
      )
    return { guardianId: known.id, invited: false }
  }
  const guardianId = uuid()
  await db
    .insertInto('guardian')
    .values({
      school_id: actor.schoolId,
      id: guardianId,
      given_name: guardian.givenName,
      family_name: guardian.familyName,
      email,
      phone: guardian.phone,
      address: null,
    })
    .execute()
  if (email) await inviteGuardian(context, guardianId, email, `${guardian.givenName} ${guardian.familyName}`)
  return { guardianId, invited: email !== null }
}

async function inviteGuardian(context: Context, guardianId: string, email: string, name: string) {
  const { db, actor } = context
  const taken = await db.selectFrom('auth.user').select('id').where('username', '=', email).executeTakeFirst()
  const password = initialPassword()
  const accountId = taken?.id ?? (await makeAccount(db, { name, email, username: email, password }))
  await db
    .insertInto('membership')
    .values({
      school_id: actor.schoolId,
      account_id: accountId,
      role: 'guardian',
      person_id: guardianId,
      name,
    })
    .onConflict((c) => c.doNothing())
    .execute()
  const how = taken
    ? 'with the user name and password you already have.'
    : `with the user name ${email} and the initial password\n\n    ${password}\n\nYou choose a password of your own when you first sign in.`
  await queueMails(context, [
    {
      dedupe: `invitation:${guardianId}`,
      toName: name,
      toAddress: email,
      subject: `${actor.schoolName}: your account`,
      body: `Dear ${name},\n\n${actor.schoolName} keeps report cards for you in Kedge. Sign in at ${config().KEDGE_URL} ${how}\n\n${actor.schoolName}`,
      guardianId,
    },
  ])
}
