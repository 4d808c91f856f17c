import { sql } from 'kysely'
import { v7 as uuid } from 'uuid'
import { z } from 'zod'
import { id, expectedVersion } from '@/core/inputs'
import { guardianRecordInput, type guardianInput } from '@/core/people/inputs'
import { comparableName } from '@/core/people/names'
import type { Context } from '@/server/platform/context'
import { defineCommand } from '@/server/platform/define'
import { queueMails } from '@/server/platform/mail'
import { endAccess } from '@/server/platform/invitation'
import { accountInvitation } from './mails'
import { checkUnchanged, updateIfUnchanged } from '@/server/platform/write'
import { changeRecords, inviteGuardians } from './rights'
import { studentTopic } from './topics'
import { refuse, refuseField } from './messages'

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

function ofStudents(
  { db }: Context,
  guardianId: string,
  studentIds: readonly string[],
): Promise<OnRecord | undefined> {
  return db
    .selectFrom('guardian as g')
    .innerJoin('guardianship as gs', 'gs.guardianId', 'g.id')
    .select(['g.id', 'g.givenName', 'g.familyName', 'g.email'])
    .where('g.id', '=', guardianId)
    .where('gs.studentId', 'in', [...studentIds])
    .executeTakeFirst()
}

/**
 * The guardian's record: the applicant's or a sibling's one, corrected; one found by e-mail address, completed; or a new one. With
 * an address and no account at the school yet, an invitation goes out.
 * @param family the student, and a brother or sister whose guardians are taken over
 * @param place where the guardian stands in the form
 */
export async function guardianFor(
  context: Context,
  family: readonly string[],
  typed: GuardianInput,
  place: string,
): Promise<{ guardianId: string; invited: boolean }> {
  const { db, actor } = context
  const email = typed.email?.toLowerCase() ?? null
  const corrected = typed.id ? await ofStudents(context, typed.id, family) : undefined
  if (typed.id && !corrected) throw refuse('guardianOfOther', {})
  const known = email ? await withAddress(context, email) : undefined
  const isOther = known && (corrected ? known.id !== corrected.id : !sameName(known, typed))
  if (isOther) throw refuseField(`${place}.email`, 'addressOfOther', { guardian: fullName(known) })
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

const sameName = (a: OnRecord, b: Pick<GuardianInput, 'givenName' | 'familyName'>) =>
  comparableName(fullName(a)) === comparableName(fullName(b))

/**
 * The guardian who has an e-mail address already: of a sibling, where the name is the same as well.
 * @returns undefined where nobody else has the address; refused where somebody of another name has it
 */
async function knownGuardian(
  context: Context,
  email: string | null,
  { guardianId, ...typed }: { guardianId?: string | null; givenName: string; familyName: string },
): Promise<OnRecord | undefined> {
  const known = email ? await withAddress(context, email) : undefined
  if (!known || known.id === guardianId) return undefined
  if (guardianId || !sameName(known, typed))
    throw refuseField('email', 'addressOfOther', { guardian: fullName(known) })
  return known
}

/** Puts a guardian that the school knows on a student's record: what was typed completes the guardian's own. */
async function linkKnown(
  context: Context,
  studentId: string,
  { id: guardianId, ...known }: OnRecord,
  { phone, address }: { phone: string | null; address: string | null },
): Promise<string> {
  const { db } = context
  if (await ofStudents(context, guardianId, [studentId]))
    throw refuseField('email', 'alreadyGuardian', { guardian: fullName(known) })
  const more = { ...(phone ? { phone } : {}), ...(address ? { address } : {}) }
  if (Object.keys(more).length > 0)
    await db.updateTable('guardian').set(more).where('id', '=', guardianId).execute()
  return guardianId
}

/** Puts a guardian at a place in the order to call; the others keep their order around it. */
async function reorder({ db }: Context, studentId: string, guardianId: string, contactOrder: number) {
  await sql`update guardianship g set contact_order = o.n from (
      select guardian_id, row_number() over (order by case when guardian_id = ${guardianId} then ${contactOrder * 2 - 1}::int
        else 2 * row_number end) as n
      from (select guardian_id, row_number() over (order by guardian_id = ${guardianId}, contact_order)::int as row_number
        from guardianship where student_id = ${studentId}) r
    ) o where g.student_id = ${studentId} and g.guardian_id = o.guardian_id and g.contact_order <> o.n`.execute(
    db,
  )
}

/**
 * Adds a guardian to a student, or corrects one. A guardian's own record is shared by siblings; relation, order to
 * call and reports belong to the student.
 */
export const saveGuardian = defineCommand({
  input: guardianRecordInput,
  right: changeRecords,
  undo: {
    days: 30,
    whenChangedSince: 'stop',
    topics: ({ studentId }: { studentId: string }) => [studentTopic(studentId)],
  },
  run: async (context, asked) => {
    const { db, actor } = context
    const {
      studentId,
      relation,
      contactOrder,
      mayReceiveReports,
      givenName,
      familyName,
      phone,
      language,
      address,
    } = asked
    const email = asked.email?.toLowerCase() ?? null
    const record = { givenName, familyName, email, phone, language, address }
    const link = { relation, mayReceiveReports }
    const known = await knownGuardian(context, email, asked)
    const guardianId = known
      ? await linkKnown(context, studentId, known, record)
      : (asked.guardianId ?? uuid())
    if (asked.guardianId) {
      const linked = await ofStudents(context, guardianId, [studentId])
      if (!linked && asked.expectedRelation > 0) throw refuse('guardianOfOther', {})
      const what = "this guardian's record"
      await updateIfUnchanged(context, 'guardian', { id: guardianId }, asked.expectedVersion, record, {
        what,
      })
      if (linked)
        await updateIfUnchanged(
          context,
          'guardianship',
          { studentId, guardianId },
          asked.expectedRelation,
          link,
          {
            what,
          },
        )
    } else if (!known)
      await db
        .insertInto('guardian')
        .values({ schoolId: actor.schoolId, id: guardianId, ...record })
        .execute()
    if (asked.expectedRelation === 0)
      await db
        .insertInto('guardianship')
        .values({ schoolId: actor.schoolId, studentId, guardianId, contactOrder: 99, ...link })
        .execute()
    await reorder(context, studentId, guardianId, contactOrder)
    context.changed(studentTopic(studentId))
    return { guardianId }
  },
})

/** Takes a guardian off a student's record; the guardian's own record stays. */
export const removeGuardian = defineCommand({
  input: z.object({ studentId: id, guardianId: id, expectedVersion }),
  right: changeRecords,
  undo: {
    days: 30,
    whenChangedSince: 'stop',
    topics: ({ studentId }: { studentId: string }) => [studentTopic(studentId)],
  },
  run: async (context, { studentId, guardianId, expectedVersion: version }) => {
    await checkUnchanged(context, 'guardianship', { studentId, guardianId }, version, 'this guardian')
    await context.db
      .deleteFrom('guardianship')
      .where('studentId', '=', studentId)
      .where('guardianId', '=', guardianId)
      .execute()
    context.changed(studentTopic(studentId))
    return null
  },
})

/** Invites a guardian again, for a link that was lost or is too old. Earlier links stop working. */
export const inviteAgain = defineCommand({
  input: z.object({ studentId: id, guardianId: id }),
  right: inviteGuardians,
  needsNoVersion: 'creates',
  run: async (context, { studentId, guardianId }) => {
    const guardian = await ofStudents(context, guardianId, [studentId])
    if (!guardian) throw refuse('guardianOfOther', {})
    if (!guardian.email) throw refuse('noAddress', { guardian: fullName(guardian) })
    const invited = await invite(context, guardianId, guardian.email.toLowerCase(), fullName(guardian), true)
    if (!invited) throw refuse('hasAccount', { guardian: fullName(guardian) })
    return { email: guardian.email }
  },
})

/** Ends what a guardian can see in Kedge; the record, and what was mailed, stay. */
export const endGuardianAccess = defineCommand({
  input: z.object({ studentId: id, guardianId: id }),
  right: inviteGuardians,
  needsNoVersion: 'a state, compared',
  run: async (context, { studentId, guardianId }) => {
    const guardian = await ofStudents(context, guardianId, [studentId])
    if (!guardian) throw refuse('guardianOfOther', {})
    if (!(await endAccess(context, guardianId))) throw refuse('noAccess', { guardian: fullName(guardian) })
    const children = await context.db
      .selectFrom('guardianship')
      .select('studentId')
      .where('guardianId', '=', guardianId)
      .execute()
    for (const child of children) context.changed(studentTopic(child.studentId))
    return null
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
