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

test('after eight failures the user name waits, even with the right password; others are not held up', async () => {
  for (let n = 0; n < 8; n++) await signIn('s.kirkness', 'wrong')
  expect(await signIn('s.kirkness', demoPasswords.chosen)).toMatchObject({ ok: false, status: 429 })
  expect((await signIn('e.leask', demoPasswords.chosen)).ok).toBe(true)
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
  const set = (password: string) => school.tell('account.setOwnPassword', session.actor, { password })
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
      await school.tell('account.setOwnPassword', session.actor, {
        password: 'eight grey seals',
        present: 'wrong',
      }),
    ).message,
  ).toContain('not your current password')
})

test('signing out everywhere ends every session', async () => {
  const sessions = [
    await cookiesOf('p.ilves', demoPasswords.chosen),
    await cookiesOf('p.ilves', demoPasswords.chosen),
  ]
  good(await school.tell('account.signOutEverywhere', await school.actor('p.ilves'), {}))
  for (const cookies of sessions)
    expect((await sessionModule.readSession(headers(cookies))).kind).toBe('signed out')
})

test('an account that is not active any more reaches no school', async () => {
  const cookies = await cookiesOf('h.tulloch', demoPasswords.chosen)
  await school.rows("update membership set active = false where name = 'Hana Tulloch'")
  expect(await sessionModule.readSession(headers(cookies))).toMatchObject({
    kind: 'choose school',
    schools: [],
  })
})
