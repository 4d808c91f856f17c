import { sql } from 'kysely'
import pg from 'pg'
import { connect, type Database } from '@/db/connection'
import { isOutdatedPlan } from '@/db/prepared'
import { passes } from '@/server/platform/database-errors'
import { openSchool, type TestSchool } from './school'

/** Statements that are repeated are prepared: once a connection, and never in the way of an answer. */

let school: TestSchool
let db: Database
let owner: pg.Client
beforeAll(async () => {
  school = await openSchool()
  owner = new pg.Client({ connectionString: school.ownerUrl })
  await owner.connect()
  await owner.query('create table buoy (id integer primary key, colour text not null)')
  await owner.query('grant select, insert on buoy to kedge_app')
  db = connect(school.appUrl, { max: 1 })
})
afterAll(async () => {
  await db.destroy()
  await owner.end()
  await school.close()
})

const prepared = async () =>
  (
    await sql<{ statement: string; n: number }>`
      select statement, (generic_plans + custom_plans)::int as n from pg_prepared_statements`.execute(db)
  ).rows
const insert = (id: number, colour: string) =>
  sql`insert into buoy values (${id}, ${colour}) returning id`.execute(db)
const all = (id: number) => sql<Record<string, unknown>>`select * from buoy where id >= ${id}`.execute(db)

test('a statement is prepared from its second time on, one that does not come again is not', async () => {
  await sql`select 1 + ${1}::int as once`.execute(db)
  for (let n = 0; n < 4; n++) await sql`select 2 + ${n}::int as again`.execute(db)
  const found = await prepared()
  expect(found.filter((p) => p.statement.includes('as again')).map((p) => p.n)).toEqual([3])
  expect(found.filter((p) => p.statement.includes('as once'))).toEqual([])
})

test('one that fails can be sent again, also among others sent together with it', async () => {
  for (let n = 0; n < 3; n++) await insert(n, 'red')
  await expect(insert(2, 'green')).rejects.toMatchObject({ code: '23505' })
  expect((await insert(3, 'green')).rows).toEqual([{ id: 3 }])
  await expect(
    db
      .transaction()
      .execute((tx) =>
        Promise.all(
          [4, 4, 5].map((id) => sql`insert into buoy values (${id}, 'red') returning id`.execute(tx)),
        ),
      ),
  ).rejects.toThrow()
  expect((await insert(4, 'red')).rows).toEqual([{ id: 4 }])
})

test('tables that change under a connection are noticed once, and the next connection knows them', async () => {
  for (let n = 0; n < 3; n++) expect((await all(4)).rows).toEqual([{ id: 4, colour: 'red' }])
  await owner.query('alter table buoy add column light text')
  const error: unknown = await all(4).then(
    () => undefined,
    (e: unknown) => e,
  )
  expect(isOutdatedPlan(error)).toBe(true)
  expect(passes(error)).toBe(true)
  expect((await all(4)).rows).toEqual([{ id: 4, colour: 'red', light: null }])
})
