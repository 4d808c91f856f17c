import type { Actor } from '@/server/platform/actor'
import { bad, good, openSchool, type TestSchool } from './school'

// Where in the year one is, and who one is there.
let school: TestSchool
let admin: Actor
beforeAll(async () => {
  school = await openSchool()
  admin = await school.actor('m.vester')
})
afterAll(() => school.close())

const yearOn = async (date: string) => good(await school.query('shell.frame', admin, { date })).year?.name

describe('the academic year of a date', () => {
  const later = (name: string, firstDay: string, lastDay: string) =>
    school.execute('year.create', admin, {
      name,
      firstDay,
      lastDay,
      weekdays: [1, 2, 3, 4, 5],
      terms: [{ name: 'Autumn', firstDay, lastDay }],
    })

  test('with one year it is that one, before, in and after it', async () => {
    const others = "in (select id from academic_year where name <> '2026/27')"
    for (const table of ['enrolment', 'term'])
      await school.rows(`delete from ${table} where year_id ${others}`)
    await school.rows("delete from academic_year where name <> '2026/27'")
    for (const date of ['2020-01-01', '2026-11-23', '2031-05-05']) expect(await yearOn(date)).toBe('2026/27')
  })

  test('with several it is the one the date lies in, else the nearest before, else the first to come', async () => {
    good(await later('2028/29', '2028-09-01', '2029-07-13'))
    good(await later('2027/28', '2027-09-01', '2028-07-14'))
    expect(await yearOn('2020-01-01')).toBe('2026/27')
    expect(await yearOn('2027-09-01')).toBe('2027/28')
    expect(await yearOn('2028-07-14')).toBe('2027/28')
    expect(await yearOn('2028-08-10')).toBe('2027/28')
    expect(await yearOn('2028-09-01')).toBe('2028/29')
    expect(await yearOn('2031-05-05')).toBe('2028/29')
  })

  test('comes with its terms and closures in order, as the tables have them', async () => {
    const { year } = good(await school.query('shell.frame', admin, { date: '2026-11-23' }))
    const stored = async (table: string) =>
      (
        await school.rows(
          `select x.name, x.first_day, x.last_day from ${table} x join academic_year y on y.id = x.year_id and y.name = '2026/27' order by x.first_day`,
        )
      ).map((r) => ({ name: r.name, firstDay: r.firstDay, lastDay: r.lastDay }))
    expect(year?.terms.map(({ name, firstDay, lastDay }) => ({ name, firstDay, lastDay }))).toEqual(
      await stored('term'),
    )
    expect(year?.closures.map(({ name, firstDay, lastDay }) => ({ name, firstDay, lastDay }))).toEqual(
      await stored('closure'),
    )
    expect(year?.weekdays).toEqual([1, 2, 3, 4, 5])
  })

  test('two years may not share a day', async () => {
    expect(bad(await later('Twice', '2027-01-11', '2027-12-17')).message).toMatch(/2026\/27/)
    expect(await yearOn('2027-02-01')).toBe('2026/27')
  })
})

test('names that begin with a year stand in the order people read them', async () => {
  const { classes } = good(await school.query('shell.frame', await school.actor('r.achterberg'), {}))
  expect(classes.map((c) => c.name)).toEqual([
    '7 Tern',
    '7 Navigation',
    '7 Science A',
    '8 Science A',
    '10 Biology A',
    '11 Marine studies A',
  ])
  const form = good(await school.query('assessment.newForm', await school.actor('r.achterberg'), {}))
  expect(form.classes.map((c) => c.name)).toEqual(classes.slice(1).map((c) => c.name))
  const all = await school.rows('select name from homeroom order by name')
  expect(all.slice(-4).map((r) => r.name)).toEqual(['11 Plover', '11 Tern', '12 Plover', '12 Tern'])
})

describe('who an account is', () => {
  let accountId: string
  let actorsOf: typeof import('@/server/platform/session').actorsOf
  const other = '0190a000-0000-7000-8000-00000000beef'
  beforeAll(async () => {
    ;({ actorsOf } = await import('@/server/platform/session'))
    ;({ id: accountId } = await school.row('select id from auth."user" where username = \'e.leask\''))
    await school.rows("insert into school (id, name, short_name) values ($1, 'Tarn School', 'tarn')", [other])
    await school.rows(
      `insert into membership (school_id, account_id, role, person_id, name)
       values ($1, $2, 'teacher', '0190a000-0000-7000-8000-00000000cafe', 'Ewan Leask')`,
      [other, accountId],
    )
  })

  test('is answered for each of two schools, or for the one that is named', async () => {
    expect(await actorsOf(accountId)).toMatchObject([
      { roles: ['office'], schoolName: 'Wrackline School' },
      { roles: ['teacher'], schoolName: 'Tarn School' },
    ])
    const [actor] = await actorsOf(accountId, { schoolId: other, sessionToken: 's' })
    expect(actor).toMatchObject({
      roles: ['teacher'],
      schoolId: other,
      schoolName: 'Tarn School',
      username: 'e.leask',
      sessionToken: 's',
    })
  })

  test('is nobody in a school it does not belong to, when it is not active, or when it does not exist', async () => {
    expect(await actorsOf(admin.accountId, { schoolId: other })).toEqual([])
    expect(await actorsOf('nobody')).toEqual([])
    await school.rows('update membership set active = false where account_id = $1', [accountId])
    expect(await actorsOf(accountId)).toEqual([])
    await school.rows('update membership set active = true where account_id = $1', [accountId])
  })

  test('leaves no school set on the connection behind it', async () => {
    const { database } = await import('@/server/platform/database')
    const { sql } = await import('kysely')
    for (let n = 0; n < 12; n++) {
      await actorsOf(accountId)
      const { rows } = await sql<{ n: string }>`select count(*) as n from student`.execute(database())
      expect(rows[0]?.n).toBe('0')
    }
  })
})

test('statements sent together are each answered with their own rows, in a query of the registry too', async () => {
  const [teacher, head] = await Promise.all([school.actor('r.achterberg'), school.actor('s.kirkness')])
  const homeroom = await school.row("select id from homeroom where name = '7 Tern'")
  const asked = Array.from({ length: 8 }, (_, n) =>
    school.query('attendance.register', n % 2 ? teacher : head, {
      homeroomId: homeroom.id,
      date: '2026-11-23',
      session: 'morning',
    }),
  )
  const alone = good(
    await school.query('attendance.register', head, {
      homeroomId: homeroom.id,
      date: '2026-11-23',
      session: 'morning',
    }),
  )
  for (const answer of await Promise.all(asked)) {
    const register = good(answer)
    expect(register.rows).toEqual(alone.rows)
    expect(register.codes).toEqual(alone.codes)
  }
})

test('one that fails among several undoes them all and leaves the connection fit for the next', async () => {
  const { database } = await import('@/server/platform/database')
  const { sql } = await import('kysely')
  const before = await school.row('select count(*)::int as n from auth.sign_in_attempt')
  await expect(
    database()
      .transaction()
      .execute((db) =>
        Promise.all([
          db.insertInto('auth.sign_in_attempt').values({ name: 'a.first' }).execute(),
          sql`select 1 / 0`.execute(db),
          db.insertInto('auth.sign_in_attempt').values({ name: 'a.third' }).execute(),
        ]),
      ),
  ).rejects.toThrow('division by zero')
  expect(await school.row('select count(*)::int as n from auth.sign_in_attempt')).toEqual(before)
  expect(good(await school.query('shell.frame', admin, {})).schoolName).toBe('Wrackline School')
})
