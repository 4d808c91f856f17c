import { sql, type Transaction } from 'kysely'
import { addDays, type CivilDate, type SchoolYear } from '@/core/calendar/school-year'
import { sortName } from '@/core/people/names'
import type { Tables } from '@/db/tables'
import { loadRows } from '@/db/load-rows'
import type { DemoPeople, DemoStudent } from './people'
import { septemberOf, wracklineYear } from './calendar'
import { address, familyName, givenName } from './names'
import { seeded } from './random'
import type { DemoStructure } from './structure'

/** One change in a demo student's past, as the history keeps it. */
interface Past {
  readonly student: DemoStudent | undefined
  readonly day: CivilDate
  readonly actor: string
  readonly command: string
  readonly table: string
  readonly key: object
  readonly operation: 'insert' | 'update'
  readonly before: object | null
  readonly after: object
}

/** What has happened to a few students since the year began, oldest first. */
function pasts(s: DemoStructure, { students }: DemoPeople): readonly Past[] {
  const of = (given: string, family: string) => students.find((x) => x.given === given && x.family === family)
  const day = (monthDay: string) => `${s.year.firstDay.slice(0, 4)}-${monthDay}`
  const [ilse, emeka, oona, rui] = [
    of('Ilse', 'Okonjo-Marsh'),
    of('Emeka', 'Kestrel'),
    of('Oona', 'Marchetti'),
    of('Rui', 'Castellane'),
  ]
  const record = (
    student: DemoStudent | undefined,
    on: CivilDate,
    actor: string,
    before: object,
    after: object,
  ): Past => ({
    student,
    day: on,
    actor,
    command: 'people.setStudent',
    table: 'student',
    key: { id: student?.id },
    operation: 'update',
    before,
    after,
  })
  const member = (
    table: string,
    key: object,
    student: DemoStudent | undefined,
    on: CivilDate,
    [before, after]: readonly [string | null, string],
  ): Past => ({
    student,
    day: on,
    actor: 'Ewan Leask',
    command: 'people.place',
    table,
    key: { ...key, student_id: student?.id, period: after },
    operation: before === null ? 'insert' : 'update',
    before: before === null ? null : { period: before },
    after: before === null ? { ...key, student_id: student?.id, period: after } : { period: after },
  })
  const guardianOf = (student: DemoStudent | undefined, n: number) => student?.guardians[n]?.guardian
  const all: readonly Past[] = [
    record(oona, day('09-21'), 'Dalia Munro', { support_note: null }, { support_note: oona?.supportNote }),
    record(
      rui,
      day('10-06'),
      'Hana Tulloch',
      { transport: 'Walks' },
      { transport: rui?.ferry && `Ferry from ${rui.ferry}` },
    ),
    {
      student: ilse,
      day: day('10-12'),
      actor: 'Dalia Munro',
      command: 'people.enrol',
      table: 'enrolment',
      key: { student_id: ilse?.id, period: `[${ilse?.since},)` },
      operation: 'insert',
      before: null,
      after: {
        student_id: ilse?.id,
        year_id: s.year.id,
        year_group_id: ilse?.homeroom.yearGroup.id,
        period: `[${ilse?.since},)`,
      },
    },
    {
      student: ilse,
      day: day('10-12'),
      actor: 'Dalia Munro',
      command: 'people.enrol',
      table: 'homeroom_member',
      key: { homeroom_id: ilse?.homeroom.id, student_id: ilse?.id, period: `[${ilse?.since},)` },
      operation: 'insert',
      before: null,
      after: { homeroom_id: ilse?.homeroom.id, student_id: ilse?.id, period: `[${ilse?.since},)` },
    },
    {
      student: ilse,
      day: day('10-20'),
      actor: 'Hana Tulloch',
      command: 'people.saveGuardian',
      table: 'guardianship',
      key: { student_id: ilse?.id, guardian_id: guardianOf(ilse, 1)?.id },
      operation: 'update',
      before: { contact_order: 1 },
      after: { contact_order: 2 },
    },
    record(
      ilse,
      day('11-02'),
      'Ewan Leask',
      { address: 'Quay Cottage, Farrow', transport: 'Ferry from Farrow' },
      { address: ilse?.address, transport: `Ferry from ${ilse?.ferry}` },
    ),
    record(
      emeka,
      day('09-14'),
      'Dalia Munro',
      { legal_family_name: 'Kestrell' },
      { legal_family_name: 'Kestrel' },
    ),
    ...(emeka?.earlier
      ? [
          member('homeroom_member', { homeroom_id: emeka.earlier.homeroom.id }, emeka, day('11-06'), [
            `[${emeka.since},)`,
            `[${emeka.since},${emeka.earlier.until})`,
          ]),
          member('homeroom_member', { homeroom_id: emeka.homeroom.id }, emeka, day('11-06'), [
            null,
            `[${emeka.earlier.until},)`,
          ]),
        ]
      : []),
  ]
  return all
    .filter((p) => p.student !== undefined && p.day <= s.today)
    .sort((a, b) => (a.day < b.day ? -1 : 1))
}

/** A year besides the one the school works in, its terms closed to teachers. */
async function loadYear(
  tx: Transaction<Tables>,
  school: { readonly id: string },
  year: SchoolYear,
  terms: SchoolYear['terms'],
): Promise<void> {
  const own = { school_id: school.id, version: 1 }
  await loadRows(tx, 'academic_year', [
    {
      ...own,
      id: year.id,
      name: year.name,
      first_day: year.firstDay,
      last_day: year.lastDay,
      weekdays: year.weekdays,
    },
  ])
  await loadRows(
    tx,
    'term',
    terms.map((t, i) => ({
      ...own,
      id: t.id,
      year_id: year.id,
      name: t.name,
      position: i + 1,
      first_day: t.firstDay,
      last_day: t.lastDay,
      open: false,
    })),
  )
}

/** The halves of the first term, and the week of its exams. */
async function loadPeriods(
  tx: Transaction<Tables>,
  school: { readonly id: string },
  s: DemoStructure,
): Promise<void> {
  const random = seeded(20261207)
  const [autumn] = s.year.terms
  const rest = s.year.closures.find((c) => c.kind === 'break')
  if (!autumn || !rest) return
  const period = (kind: 'marking' | 'exams', name: string, firstDay: CivilDate, lastDay: CivilDate) => ({
    school_id: school.id,
    id: random.uuid(),
    term_id: autumn.id,
    kind,
    name,
    first_day: firstDay,
    last_day: lastDay,
    version: 1,
  })
  await loadRows(tx, 'term_period', [
    period('marking', 'First half', autumn.firstDay, addDays(rest.firstDay, -3)),
    period('marking', 'Second half', addDays(rest.lastDay, 3), autumn.lastDay),
    period('exams', 'Exams', addDays(autumn.lastDay, -11), addDays(autumn.lastDay, -7)),
  ])
}

/** Those who finished school at the end of the year before, and two who moved away during it; the oldest numbers. */
async function loadLeavers(
  tx: Transaction<Tables>,
  school: { readonly id: string },
  s: DemoStructure,
): Promise<void> {
  const random = seeded(20250901)
  const own = { school_id: school.id }
  const september = septemberOf(s.today) - 1
  const year = wracklineYear(september, random)
  await loadYear(tx, school, year, year.terms)
  const [last] = [...s.yearGroups].reverse()
  const ninth = s.yearGroups.find((g) => g.name === 'Year 9')
  const leavers = Array.from({ length: 14 }, (_, i) => {
    const moved = i >= 12
    return {
      id: random.uuid(),
      number: 41 + 4 * i,
      given: givenName(random),
      family: familyName(random),
      home: address(random),
      yearGroup: moved ? ninth : last,
      lastDay: moved ? `${september + 1}-0${i - 10}-1${i - 10}` : year.lastDay,
      reason: moved ? 'The family moved' : 'Finished school',
      destination: moved ? 'A school on the mainland' : null,
      born: `${september - (moved ? 14 : 17)}-${String(1 + ((i * 5) % 12)).padStart(2, '0')}-${String(
        3 + i,
      ).padStart(2, '0')}`,
    }
  })
  await loadRows(
    tx,
    'student',
    leavers.map((l) => ({
      ...own,
      id: l.id,
      number: l.number,
      legal_given_name: l.given,
      legal_family_name: l.family,
      sort_name: sortName(l.given, l.family),
      birth_date: l.born,
      address: l.home.address,
      version: 1,
    })),
  )
  await loadRows(
    tx,
    'enrolment',
    leavers.map((l) => ({
      ...own,
      student_id: l.id,
      year_id: year.id,
      year_group_id: l.yearGroup?.id,
      period: `[${year.firstDay},${addDays(l.lastDay, 1)})`,
    })),
  )
  await loadRows(
    tx,
    'departure',
    leavers.map((l) => ({
      ...own,
      student_id: l.id,
      last_day: l.lastDay,
      reason: l.reason,
      destination: l.destination,
    })),
  )
}

/**
 * Gives Wrackline what pages need to look real: analysis groups, a next year that the administrator has begun, a class
 * that has lost its teacher, a student without classes, guardians who have moved, and a past for a few students. Makes
 * its own identifiers, so that the rest of the school stays as it is.
 */
export async function tellStories(
  tx: Transaction<Tables>,
  school: { readonly id: string },
  s: DemoStructure,
  people: DemoPeople,
): Promise<void> {
  const random = seeded(20270901)
  const own = { school_id: school.id }
  const { students } = people
  const since = `[${s.year.firstDay},)`

  const groups = ['Choir', 'Language learner', 'Support plan'].map((name) => ({
    ...own,
    id: random.uuid(),
    name,
  }))
  const [choir, learner, support] = groups
  const inGroup = (group: (typeof groups)[number] | undefined, of: readonly DemoStudent[]) =>
    of.map((x) => ({
      ...own,
      group_id: group?.id,
      student_id: x.id,
      period: x.since > s.year.firstDay ? `[${x.since},)` : since,
    }))
  await loadRows(
    tx,
    'analysis_group',
    groups.map((g) => ({ ...g, version: 1 })),
  )
  await loadRows(tx, 'analysis_group_member', [
    ...inGroup(
      support,
      students.filter((x) => x.supportNote !== null),
    ),
    ...inGroup(
      learner,
      students.filter((x) => x.number % 6 === 0 && x.guardians[0]?.guardian.language !== 'en'),
    ),
    ...inGroup(
      choir,
      students.filter((x) => x.number % 17 === 3),
    ),
  ])

  const next = wracklineYear(septemberOf(s.today) + 1, random)
  const created = `${addDays(s.today, -11)}T15:40:00Z`
  await loadYear(tx, school, next, next.terms.slice(0, 2))

  await loadLeavers(tx, school, s)
  await loadPeriods(tx, school, s)

  const lastDay = addDays(s.today, -3)
  await sql`update class_teacher set period = daterange(lower(period), ${lastDay}::date)
    where class_id = (select id from class where name = '12 Music B' and school_id = ${school.id})
      and lower(period) < ${lastDay}::date`.execute(tx)
  const alone = students.find((x) => x.homeroom.name === '12 Plover')
  await sql`update class_member set period = daterange(lower(period), ${lastDay}::date)
    where student_id = ${alone?.id ?? null} and lower(period) < ${lastDay}::date`.execute(tx)
  const moved = students.filter((x) => x.number % 97 === 5).flatMap((x) => x.guardians.slice(1))
  await sql`update guardian set address = null where id = any(${moved.map((g) => g.guardian.id)}::uuid[])`.execute(
    tx,
  )

  await loadRows(tx, 'history', [
    {
      ...own,
      at: created,
      account_id: null,
      actor: 'Mara Vester',
      command: 'year.create',
      table_name: 'academic_year',
      row_key: { id: next.id },
      student_id: null,
      operation: 'insert',
      before: null,
      after: { id: next.id, name: next.name, first_day: next.firstDay, last_day: next.lastDay },
    },
    ...pasts(s, people).map((p, i) => ({
      ...own,
      at: `${p.day}T${String(9 + (i % 6)).padStart(2, '0')}:${String((i * 17) % 60).padStart(2, '0')}:00Z`,
      account_id: null,
      actor: p.actor,
      command: p.command,
      table_name: p.table,
      row_key: p.key,
      student_id: p.student?.id,
      operation: p.operation,
      before: p.before,
      after: p.after,
    })),
  ])
}
