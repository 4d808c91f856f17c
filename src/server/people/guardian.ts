import { sql } from 'kysely'
import { v7 as uuid } from 'uuid'
import { z } from 'zod'
import { id } from '@/core/inputs'
import type { guardianInput } from '@/core/people/inputs'
import { comparableName } from '@/core/people/names'
import type { Context } from '@/server/platform/context'
import { defineCommand } from '@/server/platform/define'
import { queueMails } from '@/server/platform/mail'
import { accountInvitation } from './mails'
import { inviteGuardians } from './rights'
import { refuse, refuseField } from './words'

type GuardianInput = z.infer<typeof guardianInput>

interface OnRecord {
  readonly id: string
  readonly givenName: string
  readonly familyName: string
  readonly email: string | null
}

const fullName = (g: { givenName: string; familyName: string }) => `${g.givenName} ${g.familyName}`

function withAddress({ db }: Context, email: string): Promise<OnRecord | undefined> {
  return db
    .selectFrom('guardian')
    .select(['id', 'givenName', 'familyName', 'email'])
    .where(sql`lower(email)`, '=', email)
    .executeTakeFirst()
}

function ofApplicant({ db }: Context, guardianId: string, studentId: string): Promise<OnRecord | undefined> {
  return db
    .selectFrom('guardian as g')
    .innerJoin('guardianship as gs', 'gs.guardianId', 'g.id')
    .select(['g.id', 'g.givenName', 'g.familyName', 'g.email'])
    .where('g.id', '=', guardianId)
    .where('gs.studentId', '=', studentId)
    .executeTakeFirst()
}

/**
 * The guardian's record: the applicant's one, corrected; one found by e-mail address, completed; or a new one. With
 * an address and no account at the school yet, an invitation goes out.
 */
export async function guardianFor(
  context: Context,
  studentId: string,
  typed: GuardianInput,
): Promise<{ guardianId: string; invited: boolean }> {
  const { db, actor } = context
  const email = typed.email?.toLowerCase() ?? null
  const corrected = typed.id ? await ofApplicant(context, typed.id, studentId) : undefined
  if (typed.id && !corrected) throw refuse('guardianOfOther', {})
  const known = email ? await withAddress(context, email) : undefined
  const isOther = known && (corrected ? known.id !== corrected.id : !sameName(known, typed))
  if (isOther) throw refuseField('guardian.email', 'addressOfOther', { guardian: fullName(known) })
  const found = corrected ?? known
  const guardianId = found?.id ?? uuid()
  const { givenName, familyName, phone } = typed
  if (found)
    await db
      .updateTable('guardian')
      .set({
        givenName,
        familyName,
        ...(email || corrected ? { email } : {}),
        ...(phone ? { phone } : {}),
      })
      .where('id', '=', guardianId)
      .execute()
  else
    await db
      .insertInto('guardian')
      .values({
        schoolId: actor.schoolId,
        id: guardianId,
        givenName,
        familyName,
        email,
        phone,
        address: null,
      })
      .execute()
  const isNewAddress = email !== (found?.email?.toLowerCase() ?? null)
  const invited = email !== null && (await invite(context, guardianId, email, fullName(typed), isNewAddress))
  return { guardianId, invited }
}

const sameName = (a: OnRecord, b: GuardianInput) =>
  comparableName(fullName(a)) === comparableName(fullName(b))

/** Invites a guardian again, for a link that was lost or is too old. Earlier links go on working until they expire. */
export const inviteAgain = defineCommand({
  input: z.object({ studentId: id, guardianId: id }),
  right: inviteGuardians,
  run: async (context, { studentId, guardianId }) => {
    const guardian = await ofApplicant(context, guardianId, studentId)
    if (!guardian) throw refuse('guardianOfOther', {})
    if (!guardian.email) throw refuse('noAddress', { guardian: fullName(guardian) })
    const invited = await invite(context, guardianId, guardian.email.toLowerCase(), fullName(guardian), true)
    if (!invited) throw refuse('hasAccount', { guardian: fullName(guardian) })
    return { email: guardian.email }
  },
})

/** Invites a guardian who has no account at the school and no invitation to this address. Answers whether it did. */
async function invite(
  context: Context,
  personId: string,
  email: string,
  name: string,
  isNewAddress: boolean,
): Promise<boolean> {
  const { db, actor, now } = context
  const [member, invited] = await Promise.all([
    db
      .selectFrom('membership')
      .select('accountId')
      .where('personId', '=', personId)
      .where('role', '=', 'guardian')
      .executeTakeFirst(),
    db.selectFrom('invitation').select('id').where('personId', '=', personId).executeTakeFirst(),
  ])
  if (member || (invited && !isNewAddress)) return false
  const invitationId = uuid()
  await db
    .insertInto('invitation')
    .values({
      schoolId: actor.schoolId,
      id: invitationId,
      role: 'guardian',
      personId,
      name,
      email,
      createdAt: now,
    })
    .execute()
  await queueMails(context, accountInvitation, [
    {
      dedupe: `invitation:${invitationId}`,
      toName: name,
      toAddress: email,
      about: { invitationId, school: actor.schoolName, name },
      guardianId: personId,
    },
  ])
  return true
}
