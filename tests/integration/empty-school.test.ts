import { createSchool } from '@/terminal/create-school'
import { resetPassword } from '@/terminal/reset-password'
import type { Actor } from '@/server/platform/actor'
import { bad, good, openSchool, type TestSchool } from './school'

let school: TestSchool
let admin: Actor
beforeAll(async () => {
  school = await openSchool('empty')
})
afterAll(() => school.close())

const date = '2026-11-23'
const year = {
  name: '2026/27',
  firstDay: '2026-09-01',
  lastDay: '2027-07-16',
  weekdays: [1, 2, 3, 4, 5],
  terms: [{ name: 'Autumn', firstDay: '2026-09-01', lastDay: '2026-12-18' }],
  closures: [
    { kind: 'break' as const, name: 'Autumn break', firstDay: '2026-10-26', lastDay: '2026-10-30' },
    { kind: 'staff day' as const, name: 'Staff day', firstDay: '2026-11-02', lastDay: '2026-11-02' },
  ],
}

test('a school is made in the terminal with its first administrator; names that are taken are told', async () => {
  const password = await createSchool(school.ownerUrl, {
    name: 'Farrow School',
    shortName: 'farrow',
    username: 'Zara.Skaar',
    adminName: 'Zara Skaar',
  })
  expect(password).toHaveLength(12)
  admin = await school.actor('zara.skaar')
  expect(admin).toMatchObject({ roles: ['administrator'], schoolName: 'Farrow School' })
  await expect(
    createSchool(school.ownerUrl, {
      name: 'X',
      shortName: 'farrow',
      username: 'other',
      adminName: 'Zara Skaar',
    }),
  ).rejects.toThrow('The short name farrow is taken')
  await expect(
    createSchool(school.ownerUrl, {
      name: 'X',
      shortName: 'x-school',
      username: 'zara.skaar',
      adminName: 'Zara Skaar',
    }),
  ).rejects.toThrow('The user name zara.skaar is taken')
  await expect(
    createSchool(school.ownerUrl, { name: 'X', shortName: 'x', username: 'y', adminName: 'Zara' }),
  ).rejects.toThrow('a given and a family name')
})

test('a password is reset in the terminal; an unknown name is told', async () => {
  expect(await resetPassword(school.ownerUrl, 'zara.skaar')).toHaveLength(12)
  await expect(resetPassword(school.ownerUrl, 'nobody')).rejects.toThrow(
    'There is no account with the user name nobody.',
  )
})

test('every page of the empty school can be asked for, and says that it is empty', async () => {
  expect(good(await school.query('shell.frame', admin, {})).year).toBeUndefined()
  expect(good(await school.query('today.due', admin, { date }))).toMatchObject({ items: [], empty: true })
  expect(good(await school.query('people.list', admin, { date }))).toEqual([])
  expect(good(await school.query('people.enrolForm', admin, { startDate: date })).year).toBeUndefined()
  expect(good(await school.query('marks.classes', admin, { date }))).toEqual([])
  expect(good(await school.query('assessment.list', admin, { date: '2026-11-23' })).assessments).toEqual([])
  expect(good(await school.query('reports.rounds', admin, { date: '2026-11-23' }))).toEqual({
    rounds: [],
    year: undefined,
    elsewhere: [],
  })
  expect(good(await school.query('attendance.registersOfDay', admin, { date })).registers).toEqual([])
  expect(good(await school.query('setUp.state', admin, { date }))).toMatchObject({
    years: 0,
    homerooms: 0,
    students: 0,
  })
})

test('the administrator makes the year, year groups and homerooms, and enrols the first student with number 1', async () => {
  expect(
    bad(
      await school.execute('year.create', admin, {
        ...year,
        terms: [{ name: 'Autumn', firstDay: '2026-08-01', lastDay: '2026-12-18' }],
      }),
    ).message,
  ).toContain('is partly outside the year')
  const { yearId } = good(await school.execute('year.create', admin, year))
  expect(
    good(await school.query('year.calendar', admin, { date: '2026-11-02' })).closures.map((c) => c.name),
  ).toEqual(['Autumn break', 'Staff day'])
  expect(bad(await school.execute('year.create', admin, { ...year, name: 'Again' })).message).toContain(
    'part of 2026/27, which already exists',
  )
  expect(
    good(
      await school.execute('year.addYearGroups', admin, {
        yearId,
        names: ['Year 1', 'Year 2'],
        homerooms: ['Tern', 'Plover'],
      }),
    ),
  ).toEqual({ yearGroups: 2, homerooms: 4 })
  expect(
    bad(
      await school.execute('year.addYearGroups', admin, {
        yearId,
        names: ['Year 3', 'Year 2'],
        homerooms: [],
      }),
    ).message,
  ).toContain('Year 2 already exists')
  const offer = good(await school.query('people.enrolForm', admin, { startDate: date }))
  expect(offer.homerooms.map((h) => h.name)).toEqual(['1 Plover', '1 Tern', '2 Plover', '2 Tern'])
  const room = offer.homerooms.find((h) => h.name === '1 Tern')
  const enrolled = good(
    await school.execute('people.enrol', admin, {
      givenName: 'Ada',
      familyName: 'Vik',
      birthDate: '2020-05-05',
      yearGroupId: room?.yearGroupId ?? '',
      homeroomId: room?.id ?? '',
      classIds: [],
      startDate: date,
      guardian: { givenName: 'Una', familyName: 'Vik', relation: 'mother' },
    }),
  )
  expect(enrolled.number).toBe(1)
  const codes = await school.rows('select code, id from attendance_code')
  const present = codes.find((c) => c.code === 'P')?.id as string
  expect(
    good(
      await school.execute('attendance.markRest', admin, {
        homeroomId: room?.id ?? '',
        date,
        session: 'morning',
        codeId: present,
      }),
    ),
  ).toHaveLength(1)
})

test('two schools in one installation do not see each other', async () => {
  await createSchool(school.ownerUrl, {
    name: 'Tarn School',
    shortName: 'tarn',
    username: 'ivo.dahl',
    adminName: 'Ivo Dahl',
  })
  const other = await school.actor('ivo.dahl')
  expect(good(await school.query('people.list', other, { date }))).toEqual([])
  expect(good(await school.query('shell.frame', other, {}))).toMatchObject({ schoolName: 'Tarn School' })
  const { id } = await school.row("select id from student where sort_name = 'Vik, Ada'")
  expect(bad(await school.query('people.student', other, { studentId: id })).kind).toBe('not found')
})
