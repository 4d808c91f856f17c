import { sql } from 'kysely'
import { z } from 'zod'
import type { StudentField } from '@/core/people/inputs'
import { likeness, nearDates } from '@/core/people/likeness'
import { comparableName } from '@/core/people/names'
import { termOn } from '@/core/calendar/school-year'
import type { Context } from '@/server/platform/context'
import { defineQuery, holdsAll } from '@/server/platform/define'
import { versionsOfFields } from '@/server/platform/fields'
import { civilDate, id } from '@/core/inputs'
import { firstDayOf, holds, homeroomSize } from '@/server/school/facts'
import { loadYear } from '@/server/school/load-year'
import { rollTopic } from '@/server/school/topics'
import {
  changeGroups,
  changeRecords,
  changeSupport,
  enrolStudents,
  findStudents,
  listGuardians,
  seeApplicant,
  seeFamily,
  mergeStudents,
  seeContact,
  seeDetails,
  seeGroups,
  seeStudent,
  seeStudentHistory,
  seeSupport,
} from './rights'
import { studentTopic } from './topics'

/** The names of each student's groups on a date; of nobody's where they are not to be seen. */
const groupsOn = (date: string, seen: boolean) =>
  sql<{
    studentId: string
    groups: readonly string[]
  }>`(select m.student_id, array_agg(x.name order by x.name) as groups
    from analysis_group_member m join analysis_group x on x.school_id = m.school_id and x.id = m.group_id
    where ${seen} and m.period @> ${date}::date group by m.student_id)`

/** The names of each student's guardians, in the order to call; of nobody's where they are not to be seen. */
const families = (seen: boolean) =>
  sql<{ studentId: string; guardians: string }>`(select r.student_id,
    string_agg(d.given_name || ' ' || d.family_name, '; ' order by r.contact_order) as guardians
    from guardianship r join guardian d on d.school_id = r.school_id and d.id = r.guardian_id
    where ${seen} group by r.student_id)`

/** Students on roll on a date, in name order, with year group and homeroom. */
export const list = defineQuery({
  input: z.object({ date: civilDate, homeroomId: id.optional() }),
  right: findStudents,
  topics: () => [rollTopic()],
  run: async (context, { date, homeroomId }) => {
    const [grouped, listsFamilies] = await Promise.all([
      context.may(seeGroups, {}),
      context.may(listGuardians, {}),
    ])
    return (
      context.db
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
        // Nobody else hears which groups a student is in; those who list guardians also find students by them.
        .leftJoin(groupsOn(date, grouped).as('a'), (j) => j.onRef('a.studentId', '=', 's.id'))
        .leftJoin(families(listsFamilies).as('f'), (j) => j.onRef('f.studentId', '=', 's.id'))
        .select([
          's.id',
          's.number',
          's.sortName as name',
          's.preferredName as preferred',
          'g.name as yearGroup',
          // As a join it was planned as one look through all homerooms for each student.
          sql<
            string | null
          >`(select h.name from homeroom h where h.school_id = m.school_id and h.id = m.homeroom_id)`.as(
            'homeroom',
          ),
          's.rollVersion',
          sql<readonly string[]>`coalesce(a.groups, '{}')`.as('groups'),
          'f.guardians',
          firstDayOf('e.period').as('since'),
        ])
        .where(holds('e.period', date))
        .$if(homeroomId !== undefined, (q) => q.where('m.homeroomId', '=', homeroomId ?? null))
        .orderBy('s.sortName')
        .orderBy('s.number')
        .execute()
    )
  },
})

interface Belonging {
  readonly kind: 'year group' | 'homeroom' | 'class' | 'group'
  readonly id: string
  readonly name: string
  readonly from: string
  /** The first day after it; null while it has no end. */
  readonly until: string | null
}

/** Each kind of place: the table of its members, that of the places, and the column between them. */
const placeKinds = [
  ['year group', 'enrolment', 'year_group', 'year_group_id'],
  ['homeroom', 'homeroom_member', 'homeroom', 'homeroom_id'],
  ['class', 'class_member', 'class', 'class_id'],
  ['group', 'analysis_group_member', 'analysis_group', 'group_id'],
] as const

/** Where a student belongs and belonged, without the kinds that the actor may not see. One statement. */
async function placesOf(
  { db }: Context,
  studentId: string,
  shown: { readonly class: boolean; readonly group: boolean },
): Promise<readonly Belonging[]> {
  const arms = placeKinds
    .filter(([kind]) => (kind !== 'class' && kind !== 'group') || shown[kind])
    .map(
      ([kind, members, places, column]) => sql`
        select ${sql.lit(kind)} as kind, p.id, p.name, lower(m.period)::text as "from", upper(m.period)::text as until
        from ${sql.table(members)} m join ${sql.table(places)} p on p.school_id = m.school_id and p.id = m.${sql.ref(column)}
        where m.student_id = ${studentId}`,
    )
  const { rows } =
    await sql<Belonging>`${sql.join(arms, sql` union all `)} order by kind desc, "from", name`.execute(db)
  return rows
}

/** One student's record: names, places, guardians in contact order. */
export const student = defineQuery({
  input: z.object({ studentId: id }),
  right: seeStudent,
  topics: (_context, { studentId }) => [studentTopic(studentId)],
  run: async (context, { studentId }) => {
    const { db } = context
    const record = await db
      .selectFrom('student')
      .selectAll()
      .where('id', '=', studentId)
      .executeTakeFirstOrThrow()
    const contact = await context.may(seeContact, { studentId })
    const details = await context.may(seeDetails, { studentId })
    const grouped = await context.may(seeGroups, {})
    const [
      support,
      maySeeHistory,
      mayChange,
      mayChangeNotes,
      mayMerge,
      guardians,
      places,
      departures,
      mergedInto,
    ] = await Promise.all([
      context.may(seeSupport, { studentId }),
      context.may(seeStudentHistory, { studentId }),
      context.may(changeRecords, { studentId }),
      context.may(changeSupport, { studentId }),
      context.may(mergeStudents, { keepId: studentId }),
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
          'g.version',
          'gs.version as relationVersion',
          sql<string | null>`(select string_agg(o.sort_name, '; ' order by o.sort_name) from guardianship os
            join student o on o.school_id = os.school_id and o.id = os.student_id
            where os.guardian_id = g.id and os.student_id <> ${studentId})`.as('alsoOf'),
          // What the account signs in with, for those who may end it.
          sql<
            string | null
          >`(select coalesce(u.username, u.email) from membership m join auth."user" u on u.id = m.account_id
            where m.person_id = g.id and m.role = 'guardian' limit 1)`.as('signsInAs'),
        ])
        .where('gs.studentId', '=', studentId)
        .where(contact ? sql<boolean>`true` : sql<boolean>`false`)
        .orderBy('gs.contactOrder')
        .execute(),
      placesOf(context, studentId, { class: details, group: grouped }),
      db
        .selectFrom('departure')
        .select(['lastDay', 'reason', 'destination'])
        .where('studentId', '=', studentId)
        .where(details ? sql<boolean>`true` : sql<boolean>`false`)
        .orderBy('lastDay')
        .execute(),
      record.mergedInto === null
        ? undefined
        : db
            .selectFrom('student')
            .select(['id', 'sortName as name', 'number'])
            .where('id', '=', record.mergedInto)
            .executeTakeFirst(),
    ])
    const hidden = (value: string | null) => (details ? value : null)
    const note = (value: string | null) => (support ? value : null)
    return {
      id: record.id,
      number: record.number,
      rollVersion: record.rollVersion,
      fields: {
        legalGivenName: record.legalGivenName,
        legalFamilyName: record.legalFamilyName,
        preferredName: record.preferredName,
        sortName: record.sortName,
        birthDate: hidden(record.birthDate),
        pronouns: record.pronouns,
        address: hidden(record.address),
        transport: hidden(record.transport),
        supportNote: note(record.supportNote),
        medicalNote: note(record.medicalNote),
      } satisfies Record<StudentField, string | null>,
      versions: versionsOfFields(record),
      expectedFrom: record.number === null ? record.expectedFrom : null,
      guardians,
      places,
      departures,
      photoId: hidden(record.photoId),
      mergedInto,
      maySeeDetails: details,
      maySeeContact: contact,
      maySeeNotes: support,
      maySeeHistory,
      mayChange,
      mayChangeNotes,
      mayMerge: mayMerge && !mergedInto,
    }
  },
})

/**
 * Students on record who may be the one about to be enrolled, the surest first, with the last place of those who left.
 * See `likeness`.
 */
export const possibleDuplicates = defineQuery({
  input: z.object({ givenName: z.string(), familyName: z.string(), birthDate: civilDate }),
  right: enrolStudents,
  run: async ({ db, today }, { givenName, familyName, birthDate }) => {
    const words = comparableName(`${familyName} ${givenName}`)
      .split(' ')
      .map((word) => `%${word.replace(/[\\%_]/g, '\\$&')}%`)
    const candidates = await db
      .selectFrom('student as s')
      .select([
        's.id',
        's.number',
        's.legalGivenName',
        's.legalFamilyName',
        's.preferredName',
        's.sortName',
        's.birthDate',
        's.address',
        sql<string | null>`(select g.name || coalesce(', ' || h.name, '') from enrolment e
          join year_group g on g.school_id = e.school_id and g.id = e.year_group_id
          left join homeroom_member m on m.school_id = e.school_id and m.student_id = e.student_id and upper(m.period) = upper(e.period)
          left join homeroom h on h.school_id = m.school_id and h.id = m.homeroom_id
          where e.student_id = s.id order by lower(e.period) desc limit 1)`.as('lastPlace'),
        sql<
          string | null
        >`(select max(d.last_day)::text from departure d where d.student_id = s.id and d.last_day < ${today}
          and not exists (select 1 from enrolment e where e.student_id = s.id and upper_inf(e.period)))`.as(
          'leftOn',
        ),
      ])
      .where((eb) =>
        eb.or([eb('s.birthDate', 'in', [...nearDates(birthDate)]), holdsAll(sql.ref('s.plainName'), words)]),
      )
      .where('s.mergedInto', 'is', null)
      .execute()
    const typed = { givenName, familyName, birthDate }
    return candidates
      .flatMap((s) => {
        const alike = likeness(typed, s)
        return alike ? [{ ...s, alike }] : []
      })
      .sort((a, b) => Number(a.alike !== 'same') - Number(b.alike !== 'same'))
  },
})

/** What the enrolment form offers for a start date: homerooms with their numbers, the classes each homeroom proposes, who is expected. */
export const enrolForm = defineQuery({
  input: z.object({ startDate: civilDate }),
  right: enrolStudents,
  run: async (context, { startDate }) => {
    const { db } = context
    const year = await loadYear(db, startDate)
    const mayGroup = await context.may(changeGroups, {})
    const term = year && termOn(year, startDate)
    const [yearGroups, homerooms, classes, groups, proposed, expected] = await Promise.all([
      db.selectFrom('yearGroup').select(['id', 'name']).orderBy('position').execute(),
      db
        .selectFrom('homeroom as h')
        .select(['h.id', 'h.name', 'h.yearGroupId', homeroomSize('h.id', startDate).as('students')])
        .where('h.yearId', '=', year?.id ?? null)
        .where('h.lastDay', 'is', null)
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
      mayGroup ? db.selectFrom('analysisGroup').select(['id', 'name']).orderBy('name').execute() : [],
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
        .where('mergedInto', 'is', null)
        .orderBy('sortName')
        .execute(),
    ])
    return { year, term, yearGroups, homerooms, classes, groups, proposed, expected }
  },
})

const guardiansOf = (db: Context['db'], studentId: string) =>
  db
    .selectFrom('guardianship as gs')
    .innerJoin('guardian as g', 'g.id', 'gs.guardianId')
    .select(['g.id', 'g.givenName', 'g.familyName', 'g.email', 'g.phone', 'gs.relation'])
    .where('gs.studentId', '=', studentId)
    .orderBy('gs.contactOrder')
    .execute()

/** What a brother or sister of a student to be enrolled has: where they live and belong, and who their guardians are. */
export const familyOf = defineQuery({
  input: z.object({ studentId: id }),
  right: seeFamily,
  run: async ({ db, today }, { studentId }) => {
    const [student, guardians] = await Promise.all([
      db
        .selectFrom('student as s')
        .leftJoin('homeroomMember as m', (join) =>
          join.onRef('m.studentId', '=', 's.id').on(sql<boolean>`m.period @> ${today}::date`),
        )
        .leftJoin('homeroom as h', 'h.id', 'm.homeroomId')
        .select(['s.sortName as name', 's.address', 'h.id as homeroomId', 'h.yearGroupId'])
        .where('s.id', '=', studentId)
        .executeTakeFirst(),
      guardiansOf(db, studentId),
    ])
    return student ? { ...student, guardians } : null
  },
})

/** The guardians already on record for an applicant. */
export const applicantGuardians = defineQuery({
  input: z.object({ studentId: id }),
  right: seeApplicant,
  run: ({ db }, { studentId }) => guardiansOf(db, studentId),
})
