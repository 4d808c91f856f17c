import { demoPasswords } from '@/demo/passwords'
import { demoNotice } from '@/demo/notice'
import { bad, good, openSchool, type TestSchool } from './school'

let school: TestSchool
let signInModule: typeof import('@/server/platform/sign-in')
let sessionModule: typeof import('@/server/platform/session')
beforeAll(async () => {
  school = await openSchool()
  signInModule = await import('@/server/platform/sign-in')
  sessionModule = await import('@/server/platform/session')
})
afterAll(() => school.close())

const headers = (cookies: readonly string[] = []) =>
  new Headers({ cookie: cookies.map((c) => c.split(';')[0]).join('; ') })
const signIn = (user: string, password: string) => signInModule.signIn(user, password, headers())
async function cookiesOf(user: string, password: string): Promise<readonly string[]> {
  const answer = await signIn(user, password)
  if (!answer.ok) throw new Error(answer.message)
  return answer.cookies
}

test('everybody the sign-in page of a demo names can sign in with the password it names', async () => {
  for (const user of demoNotice.users) expect((await signIn(user.username, user.password)).ok).toBe(true)
  expect(demoNotice.users.map((u) => u.password)).toEqual(
    expect.arrayContaining(Object.values(demoPasswords)),
  )
})

test('user names are read in either case; a wrong password and an unknown name are told alike', async () => {
  expect((await signIn(' R.Achterberg ', demoPasswords.chosen)).ok).toBe(true)
  const wrong = await signIn('r.achterberg', 'nope')
  const unknown = await signIn('nobody', 'nope')
  expect(wrong).toEqual(unknown)
  expect(wrong).toMatchObject({ ok: false, status: 401 })
})

// Tests do not race with waits of seconds: what was tried counts as of a minute to come, or as of an hour ago.
const justNow = () =>
  school.rows("update auth.sign_in_attempt set at = clock_timestamp() + interval '1 minute'")
const longAgo = () =>
  school.rows("update auth.sign_in_attempt set at = clock_timestamp() - interval '1 hour'")

test('the wait doubles with each try, up to its longest, and ends with the day', async () => {
  const wait = async (tries: number, longest = 1e9) => {
    await school.rows("delete from auth.sign_in_attempt where name = 'x'")
    await school.rows(
      "insert into auth.sign_in_attempt (name, at) select 'x', clock_timestamp() from generate_series(1, $1)",
      [tries],
    )
    const { wait: seconds } = await school.row("select kedge_wait('x', 5, 100000, $1) as wait", [longest])
    return Math.round(Number(seconds) / 10_000) * 10_000
  }
  expect(await wait(4)).toBe(0)
  expect([await wait(5), await wait(6), await wait(8)]).toEqual([100_000, 200_000, 800_000])
  expect(await wait(8, 300_000)).toBe(300_000)
  expect(await wait(200)).toBe(1_000_000_000)
  await school.rows(
    "update auth.sign_in_attempt set at = clock_timestamp() - interval '25 hours' where name = 'x'",
  )
  expect((await school.row("select kedge_wait('x', 5, 100000, 900) as wait")).wait ?? 0).toBe(0)
})

test('after five failures a name waits longer and longer, even with the right password; others are not held up', async () => {
  const known = await cookiesOf('s.kirkness', demoPasswords.chosen)
  for (let n = 0; n < 5; n++) expect(await signIn('s.kirkness', 'wrong')).toMatchObject({ status: 401 })
  await justNow()
  expect(await signIn('s.kirkness', demoPasswords.chosen)).toMatchObject({
    status: 429,
    message: expect.stringMatching(/Wait 1 minute|Wait 2 minutes/),
  })
  expect((await signIn('e.leask', demoPasswords.chosen)).ok).toBe(true)
  // The one who was tried goes on working where they signed in before.
  expect((await signInModule.signIn('s.kirkness', demoPasswords.chosen, headers(known))).ok).toBe(true)
  // A name that is no account waits just the same, and so does the address of the account, by itself.
  for (const name of ['nobody.here', 's.kirkness@wrackline.example']) {
    for (let n = 0; n < 5; n++) expect(await signIn(name, 'wrong')).toMatchObject({ status: 401 })
    await justNow()
    expect(await signIn(name, 'wrong')).toMatchObject({ status: 429 })
  }
  // After the wait there is one more try.
  await longAgo()
  expect(await signIn('nobody.here', 'wrong')).toMatchObject({ status: 401 })
  const kept = await school.rows('select name from auth.sign_in_attempt')
  expect(JSON.stringify(kept)).not.toMatch(/nobody|kirkness/)
})

test('a cookie that another account has, or that somebody made up, makes no device known', async () => {
  const { isKnownDevice } = await import('@/server/platform/known-device')
  const own = headers(await cookiesOf('e.leask', demoPasswords.chosen))
  const id = async (name: string) => (await school.actor(name)).accountId
  expect(isKnownDevice(own, await id('e.leask'))).toBe(true)
  expect(isKnownDevice(own, await id('m.vester'))).toBe(false)
  expect(isKnownDevice(new Headers({ cookie: 'kedge.device=made-up.x' }), await id('e.leask'))).toBe(false)
})

test('a flood of invented names hears at once that Kedge is busy; whoever is known signs in meanwhile', async () => {
  const known = headers(await cookiesOf('m.vester', demoPasswords.chosen))
  const flood = Array.from({ length: 40 }, (_, n) => signIn(`flood.${n}`, 'x'))
  const own = await signInModule.signIn('m.vester', demoPasswords.chosen, known)
  expect(own.ok).toBe(true)
  const answers = await Promise.all(flood)
  const statuses = answers.map((a) => (a.ok ? 200 : a.status))
  expect(new Set(statuses)).toEqual(new Set([401, 503]))
  // What was not looked at does not count against its name.
  const busy = answers.findIndex((a) => !a.ok && a.status === 503)
  for (let n = 0; n < 5; n++) expect(await signIn(`flood.${busy}`, 'x')).toMatchObject({ status: 401 })
})

test('a password kept at a former cost is kept at today’s after the next sign-in', async () => {
  const { hashPassword: former } = await import('better-auth/crypto')
  const { isOutdated } = await import('@/server/platform/password-hash')
  const { accountId } = await school.actor('e.leask')
  const kept = async () =>
    String((await school.row('select password from auth.account where "userId" = $1', [accountId])).password)
  await school.rows('update auth.account set password = $1 where "userId" = $2', [
    await former(demoPasswords.chosen),
    accountId,
  ])
  expect(isOutdated(await kept())).toBe(true)
  expect((await signIn('e.leask', 'wrong')).ok).toBe(false)
  expect((await signIn('e.leask', demoPasswords.chosen)).ok).toBe(true)
  expect(await kept()).toMatch(/^scrypt:15:8:3:/)
  expect((await signIn('e.leask', demoPasswords.chosen)).ok).toBe(true)
})

test('a session ends when nothing was done for as long as its role allows, sooner on a shared computer', async () => {
  const later = (minutes: number) =>
    school.rows(`update auth.session set active_at = active_at - interval '${minutes} minutes'`)
  const kind = async (cookies: readonly string[], isAct = false) =>
    (await sessionModule.readSession(headers(cookies), { isAct })).kind
  await school.rows('delete from auth.session')
  const office = await cookiesOf('e.leask', demoPasswords.chosen)
  const answer = await signInModule.signIn('r.achterberg', demoPasswords.chosen, headers(), {
    sharedComputer: true,
  })
  if (!answer.ok) throw new Error(answer.message)
  await later(14)
  expect([await kind(office), await kind(answer.cookies)]).toEqual(['signed in', 'signed in'])
  // What a page asks by itself is no act; opening a page is.
  await later(2)
  expect(await kind(answer.cookies)).toBe('signed out')
  await later(100)
  expect(await kind(office, true)).toBe('signed in')
  await later(100)
  expect(await kind(office)).toBe('signed in')
  await later(21)
  expect(await kind(office)).toBe('signed out')
  expect(await school.rows('select 1 from auth.session')).toEqual([])
})

test('the session cookie cannot be read by scripts and is sent to this site only', async () => {
  const [cookie] = await cookiesOf('e.leask', demoPasswords.chosen)
  expect(cookie).toMatch(/^kedge\.session_token=.*HttpOnly/i)
  expect(cookie).toMatch(/SameSite=Lax/i)
})

test('an initial password must be changed first; the rule is kept; other sessions end', async () => {
  const first = await cookiesOf('d.munro', demoPasswords.initial)
  const elsewhere = await cookiesOf('d.munro', demoPasswords.initial)
  const session = await sessionModule.readSession(headers(first))
  expect(session.kind).toBe('password first')
  if (session.kind !== 'password first') throw new Error('signed in above')
  const set = (password: string) => school.execute('account.setOwnPassword', session.actor, { password })
  expect(bad(await set('short')).message).toContain('At least 12 characters')
  expect(bad(await set('password123456')).message).toContain('common password')
  expect(bad(await set(demoPasswords.initial)).message).toContain('the password you have now')
  good(await set('seven grey seals'))
  expect((await sessionModule.readSession(headers(first))).kind).toBe('signed in')
  expect((await sessionModule.readSession(headers(elsewhere))).kind).toBe('signed out')
  expect((await signIn('d.munro', demoPasswords.initial)).ok).toBe(false)
  expect((await signIn('d.munro', 'seven grey seals')).ok).toBe(true)
  expect(
    bad(
      await school.execute('account.setOwnPassword', session.actor, {
        password: 'eight grey seals',
        present: 'wrong',
      }),
    ).message,
  ).toContain('not your current password')
  // Whoever finds the page open cannot go on guessing.
  const guess = async (present: string) =>
    school.execute('account.setOwnPassword', session.actor, { password: 'eight grey seals', present })
  for (let n = 0; n < 4; n++) expect(bad(await guess('wrong')).message).toContain('not your current password')
  await justNow()
  expect(bad(await guess('seven grey seals')).message).toContain('several times. Wait')
  await longAgo()
  good(await guess('seven grey seals'))
})

test('signing out everywhere ends every session', async () => {
  const sessions = [
    await cookiesOf('p.ilves', demoPasswords.chosen),
    await cookiesOf('p.ilves', demoPasswords.chosen),
  ]
  good(await school.execute('account.signOutEverywhere', await school.actor('p.ilves'), {}))
  for (const cookies of sessions)
    expect((await sessionModule.readSession(headers(cookies))).kind).toBe('signed out')
})

const onWindows = 'Mozilla/5.0 (Windows NT 10.0; Win64; x64; rv:128.0) Gecko/20100101 Firefox/128.0'

test('sessions are listed with their browser and ended one by one, by their owner and by an administrator', async () => {
  await school.rows('delete from auth.session')
  await school.rows('delete from auth.sign_in_attempt')
  const from = async (agent: string) => {
    const answer = await signInModule.signIn(
      'p.ilves',
      demoPasswords.chosen,
      new Headers({ 'user-agent': agent }),
    )
    if (!answer.ok) throw new Error(answer.message)
    const session = await sessionModule.readSession(headers(answer.cookies))
    if (session.kind !== 'signed in') throw new Error(session.kind)
    return { cookies: answer.cookies, actor: session.actor }
  }
  const [own, lost] = [await from(onWindows), await from('')]
  await school.rows(
    "update auth.session set active_at = active_at - interval '90 minutes' where token = $1",
    [lost.actor.sessionToken],
  )
  const listed = good(await school.query('account.sessions', own.actor, {}))
  expect(listed).toEqual([
    expect.objectContaining({ browser: 'Firefox on Windows', here: true, idleMinutes: 0 }),
    expect.objectContaining({ browser: 'Unknown browser', here: false, idleMinutes: 90 }),
  ])
  expect(JSON.stringify(listed)).not.toContain(own.actor.sessionToken)

  // Nobody ends somebody else's by its number.
  const [, { id: lostId } = { id: '' }] = listed
  good(await school.execute('account.endOwnSession', await school.actor('e.leask'), { sessionId: lostId }))
  expect((await sessionModule.readSession(headers(lost.cookies))).kind).toBe('signed in')
  for (let twice = 0; twice < 2; twice++)
    good(await school.execute('account.endOwnSession', own.actor, { sessionId: lostId }))
  expect((await sessionModule.readSession(headers(lost.cookies))).kind).toBe('signed out')

  const admin = await school.actor('m.vester')
  const { personId: staffId } = await school.row(
    "select person_id from membership where account_id = $1 and role = 'records'",
    [own.actor.accountId],
  )
  const [left] = good(await school.query('staff.sessions', admin, { staffId }))
  expect(left).toMatchObject({ browser: 'Firefox on Windows', here: false })
  good(await school.execute('staff.endSession', admin, { staffId, sessionId: left?.id ?? '' }))
  expect((await sessionModule.readSession(headers(own.cookies))).kind).toBe('signed out')
  expect(good(await school.query('staff.sessions', admin, { staffId }))).toEqual([])
})

test('what a browser calls itself is made words, whatever it is', async () => {
  const { browserInWords } = await import('@/server/platform/browser-words')
  expect(browserInWords(null)).toBe('Unknown browser')
  expect(browserInWords('<script>'.repeat(1000))).toBe('Unknown browser')
  expect(browserInWords(onWindows)).toBe('Firefox on Windows')
})

test('what is over is deleted by the clock; what still counts stays', async () => {
  const { deleteExpired } = await import('@/server/platform/expired')
  const { accountId } = await school.actor('e.leask')
  await school.rows('delete from auth.session')
  const kept = await cookiesOf('e.leask', demoPasswords.chosen)
  await school.rows(
    `insert into auth.session (id, "userId", token, "expiresAt") values ('over', $1, 'over', now() - interval '1 minute')`,
    [accountId],
  )
  await school.rows('delete from auth.sign_in_attempt')
  await school.rows(
    `insert into auth.sign_in_attempt (name, at) values ('old', now() - interval '25 hours'), ('new', now())`,
  )
  const schoolId = (await school.row('select id from school')).id
  await school.rows(
    `insert into auth.one_time_link (token_hash, school_id, account_id, expires_at, used_at) values
      ('used', $1, $2, now() + interval '1 hour', now() - interval '2 days'), ('late', $1, $2, now() - interval '2 days', null),
      ('open', $1, $2, now() + interval '1 hour', null)`,
    [schoolId, accountId],
  )
  await deleteExpired()
  expect((await sessionModule.readSession(headers(kept))).kind).toBe('signed in')
  expect(await school.rows('select id from auth.session')).toHaveLength(1)
  expect(await school.rows('select name from auth.sign_in_attempt')).toEqual([{ name: 'new' }])
  expect(await school.rows('select token_hash from auth.one_time_link')).toEqual([{ tokenHash: 'open' }])
})

test('an account that is not active any more reaches no school', async () => {
  const cookies = await cookiesOf('h.tulloch', demoPasswords.chosen)
  await school.rows("update membership set active = false where name = 'Hana Tulloch'")
  expect(await sessionModule.readSession(headers(cookies))).toMatchObject({
    kind: 'choose school',
    schools: [],
  })
})
