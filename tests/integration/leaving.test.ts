import type { Actor } from '@/server/platform/actor'
import { bad, good, openSchool, type TestSchool } from './school'

// Somebody leaves the school's staff: at once, or after a day to come, with or without a successor.
let school: TestSchool
let admin: Actor
let leaver: { staffId: string; accountId: string }
const classesOf = async (staffId: string, date: string) =>
  (
    await school.rows(
      'select class_id as id from class_teacher where staff_id = $1 and period @> $2::date order by 1',
      [staffId, date],
    )
  ).map((r) => String(r.id))
const isActive = async () =>
  (
    await school.row('select bool_or(active) as active from membership where person_id = $1', [
      leaver.staffId,
    ])
  ).active
const version = async (id = leaver.staffId) =>
  Number((await school.row('select version from staff_member where id = $1', [id])).version)

beforeAll(async () => {
  school = await openSchool()
  admin = await school.actor('m.vester')
  leaver = await school.row(
    `select t.staff_id, m.account_id from class_teacher t join membership m on m.person_id = t.staff_id
      where t.period @> date '2026-12-10' and m.role = 'teacher' and t.staff_id <> $1 group by 1, 2
      having count(*) > 1 order by 1 limit 1`,
    [(await school.actor('r.achterberg')).staffId],
  )
})
afterAll(() => school.close())

test('on a day to come they work until then; their classes go to a successor, their cover to nobody; undone as a whole', async () => {
  const remi = await school.actor('r.achterberg')
  const successorId = String(remi.staffId)
  const held = await classesOf(leaver.staffId, '2026-12-10')
  const science = await school.row("select id from class where name = '7 Science A'")
  const { lessons } = good(await school.query('attendance.lessonsOfDay', admin, { date: '2026-11-30' }))
  const lesson = lessons.find((l) => l.classId === science.id)
  if (!lesson) throw new Error('7 Science A has a lesson on Mondays')
  good(
    await school.execute('timetable.changeLesson', admin, {
      classId: String(science.id),
      date: '2026-11-30',
      period: lesson.period,
      expectedVersion: 0,
      cancelled: false,
      staffId: leaver.staffId,
      roomId: null,
      note: null,
      confirmed: true,
    }),
  )
  const own = async () =>
    good(await school.query('attendance.lessonsOfDay', remi, { date: '2026-11-30' })).lessons.find(
      (l) => l.classId === science.id && l.period === lesson.period,
    )?.own
  expect(await own()).toBe(false)
  const leave = async (over: object = {}) =>
    school.execute('staffing.deactivate', admin, {
      staffId: leaver.staffId,
      expectedVersion: await version(),
      lastDay: '2026-11-27',
      atOnce: false,
      successorId,
      ...over,
    })
  expect(bad(await leave({ successorId: leaver.staffId })).kind).toBe('invalid')
  const done = await leave()
  good(done)
  expect(await isActive()).toBe(true)
  expect(await classesOf(leaver.staffId, '2026-11-27')).toEqual(held)
  expect(await classesOf(leaver.staffId, '2026-11-28')).toEqual([])
  expect(await classesOf(successorId, '2026-12-10')).toEqual(expect.arrayContaining([...held]))
  expect(await own()).toBe(true)

  // The clock closes the account after the last day, not on it.
  const { closeAccounts } = await import('@/server/staff/leaving')
  const { inSchool } = await import('@/server/platform/in-school')
  const { database } = await import('@/server/platform/database')
  const night = (day: string) =>
    database()
      .transaction()
      .execute((db) => inSchool(db, admin, { command: 'test' }, (context) => closeAccounts.run(context, day)))
  await night('2026-11-27')
  expect(await isActive()).toBe(true)
  await night('2026-11-28')
  expect(await isActive()).toBe(false)
  good(
    await school.execute('staff.reactivate', admin, {
      staffId: leaver.staffId,
      expectedVersion: await version(),
    }),
  )
  expect(await isActive()).toBe(true)
  expect(await classesOf(leaver.staffId, '2026-12-10')).toEqual([])
})

test('is taken back as a whole while nothing of it was changed', async () => {
  const [other] = await school.rows(
    `select distinct t.staff_id as id from class_teacher t join membership m on m.person_id = t.staff_id and m.active
      where t.period @> date '2026-12-10' and m.role = 'teacher' and t.staff_id <> all($1::uuid[]) order by 1`,
    [[leaver.staffId, (await school.actor('r.achterberg')).staffId]],
  )
  const id = String(other?.id)
  const held = await classesOf(id, '2026-12-10')
  const done = await school.execute('staffing.deactivate', admin, {
    staffId: id,
    expectedVersion: await version(id),
    lastDay: '2026-11-23',
    atOnce: true,
    successorId: null,
  })
  good(done)
  expect(await classesOf(id, '2026-12-10')).toEqual([])
  good(await school.execute('history.undo', admin, { run: done.ok ? (done.run ?? '') : '' }))
  expect(await classesOf(id, '2026-12-10')).toEqual(held)
})

test('the last administrator cannot leave, also where the other one leaves on a day to come', async () => {
  const [second] = await school.rows(
    `select person_id as id, account_id from membership where role = 'administrator' and account_id <> $1`,
    [admin.accountId],
  )
  const ask = async (id: string, actor: Actor) =>
    school.execute('staffing.deactivate', actor, {
      staffId: id,
      expectedVersion: await version(id),
      lastDay: '2026-12-18',
      atOnce: false,
      successorId: null,
    })
  if (second) {
    good(await ask(String(second.id), admin))
    const { actorsOf } = await import('@/server/platform/session')
    const [colleague] = await actorsOf(String(second.accountId), { sessionToken: 'test' })
    if (!colleague) throw new Error('still works here')
    expect(bad(await ask(String(admin.staffId), colleague)).message).toContain('only administrator')
  } else expect(bad(await ask(String(admin.staffId), admin)).kind).toBe('refused')
})

test('whose account another school knows, also one that is not active there, gets no password from here', async () => {
  const remi = await school.actor('r.achterberg')
  const away = '00000000-0000-7000-8000-0000000000aa'
  await school.rows("insert into school (id, name, short_name) values ($1, 'Other', 'other-two')", [away])
  await school.rows(
    "insert into staff_member (school_id, id, given_name, family_name, sort_name) values ($1, $1, 'Remi', 'A', 'A, Remi')",
    [away],
  )
  await school.rows(
    "insert into membership (school_id, account_id, role, person_id, name, active) values ($1, $2, 'head', $1, 'Remi A', false)",
    [away, remi.accountId],
  )
  const reset = await school.execute('staff.resetPassword', admin, {
    staffId: String(remi.staffId),
    expectedVersion: await version(String(remi.staffId)),
    password: 'lantern harbour quiet',
  })
  expect(bad(reset).message).toContain('also belongs to another school')
})

test('nobody is given a homeroom, a class or a lesson to cover beyond their last day', async () => {
  const staying = String((await school.actor('r.achterberg')).staffId)
  const homeroom = await school.row(
    "select id, version, room_id from homeroom where name = '7 Tern' and year_id = (select year_id from class where name = '7 Science A')",
  )
  await school.rows("update staff_member set last_day = '2026-12-04' where id = $1", [leaver.staffId])
  const save = async (from: string, staffIds: string[]) =>
    school.execute('year.saveHomeroom', admin, {
      homeroomId: homeroom.id,
      expectedVersion: Number(
        (await school.row('select version from homeroom where id = $1', [homeroom.id])).version,
      ),
      roomId: homeroom.roomId,
      staffIds,
      from,
    })
  expect(bad(await save('2026-12-07', [leaver.staffId])).message).toContain(
    'is at the school until Fri 4 Dec',
  )
  good(await save('2026-11-24', [staying, leaver.staffId]))
  expect(
    (
      await school.row(
        'select period::text as period from homeroom_teacher where homeroom_id = $1 and staff_id = $2',
        [homeroom.id, leaver.staffId],
      )
    ).period,
  ).toBe('[2026-11-24,2026-12-05)')
  const lessons = good(await school.query('attendance.lessonsOfDay', admin, { date: '2026-12-07' })).lessons
  const lesson = lessons.find((l) => !l.coverId)
  if (!lesson) throw new Error('there are lessons on Mondays')
  const cover = {
    classId: lesson.classId,
    period: lesson.period,
    date: '2026-12-07',
    expectedVersion: lesson.version,
    cancelled: false,
    staffId: leaver.staffId,
    roomId: null,
    note: null,
    confirmed: true,
  }
  expect(bad(await school.execute('timetable.changeLesson', admin, cover)).message).toContain(
    'until Fri 4 Dec',
  )
  await school.rows('update staff_member set last_day = null where id = $1', [leaver.staffId])
})
