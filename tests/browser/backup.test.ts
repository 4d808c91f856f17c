import { mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import pg from 'pg'
import { openSchool, type TestSchool } from '../integration/school'
import { endParts, ready, start, startWeb } from './parts'

// The drill: a school is backed up, brought into another database server, and somebody signs in there.
interface Cluster {
  readonly url: (role: string, database: string) => string
  readonly psql: (database: string, statement: string) => string | undefined
  readonly stop: () => void
}
let school: TestSchool
let cluster: Cluster
const folder = mkdtempSync(join(tmpdir(), 'kedge-backup-'))
const file = join(folder, 'school.sql')
/** The role of the documentation: it sees all and changes nothing. */
const role = `kedge_backup_${process.pid}`
const asRole = (url: string) => {
  const address = new URL(url)
  address.username = role
  address.password = 'drill'
  return address.href
}
beforeAll(async () => {
  school = await openSchool('demo')
  const { startCluster } = (await import(join(process.cwd(), 'scripts/lib/postgres.mjs'))) as {
    startCluster: (folder: string, options: object) => Promise<Cluster>
  }
  await school.rows(`create role ${role} login bypassrls password 'drill' in role pg_read_all_data`)
  cluster = await startCluster(join('/var/tmp', `kedge-drill-${process.pid}`), { durable: false })
})
afterAll(async () => {
  endParts()
  cluster.stop()
  await school.rows(`drop role ${role}`)
  await school.close()
  rmSync(folder, { recursive: true })
  rmSync(join('/var/tmp', `kedge-drill-${process.pid}`), { recursive: true, force: true })
})

const here = () => {
  const { superuser } = JSON.parse(process.env.KEDGE_TEST_DATABASES ?? '{}') as { superuser: string }
  return {
    DATABASE_URL: school.appUrl,
    DATABASE_OWNER_URL: school.ownerUrl,
    KEDGE_BACKUP_URL: asRole(superuser.replace('{database}', school.name)),
  }
}
const there = (database = 'kedge') => ({
  DATABASE_URL: cluster.url('kedge_app', database),
  DATABASE_OWNER_URL: cluster.url('kedge_owner', database),
  KEDGE_BACKUP_URL: asRole(cluster.url('postgres', database)),
})

/** Rows, rights, policies, triggers and owners of a database, as texts that can be compared. */
async function allOf(url: string) {
  const client = new pg.Client({ connectionString: url })
  await client.connect()
  const ask = async (statement: string) => (await client.query<{ x: string }>(statement)).rows.map((r) => r.x)
  const tables =
    await ask(`select format('%I.%I', n.nspname, c.relname) as x from pg_class c join pg_namespace n on n.oid = c.relnamespace
    where c.relkind = 'r' and n.nspname !~ '^pg_' and n.nspname <> 'information_schema' order by 1`)
  const found = {
    rows: await Promise.all(
      tables.map(async (t) => {
        const [sum] = await ask(
          `select count(*) || ' ' || coalesce(sum(hashtextextended(t::text, 0)::numeric), 0) as x from ${t} t`,
        )
        return `${t} ${sum}`
      }),
    ),
    rights:
      await ask(`select c.relname || ' ' || coalesce(array_to_string(array(select unnest(c.relacl)::text order by 1), ','), '') || ' ' || c.relrowsecurity || c.relforcerowsecurity || ' ' || r.rolname as x
      from pg_class c join pg_namespace n on n.oid = c.relnamespace join pg_roles r on r.oid = c.relowner
      where n.nspname in ('public', 'auth', 'stand_in') and c.relkind in ('r', 'v', 'S') order by 1`),
    policies: await ask(
      `select tablename || ' ' || policyname || ' ' || coalesce(qual, '') || coalesce(with_check, '') as x from pg_policies order by 1`,
    ),
    triggers: await ask(
      `select tgrelid::regclass || ' ' || pg_get_triggerdef(oid) as x from pg_trigger where not tgisinternal order by 1`,
    ),
    functions:
      await ask(`select p.oid::regprocedure || ' ' || p.prosecdef || coalesce(array_to_string(array(select unnest(p.proacl)::text order by 1), ','), '') as x
      from pg_proc p join pg_namespace n on n.oid = p.pronamespace where n.nspname = 'public' and p.proname like 'kedge%' order by 1`),
  }
  await client.end()
  return found
}

test('a role that does not see all schools makes no backup', async () => {
  const one = start(['backup', file], { ...here(), KEDGE_BACKUP_URL: school.ownerUrl })
  expect(await one.ended).toBe(1)
  expect(one.printed()).toContain('does not see all schools')
  expect(() => readFileSync(file)).toThrow('ENOENT')
})

test('what was backed up is the same in a new server, and somebody signs in there', async () => {
  const backup = start(['backup', file], here())
  expect([await backup.ended, backup.printed()]).toEqual([0, expect.stringContaining('All were counted.')])
  cluster.psql('postgres', `create role ${role} login bypassrls password 'drill' in role pg_read_all_data`)
  cluster.psql('postgres', 'create database kedge owner kedge_owner')
  const restored = start(['restore', file], there())
  expect([await restored.ended, restored.printed()]).toEqual([0, expect.stringContaining('rows of')])
  const [before, after] = [await allOf(here().KEDGE_BACKUP_URL), await allOf(there().KEDGE_BACKUP_URL)]
  for (const what of ['rows', 'rights', 'policies', 'triggers', 'functions'] as const)
    expect(after[what]).toEqual(before[what])
  expect(after.rows.length).toBeGreaterThan(80)
  const check = start(['check'], there())
  expect([await check.ended, check.printed()]).toEqual([0, expect.any(String)])
  const web = await startWeb(there())
  await web.until(ready)
  const answer = await fetch(`${web.url}/api/sign-in`, {
    method: 'POST',
    headers: { 'content-type': 'application/json' },
    body: JSON.stringify({ username: 'r.achterberg', password: 'harbour lights at dusk' }),
  })
  expect(answer.status).toBe(200)
  web.child.kill('SIGTERM')
  expect(await web.ended).toBe(0)
})

test('nothing is overwritten, and what is no backup, cut off or of a newer Kedge is refused whole', async () => {
  const again = start(['restore', file], there())
  expect(await again.ended).toBe(1)
  expect(again.printed()).toContain('The database is not empty')
  cluster.psql('postgres', 'create database second owner kedge_owner')
  const text = readFileSync(file, 'utf8')
  const refused = async (contents: string, words: string) => {
    writeFileSync(join(folder, 'other.sql'), contents)
    const one = start(['restore', join(folder, 'other.sql')], there('second'))
    expect(await one.ended).toBe(1)
    expect(one.printed()).toContain(words)
    expect(cluster.psql('second', "select count(*) from pg_tables where schemaname = 'public'")).toBe('0')
  }
  await refused('select 1;', 'is not a backup of Kedge')
  await refused(text.replace('"003-marks"', '"003-marks","009-later"'), 'of a newer Kedge')
  await refused(text.slice(0, Math.floor(text.length / 2)), 'failed')
})
