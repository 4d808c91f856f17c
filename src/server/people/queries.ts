import { sql } from 'kysely'
import { z } from 'zod'
import { comparableName } from '@/core/people/names'
import { termOn } from '@/core/calendar/school-year'
import { defineQuery } from '@/server/platform/define'
import { civilDate, id } from '@/core/inputs'
import { endOf, firstDayOf, holds, homeroomSize } from '@/server/school/facts'
import { loadYear } from '@/server/school/load-year'
import { rollTopic } from '@/server/school/topics'
import {
  enrolStudents,
  findStudents,
  seeApplicant,
  seeStudent,
  seeStudentHistory,
  seeSupport,
} from './rights'

/** Students on roll on a date, in name order, with year group and homeroom. */
export const list = defineQuery({
  input: z.object({ date: civilDate, homeroomId: id.optional() }),
  right: findStudents,
  topics: () => [rollTopic()],
  run: ({ db }, { date, homeroomId }) =>
    db
      .selectFrom('enrolment as e')
      .innerJoin('student as s', (j) =>
        j.onRef('s.schoolId', '=', 'e.schoolId').onRef('s.id', '=', 'e.studentId'),
      )
      .innerJoin('yearGroup as g', 'g.id', 'e.yearGroupId')
      .leftJoin('homeroomMember as m', (j) =>
        j
          .onRef('m.schoolId', '=', 'e.schoolId')
          .onRef('m.studentId', '=', 'e.studentId')
          .on(holds('m.period', date)),
      )
      .leftJoin('homeroom as h', 'h.id', 'm.homeroomId')
      .select([
        's.id',
        's.number',
        's.sortName as name',
        's.preferredName as preferred',
        'g.name as yearGroup',
        'h.name as homeroom',
        firstDayOf('e.period').as('since'),
      ])
      .where(holds('e.period', date))
      .$if(homeroomId !== undefined, (q) => q.where('h.id', '=', homeroomId ?? null))
      .orderBy('s.sortName')
      .orderBy('s.number')
      .execute(),
})

/** One student's record: names, places, guardians in contact order. */
export const student = defineQuery({
  input: z.object({ studentId: id }),
  right: seeStudent,
  run: async (context, { studentId }) => {
    const { db } = context
    const record = await db
      .selectFrom('student')
      .selectAll()
      .where('id', '=', studentId)
      .executeTakeFirstOrThrow()
    const [support, maySeeHistory, mayEnrol, guardians, places] = await Promise.all([
      context.may(seeSupport, { studentId }),
      context.may(seeStudentHistory, { studentId }),
      context.may(enrolStudents, {}),
      db
        .selectFrom('guardianship as gs')
        .innerJoin('guardian as g', 'g.id', 'gs.guardianId')
        .select([
          'g.id',
          'g.givenName',
          'g.familyName',
          'g.email',
          'g.phone',
          'g.language',
          'g.address',
          'gs.relation',
          'gs.contactOrder',
          'gs.mayReceiveReports',
          sql<boolean>`exists (select 1 from membership m where m.person_id = g.id and m.role = 'guardian')`.as(
            'hasAccount',
          ),
        ])
        .where('gs.studentId', '=', studentId)
        .orderBy('gs.contactOrder')
        .execute(),
      db
        .selectFrom('enrolment as e')
        .innerJoin('yearGroup as g', 'g.id', 'e.yearGroupId')
        .select([
          sql.lit('year group').as('kind'),
          'g.id',
          'g.name',
          firstDayOf('e.period').as('from'),
          endOf('e.period').as('until'),
        ])
        .where('e.studentId', '=', studentId)
        .unionAll(
          db
            .selectFrom('homeroomMember as m')
            .innerJoin('homeroom as h', 'h.id', 'm.homeroomId')
            .select([
              sql.lit('homeroom').as('kind'),
              'h.id',
              'h.name',
              firstDayOf('m.period').as('from'),
              endOf('m.period').as('until'),
            ])
            .where('m.studentId', '=', studentId),
        )
        .unionAll(
          db
            .selectFrom('classMember as k')
            .innerJoin('class as c', 'c.id', 'k.classId')
            .select([
              sql.lit('class').as('kind'),
              'c.id',
              'c.name',
              firstDayOf('k.period').as('from'),
              endOf('k.period').as('until'),
            ])
            .where('k.studentId', '=', studentId),
        )
        .orderBy('kind', 'desc')
        .orderBy('from')
        .orderBy('name')
        .execute(),
    ])
    return {
      id: record.id,
      number: record.number,
      legalName: `${record.legalGivenName} ${record.legalFamilyName}`,
      preferredName: record.preferredName,
      sortName: record.sortName,
      birthDate: record.birthDate,
      address: record.address,
      transport: record.transport,
      supportNote: support ? record.supportNote : null,
      expectedFrom: record.number === null ? record.expectedFrom : null,
      guardians,
      places,
      maySeeHistory,
      mayEnrol,
    }
  },
})

/** Students with the same name (marks and case aside) and birth date, under legal or preferred name. */
export const possibleDuplicates = defineQuery({
  input: z.object({ givenName: z.string(), familyName: z.string(), birthDate: civilDate }),
  right: enrolStudents,
  run: async ({ db }, { givenName, familyName, birthDate }) => {
    const born = await db
      .selectFrom('student')
      .select([
        'id',
        'number',
        'legalGivenName',
        'legalFamilyName',
        'preferredName',
        'sortName',
        'birthDate',
        'address',
      ])
      .where('birthDate', '=', birthDate)
      .execute()
    const family = comparableName(familyName)
    const given = comparableName(givenName)
    return born.filter(
      (s) =>
        comparableName(s.legalFamilyName) === family &&
        [s.legalGivenName, s.preferredName ?? ''].some((name) => comparableName(name) === given),
    )
  },
})

/** What the enrolment form offers for a start date: homerooms with their numbers, the classes each homeroom proposes, who is expected. */
export const enrolForm = defineQuery({
  input: z.object({ startDate: civilDate }),
  right: enrolStudents,
  run: async ({ db }, { startDate }) => {
    const year = await loadYear(db, startDate)
    const term = year && termOn(year, startDate)
    const [yearGroups, homerooms, classes, proposed, expected] = await Promise.all([
      db.selectFrom('yearGroup').select(['id', 'name']).orderBy('position').execute(),
      db
        .selectFrom('homeroom as h')
        .select(['h.id', 'h.name', 'h.yearGroupId', homeroomSize('h.id', startDate).as('students')])
        .where('h.yearId', '=', year?.id ?? null)
        .orderBy('h.name')
        .execute(),
      db
        .selectFrom('class as c')
        .innerJoin('course as k', 'k.id', 'c.courseId')
        .innerJoin('classTerm as ct', 'ct.classId', 'c.id')
        .innerJoin('term as t', 't.id', 'ct.termId')
        .select([
          'c.id',
          'c.name',
          'k.yearGroupId',
          sql<boolean>`bool_or(t.id = ${term?.id ?? null}) is true`.as('inTerm'),
          sql<string>`string_agg(t.name, ', ' order by t.first_day)`.as('terms'),
        ])
        .where('c.yearId', '=', year?.id ?? null)
        .groupBy(['c.schoolId', 'c.id', 'k.yearGroupId'])
        .orderBy('c.name')
        .execute(),
      db.selectFrom('homeroomClass').select(['homeroomId', 'classId']).execute(),
      db
        .selectFrom('student')
        .select([
          'id',
          'legalGivenName',
          'legalFamilyName',
          'preferredName',
          'sortName',
          'birthDate',
          'acceptedFor',
          'expectedIn',
          'expectedFrom',
        ])
        .where('number', 'is', null)
        .orderBy('sortName')
        .execute(),
    ])
    return { year, term, yearGroups, homerooms, classes, proposed, expected }
  },
})

/** The guardians already on record for an applicant. */
export const applicantGuardians = defineQuery({
  input: z.object({ studentId: id }),
  right: seeApplicant,
  run: ({ db }, { studentId }) =>
    db
      .selectFrom('guardianship as gs')
      .innerJoin('guardian as g', 'g.id', 'gs.guardianId')
      .select(['g.id', 'g.givenName', 'g.familyName', 'g.email', 'g.phone', 'gs.relation'])
      .where('gs.studentId', '=', studentId)
      .orderBy('gs.contactOrder')
      .execute(),
})
