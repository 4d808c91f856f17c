// npm run screenshots: one picture of each main view, from Wrackline School on Monday 23 November 2026, 09:05.
import { mkdirSync, rmSync } from 'node:fs'
import { join } from 'node:path'
import { ensureEverything, root } from './lib/bootstrap.mjs'

const data = ensureEverything()
const { openBrowser, signInPage } = await import('./lib/chromium.mjs')
const { startCluster } = await import('./lib/postgres.mjs')
const { startApplication } = await import('./lib/application.mjs')
const { kedge } = await import('./lib/tools.mjs')
const { loadWrackline } = await import('./lib/wrackline.mjs')

const cluster = await startCluster(join(data, 'test-postgres'), { durable: false })
const name = 'kedge_screenshots'
const base = loadWrackline(cluster, name)
const test = join(data, 'Heat and ice.pdf')
kedge(['demo', 'test', '--file', test], base)
const app = await startApplication(base, { quiet: true })
const id = (statement) => cluster.psql(name, statement)
const folder = join(root, 'docs/screenshots')
rmSync(folder, { recursive: true, force: true })
mkdirSync(folder, { recursive: true })

const browser = await openBrowser()

async function person(username) {
  const page = await (await browser.createBrowserContext()).newPage()
  await page.setViewport({ width: 1280, height: 800 })
  page.on('dialog', (dialog) => void dialog.accept())
  const go = async (path) => {
    await page.goto(app.url + path, { waitUntil: 'networkidle2' })
    if (await page.$('canvas')) await page.waitForSelector('canvas[data-state=shown]')
    await page.evaluate(() => document.fonts.ready)
  }
  const shot = async (file, path) => {
    if (path) await go(path)
    await page.screenshot({ path: join(folder, `${file}.png`) })
    console.log(`${file}.png`)
  }
  const keys = async (text) => {
    for (const key of text.split(' ')) await page.keyboard.press(key)
  }
  if (username) await signInPage(page, app.url, username)
  const saved = () =>
    page.waitForFunction(
      () =>
        document.querySelector('[data-saved]')?.getAttribute('data-saved') === 'yes' &&
        /^Saved \d/.test(document.querySelector('[data-saved]').textContent),
    )
  return { page, go, shot, keys, saved }
}

try {
  const office = await person('e.leask')
  await office.shot('people', '/people')
  await office.shot(
    'corrections',
    '/attendance/corrections?date=2026-11-20&only=transport:Ferry%20from%20Farrow',
  )
  await office.shot(
    'record',
    `/people/${id("select id from student where sort_name = 'Okonjo-Marsh, Ilse'")}`,
  )
  await office.shot(
    'enrol',
    `/people/enrol?applicant=${id("select id from student where sort_name = 'Iversen, Noor'")}`,
  )

  const teacher = await person('r.achterberg')
  await teacher.shot('today', '/today')
  await teacher.go(`/attendance/registers/${id("select id from homeroom where name = '7 Tern'")}`)
  await teacher.keys('p p p a 1 p p l p p a 2 p p p p p a')
  await teacher.saved()
  await teacher.shot('register')
  await teacher.shot('registers', '/attendance/registers')
  await teacher.shot('classes', '/classes')
  const science = id("select id from class where name = '8 Science A'")
  await teacher.go(`/classes/${science}/marks`)
  await teacher.keys(
    'ArrowDown ArrowDown ArrowDown ArrowDown ArrowDown ArrowRight ArrowRight ArrowRight ArrowRight',
  )
  await teacher.page.waitForFunction(() =>
    document.querySelector('[data-testid=explanation] h2')?.textContent.includes('Soren Bakkum'),
  )
  await teacher.shot('marks')

  await teacher.go('/assessments/new')
  const input = await teacher.page.$('input[type=file]')
  await input.uploadFile(test)
  await teacher.page.waitForFunction(() => document.body.innerText.includes('3 pages'))
  await teacher.page.click('aria/7 Science A[role="checkbox"]')
  await Promise.all([
    teacher.page.waitForNavigation(),
    teacher.page.evaluate(() =>
      [...document.querySelectorAll('button')].find((b) => b.textContent.startsWith('Continue')).click(),
    ),
  ])
  await teacher.page.waitForSelector('#key')
  await teacher.page.focus('#key')
  await teacher.page.keyboard.type('CBDAACDBBA')
  await teacher.saved()
  await teacher.page.waitForSelector('canvas[data-state=shown]')
  await teacher.shot('answer-key')
  const fair = id("select id from assessment where name = 'Fair tests'")
  await teacher.shot('answers', `/assessments/${fair}/answers`)
  await teacher.go(`/assessments/${fair}/findings`)
  await teacher.page.evaluate(() =>
    [...document.querySelectorAll('button')].find((b) => b.textContent.includes('not yet'))?.click(),
  )
  await teacher.shot('findings')

  const round = id('select id from report_round')
  await teacher.shot(
    'cards',
    `/reports/${round}/cards/${id("select id from homeroom where name = '7 Tern'")}`,
  )
  const head = await person('s.kirkness')
  await head.shot('round', `/reports/${round}`)
  await head.shot(
    'entries',
    `/classes/${id("select id from class where name = '7 English A'")}/entries/${round}`,
  )
  const admin = await person('m.vester')
  await admin.shot('school', '/school/year')
  await admin.shot('check', '/school/set-up')
  const remi = id("select id from staff_member where family_name = 'Achterberg' and given_name = 'Remi'")
  await admin.shot('timetable', `/school/timetable?by=teacher&of=${remi}`)
  await head.go('/attendance/figures')
  await head.page.waitForFunction(() => document.querySelectorAll('.main-svg').length >= 2)
  await head.shot('figures')
} finally {
  await browser.close()
  await app.stop()
  cluster.stop()
}
