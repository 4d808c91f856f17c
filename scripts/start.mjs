// npm start: Kedge on a database that DATABASE_URL and DATABASE_OWNER_URL name: migrates it and runs both parts, until
// one of them ends or Ctrl-C stops it.
import { ensureBuild, ensureNodeModules, root } from './lib/bootstrap.mjs'
import { isFree } from './lib/ports.mjs'

const needed = ['DATABASE_URL', 'DATABASE_OWNER_URL', 'KEDGE_SECRET']
const missing = needed.filter((name) => !process.env[name])
if (missing.length > 0) {
  console.error(
    `Not set: ${missing.join(', ')}. docs/configuration.md says what each is; docs/deploy.md goes through it step by step.`,
  )
  process.exit(1)
}
const port = process.env.PORT ?? '3000'
const host = process.env.HOST ?? '127.0.0.1'
if (!(await isFree(Number(port), host))) {
  console.error(`Port ${port} at ${host} is taken or cannot be used. Set PORT or HOST to others.`)
  process.exit(1)
}
ensureNodeModules()
ensureBuild()
const { end, start } = await import('./lib/run.mjs')
const { kedge, tsx } = await import('./lib/tools.mjs')
const { untilHealthy } = await import('./lib/application.mjs')

const env = { ...process.env, NODE_ENV: 'production', NEXT_TELEMETRY_DISABLED: '1' }
try {
  kedge(['migrate'], env, { show: true })
} catch {
  // What was wrong stands above.
  process.exit(1)
}
const [command, args] = tsx
const part = (name) => start(command, [...args, name], { cwd: root, env })
const parts = { worker: part('worker'), web: part('web') }

let stopping = false
async function stop(code = 0) {
  if (stopping) return
  stopping = true
  // The worker finishes the step it is at, the web application its requests.
  await Promise.all(Object.values(parts).map((child) => end(child, 'SIGTERM', 120_000)))
  process.exit(code)
}
process.on('SIGINT', () => void stop())
process.on('SIGTERM', () => void stop())
for (const [name, child] of Object.entries(parts))
  child.once('exit', (code) => {
    if (!stopping) console.error(`The ${name} has ended by itself; Kedge stops.`)
    void stop(code || 1)
  })
await untilHealthy(`http://${host === '0.0.0.0' || host === '::' ? '127.0.0.1' : host}:${port}`, parts.web)
if (!stopping) console.log(`Kedge answers at ${process.env.KEDGE_URL ?? `http://127.0.0.1:${port}`}`)
