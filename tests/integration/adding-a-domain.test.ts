import { jest } from '@jest/globals'
import { Kysely, PostgresDialect, sql } from 'kysely'
import pg from 'pg'
import type { Actor } from '@/server/platform/actor'
import type { Result } from '@/server/platform/failure'
import { bad, good, openSchool, type TestSchool } from './school'

/**
 * A whole domain, made of the one folder `notes`, joins with two lines of `domains.ts`: its import and its place in
 * the list. Nothing else knows of it.
 */
let school: TestSchool
let head: Actor
process.env.KEDGE_COUNT_QUERIES = '1'
beforeAll(async () => {
  const { year } = await import('@/server/year')
  const { people } = await import('@/server/people')
  const { attendance } = await import('@/server/attendance')
  const { assessment } = await import('@/server/assessment')
  const { marks } = await import('@/server/marks')
  const { reports } = await import('@/server/reports')
  const { notes } = await import('./notes')
  jest.unstable_mockModule('@/server/domains', () => ({
    domains: [year, people, attendance, assessment, marks, reports, notes],
  }))
  school = await openSchool()
  const pool = new pg.Pool({ connectionString: school.ownerUrl, max: 1 })
  const db = new Kysely<unknown>({ dialect: new PostgresDialect({ pool }) })
  await sql`create table note (school_id uuid not null references school, student_id uuid not null, words text not null,
    version integer not null default 1, primary key (school_id, student_id), foreign key (school_id, student_id) references student)`.execute(
    db,
  )
  await sql`create trigger next_version before insert or update on note for each row execute function kedge_next_version()`.execute(
    db,
  )
  await sql`select kedge_protect('note', history => '{student_id}')`.execute(db)
  await sql`create table note_day (school_id uuid not null references school, day date not null, primary key (school_id, day))`.execute(
    db,
  )
  await sql`select kedge_protect('note_day')`.execute(db)
  await db.destroy()
  head = await school.actor('s.kirkness')
})
afterAll(() => school.close())

// The names of a domain that joins only here are not in the types.
const tell = (name: string, input: object): Promise<Result<any>> =>
  school.execute(name as never, head, input as never)
const ask = (name: string, input: object): Promise<Result<any>> =>
  school.query(name as never, head, input as never)
const runOf = (result: Result<unknown>) => (result.ok ? (result.run ?? '') : '')
const words = async () =>
  (await school.rows('select words from note order by student_id')).map((r) => r.words)

async function clean() {
  await school.rows('delete from note')
  await school.rows(
    "update homeroom_member set period = daterange(lower(period), null) where upper(period) = '2027-01-05'",
  )
}

async function counted<T>(work: () => Promise<T>): Promise<{ value: T; statements: number; ms: number }> {
  const { queriesSent } = await import('@/server/platform/database')
  const [before, from] = [queriesSent(), performance.now()]
  const value = await work()
  return { value, statements: queriesSent() - before, ms: performance.now() - from }
}
const act = (most: number, text: string) => ({ words: text, most, from: '2027-01-05' })

test('its query, command, due item, find source and place are there, each with its rights', async () => {
  good(await tell('notes.writeForMany', act(3, 'Sails well')))
  expect(good(await ask('notes.list', {}))).toHaveLength(3)
  const due = good(await school.query('today.due', head, { date: '2026-11-23' }))
  expect(due.items.map((item) => item.what)).toContain('Read the notes')
  const found = good(await school.query('find.anything', head, { text: 'sails' }))
  expect(found).toHaveLength(3)
  expect(found[0]).toMatchObject({ kind: 'note', name: 'Sails well' })
  const { places } = good(await school.query('shell.frame', head, {}))
  expect(places.map((place) => place.name)).toEqual([
    'Today',
    'People',
    'Notes',
    'Classes',
    'Attendance',
    'Assessments',
    'Reports',
    'School',
  ])
  const { printRights } = await import('@/terminal/print-rights')
  expect(printRights()).toContain(
    '| notes.list | take notes | administrator, head, office, records, teacher |',
  )
  const guardian = await school.actor('hana.marsh@islandmail.example')
  expect(bad(await school.query('notes.list' as never, guardian, {} as never)).kind).toBe('not found')
})

test('its job runs, its mail goes to the queue, and its clock work is done once a day', async () => {
  const { jobId } = good(await tell('notes.startCount', {}))
  const { runJob } = await import('@/worker/run-job')
  await runJob({ schoolId: head.schoolId, id: jobId }, { last: false })
  expect(await school.row('select state, message, done, total from job where id = $1', [jobId])).toEqual({
    state: 'done',
    message: '3 notes',
    done: 3,
    total: 3,
  })
  const { id } = await school.row('select id from student limit 1')
  good(await tell('notes.send', { studentId: id }))
  expect(await school.row("select kind, subject from mail where dedupe like 'note:%'")).toEqual({
    kind: 'notes.note',
    subject: 'A note: Sails well',
  })
  const { tick } = await import('@/worker/tick')
  const owner = new pg.Client({ connectionString: school.ownerUrl })
  await owner.connect()
  // Two workers, which do not know of each other.
  await tick(owner, new Set())
  await tick(owner, new Set())
  await owner.end()
  expect(await school.rows('select day from note_day')).toEqual([{ day: '2026-11-23' }])
})

test('a preview says in its words what would change, changes nothing, and is refused once it is no longer true', async () => {
  const { preview, executeCommand: run } = await import('@/server/platform/run')
  const { commands } = await import('@/server/registry')
  const { describeRun } = await import('@/server/front/describe')
  const command = commands.get('notes.writeForMany')
  if (!command) throw new Error('it has joined')
  const before = await words()
  const shown = good(await preview(command, head, act(4, 'Reads charts'), describeRun))
  expect(await words()).toEqual(before)
  expect(shown.counts).toContainEqual({ kind: 'Note', operation: 'update', rows: 3 })
  expect(shown.counts).toContainEqual({ kind: 'Note', operation: 'insert', rows: 1 })
  expect(shown.changes.find((c) => c.operation === 'update' && c.kind === 'Note')).toMatchObject({
    student: expect.stringContaining(', '),
    changes: [{ what: 'words', from: 'Sails well', to: 'Reads charts' }],
  })
  expect(good(await preview(command, head, act(4, 'Reads charts'), describeRun)).fingerprint).toBe(
    shown.fingerprint,
  )
  await school.rows(
    "update note set words = 'Ties knots' where student_id = (select min(student_id::text)::uuid from note)",
  )
  const expecting = { fingerprint: shown.fingerprint, describe: describeRun }
  const refused = bad(await run(command, head, act(4, 'Reads charts'), { expecting }))
  expect(refused).toMatchObject({ kind: 'preview changed', preview: { changes: expect.any(Array) } })
  expect(await words()).not.toContain('Reads charts')
  const anew = good(await preview(command, head, act(4, 'Reads charts'), describeRun))
  good(
    await run(command, head, act(4, 'Reads charts'), {
      expecting: { ...expecting, fingerprint: anew.fingerprint },
    }),
  )
  expect(new Set(await words())).toEqual(new Set(['Reads charts']))
})

test('an undo puts back what was changed, created and deleted, and stops or leaves what changed since', async () => {
  const periods = () => school.rows('select student_id, period from homeroom_member order by 1, 2')
  await clean()
  const start = await periods()
  const first = await tell('notes.writeForMany', act(3, 'One'))
  const second = await tell('notes.writeForMany', act(5, 'Two'))
  expect(await words()).toEqual(Array(5).fill('Two'))
  expect(bad(await tell('history.undo', { run: runOf(first) }))).toMatchObject({
    code: 'history.changedSince',
  })
  expect(await words()).toEqual(Array(5).fill('Two'))
  good(await tell('history.undo', { run: runOf(second) }))
  expect(await words()).toEqual(Array(3).fill('One'))
  const gone = await tell('notes.deleteAll', {})
  expect(await words()).toEqual([])
  await school.rows(
    "insert into note (school_id, student_id, words) select school_id, id, 'New' from student where number > 100 order by number limit 1",
  )
  expect(good(await tell('history.undo', { run: runOf(gone) }))).toMatchObject({ left: 1 })
  expect((await words()).sort()).toEqual(['New', 'One', 'One'])
  await school.rows('delete from note')
  await school.rows(
    "insert into note (school_id, student_id, words) select school_id, id, 'One' from student where number > 100 order by number limit 3",
  )
  good(await tell('history.undo', { run: runOf(first) }))
  expect(await words()).toEqual([])
  expect(await periods()).toEqual(start)
  expect(bad(await tell('history.undo', { run: runOf(first) }))).toMatchObject({
    code: 'history.alreadyUndone',
  })
  const undone = await school.rows('select distinct undoes from history where undoes = $1', [runOf(first)])
  expect(undone).toHaveLength(1)
})

test('an undo after its time, or by somebody else, is refused', async () => {
  const done = await tell('notes.writeForMany', act(1, 'Late'))
  const teacher = await school.actor('r.achterberg')
  expect(bad(await school.execute('history.undo', teacher, { run: runOf(done) })).kind).toBe('not found')
  await school.rows("update command_run set at = at - interval '31 days' where id = $1", [runOf(done)])
  expect(bad(await tell('history.undo', { run: runOf(done) }))).toMatchObject({ code: 'history.tooOld' })
})

test('preview and undo take as many statements for a whole school as for two students', async () => {
  const { preview } = await import('@/server/platform/run')
  const { commands } = await import('@/server/registry')
  const { describeRun } = await import('@/server/front/describe')
  const command = commands.get('notes.writeForMany')
  if (!command) throw new Error('it has joined')
  await clean()
  const round = async (most: number) => {
    const shown = await counted(() => preview(command, head, act(most, `x${most}`), describeRun))
    const done = await counted(() => tell('notes.writeForMany', act(most, `x${most}`)))
    const undone = await counted(() => tell('history.undo', { run: runOf(done.value) }))
    good(undone.value)
    expect(good(shown.value).counts.reduce((sum, c) => sum + c.rows, 0)).toBeGreaterThan(most)
    return { shown, done, undone }
  }
  await round(2)
  const few = await round(2)
  const many = await round(620)
  expect(many.shown.statements).toBe(few.shown.statements)
  expect(many.undone.statements).toBe(few.undone.statements)
  if (process.env.KEDGE_BENCH)
    console.error(
      Object.entries(many).map(
        ([name, { ms, statements }]) => `${name} ${ms.toFixed(1)} ms, ${statements} statements`,
      ),
    )
})
