import type { Actor } from '@/server/platform/actor'
import type { Context } from '@/server/platform/context'
import { good, openSchool, type TestSchool } from './school'

// The queries of one page, answered from one moment.
let school: TestSchool
let teacher: Actor
let statements: () => number
process.env.KEDGE_COUNT_QUERIES = '1'
beforeAll(async () => {
  school = await openSchool()
  teacher = await school.actor('r.achterberg')
  ;({ queriesSent: statements } = await import('@/server/platform/database'))
})
afterAll(() => school.close())

async function together(actor = teacher) {
  const { executeTogether } = await import('@/server/platform/run')
  const { queries } = await import('@/server/registry')
  const ask = executeTogether(actor)
  return (name: string, input: object) => ask(queries.get(name) as never, input)
}
const date = '2026-11-23'

/** A query that no domain has, for a teacher. */
async function queryOf(run: (context: Context) => Promise<unknown>): Promise<never> {
  const { z } = await import('zod')
  return {
    kind: 'query',
    input: z.object({}),
    right: { words: 'look', grants: [{ roles: ['teacher'] }] },
    run,
  } as never
}
const classOf = async (name: string) =>
  (await school.row('select id from class where name = $1', [name])).id as string

test('what several look up is looked up once', async () => {
  const alone = async () => {
    const before = statements()
    for (const [name, input] of [
      ['shell.frame', {}],
      ['today.due', { date }],
      ['attendance.ownLessons', { date }],
    ] as const)
      good(await school.query(name, teacher, input as never))
    return statements() - before
  }
  const byItself = await alone()
  const ask = await together()
  const before = statements()
  const answers = await Promise.all([
    ask('shell.frame', {}),
    ask('today.due', { date }),
    ask('attendance.ownLessons', { date }),
  ])
  expect(answers.every((answer) => answer.ok)).toBe(true)
  expect(statements() - before).toBeLessThan(byItself / 2)
  expect(good(answers[1] as never)).toEqual(good(await school.query('today.due', teacher, { date })))
})

test('one that is refused, or goes wrong, leaves the others their answers', async () => {
  const ask = await together()
  const [frame, refused, bad, due] = await Promise.all([
    ask('shell.frame', {}),
    ask('marks.gradebook', { classId: await classOf('7 Mathematics B'), date }),
    ask('marks.gradebook', { classId: 'no id', date }),
    ask('today.due', { date }),
  ])
  expect([frame.ok, due.ok]).toEqual([true, true])
  expect(refused).toMatchObject({ ok: false, failure: { kind: 'not found' } })
  expect(bad).toMatchObject({ ok: false, failure: { kind: 'invalid' } })
})

test('an error of the database in one of them is not the others’ error', async () => {
  const { executeTogether } = await import('@/server/platform/run')
  const { queries } = await import('@/server/registry')
  const { sql } = await import('kysely')
  const ask = executeTogether(teacher)
  const broken = await queryOf(({ db }) => sql`select 1 / 0`.execute(db))
  const [frame, fault, due] = await Promise.all([
    ask(queries.get('shell.frame') as never, {}),
    ask(broken, {}),
    ask(queries.get('today.due') as never, { date }),
  ])
  expect(fault).toMatchObject({ ok: false, failure: { kind: 'fault' } })
  expect([frame.ok, due.ok]).toEqual([true, true])
  // And what the page asks afterwards is answered, too.
  expect((await ask(queries.get('shell.frame') as never, {})).ok).toBe(true)
})

test('what is asked later sees what has changed since', async () => {
  const ask = await together(await school.actor('m.vester'))
  good((await ask('shell.frame', {})) as never)
  await school.rows("update report_round set name = 'Another name'")
  await new Promise((resolve) => setTimeout(resolve, 30))
  const { flags } = good((await ask('shell.frame', {})) as never) as {
    flags: readonly { name: string }[]
  }
  expect(flags.map((flag) => flag.name)).toContain('Another name')
})

test('no connection stays behind', async () => {
  const { database } = await import('@/server/platform/database')
  for (let n = 0; n < 30; n++) {
    const ask = await together()
    good((await ask('today.due', { date })) as never)
  }
  await new Promise((resolve) => setTimeout(resolve, 30))
  const open = await school.row(
    "select count(*)::int as n from pg_stat_activity where datname = current_database() and state like 'idle in transaction%'",
  )
  expect(open.n).toBe(0)
  await database().selectFrom('school').select('id').execute()
})

test('what is gathered is one statement, in its order, and like what is asked alone', async () => {
  const { executeTogether } = await import('@/server/platform/run')
  const { gather } = await import('@/server/platform/gather')
  const counted: number[] = []
  const query = await queryOf(async (context) => {
    const { db } = context
    const classes = db.selectFrom('class').select(['id', 'name', 'courseId']).orderBy('name', 'desc')
    const terms = db.selectFrom('term').select(['name', 'firstDay']).orderBy('firstDay')
    const alone = [await classes.execute(), await terms.execute(), []]
    const before = statements()
    const gathered = await Promise.all([
      gather(context, classes),
      gather(context, terms),
      gather(context, terms.where('name', '=', 'no such term')),
    ])
    counted.push(statements() - before)
    return { gathered, alone }
  })
  const { gathered, alone } = good((await executeTogether(teacher)(query, {})) as never) as {
    gathered: unknown
    alone: unknown
  }
  expect(gathered).toEqual(alone)
  expect(counted).toEqual([1])
})

test('a statement is not sent once its transaction is over', async () => {
  const { executeQuery } = await import('@/server/platform/run')
  const { sql } = await import('kysely')
  const late: string[] = []
  const query = await queryOf(async ({ db }) => {
    const straggler = async () => {
      await new Promise((resolve) => setTimeout(resolve, 60))
      await sql`select 1`.execute(db).catch((error: Error) => void late.push(error.message))
    }
    await Promise.all([sql`select 1 / 0`.execute(db), straggler()])
  })
  expect(await executeQuery(query, teacher, {})).toMatchObject({
    ok: false,
    failure: { kind: 'fault' },
  })
  await new Promise((resolve) => setTimeout(resolve, 120))
  expect(late).toEqual(['a statement of a transaction that has ended'])
})

describe('statements of a transaction', () => {
  const inOne = async <T>(work: (db: Context['db']) => Promise<T>) => {
    const { inTransaction } = await import('@/db/transaction')
    const { database } = await import('@/server/platform/database')
    return inTransaction(database(), {}, work)
  }
  test('go out together, and are carried out and answered in their order', async () => {
    const { sql } = await import('kysely')
    const sent: string[] = []
    const say = async (db: Context['db'], n: number) => {
      sent.push(`asked ${n}`)
      const { rows } = await sql<{ n: number }>`select ${n}::int as n, pg_sleep(0.01)`.execute(db)
      sent.push(`answered ${rows[0]?.n}`)
    }
    await inOne((db) => Promise.all([say(db, 1), say(db, 2), say(db, 3)]))
    expect(sent).toEqual(['asked 1', 'asked 2', 'asked 3', 'answered 1', 'answered 2', 'answered 3'])
  })
  test('leave nothing behind when one of them fails, and tell why that one did', async () => {
    const { sql } = await import('kysely')
    const { database } = await import('@/server/platform/database')
    const insert = (db: Context['db'], key: string) =>
      sql`insert into auth.sign_in_attempt (name) values (${key})`.execute(db)
    await expect(
      inOne((db) => Promise.all([insert(db, 'first'), sql`select 1 / 0`.execute(db), insert(db, 'second')])),
    ).rejects.toThrow('division by zero')
    const { rows } = await sql`select 1 from auth.sign_in_attempt where name in ('first', 'second')`.execute(
      database(),
    )
    expect(rows).toEqual([])
    // The connections are as good as before.
    for (let n = 0; n < 20; n++)
      expect((await inOne((db) => sql`select 1 as one`.execute(db))).rows).toEqual([{ one: 1 }])
  })
  test('of several checks that refuse, the first is told, whichever was quicker', async () => {
    const { allOf } = await import('@/server/platform/checks')
    const later = new Promise((_, reject) => setTimeout(() => reject(new Error('the first')), 20))
    await expect(allOf(later, Promise.reject(new Error('the second')))).rejects.toThrow('the first')
    const echo = Object.assign(new Error('aborted'), { code: '25P02' })
    await expect(allOf(Promise.reject(echo), later)).rejects.toThrow('the first')
    await expect(allOf(Promise.resolve(), Promise.resolve(1))).resolves.toBeUndefined()
  })
})
