// Starts Kedge on a database: the web application, the worker with the stand-in mailbox, and waits until it answers.
import { openSync } from 'node:fs'
import { join } from 'node:path'
import { root } from './bootstrap.mjs'
import { keepRunning } from './keep-running.mjs'
import { freePort } from './ports.mjs'
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
    ...extra,
  }
}

/** Answers once Kedge can do its work at an address; throws when the process has ended or the time is up. */
export async function untilHealthy(url, child, seconds = 60) {
  const until = Date.now() + seconds * 1000
  while (Date.now() < until) {
    if (child.exitCode !== null) throw new Error(`the application ended with ${child.exitCode}`)
    const response = await fetch(`${url}/api/ready`).catch(() => undefined)
    if (response?.ok) return
    await new Promise((resolve) => setTimeout(resolve, 150))
  }
  throw new Error(`${url} did not answer within ${seconds} seconds`)
}

/**
 * The two parts of Kedge on a database, each with a function that starts it and answers its process.
 * @param options.logs folder for their logs; without one they write where the caller does
 */
async function partsOf(base, { port, quiet = false, logs } = {}) {
  const webPort = port ?? (await freePort())
  const mailPort = await freePort()
  const url = `http://127.0.0.1:${webPort}`
  const env = {
    ...process.env,
    KEDGE_NOW_SET_AT: String(Date.now()),
    ...base,
    KEDGE_URL: process.env.KEDGE_URL ?? url,
    SMTP_URL: `smtp://127.0.0.1:${mailPort}?ignoreTLS=true`,
    KEDGE_MAILBOX: '1',
    HOST: '127.0.0.1',
    PORT: String(webPort),
  }
  const part = (name, command, args) => {
    const log = logs && join(logs, `${name}.log`)
    const file = log && openSync(log, 'a')
    const stdio = file ? ['ignore', file, file] : quiet ? ['ignore', 'ignore', 'inherit'] : 'inherit'
    return { log, start: () => start(command, args, { cwd: root, env, stdio }) }
  }
  const web = part('web', tsx[0], [...tsx[1], 'web'])
  const worker = part('worker', tsx[0], [...tsx[1], 'worker', '--mailbox', String(mailPort)])
  return { url, web, worker }
}

/**
 * Starts everything.
 * @returns {Promise<{ url: string, web: import('node:child_process').ChildProcess, worker: import('node:child_process').ChildProcess,
 *   startWeb: () => Promise<void>, startWorker: () => void, stop: () => Promise<void> }>}
 */
export async function startApplication(base, options) {
  const parts = await partsOf(base, options)
  const running = { url: parts.url }
  running.startWeb = async () => {
    running.web = parts.web.start()
    await untilHealthy(running.url, running.web)
  }
  running.startWorker = () => {
    running.worker = parts.worker.start()
  }
  running.stop = async () => {
    await Promise.all([end(running.web), end(running.worker)])
  }
  running.startWorker()
  await running.startWeb()
  return running
}

/**
 * Starts everything and keeps it running: a part that ends by itself is started again, and the caller hears of it.
 * @param {object} watch
 * @param {(message: string) => void} watch.say
 * @param {(message: string) => void} watch.giveUp
 */
export async function keepApplication(base, options, { say, giveUp }) {
  const { url, web, worker } = await partsOf(base, options)
  const kept = []
  const keep = async (name, { log, start: begin }, ready) => {
    const startPart = async () => {
      const child = begin()
      await ready?.(child)
      return child
    }
    kept.push(await keepRunning({ name, start: startPart, log, say, giveUp }))
  }
  await keep('The worker', worker)
  await keep('The web application', web, (child) => untilHealthy(url, child))
  return {
    url,
    async stop() {
      for (const part of kept) part.stop()
      await Promise.all(kept.map((part) => end(part.child())))
    },
  }
}
