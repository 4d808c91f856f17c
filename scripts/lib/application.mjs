// Starts Kedge on a database: the web application, the worker with the stand-in mailbox, and waits until it answers.
import { join } from 'node:path'
import { root, version } from './bootstrap.mjs'
import { freePort } from './postgres.mjs'
import { end, start } from './run.mjs'
import { tsx } from './tools.mjs'

/** The environment of Kedge's programs on one database of a cluster. */
export function environment(cluster, database, extra = {}) {
  return {
    NODE_ENV: 'production',
    NEXT_TELEMETRY_DISABLED: '1',
    DATABASE_URL: cluster.url('kedge_app', database),
    DATABASE_OWNER_URL: cluster.url('kedge_owner', database),
    KEDGE_SECRET: cluster.secret,
    KEDGE_VERSION: version(),
    ...extra,
  }
}

/** Answers once the address says that all is well; throws when the process has ended or the time is up. */
export async function untilHealthy(url, child, seconds = 60) {
  const until = Date.now() + seconds * 1000
  while (Date.now() < until) {
    if (child.exitCode !== null) throw new Error(`the application ended with ${child.exitCode}`)
    const response = await fetch(`${url}/api/health`).catch(() => undefined)
    if (response?.ok) return
    await new Promise((resolve) => setTimeout(resolve, 150))
  }
  throw new Error(`${url} did not answer within ${seconds} seconds`)
}

/**
 * Starts everything.
 * @returns {Promise<{ url: string, web: import('node:child_process').ChildProcess, worker: import('node:child_process').ChildProcess,
 *   startWeb: () => Promise<void>, startWorker: () => void, stop: () => Promise<void> }>}
 */
export async function startApplication(base, { port, quiet = false } = {}) {
  const webPort = port ?? (await freePort())
  const mailPort = await freePort()
  const url = `http://127.0.0.1:${webPort}`
  const env = {
    ...process.env,
    KEDGE_NOW_SET_AT: String(Date.now()),
    ...base,
    KEDGE_URL: process.env.KEDGE_URL ?? url,
    SMTP_URL: `smtp://127.0.0.1:${mailPort}?ignoreTLS=true`,
  }
  const stdio = quiet ? ['ignore', 'ignore', 'inherit'] : 'inherit'
  const running = { url }
  // Next is started directly, not through npx, so that ending the child ends the server.
  running.startWeb = async () => {
    running.web = start(
      process.execPath,
      [join(root, 'node_modules/next/dist/bin/next'), 'start', '-H', '127.0.0.1', '-p', String(webPort)],
      { cwd: root, env, stdio },
    )
    await untilHealthy(url, running.web)
  }
  running.startWorker = () => {
    const [command, args] = tsx
    running.worker = start(command, [...args, 'worker', '--mailbox', String(mailPort)], {
      cwd: root,
      env,
      stdio,
    })
  }
  running.stop = async () => {
    await Promise.all([end(running.web), end(running.worker)])
  }
  running.startWorker()
  await running.startWeb()
  return running
}
