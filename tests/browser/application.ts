import { demoNotice } from '@/demo/notice'
import { readFileSync } from 'node:fs'
import { join } from 'node:path'
import type { ChildProcess } from 'node:child_process'
import pg from 'pg'
import type { Browser, Page } from 'puppeteer-core'

interface Running {
  readonly url: string
  readonly web: ChildProcess
  readonly worker: ChildProcess
  readonly startWeb: () => Promise<void>
  readonly startWorker: () => void
  readonly stop: () => Promise<void>
}

interface Urls {
  readonly superuser: string
  readonly owner: string
  readonly app: string
}

const urls = JSON.parse(process.env.KEDGE_TEST_DATABASES ?? '{}') as Urls
const axeSource = readFileSync(join(process.cwd(), 'node_modules/axe-core/axe.min.js'), 'utf8')

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
    { quiet: true },
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
    /** Until a statement finds a row. */
    until: async (statement: string) => {
      for (let n = 0; n < 200; n++) {
        if ((await looking.query(statement)).rows.length > 0) return
        await new Promise((resolve) => setTimeout(resolve, 50))
      }
      throw new Error(`no row within ten seconds: ${statement}`)
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

/** A person at a browser of their own: keys, words on the screen, and what the console complains of. */
async function openPerson(browser: Browser, url: string) {
  const context = await browser.createBrowserContext()
  const page = await context.newPage()
  await page.setViewport({ width: 1280, height: 800 })
  const complaints: string[] = []
  page.on('pageerror', (error) => complaints.push(error instanceof Error ? error.message : String(error)))
  page.on('console', (message) => {
    if (message.type() === 'error' && !/Failed to load resource|net::ERR/.test(message.text()))
      complaints.push(message.text())
  })
  // The browser asks before a page with unsaved edits is left; these people leave.
  page.on('dialog', (dialog) => void dialog.accept().catch(() => {}))
  const person = {
    page,
    complaints,
    go: async (path: string) => {
      await page.goto(url + path, { waitUntil: 'load' })
      await person.settled()
    },
    /** Until the page has come to life and answers keys; those without a head have nothing to wait for. */
    settled: () =>
      page.waitForFunction(
        () =>
          document.readyState === 'complete' &&
          !document.querySelector('[data-loading]') &&
          (!document.querySelector('main header h1') || document.body.dataset.page !== undefined),
      ),
    press: async (...keys: string[]) => {
      for (const key of keys) {
        const parts = key.split('+')
        for (const modifier of parts.slice(0, -1)) await page.keyboard.down(modifier as 'Control')
        await page.keyboard.press((parts.at(-1) ?? '') as 'Enter')
        for (const modifier of parts.slice(0, -1)) await page.keyboard.up(modifier as 'Control')
      }
    },
    type: (text: string) => page.keyboard.type(text),
    /** Waits until the words stand on the page. */
    sees: (words: string, timeout = 10000) => {
      const wait = () =>
        page.waitForFunction(
          (w) => document.body.innerText.replace(/\s+/g, ' ').includes(w),
          { timeout },
          words,
        )
      return wait()
        .catch((error: Error) => {
          // A page that is left while one waits ends the waiting; what counts is what the next one says.
          if (error.name === 'TimeoutError') throw error
          return wait()
        })
        .catch(async () => {
          const text = (await page.evaluate(() => document.body.innerText)).replace(/\s+/g, ' ')
          if (!text.includes(words))
            throw new Error(`"${words}" is not on ${page.url()}, which says: ${text.slice(0, 3000)}`)
        })
    },
    seesNot: (words: string) =>
      page.waitForFunction(
        (w) => !document.body.innerText.replace(/\s+/g, ' ').includes(w),
        { timeout: 10000 },
        words,
      ),
    text: (selector: string) =>
      page.$eval(selector, (e) => (e as HTMLElement).innerText.replace(/\s+/g, ' ').trim()),
    /** Puts the focus on what carries the label, as Tab would in the end. */
    focus: async (label: string) => {
      const found = await page.waitForSelector(`aria/${label}`, { timeout: 10000 })
      await found?.focus()
    },
    fill: async (label: string, text: string) => {
      await person.focus(label)
      await page.keyboard.down('Control')
      await page.keyboard.press('a')
      await page.keyboard.up('Control')
      await page.keyboard.type(text)
    },
    choose: async (label: string, option: string) => {
      const select = await page.waitForSelector(`aria/${label}[role="combobox"]`, { timeout: 10000 })
      const value = await select?.evaluate(
        (s, o) => [...(s as HTMLSelectElement).options].find((x) => x.text.startsWith(o))?.value,
        option,
      )
      if (!value) throw new Error(`${label} has no ${option}`)
      await (select as import('puppeteer-core').ElementHandle<HTMLSelectElement>).select(value)
    },
    /** Finds a button or link by its words and presses Enter on it. */
    enterOn: async (words: string) => {
      const found = await page
        .waitForFunction(
          // What is in the work comes before the rail around it, and a dialog before both.
          (w) =>
            [
              ...document.querySelectorAll<HTMLElement>(
                '[role=dialog] a, [role=dialog] button, [role=dialog] summary',
              ),
              ...document.querySelectorAll<HTMLElement>('main a, main button, main summary'),
              ...document.querySelectorAll<HTMLElement>('a, button'),
            ].find(
              (e) =>
                e.offsetParent !== null &&
                !(e as HTMLButtonElement).disabled &&
                e.innerText.replace(/\s+/g, ' ').trim().startsWith(w),
            ),
          { timeout: 10000 },
          words,
        )
        .catch(async () => {
          throw new Error(
            `no act "${words}" on ${page.url()}: ${(await page.evaluate(() => document.body.innerText)).replace(/\s+/g, ' ').slice(0, 1200)}`,
          )
        })
      await (found as import('puppeteer-core').ElementHandle<HTMLElement>).focus()
      await page.keyboard.press('Enter')
    },
    saved: () =>
      page
        .waitForFunction(
          () =>
            document.querySelector('[data-saved]')?.getAttribute('data-saved') === 'yes' &&
            /Saved \d/.test((document.querySelector('[data-saved]') as HTMLElement).innerText),
          { timeout: 15000 },
        )
        .catch(async () => {
          throw new Error(
            `not saved: ${await person.text('[data-saved]')}; kept: ${await page.evaluate(() => Object.values(localStorage).join(' '))}`.slice(
              0,
              900,
            ),
          )
        }),
    signIn: async (user: string, password = 'harbour lights at dusk') => {
      await person.go('/sign-in')
      await page.focus('input[name=username]')
      await page.keyboard.type(user)
      await page.keyboard.press('Tab')
      await page.keyboard.type(password)
      await Promise.all([page.waitForNavigation(), page.keyboard.press('Enter')])
      await person.settled()
    },
    axe: () => axe(page),
    close: () => context.close(),
  }
  return person
}

export type Person = Awaited<ReturnType<typeof openPerson>>

/** What axe finds on the page as it stands, each with where. */
async function axe(page: Page): Promise<readonly string[]> {
  await page.evaluate(axeSource)
  return page.evaluate(async () => {
    const { axe: runner } = window as unknown as {
      axe: {
        run: (
          context: Document,
          options: object,
        ) => Promise<{
          violations: { id: string; help: string; nodes: { html: string; failureSummary?: string }[] }[]
        }>
      }
    }
    // What stays in sight half covers what scrolls behind it; axe would take that for a target too small to hit.
    const staying = [
      ...document.querySelectorAll<HTMLElement>('[data-part], main aside, main footer'),
    ].filter((e) => getComputedStyle(e).position === 'sticky')
    for (const e of staying) e.style.position = 'static'
    const { violations } = await runner.run(document, {
      runOnly: ['wcag2a', 'wcag2aa', 'wcag21a', 'wcag21aa', 'wcag22aa', 'best-practice'],
    })
    for (const e of staying) e.style.position = ''
    return violations.map(
      (v) =>
        `${location.pathname} at ${innerWidth}: ${v.id}, ${v.help}: ${v.nodes
          .slice(0, 2)
          .map((n) => n.html.slice(0, 160))
          .join(' | ')}`,
    )
  })
}
