// npm run kedge -- keep-release: when a version goes out, its demo school is kept as a dump, and the migrations that made it
// as fingerprints. From then on tests migrate the dump to whatever comes later, and nobody edits what it was made by.
import { createHash } from 'node:crypto'
import { spawnSync } from 'node:child_process'
import { mkdirSync, readFileSync, readdirSync, statSync, writeFileSync } from 'node:fs'
import { join, relative } from 'node:path'
import { gzipSync } from 'node:zlib'
import { ensureDatabaseTools, postgresPrograms, root } from './lib/bootstrap.mjs'

const data = ensureDatabaseTools()
const { startCluster, ensureDatabase } = await import('./lib/postgres.mjs')
const { environment } = await import('./lib/application.mjs')
const { kedge } = await import('./lib/tools.mjs')

const { version } = JSON.parse(readFileSync(join(root, 'package.json'), 'utf8'))
const migrations = join(root, 'src/db/migrations')
const filesIn = (folder) =>
  readdirSync(folder).flatMap((name) => {
    const path = join(folder, name)
    return statSync(path).isDirectory() ? filesIn(path) : [path]
  })
const fingerprints = Object.fromEntries(
  filesIn(migrations)
    .sort()
    .map((path) => [
      relative(migrations, path),
      createHash('sha256').update(readFileSync(path)).digest('hex'),
    ]),
)

const cluster = await startCluster(join(data, 'test-postgres'), { durable: false })
try {
  const name = `kedge_release_${process.pid}`
  ensureDatabase(cluster, name)
  const env = environment(cluster, name)
  kedge(['migrate'], env)
  kedge(['demo', 'load', '--date', '2026-11-23'], env)
  // A few weeks of marks are as good as a term of them, and keep the dump small.
  cluster.psql(name, "delete from attendance_mark where session_date < '2026-11-09'")
  const dump = spawnSync(join(postgresPrograms(), 'pg_dump'), [cluster.url('postgres', name)], {
    encoding: 'buffer',
    maxBuffer: 512 * 1024 * 1024,
  })
  if (dump.status !== 0) throw new Error(dump.stderr.toString())
  const folder = join(root, 'tests/releases')
  mkdirSync(folder, { recursive: true })
  writeFileSync(join(folder, `${version}.sql.gz`), gzipSync(dump.stdout, { level: 9 }))
  writeFileSync(join(folder, `${version}.json`), `${JSON.stringify(fingerprints, null, 2)}\n`)
  console.log(`Kept ${version} in tests/releases.`)
  cluster.psql('postgres', `drop database ${name} with (force)`)
} finally {
  cluster.stop()
}
