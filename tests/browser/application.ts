import { demoNotice } from '@/demo/notice'
import { join } from 'node:path'
import type { ChildProcess } from 'node:child_process'
import pg from 'pg'
import type { Browser, CookieData } from 'puppeteer-core'
import { logsOf } from '../logs'
import { openPerson } from './person'

interface Running {
  readonly url: string
  readonly web: ChildProcess
  readonly worker: ChildProcess
  readonly startWeb: () => Promise<void>
  readonly startWorker: () => void
  readonly stop: () => Promise<void>
}

/** Milliseconds within which a test's wait must end (scripts/test/limits.mjs). */
const limit = Number(process.env.KEDGE_TEST_WAIT ?? 60_000)

interface Urls {
  readonly superuser: string
  readonly owner: string
  readonly app: string
}

const urls = JSON.parse(process.env.KEDGE_TEST_DATABASES ?? '{}') as Urls

/** Starts the built application on a copy of a template, and a browser. */
export async function openApplication(
  template: 'demo' | 'empty' = 'demo',
  name = `kedge_browser_${process.pid}_${Date.now()}`,
) {
  const at = (url: string, database: string) => url.replace('{database}', database)
  const admin = new pg.Client({ connectionString: at(urls.superuser, 'postgres') })
  await admin.connect()
  await admin.query(`create database ${name} template kedge_template_${template} owner kedge_owner`)
  const looking = new pg.Client({ connectionString: at(urls.superuser, name) })
  await looking.connect()
  await looking.query("set kedge.history = 'off'")
  const { startApplication } = (await import(join(process.cwd(), 'scripts/lib/application.mjs'))) as {
    startApplication: (env: object, options: object) => Promise<Running>
  }
  const running = await startApplication(
    {
      ...process.env,
      NODE_ENV: 'production',
      NODE_OPTIONS: '',
      KEDGE_NOTICE: JSON.stringify(demoNotice),
      KEDGE_NOW: '2026-11-23T09:05:00',
      LOG_LEVEL: 'error',
      DATABASE_URL: at(urls.app, name),
      DATABASE_OWNER_URL: at(urls.owner, name),
    },
    { logs: logsOf(name) },
  )
  const { openBrowser } = (await import(join(process.cwd(), 'scripts/lib/chromium.mjs'))) as {
    openBrowser: () => Promise<Browser>
  }
  const browser = await openBrowser()
  return {
    running,
    browser,
    ownerUrl: at(urls.owner, name),
    rows: async (statement: string, values: unknown[] = []) =>
      (await looking.query(statement, values)).rows as Record<string, any>[],
    person: () => openPerson(browser, running.url),
    /** A person at a browser of their own who is signed in already; signing in is not what is tested. */
    signedIn: async (username: string) => {
      const person = await openPerson(browser, running.url)
      await person.page.browserContext().setCookie(...(await cookiesOf(running.url, username)))
      return person
    },
    /** Until a statement finds a row. */
    until: async (statement: string) => {
      const end = Date.now() + limit
      while (Date.now() < end) {
        if ((await looking.query(statement)).rows.length > 0) return
        await new Promise((resolve) => setTimeout(resolve, 50))
      }
      throw new Error(`no row within ${limit} ms: ${statement}`)
    },
    /** Takes the database away from the application, as when its server stops, and gives it back. */
    closeDatabase: async () => {
      await admin.query(`alter database ${name} allow_connections false`)
      await admin.query(
        "select pg_terminate_backend(pid) from pg_stat_activity where datname = $1 and usename <> 'postgres'",
        [name],
      )
    },
    openDatabase: () => admin.query(`alter database ${name} allow_connections true`),
    close: async () => {
      await browser.close()
      await running.stop()
      await looking.end()
      await admin.query(`drop database if exists ${name} with (force)`)
      await admin.end()
    },
  }
}

export type Application = Awaited<ReturnType<typeof openApplication>>

/** Signs in over HTTP, and answers the cookies of the session. */
async function cookiesOf(url: string, username: string): Promise<readonly CookieData[]> {
  const response = await fetch(`${url}/api/sign-in`, {
    method: 'POST',
    headers: { 'content-type': 'application/json', origin: url },
    body: JSON.stringify({ username, password: 'harbour lights at dusk' }),
  })
  if (!response.ok) throw new Error(`${username} cannot sign in: ${await response.text()}`)
  return response.headers.getSetCookie().map((cookie) => {
    const [pair = ''] = cookie.split(';')
    const at = pair.indexOf('=')
    return {
      name: pair.slice(0, at),
      value: pair.slice(at + 1),
      domain: new URL(url).hostname,
      path: '/',
      httpOnly: true,
    }
  })
}
