import type { Browser, ElementHandle } from 'puppeteer-core'
import { axe } from './axe'

/** A person at a browser of their own: keys, words on the screen, and what the console complains of. */
export async function openPerson(browser: Browser, url: string) {
  const context = await browser.createBrowserContext()
  const page = await context.newPage()
  await page.setViewport({ width: 1280, height: 800 })
  page.setDefaultTimeout(Number(process.env.KEDGE_TEST_WAIT ?? 60_000))
  // Asking twenty times a second; by default a page would be drawn sixty times a second while one waits.
  const waitForFunction = page.waitForFunction.bind(page) as (...all: unknown[]) => never
  page.waitForFunction = (done, options = {}, ...rest) =>
    waitForFunction(done, { polling: 50, ...options }, ...rest)
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
    /** Until the page has fetched nothing more for half a second. A stream that stays open is no fetch that ends. */
    quiet: () =>
      page.waitForFunction(
        () => {
          const of = window as unknown as { fetched?: number }
          const before = of.fetched
          of.fetched = performance.getEntriesByType('resource').length
          return before === of.fetched
        },
        { polling: 500 },
      ),
    /** Until what changed has been drawn, and what follows a drawing as well. */
    drawn: () =>
      page.evaluate(
        () => new Promise((resolve) => requestAnimationFrame(() => requestAnimationFrame(resolve))),
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
    sees: (words: string) => {
      const wait = () =>
        page.waitForFunction(
          (w) => document.body.innerText.replace(/\s+/g, ' ').includes(w),
          { polling: 50 },
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
        { polling: 50 },
        words,
      ),
    text: (selector: string) =>
      page.$eval(selector, (e) => (e as HTMLElement).innerText.replace(/\s+/g, ' ').trim()),
    /** Puts the focus on what carries the label, as Tab would in the end. */
    focus: async (label: string) => {
      const found = await page.waitForSelector(`aria/${label}`)
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
      const select = await page.waitForSelector(`aria/${label}[role="combobox"]`)
      const value = await select?.evaluate(
        (s, o) => [...(s as HTMLSelectElement).options].find((x) => x.text.startsWith(o))?.value,
        option,
      )
      if (!value) throw new Error(`${label} has no ${option}`)
      await (select as ElementHandle<HTMLSelectElement>).select(value)
    },
    /** Finds a button or link by its words and presses Enter on it. */
    enterOn: async (words: string) => {
      const found = await page
        .waitForFunction(
          // What is in the work comes before the rail around it, and an open menu or dialog before both.
          (w) =>
            [
              ...document.querySelectorAll<HTMLElement>('[role=menuitem]'),
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
          {},
          words,
        )
        .catch(async () => {
          throw new Error(
            `no act "${words}" on ${page.url()}: ${(await page.evaluate(() => document.body.innerText)).replace(/\s+/g, ' ').slice(0, 1200)}`,
          )
        })
      await (found as ElementHandle<HTMLElement>).focus()
      await page.keyboard.press('Enter')
    },
    saved: () =>
      page
        .waitForFunction(
          () =>
            document.querySelector('[data-saved]')?.getAttribute('data-saved') === 'yes' &&
            /Saved \d/.test((document.querySelector('[data-saved]') as HTMLElement).innerText),
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
    /** Carries out a command over the address, as a page of this person would; the page must be one of Kedge. */
    execute: (name: string, input: unknown) =>
      page.evaluate(
        async (n, i) => {
          const response = await fetch(`/api/command/${n}`, {
            method: 'POST',
            headers: { 'Content-Type': 'application/json' },
            body: JSON.stringify({ input: i, key: crypto.randomUUID() }),
          })
          return (await response.json()) as { ok: boolean; failure?: { kind: string } }
        },
        name,
        input,
      ),
    axe: () => axe(page),
    close: () => context.close(),
  }
  return person
}

export type Person = Awaited<ReturnType<typeof openPerson>>
