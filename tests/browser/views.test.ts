import { createSchool } from '@/terminal/create-school'
import { openApplication, type Application } from './application'
import type { Person } from './person'
import { views, type Viewer } from './views'

// Every view, for everyone who has it, at four widths, on paper and in forced colours: axe finds nothing, nothing runs
// off the side, no control is printed, and what is chosen can be seen.
let app: Application
beforeAll(async () => {
  app = await openApplication('demo')
  await app.rows(
    `insert into form_document (school_id, assessment_id, form_id, document_id)
      select f.school_id, f.assessment_id, f.id, (select id from document limit 1)
      from form f join assessment a on a.id = f.assessment_id where a.name = 'Fair tests'`,
  )
})
afterAll(() => app.close())

/** How many pixels the page is wider than the window. */
const overflow = (person: Person) =>
  person.page.evaluate(() => document.documentElement.scrollWidth - innerWidth)

/** Puts ids in place of names: /people/{student Okonjo-Marsh, Ilse}. */
async function addressOf(path: string): Promise<string> {
  let address = path
  for (const [whole, kind, name] of path.matchAll(/\{([^ }]+) ([^}]+)\}/g)) {
    const column = kind === 'student' || kind === 'staff_member' ? 'sort_name' : 'name'
    const [found] = await app.rows(`select id from ${kind} where ${column} = $1`, [name])
    if (!found) throw new Error(`there is no ${kind} ${name}`)
    address = address.replace(whole, String(found.id))
  }
  return address
}

/** Opens a view at a width, waits until it stands, and answers what is wrong with it. */
async function look(person: Person, path: string, width: number): Promise<readonly string[]> {
  await person.page.setViewport({ width, height: 800 })
  // The same window made narrower: a page that stands is not fetched again.
  if (person.page.url() === app.running.url + path) await person.drawn()
  else await person.go(path)
  if (await person.page.$('canvas')) await person.page.waitForSelector('canvas[data-state=shown]')
  const found = [
    ...(await person.axe()),
    ...(width > 1000
      ? [...(await unrest(person)), ...(await onPaper(person)), ...(await inForcedColours(person))]
      : []),
  ]
  const wide = await overflow(person)
  return wide > 1 ? [...found, `${path} at ${width}: runs ${wide} px off the side`] : found
}

/**
 * Until a page rests: a third of a second in which it hardly runs a script, listens to nothing new and asks for nothing.
 * @returns what it still does after eight of them
 */
async function unrest({ page }: Person): Promise<readonly string[]> {
  const devtools = await page.createCDPSession()
  await devtools.send('Performance.enable')
  const now = async () => {
    const { metrics } = await devtools.send('Performance.getMetrics')
    return (name: string) => metrics.find((m) => m.name === name)?.value ?? 0
  }
  let asked: string[] = []
  const note = (request: { url: () => string }) => void asked.push(request.url())
  page.on('request', note)
  let found = ''
  for (let left = 8; left > 0; left--) {
    asked = []
    const before = await now()
    await new Promise((resolve) => setTimeout(resolve, 300))
    const after = await now()
    const script = after('ScriptDuration') - before('ScriptDuration')
    const listeners = after('JSEventListeners') - before('JSEventListeners')
    found =
      script > 0.03 || listeners > 0 || asked.length > 0
        ? `does not rest: ${script.toFixed(2)} s of script in a third of a second, ${listeners} more listeners, ${asked.join(' ')}`
        : ''
    if (found === '') break
  }
  page.off('request', note)
  await devtools.detach()
  return found === '' ? [] : [found]
}

const widths = [1280, 768, 390, 320] as const
const walk = (paths: readonly string[]) =>
  paths.flatMap((path) => widths.map((width) => [path, width] as const))

/** What would be printed of the page although it only acts. */
async function onPaper({ page }: Person): Promise<readonly string[]> {
  await page.emulateMediaType('print')
  const found = await page.evaluate(() =>
    [...document.querySelectorAll<HTMLElement>('nav, .act, input[type=checkbox], input[type=search]')]
      .filter((e) => e.getClientRects().length > 0)
      .slice(0, 3)
      .map((e) => `printed: ${e.outerHTML.slice(0, 120)}`),
  )
  await page.emulateMediaType('screen')
  return found
}

/** Where one is and what is chosen, as far as it looks like what is not, in the user's own colours. */
async function inForcedColours({ page }: Person): Promise<readonly string[]> {
  const devtools = await page.createCDPSession()
  const force = (value: string) =>
    devtools.send('Emulation.setEmulatedMedia', { features: [{ name: 'forced-colors', value }] })
  await force('active')
  const found = await page.evaluate(() => {
    const look = (e: Element) => {
      const {
        backgroundColor,
        borderLeftColor,
        borderLeftWidth,
        borderBottomWidth,
        outlineStyle,
        fontWeight,
      } = getComputedStyle(e)
      return [
        backgroundColor,
        borderLeftColor,
        borderLeftWidth,
        borderBottomWidth,
        outlineStyle,
        fontWeight,
      ].join()
    }
    const alike = (chosen: string, others: string) =>
      [...document.querySelectorAll(chosen)].filter((e) => {
        const other = [
          ...(e.closest('nav, [role=group], [role=radiogroup], tbody')?.querySelectorAll(others) ?? []),
        ].find((o) => o !== e && !o.matches(chosen) && o.tagName === e.tagName)
        return other !== undefined && look(other) === look(e)
      })
    return [
      ...alike('nav a[aria-current]', 'a'),
      ...alike('button[aria-pressed=true]', 'button'),
      ...alike('[role=radio][data-state=on]', '[role=radio]'),
      ...alike('tr.chosen-row', 'tr'),
    ]
      .slice(0, 3)
      .map((e) => `not told from others in forced colours: ${e.outerHTML.slice(0, 160)}`)
  })
  await force('none')
  await devtools.detach()
  return found
}

describe.each(Object.entries(views) as [Viewer, (typeof views)[Viewer]][])(
  '%s',
  (viewer, { user, paths }) => {
    let person: Person
    beforeAll(async () => {
      person = user ? await app.signedIn(user) : await app.person()
    })
    afterAll(() => person.close())
    test.each(walk(paths))('%s at %d', async (path, width) => {
      expect(await look(person, await addressOf(path), width)).toEqual([])
      expect(person.complaints).toEqual([])
    })
  },
)

test('sheets of all classes fit as well; axe has looked at one of them', async () => {
  const person = await app.signedIn('r.achterberg')
  for (const width of [1280, 768]) {
    await person.page.setViewport({ width, height: 800 })
    await person.go('/attendance/sheets?class=')
    await person.sees('7 Science A')
    expect(await overflow(person)).toBeLessThanOrEqual(1)
  }
  await person.close()
})

test('a guardian without released cards is told so', async () => {
  const guardian = await app.signedIn('hana.marsh@islandmail.example')
  await guardian.go('/report-cards')
  await guardian.sees('No report cards have been released yet.')
  await guardian.close()
})

test('the choice of a password', async () => {
  const person = await app.person()
  await person.signIn('d.munro', 'tide table 1')
  for (const width of [1280, 768]) expect(await look(person, '/set-password', width)).toEqual([])
  expect(person.complaints).toEqual([])
  await person.close()
})

describe('half-way states of a teacher', () => {
  let person: Person
  beforeAll(async () => {
    person = await app.signedIn('r.achterberg')
  })
  afterAll(async () => {
    expect(person.complaints).toEqual([])
    await person.close()
  })
  test('a code that waits for a second key', async () => {
    await person.go(await addressOf('/attendance/registers/{homeroom 7 Tern}'))
    await person.press('a')
    expect(await person.axe()).toEqual([])
  })
  test('the list of keys', async () => {
    await person.go('/today')
    await person.press('?')
    await person.sees('Everywhere')
    expect(await person.axe()).toEqual([])
  })
  test('the find box without and with matches', async () => {
    await person.go('/today')
    await person.press('Control+k')
    await person.page.waitForSelector('[role=dialog] [role=combobox]')
    await person.type('zzz')
    await person.sees('No matches.')
    expect(await person.axe()).toEqual([])
    await person.press('Control+a')
    await person.type('sci')
    await person.page.waitForFunction(() =>
      document.querySelector('[role=dialog] [role=option]')?.textContent?.includes('7 Science A'),
    )
    expect(await person.axe()).toEqual([])
  })
  test('weights and rules', async () => {
    await person.go(await addressOf('/classes/{class 8 Science A}/marks'))
    await person.enterOn('Weights and rules')
    await person.sees('The weights add up to 100.')
    expect(await person.axe()).toEqual([])
  })
})

test('at 200 % zoom the work of a page is still there', async () => {
  const [{ h }] = (await app.rows("select id as h from homeroom where name = '7 Tern'")) as [{ h: string }]
  const person = await app.signedIn('r.achterberg')
  await person.page.setViewport({ width: 640, height: 400, deviceScaleFactor: 2 })
  for (const path of ['/today', `/attendance/registers/${h}`, '/assessments']) {
    await person.go(path)
    expect(await overflow(person)).toBeLessThanOrEqual(1)
  }
  await person.close()
})

test('the year line moves by key and by typing, and says plainly that one looks at another day', async () => {
  const person = await app.signedIn('r.achterberg')
  await person.go('/today')
  await person.focus('Date you are working in')
  await person.press('ArrowLeft', 'ArrowLeft', 'ArrowLeft', 'Enter')
  await person.sees('You are looking at Fri 20 Nov 2026, not today.')
  await person.focus('Date you are working in')
  await person.type('31 Oct')
  await person.press('Enter')
  await person.sees('Sat 31 Oct 2026, no school at weekends')
  await person.focus('Date you are working in')
  await person.type('soon')
  await person.press('Enter')
  await person.sees('No such day in this year')
  await person.press('Escape')
  await person.enterOn('Back to today')
  await person.seesNot(', not today')
})

test('the pages keep foreign code out', async () => {
  const response = await fetch(`${app.running.url}/sign-in`)
  const policy = response.headers.get('content-security-policy') ?? ''
  expect(policy).toMatch(/script-src 'self' 'nonce-[^']{20,}' 'strict-dynamic'/)
  expect(policy).not.toContain('unsafe-eval')
  const again = (await fetch(`${app.running.url}/sign-in`)).headers.get('content-security-policy')
  expect(again).not.toBe(policy)
  const forged = await fetch(`${app.running.url}/api/command/account.signOutEverywhere`, {
    method: 'POST',
    headers: { origin: 'http://elsewhere.example', 'content-type': 'application/json' },
    body: JSON.stringify({ input: {}, key: crypto.randomUUID() }),
  })
  expect(forged.status).toBe(404)
  expect((await fetch(`${app.running.url}/api/query/people.list?input={}`)).status).toBe(401)
  expect(await (await fetch(`${app.running.url}/api/ready`)).json()).toMatchObject({
    status: 'ok',
    database: 'ok',
  })
})

describe('a real school starts empty, and its pages say what to do first:', () => {
  let empty: Application
  let person: Person
  beforeAll(async () => {
    empty = await openApplication('empty', `kedge_browser_empty_${process.pid}`)
    const password = await createSchool(empty.ownerUrl, {
      name: 'Farrow School',
      shortName: 'farrow',
      username: 'zara.skaar',
      adminName: 'Zara Skaar',
    })
    person = await empty.person()
    await person.signIn('zara.skaar', password)
    await person.focus('New password')
    await person.type('kelp and driftwood')
    await Promise.all([person.page.waitForNavigation(), person.press('Enter')])
    await person.sees('Set up Farrow School')
  })
  afterAll(async () => {
    expect(person.complaints).toEqual([])
    await empty.close()
  })
  test.each([
    '/today',
    '/people',
    '/people/enrol',
    '/classes',
    '/attendance/registers',
    '/attendance/corrections',
    '/attendance/planned',
    '/attendance/calls',
    '/assessments',
    '/reports',
    '/school/mail',
    '/school/year',
    '/school/carry-forward',
    '/people/guardians',
    '/people/groups',
    '/school/year-groups',
    '/school/subjects',
    '/school/rooms',
    '/school/classes',
    '/school/scales',
    '/school/codes',
    '/school/settings',
    '/school/staff',
    '/school/set-up',
  ])('%s', async (path) => {
    await person.go(path)
    expect(await person.axe()).toEqual([])
  })
  test('the academic year is created, and the structure comes next', async () => {
    await person.go('/school/year')
    await person.enterOn('Create academic year')
    await person.sees('Academic year 2026/27')
    await person.go('/school/year-groups')
    expect(await person.axe()).toEqual([])
  })
})
