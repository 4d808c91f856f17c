import type { Actor } from '@/server/platform/actor'
import { bad, good, openSchool, type TestSchool } from './school'

/** Two records of one student are put together; all of it can be undone. */

let school: TestSchool
let office: Actor
const day = '2026-11-23'
beforeAll(async () => {
  school = await openSchool()
  office = await school.actor('e.leask')
})
afterAll(() => school.close())

const studentId = async (name: string) =>
  (
    await school.row<{ id: string }>('select id from student where sort_name = $1 order by number limit 1', [
      name,
    ])
  ).id
const record = async (id: string, actor: Actor = office) =>
  good(await school.query('people.student', actor, { studentId: id }))
const merge = (keepId: string, dropId: string, actor: Actor = office) =>
  school.execute('record.merge', actor, { keepId, dropId })
const undo = (result: { ok: boolean; run?: string }) =>
  school.execute('history.undo', office, { run: (result.ok && result.run) || '' })

const tables = [
  'enrolment',
  'homeroom_member',
  'class_member',
  'analysis_group_member',
  'guardianship',
  'attendance_mark',
  'planned_absence',
  'absence_call',
  'absence_report',
  'attempt',
  'response',
  'response_points',
  'score',
  'report_entry',
  'report_card',
  'departure',
  'column_entry',
  'held_mark',
  'score_note',
]

/** Everything the database holds of some students, without versions and who saved it. */
async function everything(ids: readonly string[]): Promise<Record<string, readonly string[]>> {
  const rows = await school.rows<{ t: string; row: string }>(
    [
      ...tables.map(
        (table) =>
          `select '${table}' as t, (to_jsonb(x) - 'version' - 'changed_at' - 'changed_by')::text as row from ${table} x where student_id = any($1)`,
      ),
      `select 'student', (to_jsonb(x) - 'version' - 'field_versions' - 'roll_version')::text from student x where id = any($1)`,
    ].join(' union all ') + ' order by 1, 2',
    [ids],
  )
  return Object.fromEntries(
    [...tables, 'student'].map((table) => [table, rows.filter((r) => r.t === table).map((r) => r.row)]),
  )
}
const count = (all: Record<string, readonly string[]>, table: string, id: string) =>
  (all[table] ?? []).filter((row) => row.includes(`"student_id": "${id}"`)).length

async function enrolledTwice(): Promise<{ first: string; second: string }> {
  const homeroom = await school.row<{ id: string; yearGroupId: string }>(
    "select id, year_group_id from homeroom where name = '8 Tern'",
  )
  const classes = await school.rows<{ classId: string }>(
    'select class_id from homeroom_class where homeroom_id = $1',
    [homeroom.id],
  )
  const enrol = (startDate: string, guardian: string, address: string | null) =>
    school.execute('people.enrol', office, {
      givenName: 'Maren',
      familyName: 'Twice',
      birthDate: '2013-05-06',
      address,
      yearGroupId: homeroom.yearGroupId,
      homeroomId: homeroom.id,
      classIds: classes.slice(0, 2).map((c) => c.classId),
      startDate,
      guardian: { givenName: guardian, familyName: 'Twice', relation: 'mother', email: '', phone: '' },
      notADuplicate: true,
    })
  return {
    first: good(await enrol('2026-11-16', 'Ylva', null)).studentId,
    second: good(await enrol('2026-11-02', 'Signe', '4 Ropewalk')).studentId,
  }
}

test('a student who was entered twice becomes one: dates, guardians, marks and empty fields', async () => {
  const { first, second } = await enrolledTwice()
  const homeroomId = (await school.row<{ id: string }>("select id from homeroom where name = '8 Tern'")).id
  const code = await school.row<{ code: string }>(
    "select code from attendance_code where meaning = 'present' limit 1",
  )
  const mark = (id: string, session: 'morning' | 'afternoon') =>
    school.rows(
      `insert into attendance_mark (school_id, student_id, session_date, session, homeroom_id, code_id, changed_by)
       select s.school_id, s.id, '2026-11-20', $2, $3, c.id, 'Eilis Leask' from student s join attendance_code c on c.school_id = s.school_id and c.code = $4
       where s.id = $1 limit 1`,
      [id, session, homeroomId, code.code],
    )
  await mark(first, 'morning')
  await mark(second, 'morning')
  await mark(second, 'afternoon')
  const before = await everything([first, second])
  const merged = await merge(first, second)
  // The mark of the morning, which both have, stays.
  expect(good(merged)).toEqual({ stayed: 1 })
  const one = await record(first)
  expect(one.fields.address).toBe('4 Ropewalk')
  expect(one.guardians.map((g) => g.givenName).sort()).toEqual(['Signe', 'Ylva'])
  const years = one.places.filter((p) => p.kind === 'year group').map((p) => [p.from, p.until])
  expect(years).toEqual([
    ['2026-11-02', '2026-11-16'],
    ['2026-11-16', null],
  ])
  const after = await everything([first, second])
  expect(count(after, 'attendance_mark', first)).toBe(2)
  expect(count(after, 'attendance_mark', second)).toBe(1)
  const other = await record(second)
  expect(other).toMatchObject({ mergedInto: { id: first }, mayChange: false, places: [], guardians: [] })
  const found = good(await school.query('find.anything', office, { text: 'maren twice' }))
  expect(found.filter((f) => f.kind === 'student').map((f) => f.id)).toEqual([first])
  good(await undo(merged))
  expect(await everything([first, second])).toEqual(before)
})

test('two full records: nothing is lost, what both have stays, and undo restores every row', async () => {
  const [keep, drop] = [await studentId('Okonjo-Marsh, Ilse'), await studentId('Abara, Tobias')]
  // Marks that are closed are moved, too, and come back.
  const [teacher, head] = [await school.actor('r.achterberg'), await school.actor('s.kirkness')]
  const { id: classId } = await school.row<{ id: string }>("select id from class where name = '7 Science A'")
  const { id: termId } = await school.row<{ id: string }>("select id from term where name = 'Autumn'")
  const period = { termId, periodId: null }
  const confirmed = good(
    await school.execute('marks.confirmMarks', teacher, {
      classId,
      period,
      expectedVersion: 0,
      withBlanks: true,
    }),
  )
  good(
    await school.execute('marks.closeMarks', head, {
      period,
      targets: [{ classId, expectedVersion: confirmed.version }],
    }),
  )
  const before = await everything([keep, drop])
  const merged = await merge(keep, drop)
  good(merged)
  const after = await everything([keep, drop])
  for (const table of [
    'attendance_mark',
    'response',
    'response_points',
    'attempt',
    'score',
    'report_entry',
    'report_card',
    'column_entry',
    'held_mark',
  ])
    expect([table, after[table]?.length]).toEqual([table, before[table]?.length])
  // Answers stay with the attempt they were given in.
  const strays = await school.rows(
    'select 1 from response r where not exists (select 1 from attempt a where a.assessment_id = r.assessment_id and a.student_id = r.student_id and a.number = r.attempt)',
  )
  expect(strays).toEqual([])
  good(await undo(merged))
  expect(await everything([keep, drop])).toEqual(before)
})

test('every table with rows of students is moved or named here', async () => {
  const rows = await school.rows<{ t: string }>(
    `select c.relname as t from pg_class c join pg_attribute a on a.attrelid = c.oid and a.attname = 'student_id' and not a.attisdropped
     where c.relnamespace = 'public'::regnamespace and c.relkind = 'r' order by 1`,
  )
  expect(rows.map((r) => r.t).sort()).toEqual([...tables, 'history', 'mail'].sort())
})

test('two who merge the same records at once: one does, and a merged record takes nothing more', async () => {
  const { first, second } = await enrolledTwice()
  const both = await Promise.all([merge(first, second), merge(second, first)])
  expect(both.filter((r) => r.ok)).toHaveLength(1)
  const [gone, kept] = both[0]?.ok ? [second, first] : [first, second]
  expect(bad(await merge(kept, gone))).toMatchObject({ code: 'record.mergedBefore' })
  const now = await record(gone)
  const students = [{ studentId: gone, expectedVersion: now.rollVersion }]
  const yearGroup = await school.row<{ id: string }>("select id from year_group where name = 'Year 8'")
  expect(
    bad(await school.execute('people.place', office, { students, from: day, yearGroupId: yearGroup.id })),
  ).toMatchObject({ code: 'people.merged' })
  expect(
    bad(
      await school.execute('people.setStudent', office, {
        studentId: gone,
        cells: [{ key: { field: 'pronouns' }, value: 'they', expectedVersion: 0 }],
      }),
    ).kind,
  ).toBe('not found')
})

test('a record cannot be merged with itself, and the one that was enrolled stays', async () => {
  const { first } = await enrolledTwice()
  expect(bad(await merge(first, first))).toMatchObject({ code: 'record.sameRecord' })
  const applicant = await school.row<{ id: string }>('select id from student where number is null limit 1')
  expect(bad(await merge(applicant.id, first))).toMatchObject({ code: 'record.keepEnrolled' })
  good(await merge(first, applicant.id))
})
