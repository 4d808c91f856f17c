// npm run demo: sets up everything on a fresh machine and starts Wrackline School. Ctrl-C stops all of it.
import { mkdirSync } from 'node:fs'
import { join } from 'node:path'
import { ensureBuild, ensureDataFolder, ensureDebianPackages, ensureNodeModules } from './lib/bootstrap.mjs'

ensureDebianPackages(['postgresql'])
ensureNodeModules()
const data = ensureDataFolder()

const { startCluster, ensureDatabase } = await import('./lib/postgres.mjs')
const { environment, keepApplication } = await import('./lib/application.mjs')
const { keepServer } = await import('./lib/keep-running.mjs')
const { kedge } = await import('./lib/tools.mjs')
const { freePort, isFree } = await import('./lib/ports.mjs')

const wanted = Number(process.env.PORT ?? 3000)
const port = (await isFree(wanted)) ? wanted : await freePort()
if (port !== wanted) console.log(`Port ${wanted} is taken; using ${port}.`)

let cluster
let application
let stopping = false
let server
async function stop(code = 0) {
  if (stopping) return
  stopping = true
  server?.stop()
  await application?.stop()
  cluster?.stop()
  process.exit(code)
}
const say = (message) => console.log(message)
/** When a part cannot be kept running, all ends, and whoever started the demo sees that it failed. */
function giveUp(message) {
  console.error(message)
  void stop(1)
}
// From here on: also one who changes their mind while it starts leaves nothing behind.
process.on('SIGINT', () => void stop())
process.on('SIGTERM', () => void stop())

ensureBuild()
cluster = await startCluster(join(data, 'postgres'))
const date = process.env.KEDGE_TODAY ?? new Date().toISOString().slice(0, 10)
// One database for each day a demo was started on: yesterday's demo is still there tomorrow.
const database = `kedge_wrackline_${date.replaceAll('-', '')}`
ensureDatabase(cluster, database)
const base = environment(cluster, database)
kedge(['migrate'], base)
console.log('Loading Wrackline School (only the first time)')
const today = kedge(['demo', 'load', '--date', date], base).split('\n').at(-1)
kedge(['demo', 'test', '--file', join(data, 'Heat and ice.pdf')], base)

const logs = join(data, 'logs')
mkdirSync(logs, { recursive: true })
server = keepServer(cluster, { say, giveUp })
application = await keepApplication(
  { ...base, KEDGE_NOTICE: kedge(['demo', 'notice'], base), KEDGE_NOW: `${today}T09:05:00` },
  { port, logs },
  { say, giveUp },
)
console.log(`
  Wrackline School is open at ${application.url}
  The sign-in page says who can sign in. Today is ${today}, 09:05.
  A test to upload lies at ${join(data, 'Heat and ice.pdf')}.
  Logs are in ${logs}. Ctrl-C stops everything.
`)
