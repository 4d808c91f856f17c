import { sql } from 'kysely'
import { v7 as uuid } from 'uuid'
import type { z } from 'zod'
import { termOn } from '@/core/calendar/school-year'
import { enrolInput } from '@/core/people/inputs'
import { sortName } from '@/core/people/names'
import type { Context } from '@/server/platform/context'
import { defineCommand } from '@/server/platform/define'
import { loadYear } from '@/server/school/load-year'
import { arrivalsTopic, homeroomTopic, registersTopic, rollTopic } from '@/server/school/topics'
import { guardianFor } from './guardian'
import { checkClasses, checkHomeroom } from './memberships'
import { possibleDuplicates } from './queries'
import { enrolStudents } from './rights'
import { refuse, refuseField } from './messages'

type EnrolInput = z.infer<typeof enrolInput>

async function checkDates({ db, today }: Context, { birthDate, startDate }: EnrolInput) {
  if (birthDate > today) throw refuseField('birthDate', 'bornInFuture', { date: birthDate })
  const born = birthDate.slice(0, 4)
  const age = Number(startDate.slice(0, 4)) - Number(born)
  if (age < 3 || age > 22) throw refuseField('birthDate', 'age', { born, age })
  const year = await loadYear(db, startDate)
  if (!year) throw refuse('noYear', {})
  if (startDate < year.firstDay || startDate > year.lastDay)
    throw refuseField('startDate', 'outsideYear', {
      year: year.name,
      firstDay: year.firstDay,
      lastDay: year.lastDay,
    })
  const term = termOn(year, startDate) ?? year.terms.find((t) => t.firstDay > startDate)
  if (!term) throw refuseField('startDate', 'noTermLeft', {})
  return { year, term }
}

/** Whoever enrols a child born on the same day waits until this is done, so that the same child is seen. */
async function checkDuplicates(context: Context, asked: EnrolInput) {
  const { db, actor } = context
  await sql`select pg_advisory_xact_lock(hashtextextended(${`enrol ${actor.schoolId} ${asked.birthDate}`}, 2))`.execute(
    db,
  )
  if (asked.notADuplicate) return
  const found = await possibleDuplicates.run(context, asked)
  const students = found
    .filter((s) => s.alike === 'same' && s.id !== asked.applicantId)
    .map((s) => s.sortName)
  if (students.length > 0) throw refuse('duplicate', { students })
}

async function nextNumber({ db, actor }: Context): Promise<number> {
  const { next } = await db
    .insertInto('studentNumber')
    .values({ schoolId: actor.schoolId, next: 2 })
    .onConflict((c) => c.column('schoolId').doUpdateSet({ next: sql`student_number.next + 1` }))
    .returning('next')
    .executeTakeFirstOrThrow()
  return next - 1
}

/** Gives the student a record and the permanent number; an applicant keeps the record there is. */
async function studentFor(
  context: Context,
  asked: EnrolInput,
): Promise<{ studentId: string; number: number }> {
  const { db, actor } = context
  const record = {
    legalGivenName: asked.givenName,
    legalFamilyName: asked.familyName,
    preferredName: asked.preferredName,
    sortName: sortName(asked.preferredName ?? asked.givenName, asked.familyName),
    birthDate: asked.birthDate,
  }
  if (asked.applicantId) {
    const applicant = await db
      .selectFrom('student')
      .select(['number', 'sortName', 'mergedInto'])
      .where('id', '=', asked.applicantId)
      .forUpdate()
      .executeTakeFirst()
    if (!applicant) throw refuse('applicantGone', {})
    if (applicant.mergedInto) throw refuse('merged', { name: applicant.sortName })
    if (applicant.number !== null)
      throw refuse('alreadyEnrolled', { student: applicant.sortName, number: applicant.number })
    const number = await nextNumber(context)
    await db
      .updateTable('student')
      .set({ ...record, number, ...(asked.address ? { address: asked.address } : {}) })
      .where('id', '=', asked.applicantId)
      .execute()
    return { studentId: asked.applicantId, number }
  }
  const studentId = uuid()
  const number = await nextNumber(context)
  await db
    .insertInto('student')
    .values({ schoolId: actor.schoolId, id: studentId, number, address: asked.address, ...record })
    .execute()
  return { studentId, number }
}

/**
 * Puts the guardians on the student's record, to be called in their order.
 * @returns the addresses that get an invitation
 */
async function addGuardians(
  context: Context,
  studentId: string,
  { guardian, guardians, siblingId }: EnrolInput,
): Promise<readonly string[]> {
  const { db, actor } = context
  const family = siblingId ? [studentId, siblingId] : [studentId]
  const invited: string[] = []
  for (const [i, typed] of [guardian, ...guardians].entries()) {
    /* eslint-disable no-await-in-loop -- each may be the record that the one before has made; there are few */
    const place = i === 0 ? 'guardian' : `guardians.${i - 1}`
    const found = await guardianFor(context, family, typed, place)
    if (found.invited && typed.email) invited.push(typed.email)
    await db
      .insertInto('guardianship')
      .values((eb) => ({
        schoolId: actor.schoolId,
        studentId,
        guardianId: found.guardianId,
        relation: typed.relation,
        contactOrder: eb
          .selectFrom('guardianship')
          .select(sql<number>`coalesce(max(contact_order), 0) + 1`.as('next'))
          .where('studentId', '=', studentId),
      }))
      .onConflict((c) =>
        c.columns(['schoolId', 'studentId', 'guardianId']).doUpdateSet({ relation: typed.relation }),
      )
      .execute()
    /* eslint-enable no-await-in-loop */
  }
  return invited
}

/** Enrols a student: permanent number, year group, homeroom, classes and guardians, all from the start date on. */
export const enrol = defineCommand({
  input: enrolInput,
  right: enrolStudents,
  needsNoVersion: 'creates; an applicant is locked and enrolled once',
  undo: {
    days: 7,
    whenChangedSince: 'stop',
    topics: ({ homeroomId }: EnrolInput) => [arrivalsTopic(), homeroomTopic(homeroomId), registersTopic()],
  },
  run: async (context, asked) => {
    const { db, actor } = context
    const { year, term } = await checkDates(context, asked)
    await checkHomeroom(context, asked.homeroomId, year.id, new Set([asked.yearGroupId]))
    await checkClasses(context, 'classIds', asked.classIds, year.id, term)
    await checkDuplicates(context, asked)
    const { studentId, number } = await studentFor(context, asked)
    const period = `[${asked.startDate},)`
    const own = { schoolId: actor.schoolId, studentId }
    await db
      .insertInto('enrolment')
      .values({ ...own, yearId: year.id, yearGroupId: asked.yearGroupId, period })
      .execute()
    await db
      .insertInto('homeroomMember')
      .values({ ...own, homeroomId: asked.homeroomId, period })
      .execute()
    const classIds = [...new Set(asked.classIds)]
    if (classIds.length > 0)
      await db
        .insertInto('classMember')
        .values(classIds.map((classId) => ({ ...own, classId, period })))
        .execute()
    const invited = await addGuardians(context, studentId, asked)
    context.changed(arrivalsTopic(), homeroomTopic(asked.homeroomId), registersTopic(), rollTopic())
    return { studentId, number, invited }
  },
})
