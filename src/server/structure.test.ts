import { spawnSync } from 'node:child_process'
import { readdirSync, readFileSync, statSync } from 'node:fs'
import { dirname, join, relative } from 'node:path'
import { knownMigrations } from '@/db/known-migrations'
import { snakeCase } from '@/db/names'
import type { AnyCommand, Domain } from './platform/define'

const root = join(process.cwd(), 'src/server')

function filesIn(folder: string): readonly string[] {
  return readdirSync(folder).flatMap((name) => {
    const path = join(folder, name)
    if (statSync(path).isDirectory()) return filesIn(path)
    return /\.ts$/.test(name) && !/\.test\.ts$/.test(name) ? [path] : []
  })
}
const files = filesIn(root).map((path) => ({
  folder: relative(root, dirname(path)).split('/')[0] || 'root',
  text: readFileSync(path, 'utf8'),
}))

let domains: readonly Domain[]
let commands: ReadonlyMap<string, AnyCommand>
beforeAll(async () => {
  const { domains: own } = await import('./domains')
  const { front } = await import('./front')
  domains = [...own, ...front]
  ;({ commands } = await import('./registry'))
})

test('the folders of the server import each other in one direction only', () => {
  const edges = new Map<string, Set<string>>()
  for (const { folder, text } of files)
    for (const [, to = ''] of text.matchAll(/from '@\/server\/([^/']+)/g))
      if (to !== folder) edges.set(folder, (edges.get(folder) ?? new Set()).add(to))
  const reaches = (from: string, to: string, seen = new Set<string>()): boolean =>
    [...(edges.get(from) ?? [])].some((next) => {
      if (next === to) return true
      if (seen.has(next)) return false
      seen.add(next)
      return reaches(next, to, seen)
    })
  expect([...edges.keys()].filter((folder) => reaches(folder, folder))).toEqual([])
})

test('every table has one owner', async () => {
  const { readFileSync: read } = await import('node:fs')
  const printed = read(join(process.cwd(), 'src/db/tables.ts'), 'utf8')
  const tables = [...printed.matchAll(/^ {2}'?([\w.]+)'?: \{$/gm)].map(([, name]) => name)
  const owned = domains.flatMap((domain) => [...domain.tables])
  expect(owned.filter((table, i) => owned.indexOf(table) !== i)).toEqual([])
  const unowned = tables.filter((table) => !owned.includes(table as (typeof owned)[number]))
  // These belong to signing in and to secret addresses, which are the platform's.
  expect(unowned).toEqual([
    'auth.calendar_feed',
    'auth.one_time_link',
    'auth.sign_in_attempt',
    'auth.verification',
  ])
})

/** Every change of any table is written there, and any domain may read of its own. */
const ofEverybody = new Set(['history'])

interface Touch {
  readonly table: string
  readonly writes: boolean
}

/** The tables that a file reads and writes, through the query builder or in SQL. */
function touched(text: string): readonly Touch[] {
  const found = (pattern: RegExp, writes: boolean) =>
    [...text.matchAll(pattern)].map(([, table = '']) => ({ table, writes }))
  return [
    ...found(/(?:selectFrom|innerJoin|leftJoin)\(\s*'([\w.]+)/g, false),
    ...found(/(?:insertInto|updateTable|deleteFrom)\(\s*'([\w.]+)/g, true),
    ...found(/(?:updateIfUnchanged|checkUnchanged)\(\s*context,\s*'([\w.]+)/g, true),
    ...found(/\b(?:from|join) ([a-z_]+)(?= |\n|`|\()/g, false),
    ...found(/\b(?:insert into|update|delete from) ([a-z_]+)(?= |\n|`|\()/g, true),
  ]
}

test('a domain reads and writes the tables of those domains only that it names', () => {
  const ownerOf = new Map(
    domains.flatMap((domain) =>
      domain.tables.flatMap((table): [string, string][] => [
        [table, domain.name],
        [snakeCase(table), domain.name],
      ]),
    ),
  )
  const undeclared: string[] = []
  for (const domain of domains) {
    const own = files.filter((file) => file.folder === domain.name)
    for (const { table, writes } of own.flatMap(({ text }) => touched(text))) {
      const owner = ownerOf.get(table)
      if (!owner || owner === domain.name || ofEverybody.has(table)) continue
      const named = writes ? (domain.writes ?? []) : domain.reads
      if (!named.includes(owner))
        undeclared.push(`${domain.name} ${writes ? 'writes' : 'reads'} ${table} of ${owner}`)
    }
    for (const { text } of own)
      for (const [, to = ''] of text.matchAll(/from '@\/server\/([^/']+)'/g))
        if (domains.some((d) => d.name === to) && to !== domain.name && !domain.reads.includes(to))
          undeclared.push(`${domain.name} imports ${to}`)
  }
  expect([...new Set(undeclared)]).toEqual([])
})

test('no two domains read each other, not through others either', () => {
  const reads = new Map(domains.map((d) => [d.name, [...d.reads, ...(d.writes ?? [])]]))
  const reaches = (from: string, to: string, passed = new Set<string>()): boolean =>
    (reads.get(from) ?? []).some((next) => {
      if (next === to) return true
      if (passed.has(next)) return false
      passed.add(next)
      return reaches(next, to, passed)
    })
  expect(domains.map((d) => d.name).filter((name) => reaches(name, name))).toEqual([])
})

test('the facts that several domains look at are only looked at there', () => {
  const shared = files.filter((file) => file.folder === 'school')
  expect(shared.length).toBeGreaterThan(5)
  expect(shared.flatMap(({ text }) => touched(text)).filter(({ writes }) => writes)).toEqual([])
})

test('what reads in a history is a table, by the name it has in the database', () => {
  // Tables of an earlier version, of which histories still tell.
  const former = ['answer', 'answer_sheet']
  const tables = new Set([...former, ...domains.flatMap((d) => d.tables.map(snakeCase))])
  const named = domains.flatMap((d) => Object.keys(d.history ?? {}))
  expect(named.filter((name) => !tables.has(name))).toEqual([])
})

test('a command takes the version that was seen, or says why it needs none', () => {
  const takesVersion = ({ input }: AnyCommand) => {
    const read = input.safeParse({ targets: [{}], feeds: [{}], does: 'mean' })
    return (
      !read.success &&
      read.error.issues.some(
        ({ path }) =>
          ['cells', 'students'].includes(String(path[0])) || String(path.at(-1)) === 'expectedVersion',
      )
    )
  }
  const wrong = [...commands].filter(
    ([, command]) => takesVersion(command) === (command.needsNoVersion !== undefined),
  )
  expect(wrong.map(([name]) => name)).toEqual([])
})

test('what is stored in a mail with a link is never its text', () => {
  for (const domain of domains)
    for (const kind of Object.values(domain.mails ?? {})) {
      expect(kind.subject(kind.example)).not.toMatch(/undefined|null/)
      const body = kind.body(kind.example, 'https://kedge.wrackline.example/invitation/x')
      expect(body).not.toMatch(/undefined|null/)
      expect(body.includes('/invitation/x')).toBe(kind.link !== undefined)
    }
})

test('the notices of third parties list what the lock file holds', () => {
  const { status, stdout, stderr } = spawnSync(process.execPath, ['scripts/notices.mjs', '--check'], {
    encoding: 'utf8',
  })
  expect([stdout.trim() + stderr.trim(), status]).toEqual(['The notices are current.', 0])
})

test('the migrations that are known are those that lie in the folder', () => {
  const files = readdirSync('src/db/migrations').filter((name) => /^\d{3}-.*\.ts$/.test(name))
  expect(files.map((name) => name.replace(/\.ts$/, '')).sort()).toEqual(knownMigrations)
})
