import { join } from 'node:path'
import pg from 'pg'
import type { Actor } from '@/server/platform/actor'
import type { Domain } from '@/server/platform/define'
import type { Failure, Result } from '@/server/platform/failure'
import type {
  CommandInput,
  CommandName,
  CommandOutput,
  QueryInput,
  QueryName,
  QueryOutput,
} from '@/server/registry'
import { logsOf } from '../logs'

interface Urls {
  readonly superuser: string
  readonly owner: string
  readonly app: string
}

// A civil date is its text here, as it is in the application.
pg.types.setTypeParser(pg.types.builtins.DATE, (text) => text)
const urls = JSON.parse(process.env.KEDGE_TEST_DATABASES ?? '{}') as Urls
const at = (url: string, database: string) => url.replace('{database}', database)
let made = 0

/** Rows with the names that the code uses for columns. */
const camel = (rows: readonly Record<string, unknown>[]) =>
  rows.map((row) =>
    Object.fromEntries(
      Object.entries(row).map(([name, value]) => [
        name.replace(/_([a-z0-9])/g, (_, letter: string) => letter.toUpperCase()),
        value,
      ]),
    ),
  )

/**
 * A database of a test file's own, and the application on it.
 * @param template which database it is a copy of, or what fills a new one
 */
export async function openSchool(
  template: 'empty' | 'demo' | ((urls: { superuser: string; owner: string }) => Promise<void>) = 'demo',
) {
  const name = `kedge_test_${process.pid}_${made++}`
  const admin = new pg.Client({ connectionString: at(urls.superuser, 'postgres') })
  await admin.connect()
  const from = typeof template === 'string' ? `kedge_template_${template}` : 'template1'
  await admin.query(`create database ${name} template ${from} owner kedge_owner`)
  if (typeof template === 'function')
    await template({ superuser: at(urls.superuser, name), owner: at(urls.owner, name) })
  process.env.DATABASE_URL = at(urls.app, name)
  process.env.DATABASE_OWNER_URL = at(urls.owner, name)
  process.env.KEDGE_LOG = join(logsOf(name), 'server.log')

  const { database } = await import('@/server/platform/database')
  const { executeQuery, executeCommand } = await import('@/server/platform/run')
  const { actorsOf } = await import('@/server/platform/session')
  const { commands, queries } = await import('@/server/registry')
  // The superuser sees past row-level security: for looking, never for doing what is tested.
  const looking = new pg.Client({ connectionString: at(urls.superuser, name) })
  await looking.connect()
  await looking.query("set kedge.history = 'off'")

  const school = {
    name,
    ownerUrl: at(urls.owner, name),
    appUrl: at(urls.app, name),
    /** Rows of a statement, past all rights. */
    rows: async <T = Record<string, any>>(statement: string, values: unknown[] = []): Promise<T[]> =>
      camel((await looking.query(statement, values)).rows) as T[],
    row: async <T = Record<string, any>>(statement: string, values: unknown[] = []): Promise<T> => {
      const rows = camel((await looking.query(statement, values)).rows)
      if (!rows[0]) throw new Error(`no row: ${statement}`)
      return rows[0] as T
    },
    actor: async (username: string): Promise<Actor> => {
      const { id } = await school.row<{ id: string }>(
        'select id from auth."user" where username = $1 or email = $1',
        [username],
      )
      const [actor] = await actorsOf(id, { sessionToken: 'test' })
      if (!actor) throw new Error(`${username} belongs to no school`)
      return actor
    },
    query: <N extends QueryName>(
      query: N,
      actor: Actor,
      input: QueryInput<N>,
    ): Promise<Result<QueryOutput<N>>> =>
      executeQuery(queries.get(query) as never, actor, input) as Promise<Result<QueryOutput<N>>>,
    execute: <N extends CommandName>(
      command: N,
      actor: Actor,
      input: CommandInput<N>,
      options?: { key?: string; tab?: string },
    ): Promise<Result<CommandOutput<N>>> =>
      executeCommand(commands.get(command) as never, actor, input, options) as Promise<
        Result<CommandOutput<N>>
      >,
    /** @param meddled the test itself wrote to the tables what no command would */
    close: async ({ meddled = false } = {}) => {
      try {
        if (!meddled) await checkRules(school)
      } finally {
        await database().destroy()
        await looking.end()
        await admin.query(`drop database if exists ${name} with (force)`)
        await admin.end()
      }
    },
  }
  return school
}

/** What breaks a rule that always holds, past all rights, in every school. */
export async function brokenRules({ rows }: Pick<TestSchool, 'rows'>): Promise<readonly string[]> {
  const { domains } = await import('@/server/domains')
  const { database } = await import('@/server/platform/database')
  const broken: string[] = []
  for (const { rule, broken: select, isBroken = () => true } of domains.flatMap(
    (d: Domain) => d.invariants ?? [],
  ))
    for (const row of await rows<{ which: string }>(select.compile(database()).sql))
      if (isBroken(row)) broken.push(`${rule}: ${row.which}`)
  return broken
}

/** Whatever a test has done by commands and undo: what always holds, holds. */
export async function checkRules(school: Pick<TestSchool, 'rows'>): Promise<void> {
  expect(await brokenRules(school)).toEqual([])
}

export type TestSchool = Awaited<ReturnType<typeof openSchool>>

/** The value of a result that must be good. */
export function good<T>(result: Result<T>): T {
  if (!result.ok) throw new Error(`${result.failure.kind}: ${result.failure.message}`)
  return result.value
}

/** The failure of a result that must not be good. */
export function bad(result: Result<unknown>): Failure {
  if (result.ok) throw new Error(`expected a failure, got ${JSON.stringify(result.value)}`)
  return result.failure
}
