import { spawn } from 'node:child_process'
import { createReadStream, createWriteStream } from 'node:fs'
import { rename, rm, stat } from 'node:fs/promises'
import { createInterface } from 'node:readline'
import pg from 'pg'
import { knownMigrations } from '@/db/known-migrations'

/** What stands in the first line of a backup, so that a restore knows what it holds. */
interface Contents {
  readonly kedge: string
  readonly madeAt: string
  readonly migrations: readonly string[]
  /** Rows of every table, by `schema.table`. */
  readonly rows: Readonly<Record<string, number>>
}

const beginning = 'KEDGE BACKUP '

/** Every table that is Kedge's, with its schema. */
const tables = `select n.nspname || '.' || c.relname as name, format('%I.%I', n.nspname, c.relname) as quoted
  from pg_class c join pg_namespace n on n.oid = c.relnamespace
  where c.relkind = 'r' and n.nspname !~ '^pg_' and n.nspname <> 'information_schema' order by 1`

async function counts(client: pg.Client): Promise<Record<string, number>> {
  const { rows } = await client.query<{ name: string; quoted: string }>(tables)
  if (rows.length === 0) return {}
  const each = rows.map((t) => `select '${t.name}' as name, count(*)::float8 as n from ${t.quoted}`)
  const { rows: counted } = await client.query<{ name: string; n: number }>(each.join(' union all '))
  return Object.fromEntries(counted.map((c) => [c.name, c.n]))
}

/** A connection as a role that sees all schools; with another one rows would be left out without a word. */
async function openAsAll(url: string): Promise<pg.Client> {
  const client = new pg.Client({ connectionString: url })
  await client.connect()
  const { rows } = await client.query<{ sees: boolean; role: string }>(
    'select rolsuper or rolbypassrls as sees, rolname as role from pg_roles where rolname = current_user',
  )
  if (rows[0]?.sees) return client
  await client.end()
  throw new Error(
    `The role ${rows[0]?.role} does not see all schools, so the backup would lack rows. KEDGE_BACKUP_URL must name a role with BYPASSRLS, such as kedge_backup (docs/deploy.md, Backups).`,
  )
}

/** Runs one of PostgreSQL's programs to its end. The password travels in the environment, not in what others see. */
function program(name: string, args: readonly string[], url: string) {
  const { username, password, hostname, port, pathname } = new URL(url)
  const child = spawn(name, args, {
    env: {
      ...process.env,
      PGHOST: hostname,
      PGPORT: port || '5432',
      PGUSER: decodeURIComponent(username),
      PGPASSWORD: decodeURIComponent(password),
      PGDATABASE: pathname.slice(1),
    },
    stdio: ['pipe', 'pipe', 'pipe'],
  })
  let complaint = ''
  child.stderr.on('data', (chunk: Buffer) => (complaint += chunk.toString()))
  const ended = new Promise<void>((resolve, reject) => {
    child.once('error', (error: NodeJS.ErrnoException) =>
      reject(
        error.code === 'ENOENT'
          ? new Error(
              `${name} is not on this machine. Install PostgreSQL's client programs, of the server's version or later.`,
            )
          : error,
      ),
    )
    child.once('close', (code) =>
      code === 0
        ? resolve()
        : reject(new Error(`${name} failed: ${complaint.trim() || `it ended with ${code}`}`)),
    )
  })
  return { child, ended }
}

const sum = (rows: Contents['rows']) => Object.values(rows).reduce((all, n) => all + n, 0)

/** Where two counts of rows differ, in words. */
function differences(wanted: Contents['rows'], found: Contents['rows']): readonly string[] {
  return [...new Set([...Object.keys(wanted), ...Object.keys(found)])]
    .filter((name) => wanted[name] !== found[name])
    .map((name) => `${name} has ${found[name] ?? 'no'} rows in place of ${wanted[name] ?? 'none'}`)
}

/**
 * Writes a whole database into one file, at one moment: all schools with their files, history, accounts and the queue. The
 * file is there only when it is whole; the rows in it are counted and compared.
 * @param url the role that sees all, in the database
 * @returns how many tables and rows the file holds, and its size in bytes
 */
export async function backUp(url: string, file: string, version: string) {
  const client = await openAsAll(url)
  const part = `${file}.part`
  try {
    await client.query('begin isolation level repeatable read read only')
    const rows = await counts(client)
    const { rows: done } = await client.query<{ name: string }>(
      'select name from kysely_migration order by name',
    )
    const { rows: at } = await client.query<{ snapshot: string }>('select pg_export_snapshot() as snapshot')
    const contents: Contents = {
      kedge: version,
      madeAt: new Date().toISOString(),
      migrations: done.map((m) => m.name),
      rows,
    }
    const out = createWriteStream(part, { mode: 0o600 })
    out.write(`-- ${beginning}${JSON.stringify(contents)}\n`)
    // Plain text: what it holds can be read for as long as there is a text editor.
    const { child, ended } = program('pg_dump', ['--no-owner', `--snapshot=${at[0]?.snapshot}`], url)
    child.stdout.pipe(out)
    const written = new Promise<void>((resolve, reject) => out.once('finish', resolve).once('error', reject))
    await Promise.all([ended, written])
    const wrong = differences(contents.rows, await rowsIn(part))
    if (wrong.length > 0) throw new Error(`The backup is not whole: ${wrong.join('; ')}. Nothing was kept.`)
    await rename(part, file)
    return { tables: Object.keys(rows).length, rows: sum(rows), bytes: (await stat(file)).size }
  } finally {
    await rm(part, { force: true })
    await client.end()
  }
}

/** Counts the rows that a backup holds, table by table, by reading it. */
async function rowsIn(file: string): Promise<Record<string, number>> {
  const found: Record<string, number> = {}
  let table: string | undefined
  for await (const line of createInterface({ input: createReadStream(file), crlfDelay: Infinity })) {
    if (table !== undefined) {
      if (line === '\\.') table = undefined
      else found[table] = (found[table] ?? 0) + 1
      continue
    }
    const copy = /^COPY ("?[\w]+"?\."?[\w]+"?) .*FROM stdin;$/.exec(line)
    if (!copy?.[1]) continue
    table = copy[1].replaceAll('"', '')
    found[table] ??= 0
  }
  return found
}

/** Reads what a backup says of itself. */
export async function contentsOf(file: string): Promise<Contents> {
  const lines = createInterface({ input: createReadStream(file) })
  for await (const line of lines) {
    lines.close()
    if (line.startsWith(`-- ${beginning}`)) return JSON.parse(line.slice(3 + beginning.length)) as Contents
    break
  }
  throw new Error(`${file} is not a backup of Kedge.`)
}

/**
 * Brings a backup into an empty database, all or nothing, and compares the rows of every table with the backup.
 * @param ownerUrl the role that is to own the tables, in an empty database
 * @param url the role that sees all, in the same database
 */
export async function restore(ownerUrl: string, url: string, file: string) {
  const contents = await contentsOf(file)
  const later = contents.migrations.filter((name) => !knownMigrations.includes(name))
  if (later.length > 0)
    throw new Error(
      `This backup is of a newer Kedge (${contents.kedge}): it has ${later.join(', ')}. Bring that version. Nothing was changed.`,
    )
  const client = await openAsAll(url)
  try {
    const before = await counts(client)
    if (Object.keys(before).length > 0)
      throw new Error(
        'The database is not empty. A backup is brought into a new one, so that nothing is overwritten. Nothing was changed.',
      )
    const { rows: roles } = await client.query("select 1 from pg_roles where rolname = 'kedge_app'")
    if (roles.length === 0)
      throw new Error(
        'There is no role kedge_app in this server. Create the roles first (docs/deploy.md, step 3). Nothing was changed.',
      )
    const { child, ended } = program(
      'psql',
      ['-X', '-q', '-v', 'ON_ERROR_STOP=1', '--single-transaction', '-f', file, '-o', '/dev/null'],
      ownerUrl,
    )
    child.stdout.resume()
    await ended
    const wrong = differences(contents.rows, await counts(client))
    if (wrong.length > 0) throw new Error(`What was restored is not whole: ${wrong.join('; ')}.`)
    const owner = new pg.Client({ connectionString: ownerUrl })
    await owner.connect()
    await owner.query('analyze').finally(() => owner.end())
    return {
      tables: Object.keys(contents.rows).length,
      rows: sum(contents.rows),
      kedge: contents.kedge,
      isOlder: contents.migrations.length < knownMigrations.length,
    }
  } finally {
    await client.end()
  }
}
