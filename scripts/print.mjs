// npm run kedge -- print: everything in the repository that is printed from the code and from the database it makes, by
// migrating a scratch database: the types of the tables, and the table of rights.
import { writeFileSync } from 'node:fs'
import { join } from 'node:path'
import { ensureDatabaseTools, root } from './lib/bootstrap.mjs'

const data = ensureDatabaseTools()
const { startCluster, ensureDatabase } = await import('./lib/postgres.mjs')
const { environment } = await import('./lib/application.mjs')
const { kedge } = await import('./lib/tools.mjs')

const files = { tables: 'src/db/tables.ts', rights: 'docs/rights.md' }

const cluster = await startCluster(join(data, 'test-postgres'), { durable: false })
try {
  const name = `kedge_print_${process.pid}`
  ensureDatabase(cluster, name)
  const env = environment(cluster, name)
  kedge(['migrate'], env)
  for (const [command, file] of Object.entries(files)) {
    writeFileSync(join(root, file), `${kedge([command], env)}\n`)
    console.log(`Printed ${file}.`)
  }
  cluster.psql('postgres', `drop database ${name} with (force)`)
} finally {
  cluster.stop()
}
