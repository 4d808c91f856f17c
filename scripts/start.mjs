// npm start: real use, with a database that DATABASE_URL and DATABASE_OWNER_URL name. Ctrl-C stops it.
import { join } from 'node:path'
import { ensureBuild, ensureNodeModules, root, version } from './lib/bootstrap.mjs'

const needed = ['DATABASE_URL', 'DATABASE_OWNER_URL', 'KEDGE_SECRET']
const missing = needed.filter((name) => !process.env[name])
if (missing.length > 0) {
  console.error(
    `Not set: ${missing.join(', ')}. docs/configuration.md says what each is; docs/deploy.md goes through it step by step.`,
  )
  process.exit(1)
}
ensureNodeModules()
ensureBuild()
const { end, start } = await import('./lib/run.mjs')
const { kedge, tsx } = await import('./lib/tools.mjs')
const { untilHealthy } = await import('./lib/application.mjs')

const port = process.env.PORT ?? '3000'
const host = process.env.HOST ?? '127.0.0.1'
const env = {
  ...process.env,
  NODE_ENV: 'production',
  NEXT_TELEMETRY_DISABLED: '1',
  KEDGE_VERSION: process.env.KEDGE_VERSION ?? version(),
}
kedge(['migrate'], env, { show: true })
const worker = start(tsx[0], [...tsx[1], 'worker'], { cwd: root, env })
const web = start(
  process.execPath,
  [join(root, 'node_modules/next/dist/bin/next'), 'start', '-H', host, '-p', port],
  { cwd: root, env },
)

let stopping = false
async function stop(code = 0) {
  if (stopping) return
  stopping = true
  await Promise.all([end(web), end(worker)])
  process.exit(code)
}
process.on('SIGINT', () => void stop())
process.on('SIGTERM', () => void stop())
web.once('exit', (code) => void stop(code ?? 1))
worker.once('exit', (code) => void stop(code ?? 1))
await untilHealthy(`http://127.0.0.1:${port}`, web)
console.log(`Kedge answers at ${process.env.KEDGE_URL ?? `http://127.0.0.1:${port}`}`)
