import { sql } from 'kysely'
import { v7 as uuid } from 'uuid'
import { z } from 'zod'
import { termOn } from '@/core/calendar/school-year'
import { shortDate } from '@/core/calendar/date-words'
import { sortName } from '@/core/people/names'
import { refuse, refuseField } from '@/server/platform/failure'
import { civilDate, id, named, optionalLine } from '@/server/platform/inputs'
import { defineCommand, type Context } from '@/server/platform/registry'
import { loadYear } from '@/server/year/load-year'
import { guardianFor, guardianInput } from './guardian'
import { mayEnrol } from './policy'
import { possibleDuplicates } from './queries'

const input = z.object({
  applicantId: id.nullish(),
  givenName: named('The given name', 80),
  familyName: named('The family name', 80),
  preferredName: optionalLine('The preferred name', 80),
  birthDate: civilDate,
  address: optionalLine('The address'),
  yearGroupId: id,
  homeroomId: id,
  classIds: z.array(id).max(60),
  startDate: civilDate,
  guardian: guardianInput,
  /** Set once the person has seen the students with the same name and birth date. */
  notADuplicate: z.boolean().default(false),
})
type EnrolInput = z.infer<typeof input>

async function checkDates({ db, today }: Context, { birthDate, startDate }: EnrolInput) {
  if (birthDate > today)
    throw refuseField(
      'birthDate',
      `The birth date ${shortDate(birthDate, true)} is in the future. Check the year.`,
    )
  const age = Number(startDate.slice(0, 4)) - Number(birthDate.slice(0, 4))
  if (age < 3 || age > 22)
    throw refuseField(
      'birthDate',
      `Born in ${birthDate.slice(0, 4)}, the student would be ${age} when starting. Check the year.`,
    )
  const year = await loadYear(db, startDate)
  if (!year) throw refuse('There is no academic year yet. Make one under School year first.')
  if (startDate < year.firstDay || startDate > year.lastDay)
    throw refuseField(
      'startDate',
      `The start date lies outside ${year.name}, which runs from ${shortDate(year.firstDay, true)} to ${shortDate(year.lastDay, true)}.`,
    )
  const term = termOn(year, startDate) ?? year.terms.find((t) => t.firstDay > startDate)
  if (!term)
    throw refuseField(
      'startDate',
      'No term is left in this academic year after that date. Choose an earlier start date.',
    )
  return { year, term }
}

async function checkPlaces(
  { db }: Context,
  asked: EnrolInput,
  yearId: string,
  term: { id: string; name: string },
) {
  const homeroom = await db
    .selectFrom('homeroom')
    .selectAll()
    .where('id', '=', asked.homeroomId)
    .where('year_id', '=', yearId)
    .executeTakeFirst()
  if (!homeroom)
    throw refuseField(
      'homeroomId',
      'This homeroom does not exist in the academic year of the start date. Choose one from the list.',
    )
  if (homeroom.year_group_id !== asked.yearGroupId)
    throw refuseField(
      'homeroomId',
      `${homeroom.name} belongs to another year group. Choose a homeroom of the year group above.`,
    )
  if (asked.classIds.length === 0) return
  const classes = await db
    .selectFrom('class as c')
    .leftJoin('class_term as t', (j) => j.onRef('t.class_id', '=', 'c.id').on('t.term_id', '=', term.id))
    .select(['c.id', 'c.name', 'c.year_id', 't.term_id'])
    .where('c.id', 'in', asked.classIds)
    .execute()
  if (classes.length < new Set(asked.classIds).size)
    throw refuseField('classIds', 'One of the classes is not in this school. Take it off and save again.')
  const elsewhere = classes.filter((c) => c.term_id === null || c.year_id !== yearId).map((c) => c.name)
  if (elsewhere.length > 0)
    throw refuseField(
      'classIds',
      `${elsewhere.join(' and ')} ${elsewhere.length === 1 ? 'does' : 'do'} not run in the ${term.name} term. Take ${elsewhere.length === 1 ? 'it' : 'them'} off, or start in a term in which ${elsewhere.length === 1 ? 'it runs' : 'they run'}.`,
    )
}

async function nextNumber({ db, actor }: Context): Promise<number> {
  const { next } = await db
    .insertInto('student_number')
    .values({ school_id: actor.schoolId, next: 2 })
    .onConflict((c) => c.column('school_id').doUpdateSet({ next: sql`student_number.next + 1` }))
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
    legal_given_name: asked.givenName,
    legal_family_name: asked.familyName,
    preferred_name: asked.preferredName,
    sort_name: sortName(asked.preferredName ?? asked.givenName, asked.familyName),
    birth_date: asked.birthDate,
  }
  if (asked.applicantId) {
    const applicant = await db
      .selectFrom('student')
      .select(['number', 'sort_name'])
      .where('id', '=', asked.applicantId)
      .forUpdate()
      .executeTakeFirst()
    if (!applicant) throw refuse('This applicant is not on record any more. Enrol the student as a new one.')
    if (applicant.number !== null)
      throw refuse(
        `${applicant.sort_name} is enrolled already, with number ${applicant.number}. Nothing was changed.`,
      )
    const number = await nextNumber(context)
    await db
      .updateTable('student')
      .set((eb) => ({
        ...record,
        number,
        version: eb('version', '+', 1),
        ...(asked.address ? { address: asked.address } : {}),
      }))
      .where('id', '=', asked.applicantId)
      .execute()
    return { studentId: asked.applicantId, number }
  }
  const studentId = uuid()
  const number = await nextNumber(context)
  await db
    .insertInto('student')
    .values({ school_id: actor.schoolId, id: studentId, number, address: asked.address, ...record })
    .execute()
  return { studentId, number }
}

/** Enrols a student: permanent number, year group, homeroom, classes and guardian, all from the start date on. */
export const enrol = defineCommand({
  name: 'people.enrol',
  input,
  allow: mayEnrol,
  run: async (context, asked) => {
    const { db, actor } = context
    const { year, term } = await checkDates(context, asked)
    await checkPlaces(context, asked, year.id, term)
    if (!asked.notADuplicate) {
      const alike = (await possibleDuplicates.run(context, asked)).filter((s) => s.id !== asked.applicantId)
      if (alike.length > 0)
        throw refuse(
          `${alike.map((s) => s.sort_name).join(', ')} has the same name and birth date. Look at that record first; if this is somebody else, say so and save again.`,
        )
    }
    const { studentId, number } = await studentFor(context, asked)
    const period = `[${asked.startDate},)`
    const own = { school_id: actor.schoolId, student_id: studentId }
    await db
      .insertInto('enrolment')
      .values({ ...own, year_id: year.id, year_group_id: asked.yearGroupId, period })
      .execute()
    await db
      .insertInto('homeroom_member')
      .values({ ...own, homeroom_id: asked.homeroomId, period })
      .execute()
    const classIds = [...new Set(asked.classIds)]
    if (classIds.length > 0)
      await db
        .insertInto('class_member')
        .values(classIds.map((class_id) => ({ ...own, class_id, period })))
        .execute()
    const { guardianId, invited } = await guardianFor(context, asked.guardian)
    await db
      .insertInto('guardianship')
      .values({ ...own, guardian_id: guardianId, relation: asked.guardian.relation, contact_order: 1 })
      .onConflict((c) => c.doNothing())
      .execute()
    await context.changed('today')
    await context.changed(`homeroom:${asked.homeroomId}`)
    return { studentId, number, guardianInvited: invited }
  },
})
