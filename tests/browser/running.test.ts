import { setTimeout as rest } from 'node:timers/promises'
import pg from 'pg'
import { openSchool, type TestSchool } from '../integration/school'
import { endParts, freePort, ready, start as startPart, startWeb } from './parts'

// The parts of Kedge as processes: what they refuse, how they wait, how they end, and what they say about it.
let school: TestSchool
beforeAll(async () => {
  school = await openSchool('empty')
})
afterAll(async () => {
  endParts()
  await school.close({ meddled: true })
})

const urls = () => ({ DATABASE_URL: school.appUrl, DATABASE_OWNER_URL: school.ownerUrl })
const start = (args: readonly string[], env: Record<string, string | undefined> = {}) =>
  startPart(args, { ...urls(), ...env })
const web = () => startWeb(urls())
const superuser = (database = school.name) => {
  const { superuser: url } = JSON.parse(process.env.KEDGE_TEST_DATABASES ?? '{}') as { superuser: string }
  return url.replace('{database}', database)
}

test.each(['web', 'worker'])(
  'the %s refuses a role for which all schools are one, and one that owns',
  async (part) => {
    for (const url of [superuser(), school.ownerUrl]) {
      const one = start([part], { DATABASE_URL: url, PORT: String(await freePort()) })
      expect(await one.ended).toBe(1)
      expect(one.printed()).toContain('DATABASE_URL must name the role kedge_app')
      expect(ready(one.lines())).toBe(false)
    }
  },
)

test('a configuration that is not right, a port that is taken and a host of another machine are told', async () => {
  const wrong = start(['web'], {
    SMTP_URL: 'mail.example',
    KEDGE_URL: 'kedge.example',
    MAIL_FROM: 'office',
    PORT: 'x',
  })
  expect(await wrong.ended).toBe(1)
  for (const words of [
    'SMTP_URL must be the address of a mail server, such as smtps://',
    'KEDGE_URL must be the address that people type, such as https://',
    'MAIL_FROM must be a name and an address',
    'PORT must be a port, such as 3000',
  ])
    expect(wrong.printed()).toContain(words)
  const coded = start(['worker'], { DATABASE_URL: 'postgres://kedge_app:a/b#c@127.0.0.1:5432/kedge' })
  expect(await coded.ended).toBe(1)
  expect(coded.printed()).toContain('/ is %2F')
  const one = await web()
  await one.until(ready)
  const second = start(['web'], { PORT: new URL(one.url).port, HOST: '127.0.0.1' })
  expect(await second.ended).toBe(1)
  expect(second.printed()).toContain('is taken')
  one.child.kill('SIGTERM')
  expect(await one.ended).toBe(0)
})

test('a database that another version has migrated gets a plain page until it fits; one with nothing in it too', async () => {
  await school.rows("delete from kysely_migration where name = '003-marks'")
  const one = await web()
  await one.until(ready)
  const page = await fetch(`${one.url}/sign-in`)
  expect(page.status).toBe(503)
  expect(await page.text()).toContain('Kedge is being looked after')
  expect((await fetch(`${one.url}/api/query/people.list?input={}`)).status).toBe(503)
  expect((await fetch(`${one.url}/api/health`)).status).toBe(200)
  const unfit = await fetch(`${one.url}/api/ready`)
  expect(unfit.status).toBe(503)
  expect(await unfit.json()).toMatchObject({
    status: 'unavailable',
    reason: expect.stringContaining('003-marks is missing. Run: npm run kedge -- migrate'),
  })
  const worker = start(['worker'])
  await worker.until((lines) => lines.some((l) => l.event === 'database'))
  await school.rows(
    "insert into kysely_migration (name, timestamp) values ('003-marks', '2026'), ('009-later', '2026')",
  )
  await one.until((lines) => lines.some((l) => l.msg.includes('newer Kedge: it has 009-later')))
  await school.rows("delete from kysely_migration where name = '009-later'")
  await one.until((lines) => lines.some((l) => l.msg.includes('right again')))
  expect((await fetch(`${one.url}/sign-in`)).status).toBe(200)
  await worker.until((lines) => lines.some((l) => l.msg.includes('right again')))
  for (const part of [one, worker]) {
    part.child.kill('SIGTERM')
    expect(await part.ended).toBe(0)
    // Every line says when, which part and which version.
    for (const line of part.lines())
      expect(line).toMatchObject({
        time: expect.stringMatching(/^\d{4}-/),
        part: expect.any(String),
        version: expect.stringMatching(/^\d+\.\d+\.\d+/),
      })
  }
})

test('asked to end with a page open, the web application tells the page to come back and ends at once', async () => {
  const one = await web()
  await one.until(ready)
  const { createSchool } = await import('@/terminal/create-school')
  const password = await createSchool(school.ownerUrl, {
    name: 'Farrow School',
    shortName: 'farrow',
    username: 'zara.skaar',
    adminName: 'Zara Skaar',
  })
  const send = (path: string, body: unknown, cookie = '') =>
    fetch(`${one.url}${path}`, {
      method: 'POST',
      headers: { 'content-type': 'application/json', cookie },
      body: JSON.stringify(body),
    })
  const wrong = await send('/api/sign-in', { username: 'zara.skaar', password: 'not this one' })
  expect(wrong.status).toBe(401)
  await one.until((lines) => lines.some((l) => l.event === 'sign-in refused'))
  const signedIn = await send('/api/sign-in', { username: 'zara.skaar', password })
  const cookie = signedIn.headers
    .getSetCookie()
    .map((c) => c.split(';')[0])
    .join('; ')
  await send(
    '/api/command/account.setOwnPassword',
    { input: { password: 'harbour lights at dusk' }, key: crypto.randomUUID() },
    cookie,
  )
  const topics = encodeURIComponent(JSON.stringify([{ query: 'work.list', input: {} }]))
  const again = await send('/api/sign-in', { username: 'zara.skaar', password: 'harbour lights at dusk' })
  const stream = await fetch(`${one.url}/api/live?topics=${topics}`, {
    headers: {
      cookie: again.headers
        .getSetCookie()
        .map((c) => c.split(';')[0])
        .join('; '),
    },
  })
  expect(stream.status).toBe(200)
  const told = stream.text()
  const from = Date.now()
  one.child.kill('SIGTERM')
  expect(await one.ended).toBe(0)
  expect(await told).toContain('event: reconnect')
  expect(Date.now() - from).toBeLessThan(10_000)
})

test('a worker outlives the database, says so twice, and works on', async () => {
  const worker = start(['worker'])
  await worker.until(ready)
  const workers = async () =>
    Number(
      (
        await school.row(
          "select count(*)::int as n from pg_locks l join pg_database d on d.oid = l.database and d.datname = current_database() where locktype = 'advisory' and classid = 7301 and objsubid = 2",
        )
      ).n,
    )
  for (let n = 0; n < 100 && (await workers()) === 0; n++) await rest(100)
  expect(await workers()).toBe(1)
  const admin = new pg.Client({ connectionString: superuser('postgres') })
  await admin.connect()
  // Away when the minute is full: the queue's clock asks the database then.
  while (new Date().getSeconds() !== 55) await rest(100)
  await admin.query(`alter database ${school.name} allow_connections false`)
  await admin.query(
    "select pg_terminate_backend(pid) from pg_stat_activity where datname = $1 and usename <> 'postgres'",
    [school.name],
  )
  await rest(14_000)
  expect([worker.child.exitCode, worker.printed()]).toEqual([null, expect.anything()])
  await admin.query(`alter database ${school.name} allow_connections true`)
  await admin.end()
  await worker.until((lines) => lines.some((l) => l.msg.includes('has the database again')))
  for (let n = 0; n < 400 && (await workers()) === 0; n++) await rest(100)
  expect(await workers()).toBe(1)
  expect(worker.lines().filter((l) => l.msg.includes('has lost the database')).length).toBe(1)
  worker.child.kill('SIGTERM')
  expect(await worker.ended).toBe(0)
}, 240_000)
