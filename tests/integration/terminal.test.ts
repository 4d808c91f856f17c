import { spawn } from 'node:child_process'
import { mkdtempSync, readFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { openSchool, type TestSchool } from './school'

// The commands an administrator types in a terminal, as processes of their own.
let school: TestSchool
beforeAll(async () => {
  school = await openSchool('empty')
})
afterAll(() => school.close())

interface Ended {
  readonly code: number | null
  readonly said: string
  readonly complained: string
}

function kedge(args: readonly string[], env: Record<string, string | undefined> = {}): Promise<Ended> {
  return new Promise((resolve) => {
    const child = spawn(process.execPath, ['--import', 'tsx', 'src/terminal/kedge.ts', ...args], {
      env: {
        ...process.env,
        NODE_OPTIONS: '',
        NODE_NO_WARNINGS: '1',
        DATABASE_URL: school.appUrl,
        DATABASE_OWNER_URL: school.ownerUrl,
        ...env,
      },
    })
    let said = ''
    let complained = ''
    child.stdout.on('data', (chunk: Buffer) => (said += chunk.toString()))
    child.stderr.on('data', (chunk: Buffer) => (complained += chunk.toString()))
    child.on('close', (code) => resolve({ code, said: said.trim(), complained: complained.trim() }))
  })
}
const farrow = ['school', 'create', '--name', 'Farrow School', '--short', 'farrow', '--admin', 'z.skaar']

test('alone it tells what there is; an unknown word ends with 1', async () => {
  const alone = await kedge([])
  expect(alone.code).toBe(0)
  for (const command of ['migrate', 'school create', 'password reset', 'demo load', 'worker'])
    expect(alone.said).toContain(command)
  expect((await kedge(['scool', 'create'])).code).toBe(1)
})

test('migrating twice does nothing the second time', async () => {
  expect((await kedge(['migrate'])).said).toBe('The database is up to date.')
})

test('a school is made, its administrator can sign in with the password that is told, and must change it', async () => {
  const missing = await kedge(farrow)
  expect(missing.code).toBe(1)
  expect(missing.complained).toContain('--admin-name is missing')
  expect(await school.rows('select id from school')).toEqual([])

  const made = await kedge([...farrow, '--admin-name', 'Zara Skaar', '--zone', 'Europe/Oslo'])
  expect(made.code).toBe(0)
  const password = /initial password (\S+)/.exec(made.said)?.[1] ?? ''
  expect(password.length).toBeGreaterThanOrEqual(12)
  const { signIn } = await import('@/server/platform/sign-in')
  expect(await signIn('z.skaar', password, new Headers())).toMatchObject({ ok: true })
  expect(await school.row('select name, time_zone from school')).toEqual({
    name: 'Farrow School',
    timeZone: 'Europe/Oslo',
  })
  expect((await school.row('select "mustChangePassword" as first from auth."user"')).first).toBe(true)

  const again = await kedge([...farrow, '--admin-name', 'Zara Skaar'])
  expect(again.code).toBe(1)
  expect(again.complained).toContain('taken')
  expect(await school.rows('select id from school')).toHaveLength(1)
})

test.each([
  [['--short', 'Farrow School'], '--short may hold small letters'],
  [['--admin-name', 'Zara'], '--admin-name needs a given and a family name'],
])('%j is told and makes nothing', async (wrong, told) => {
  const before = await school.rows('select id from school')
  const args = [
    '--name',
    'Other',
    '--short',
    'other',
    '--admin',
    'o.other',
    '--admin-name',
    'Ola Other',
    ...wrong,
  ]
  const ended = await kedge(['school', 'create', ...args])
  expect(ended.code).toBe(1)
  expect(ended.complained).toContain(told)
  expect(await school.rows('select id from school')).toEqual(before)
})

test('a new password ends all sessions and lets a name that had to wait in again', async () => {
  const { signIn } = await import('@/server/platform/sign-in')
  for (let n = 0; n < 6; n++) await signIn('z.skaar', 'wrong guess', new Headers())
  const ended = await kedge(['password', 'reset', '--user', 'Z.Skaar'])
  expect(ended.code).toBe(0)
  const password = /initial password (\S+)/.exec(ended.said)?.[1] ?? ''
  expect(await school.rows('select id from auth.session')).toEqual([])
  expect(await signIn('z.skaar', password, new Headers())).toMatchObject({ ok: true })
  const unknown = await kedge(['password', 'reset', '--user', 'nobody'])
  expect(unknown).toMatchObject({ code: 1, complained: expect.stringContaining('no account') })
})

test('the demo’s test is written as a PDF', async () => {
  const file = join(mkdtempSync(join(tmpdir(), 'kedge-')), 'test.pdf')
  expect((await kedge(['demo', 'test', '--file', file])).code).toBe(0)
  expect(readFileSync(file).subarray(0, 5).toString()).toBe('%PDF-')
})

test('a configuration that is not right is told, every wrong value by name', async () => {
  const ended = await kedge(['migrate'], { DATABASE_URL: 'mysql://elsewhere', KEDGE_SECRET: 'short' })
  expect(ended.code).toBe(1)
  expect(ended.complained).toContain(
    'DATABASE_URL must be an address of PostgreSQL, such as postgres://kedge_app',
  )
  expect(ended.complained).toContain('KEDGE_SECRET must be at least 32 characters')
  const ownerless = await kedge(['migrate'], { DATABASE_OWNER_URL: undefined })
  expect(ownerless.complained).toContain('DATABASE_OWNER_URL is not set')
})

test('the demo is there once it is loaded; asked again for the same day it says so and changes nothing', async () => {
  // The template that this is a copy of was loaded by the same command.
  const demo = await openSchool('demo')
  const students = async () => (await demo.row('select count(*)::int as n from student')).n as number
  const before = await students()
  expect(before).toBeGreaterThan(500)
  const again = await kedge(['demo', 'load', '--date', '2026-11-23'], {
    DATABASE_URL: demo.appUrl,
    DATABASE_OWNER_URL: demo.ownerUrl,
  })
  expect(again.code).toBe(0)
  expect(await students()).toBe(before)
  await demo.close()
})
