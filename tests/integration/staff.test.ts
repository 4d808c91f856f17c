import type { Actor } from '@/server/platform/actor'
import { bad, good, openSchool, type TestSchool } from './school'

let school: TestSchool
let administrator: Actor
let head: Actor
beforeAll(async () => {
  school = await openSchool()
  const { username } = await school.row(
    'select u.username from membership m join auth."user" u on u.id = m.account_id where m.role = \'administrator\'',
  )
  administrator = await school.actor(username)
  head = await school.actor('s.kirkness')
})
afterAll(() => school.close())

const password = 'lomari-tekuso-dimuva'
const someone = (over: object = {}) => ({
  givenName: 'Søren',
  familyName: 'Tvedt',
  username: 's.tvedt',
  roles: ['teacher' as const],
  email: null,
  phone: '000 4411',
  password,
  ...over,
})
const member = async (staffId: string) =>
  good(await school.query('staffing.member', administrator, { staffId }))
const staffOf = async (username: string) =>
  (
    await school.row<{ id: string }>(
      "select m.person_id as id from membership m join auth.\"user\" u on u.id = m.account_id where u.username = $1 and m.role not in ('guardian', 'student')",
      [username],
    )
  ).id
const signIn = async (username: string, typed: string) => {
  const { signIn: tryIt } = await import('@/server/platform/sign-in')
  return (await tryIt(username, typed, new Headers())).ok
}
const today = '2026-11-23'

test('a member of staff is added with an account, signs in with the initial password and must change it', async () => {
  const { staffId } = good(await school.execute('staff.create', administrator, someone()))
  expect(await member(staffId)).toMatchObject({
    name: 'Tvedt, Søren',
    account: { username: 's.tvedt', roles: ['teacher'], active: true, mustChangePassword: true },
    responsible: [],
  })
  expect(await signIn('s.tvedt', password)).toBe(true)
  expect(good(await school.query('staffing.list', head, { date: today })).map((m) => m.name)).toContain(
    'Tvedt, Søren',
  )
  // The password stands nowhere but as its hash.
  const kept = await school.rows(
    "select 1 from history where after::text like '%' || $1 || '%' union all select 1 from answered_command where answer::text like '%' || $1 || '%' union all select 1 from command_run where input::text like '%' || $1 || '%'",
    [password],
  )
  expect(kept).toEqual([])
})

test('the same act sent twice makes one account; two who choose one user name at once make one', async () => {
  const key = crypto.randomUUID()
  const wanted = someone({ username: 'twice', familyName: 'Twice' })
  const all = await Promise.all(
    [1, 2].map(() => school.execute('staff.create', administrator, wanted, { key })),
  )
  expect(all.filter((r) => r.ok)).toHaveLength(2)
  const race = await Promise.all(
    [1, 2, 3].map(() => school.execute('staff.create', administrator, someone({ username: 'race' }))),
  )
  expect(race.filter((r) => r.ok)).toHaveLength(1)
  expect(
    race.flatMap((r) => (r.ok || r.failure.kind !== 'invalid' ? [] : r.failure.fields[0]?.path)),
  ).toEqual(['username', 'username'])
})

test.each([
  ['username', { username: 'Söderberg!' }],
  ['username', { username: 's.kirkness' }],
  ['password', { username: 'weak.one', password: 'password1234' }],
  ['roles', { username: 'no.roles', roles: [] }],
  ['givenName', { username: 'no.name', givenName: ' ' }],
  ['email', { username: 'no.mail', email: 'nowhere' }],
  ['email', { username: 'other.mail', email: 'hana.marsh@islandmail.example' }],
])('what is wrong with %s is said beside it', async (path, over) => {
  expect(bad(await school.execute('staff.create', administrator, someone(over)))).toMatchObject({
    kind: 'invalid',
    fields: [{ path }],
  })
})

test('name and address of the account follow the record', async () => {
  const staffId = await staffOf('s.tvedt')
  const set = (field: string, value: string, expectedVersion: number) =>
    school.execute('staff.setMember', administrator, {
      staffId,
      cells: [{ key: { field }, value, expectedVersion }],
    })
  good(await set('familyName', 'Tvedt-Rao', 0))
  good(await set('email', 'S.Tvedt@wrackline.example', 0))
  expect(await signIn('s.tvedt@wrackline.example', password)).toBe(true)
  expect(await school.row('select name, email from auth."user" where username = $1', ['s.tvedt'])).toEqual({
    name: 'Søren Tvedt-Rao',
    email: 's.tvedt@wrackline.example',
  })
  expect(
    bad(await set('email', 'hana.marsh@islandmail.example', (await member(staffId)).versions.email ?? 0))
      .kind,
  ).toBe('invalid')
})

test('roles change at once; the second of two administrators at one account is told', async () => {
  const staffId = await staffOf('s.tvedt')
  const { version } = await member(staffId)
  good(
    await school.execute('staff.setRoles', administrator, {
      staffId,
      expectedVersion: version,
      roles: ['records', 'teacher'],
    }),
  )
  expect((await member(staffId)).account?.roles).toEqual(['records', 'teacher'])
  expect([...(await school.actor('s.tvedt')).roles].sort()).toEqual(['records', 'teacher'])
  expect(
    bad(
      await school.execute('staff.setRoles', administrator, {
        staffId,
        expectedVersion: version,
        roles: ['office'],
      }),
    ).kind,
  ).toBe('conflict')
})

test('the last administrator cannot be removed, also not by two who remove each other', async () => {
  const own = await staffOf(administrator.username)
  const remove = async (staffId: string) =>
    school.execute('staff.setRoles', administrator, {
      staffId,
      expectedVersion: (await member(staffId)).version,
      roles: ['office'],
    })
  expect(bad(await remove(own))).toMatchObject({ code: 'staff.lastAdministrator' })
  const second = await staffOf('s.tvedt')
  good(
    await school.execute('staff.setRoles', administrator, {
      staffId: second,
      expectedVersion: (await member(second)).version,
      roles: ['administrator'],
    }),
  )
  const both = await Promise.all([remove(own), remove(second)])
  expect(both.filter((r) => r.ok)).toHaveLength(1)
  const left = await school.rows("select 1 from membership where role = 'administrator' and active")
  expect(left).toHaveLength(1)
  // Back to how it was.
  const [gone] = both[0]?.ok ? [own] : [second]
  await school.rows(
    "insert into membership (school_id, account_id, role, person_id, name) select school_id, account_id, 'administrator', person_id, name from membership where person_id = $1 limit 1 on conflict do nothing",
    [gone],
  )
})

test('a teacher who is deactivated is signed out at once, teaches until the last day, and keeps the name in the history', async () => {
  const staffId = await staffOf('r.achterberg')
  const before = await member(staffId)
  expect(before.responsible.map((d) => d.name)).toContain('7 Science A')
  expect(await signIn('r.achterberg', 'harbour lights at dusk')).toBe(true)
  const sessions = () =>
    school.rows(
      'select 1 from auth.session s join auth."user" u on u.id = s."userId" where u.username = $1',
      ['r.achterberg'],
    )
  expect(await sessions()).not.toEqual([])
  good(
    await school.execute('staffing.deactivate', administrator, {
      staffId,
      expectedVersion: before.version,
      lastDay: '2026-11-27',
    }),
  )
  expect(await sessions()).toEqual([])
  await expect(school.actor('r.achterberg')).rejects.toThrow('no school')
  const teaches = async (date: string) =>
    good(await school.query('staffing.list', head, { date })).find((m) => m.id === staffId)?.classes
  expect(await teaches('2026-11-27')).toBeGreaterThan(0)
  expect(await teaches('2026-11-28')).toBe(0)
  good(
    await school.execute('staff.reactivate', administrator, {
      staffId,
      expectedVersion: (await member(staffId)).version,
    }),
  )
  expect((await school.actor('r.achterberg')).roles).toEqual(['teacher'])
  expect(
    bad(
      await school.execute('staffing.deactivate', administrator, {
        staffId: await staffOf(administrator.username),
        expectedVersion: (await member(await staffOf(administrator.username))).version,
        lastDay: today,
      }),
    ),
  ).toMatchObject({ code: 'staffing.oneself' })
})

test('an account that another school uses is not this school’s to change: neither password, name nor address', async () => {
  const staffId = await staffOf('d.munro')
  const { id } = await school.row<{ id: string }>('select id from auth."user" where username = \'d.munro\'')
  const second = crypto.randomUUID()
  await school.rows("insert into school (id, name, short_name) values ($1, 'Second', 'second')", [second])
  await school.rows(
    "insert into membership (school_id, account_id, role, person_id, name) values ($1, $2, 'teacher', $3, 'Dalia Munro')",
    [second, id, crypto.randomUUID()],
  )
  const before = await school.row('select name, email from auth."user" where id = $1', [id])
  const hash = async () =>
    (await school.row('select password from auth.account where "userId" = $1', [id])).password
  const kept = await hash()
  const expectedVersion = async () => (await member(staffId)).version
  expect(
    bad(
      await school.execute('staff.resetPassword', administrator, {
        staffId,
        expectedVersion: await expectedVersion(),
        password,
      }),
    ),
  ).toMatchObject({ code: 'staff.usedElsewhere' })
  for (const [field, value] of [
    ['familyName', 'Other'],
    ['email', 'taken.over@wrackline.example'],
  ] as const)
    good(
      await school.execute('staff.setMember', administrator, {
        staffId,
        cells: [{ key: { field }, value, expectedVersion: (await member(staffId)).versions[field] ?? 0 }],
      }),
    )
  expect(await school.row('select name, email from auth."user" where id = $1', [id])).toEqual(before)
  expect(await hash()).toBe(kept)
  // What the school itself keeps follows, and nothing of the other school.
  expect((await member(staffId)).name).toMatch(/^Other, /)
  const names = await school.rows('select school_id, name from membership where account_id = $1', [id])
  expect(names.find((m) => m.schoolId === second)?.name).toBe('Dalia Munro')
  await school.rows(
    `insert into auth.session (id, "userId", token, "expiresAt", "schoolId") values ('x', $1, 'x', now() + interval '1 day', $2), ('y', $1, 'y', now() + interval '1 day', $3)`,
    [id, second, administrator.schoolId],
  )
  good(
    await school.execute('staffing.deactivate', administrator, {
      staffId,
      expectedVersion: await expectedVersion(),
      lastDay: today,
    }),
  )
  expect(await school.rows('select id from auth.session where "userId" = $1', [id])).toEqual([{ id: 'x' }])
})

test('an address that is taken off the record no longer signs in', async () => {
  const staffId = await staffOf('s.tvedt')
  const { versions } = await member(staffId)
  good(
    await school.execute('staff.setMember', administrator, {
      staffId,
      cells: [{ key: { field: 'email' }, value: null, expectedVersion: versions.email ?? 0 }],
    }),
  )
  expect(await signIn('s.tvedt@wrackline.example', password)).toBe(false)
  expect(await signIn('s.tvedt', password)).toBe(true)
})

test('a new password ends every session and must be changed', async () => {
  const staffId = await staffOf('e.leask')
  const expectedVersion = (await member(staffId)).version
  expect(
    bad(
      await school.execute('staff.resetPassword', administrator, {
        staffId,
        expectedVersion,
        password: 'short',
      }),
    ).kind,
  ).toBe('invalid')
  good(await school.execute('staff.resetPassword', administrator, { staffId, expectedVersion, password }))
  expect(await signIn('e.leask', 'harbour lights at dusk')).toBe(false)
  expect(await signIn('e.leask', password)).toBe(true)
  expect((await member(staffId)).account?.mustChangePassword).toBe(true)
})

test('guardians see the address of their children’s homeroom teacher once that teacher agrees', async () => {
  const teacher = await school.actor('r.achterberg')
  const guardian = await school.row<{ id: string }>(
    `select g.guardian_id as id from guardianship g join homeroom_member m on m.student_id = g.student_id
     join homeroom h on h.id = m.homeroom_id and h.name = '7 Tern'
     where m.period @> date '2026-11-23' and g.may_receive_reports limit 1`,
  )
  const parent: Actor = { ...teacher, roles: ['guardian'], staffId: null, guardianId: guardian.id }
  const expectedVersion = async () =>
    good(await school.query('people.childrensTeachers', parent, {})).find((t) => t.homeroom === '7 Tern')
      ?.email
  expect(await expectedVersion()).toBeNull()
  good(await school.execute('staff.shareAddress', teacher, { shared: true }))
  expect(await expectedVersion()).toBe('r.achterberg@wrackline.example')
  expect(good(await school.query('staff.ownAddress', teacher, {})).shared).toBe(true)
  good(await school.execute('staff.shareAddress', teacher, { shared: false }))
  expect(await expectedVersion()).toBeNull()
})
