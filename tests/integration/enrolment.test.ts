import { bad, good, openSchool, type TestSchool } from './school'
import type { Actor } from '@/server/platform/actor'

let school: TestSchool
let office: Actor
let ids: Record<string, string>
beforeAll(async () => {
  school = await openSchool()
  office = await school.actor('e.leask')
  const one = async (statement: string) => (await school.row<{ id: string }>(statement)).id
  ids = {
    year7: await one("select id from year_group where name = 'Year 7'"),
    year8: await one("select id from year_group where name = 'Year 8'"),
    tern: await one("select id from homeroom where name = '7 Tern'"),
    science: await one("select id from class where name = '7 Science A'"),
    english: await one("select id from class where name = '7 English A'"),
    navigation: await one("select id from class where name = '7 Navigation'"),
  }
})
afterAll(() => school.close())

const guardian = {
  givenName: 'Bea',
  familyName: 'Sandvik',
  relation: 'mother',
  email: 'bea.sandvik@islandmail.example',
  phone: '000 1111',
}
const student = (over: object = {}) => ({
  givenName: 'Wren',
  familyName: 'Sandvik',
  preferredName: '',
  birthDate: '2015-03-04',
  address: 'Kelp House, Farrow',
  yearGroupId: ids.year7 ?? '',
  homeroomId: ids.tern ?? '',
  classIds: [ids.science ?? '', ids.english ?? ''],
  startDate: '2026-11-24',
  guardian,
  ...over,
})
const enrol = (over: object = {}, key?: string) =>
  school.execute('people.enrol', office, student(over), { key })
const count = async (table: string) => Number((await school.row(`select count(*) as n from ${table}`)).n)

test('gives a permanent number and puts the student on every list from the start date on, not before', async () => {
  const { studentId, number } = good(await enrol())
  expect(number).toBe(
    Number((await school.row('select max(number) as n from student where id <> $1', [studentId])).n) + 1,
  )
  const on = async (date: string) =>
    good(await school.query('people.list', office, { date })).some((s) => s.id === studentId)
  expect([await on('2026-11-23'), await on('2026-11-24')]).toEqual([false, true])
  const register = async (date: string) =>
    good(
      await school.query('attendance.register', office, {
        homeroomId: ids.tern ?? '',
        date,
        session: 'morning',
      }),
    ).rows.some((r) => r.studentId === studentId)
  expect([await register('2026-11-23'), await register('2026-11-24')]).toEqual([false, true])
  const teacher = await school.actor('r.achterberg')
  const inBook = async (date: string) =>
    good(await school.query('marks.gradebook', teacher, { classId: ids.science ?? '', date })).students.some(
      (s) => s.id === studentId,
    )
  expect([await inBook('2026-11-23'), await inBook('2026-11-24')]).toEqual([false, true])
})

test('the guardian is invited by a mail whose link is made when it is sent, and has no account before', async () => {
  const mail = await school.row("select * from mail where to_address = 'bea.sandvik@islandmail.example'")
  expect(mail).toMatchObject({ kind: 'people.accountInvitation', body: null })
  expect(
    await school.rows('select id from auth."user" where email = $1', ['bea.sandvik@islandmail.example']),
  ).toEqual([])
})

test('a second child of the same guardian makes no second guardian, account or mail', async () => {
  const before = [await count('guardian'), await count('auth."user"'), await count('mail')]
  good(await enrol({ givenName: 'Lark', birthDate: '2015-03-05' }))
  expect([await count('guardian'), await count('auth."user"'), await count('mail')]).toEqual(before)
  const clash = bad(
    await enrol({ givenName: 'Neve', birthDate: '2015-03-06', guardian: { ...guardian, givenName: 'Ola' } }),
  )
  expect(clash).toMatchObject({ kind: 'invalid', fields: [{ path: 'guardian.email' }] })
})

test('a student with the same name and birth date is shown first, and only enrolled when one says it is somebody else', async () => {
  const before = await count('student')
  const alike = good(
    await school.query('people.possibleDuplicates', office, {
      givenName: 'wren',
      familyName: 'SANDVIK',
      birthDate: '2015-03-04',
    }),
  )
  expect(alike).toHaveLength(1)
  expect(bad(await enrol()).message).toContain('has the same name and birth date')
  expect(await count('student')).toBe(before)
  good(await enrol({ notADuplicate: true }))
  expect(await count('student')).toBe(before + 1)
})

test('a student who may be the same is shown as well, with where somebody who left was', async () => {
  const alike = async (givenName: string, familyName: string, birthDate: string) =>
    good(await school.query('people.possibleDuplicates', office, { givenName, familyName, birthDate }))
  expect(await alike('Wern', 'Sandvik', '2015-03-04')).toMatchObject([
    { alike: 'similar' },
    { alike: 'similar' },
  ])
  expect(await alike('Wren', 'Sandvik', '2013-10-10')).toMatchObject([
    { alike: 'similar' },
    { alike: 'similar' },
  ])
  // Similar is a question, not a refusal.
  good(await enrol({ givenName: 'Wern', birthDate: '2015-03-04' }))
  const [left] =
    await school.rows(`select s.legal_given_name, s.legal_family_name, s.birth_date::text as birth_date, d.last_day::text as last_day
    from departure d join student s on s.id = d.student_id
    where not exists (select 1 from enrolment e where e.student_id = s.id and upper_inf(e.period)) and s.birth_date is not null limit 1`)
  if (!left) throw new Error('nobody has left')
  const [found] = await alike(
    String(left.legalGivenName),
    String(left.legalFamilyName),
    String(left.birthDate),
  )
  expect(found).toMatchObject({
    alike: 'same',
    leftOn: left.lastDay,
    lastPlace: expect.stringContaining('Year'),
  })
})

test('a form sent twice enrols once and is answered the same', async () => {
  const key = crypto.randomUUID()
  const before = await count('student')
  const [a, b] = await Promise.all([
    enrol({ givenName: 'Tove', birthDate: '2015-01-01' }, key),
    enrol({ givenName: 'Tove', birthDate: '2015-01-01' }, key),
  ])
  const c = await enrol({ givenName: 'Tove', birthDate: '2015-01-01' }, key)
  expect(good(a)).toEqual(good(b))
  expect(good(c)).toEqual(good(a))
  expect(await count('student')).toBe(before + 1)
})

test('numbers are never given twice, even at the same moment', async () => {
  const made = await Promise.all(
    Array.from({ length: 8 }, (_, i) =>
      enrol({ givenName: `Kai${i}`, birthDate: `2015-02-0${i + 1}`, guardian: { ...guardian, email: '' } }),
    ),
  )
  const numbers = made.map((r) => good(r).number)
  expect(new Set(numbers).size).toBe(8)
})

test('the applicant keeps the record there is and is enrolled once', async () => {
  const noor = await school.row("select * from student where sort_name = 'Iversen, Noor'")
  const asked = {
    applicantId: noor.id,
    givenName: 'Noor',
    familyName: 'Iversen',
    birthDate: noor.birthDate,
    startDate: '2026-11-23',
    guardian: {
      ...guardian,
      givenName: 'Sunniva',
      familyName: 'Iversen',
      email: 'sunniva.iversen@islandmail.example',
    },
  }
  expect(good(await enrol(asked)).studentId).toBe(noor.id)
  expect(bad(await enrol(asked)).message).toContain('is already enrolled')
  const rows = good(
    await school.query('attendance.register', office, {
      homeroomId: ids.tern ?? '',
      date: '2026-11-23',
      session: 'morning',
    }),
  ).rows.filter((r) => r.studentId === noor.id)
  expect(rows).toMatchObject([{ expected: false }])
})

describe('bad input is answered with what, where and what to do, and changes nothing', () => {
  test.each<[string, object, string, RegExp]>([
    ['an empty name', { givenName: '  ' }, 'givenName', /Enter the given name/],
    ['a birth date in the future', { birthDate: '2027-01-01' }, 'birthDate', /is in the future/],
    ['a birth date of long ago', { birthDate: '1955-03-04' }, 'birthDate', /would be 71/],
    ['a birth date that does not exist', { birthDate: '2015-02-30' }, 'birthDate', /not a date/],
    [
      'a start date outside the year',
      { startDate: '2027-08-10' },
      'startDate',
      /outside 2026\/27, which runs from Tue 1 Sep 2026/,
    ],
    ['a start date after the last term', { startDate: '2026-08-01' }, 'startDate', /outside 2025\/26/],
    [
      'a class of another term',
      { classIds: 'navigation' },
      'classIds',
      /7 Navigation is not taught in the Autumn term/,
    ],
    [
      'a homeroom of another year group',
      { yearGroupId: 'year8' },
      'homeroomId',
      /belongs to another year group/,
    ],
    [
      'an address that is none',
      { guardian: { ...guardian, email: 'bea at home' } },
      'guardian.email',
      /not an e-mail address/,
    ],
    [
      'a guardian without a name',
      { guardian: { ...guardian, familyName: '' } },
      'guardian.familyName',
      /Enter the guardian's family name/,
    ],
    ['an id of nothing', { homeroomId: 'none' }, 'homeroomId', /Choose a homeroom/],
    [
      'a class of another school',
      { classIds: ['00000000-0000-7000-8000-000000000001'] },
      'classIds',
      /not in this school/,
    ],
  ])('%s', async (_what, over, path, message) => {
    const named: Record<string, unknown> = { ...over }
    if (named.classIds === 'navigation') named.classIds = [ids.navigation]
    if (named.yearGroupId === 'year8') named.yearGroupId = ids.year8
    const before = [
      await count('student'),
      await count('enrolment'),
      await count('guardian'),
      await count('mail'),
    ]
    const failure = bad(await enrol({ givenName: 'Odin', birthDate: '2015-06-06', ...named }))
    expect(failure.kind).toBe('invalid')
    expect(failure.kind === 'invalid' && failure.fields.find((f) => f.path === path)?.message).toMatch(
      message,
    )
    expect([
      await count('student'),
      await count('enrolment'),
      await count('guardian'),
      await count('mail'),
    ]).toEqual(before)
  })
})

test('everything that was done is in the student’s history, with who and from what to what', async () => {
  const { id } = await school.row("select id from student where sort_name = 'Iversen, Noor'")
  const { changes } = good(await school.query('history.ofStudent', office, { studentId: id }))
  const words = changes.map(
    (c) =>
      `${c.actor}: ${c.kind} ${c.which} ${c.changes.map((x) => `${x.what} ${x.from} > ${x.to}`).join('; ')}`,
  )
  expect(words.some((w) => w.startsWith('Ewan Leask: Homeroom 7 Tern period  > from Mon 23 Nov 2026'))).toBe(
    true,
  )
  expect(words.some((w) => w.includes('Student record') && /number {2}> \d+/.test(w))).toBe(true)
  expect(words.some((w) => w.includes('Class 7 Science A'))).toBe(true)
})

test('two guardians come at once, and a second child takes over the family: nobody is on record twice', async () => {
  const second = { ...guardian, givenName: 'Ola', relation: 'father', email: '', phone: '000 2222' }
  const first = good(
    await school.execute(
      'people.enrol',
      office,
      student({
        givenName: 'Elin',
        familyName: 'Hauge',
        guardian: { ...guardian, familyName: 'Hauge', email: 'bea.hauge@islandmail.example' },
        guardians: [{ ...second, familyName: 'Hauge' }],
      }),
    ),
  )
  expect(first.invited).toEqual(['bea.hauge@islandmail.example'])
  const family = good(await school.query('people.familyOf', office, { studentId: first.studentId }))
  expect(family).toMatchObject({
    address: 'Kelp House, Farrow',
    guardians: [{ givenName: 'Bea' }, { givenName: 'Ola', email: null }],
  })
  const [mother, father] = family?.guardians ?? []
  if (!mother || !father) throw new Error('two guardians were put on record')
  const twin = (over: object) =>
    school.execute(
      'people.enrol',
      office,
      student({
        givenName: 'Nils',
        familyName: 'Hauge',
        birthDate: '2014-03-04',
        guardian: mother,
        guardians: [father],
        ...over,
      }),
    )
  // Guardians of somebody else are not taken over by knowing their number.
  expect(bad(await twin({})).message).toContain('guardian')
  const { studentId, invited } = good(await twin({ siblingId: first.studentId }))
  expect(invited).toEqual([])
  expect(
    await school.rows(
      `select g.given_name as name, s.relation, s.contact_order as place, (select count(*)::int from guardianship o where o.guardian_id = g.id) as children
       from guardianship s join guardian g on g.id = s.guardian_id where s.student_id = $1 order by 3`,
      [studentId],
    ),
  ).toEqual([
    { name: 'Bea', relation: 'mother', place: 1, children: 2 },
    { name: 'Ola', relation: 'father', place: 2, children: 2 },
  ])
  // A mistake in the second guardian is told at the second guardian.
  expect(
    bad(
      await school.execute(
        'people.enrol',
        office,
        student({
          givenName: 'Tove',
          familyName: 'Hauge',
          birthDate: '2013-05-06',
          guardians: [{ ...second, email: 'bea.hauge@islandmail.example' }],
        }),
      ),
    ),
  ).toMatchObject({ fields: [{ path: 'guardians.0.email' }] })
})
