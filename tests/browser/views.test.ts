import { createSchool } from '@/terminal/create-school'
import { openApplication, type Application, type Person } from './application'

// Every view, for everyone who has it, at two widths: axe finds nothing, nothing runs off the side.
let app: Application
beforeAll(async () => {
  app = await openApplication('demo')
}, 120000)
afterAll(() => app.close())

async function look(person: Person, paths: readonly string[]): Promise<readonly string[]> {
  const found: string[] = []
  for (const path of paths)
    for (const width of [1280, 768]) {
      await person.page.setViewport({ width, height: 800 })
      await person.go(path)
      if (await person.page.$('canvas'))
        await person.page.waitForSelector('canvas[data-state=shown]', { timeout: 15000 })
      found.push(...(await person.axe()))
      const overflow = await person.page.evaluate(() => document.documentElement.scrollWidth - innerWidth)
      if (overflow > 1) found.push(`${path} at ${width}: runs ${overflow} px off the side`)
    }
  return found
}

test('the sign-in page and the choice of a password', async () => {
  const person = await app.person()
  expect(await look(person, ['/sign-in', '/nowhere'])).toEqual([])
  await person.signIn('d.munro', 'tide table 1')
  expect(await look(person, ['/set-password'])).toEqual([])
  expect(person.complaints).toEqual([])
})

test('every view of a teacher', async () => {
  const [{ c }] = (await app.rows("select id as c from class where name = '8 Science A'")) as [{ c: string }]
  const [{ own }] = (await app.rows("select id as own from class where name = '7 Science A'")) as [
    { own: string },
  ]
  const [{ h }] = (await app.rows("select id as h from homeroom where name = '7 Tern'")) as [{ h: string }]
  const [{ a }] = (await app.rows("select id as a from assessment where name = 'Fair tests'")) as [
    { a: string },
  ]
  const [{ r }] = (await app.rows('select id as r from report_round')) as [{ r: string }]
  const [{ s }] = (await app.rows("select id as s from student where sort_name = 'Castellane, Rui'")) as [
    { s: string },
  ]
  await app.rows('update assessment set document_id = (select id from document limit 1)')
  const person = await app.person()
  await person.signIn('r.achterberg')
  expect(
    await look(person, [
      '/today',
      '/people',
      `/people/${s}`,
      '/classes',
      '/attendance/registers',
      `/attendance/registers/${h}`,
      `/attendance/registers/${h}?date=2026-11-21`,
      `/attendance/registers/${h}?session=afternoon`,
      `/classes/${own}/register?session=1`,
      `/classes/${own}/register?date=2026-11-21`,
      '/attendance/lessons',
      '/attendance/figures',
      '/attendance/figures?sessions=lessons',
      `/attendance/sheets?homeroom=${h}`,
      '/attendance/sheets?class=',
      '/school/timetable',
      `/classes/${c}/marks`,
      `/classes/${c}/marks?date=2027-02-01`,
      '/assessments',
      '/assessments/new',
      `/assessments/${a}`,
      `/assessments/${a}/answers`,
      `/assessments/${a}/findings`,
      '/reports',
      `/reports/${r}`,
      `/classes/${own}/entries/${r}`,
      `/reports/${r}/cards/${h}`,
      '/school/year',
      '/people/not-an-id',
    ]),
  ).toEqual([])
  // Half-way states: a waiting code, the dialogs, the lists of keys and of what is found.
  await person.page.setViewport({ width: 1280, height: 800 })
  await person.go(`/attendance/registers/${h}`)
  await person.press('a')
  expect(await person.axe()).toEqual([])
  await person.go('/today')
  await person.press('?')
  await person.sees('Everywhere')
  expect(await person.axe()).toEqual([])
  await person.press('Escape', 'Control+k')
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
  await person.go(`/classes/${c}/marks`)
  await person.enterOn('Weights and rules')
  await person.sees('The weights add up to 100.')
  expect(await person.axe()).toEqual([])
  expect(person.complaints).toEqual([])
})

test('every view of the office, the head and the administrator', async () => {
  const [{ s }] = (await app.rows("select id as s from student where sort_name = 'Okonjo-Marsh, Ilse'")) as [
    { s: string },
  ]
  const [{ n }] = (await app.rows("select id as n from student where sort_name = 'Iversen, Noor'")) as [
    { n: string },
  ]
  const [{ r }] = (await app.rows('select id as r from report_round')) as [{ r: string }]
  const [{ e }] = (await app.rows("select id as e from class where name = '7 English A'")) as [{ e: string }]
  const office = await app.person()
  await office.signIn('e.leask')
  expect(
    await look(office, [
      '/today',
      '/people/enrol',
      `/people/enrol?applicant=${n}`,
      `/people/${s}/history`,
      '/classes',
    ]),
  ).toEqual([])
  const head = await app.person()
  await head.signIn('s.kirkness')
  expect(await look(head, ['/today', `/reports/${r}`, `/classes/${e}/entries/${r}`, '/assessments'])).toEqual(
    [],
  )
  const admin = await app.person()
  await admin.signIn('m.vester')
  expect(
    await look(admin, [
      '/school/mail',
      '/school/year',
      '/school/check',
      '/school/check?list=emptyClasses&down=class&across=teacher',
      '/school/carry-forward',
      '/school/carry-forward?date=2027-06-01',
      '/people/guardians',
      '/people/groups',
      '/school/timetable',
      '/school/timetable?by=room',
      '/school/structure',
      '/school/scales',
      '/school/codes',
      '/school/settings',
      '/school/staff',
      `/school/staff/${String((await app.rows('select id from staff_member order by sort_name limit 1'))[0]?.id)}`,
    ]),
  ).toEqual([])
  expect([...office.complaints, ...head.complaints, ...admin.complaints]).toEqual([])
})

test('every view of attendance for the office', async () => {
  const [{ s }] = (await app.rows("select id as s from student where sort_name = 'Okonjo-Marsh, Ilse'")) as [
    { s: string },
  ]
  const [{ h }] = (await app.rows("select id as h from homeroom where name = '7 Tern'")) as [{ h: string }]
  const office = await app.person()
  await office.signIn('e.leask')
  expect(
    await look(office, [
      '/attendance/corrections',
      '/attendance/planned',
      '/attendance/calls',
      '/attendance/registers',
      '/attendance/lessons',
      '/attendance/building',
      '/attendance/figures',
      `/attendance/figures?of=student:${s}`,
      '/attendance/letters',
      `/attendance/sheets?homeroom=${h}`,
    ]),
  ).toEqual([])
  expect(office.complaints).toEqual([])
})

test('a guardian’s view', async () => {
  const guardian = await app.person()
  await guardian.signIn('hana.marsh@islandmail.example')
  await guardian.sees('No report cards have been released yet.')
  expect(await look(guardian, ['/report-cards', '/absences'])).toEqual([])
})

test('at 200 % zoom the work of a page is still there', async () => {
  const [{ h }] = (await app.rows("select id as h from homeroom where name = '7 Tern'")) as [{ h: string }]
  const person = await app.person()
  await person.signIn('r.achterberg')
  await person.page.setViewport({ width: 640, height: 400, deviceScaleFactor: 2 })
  for (const path of ['/today', `/attendance/registers/${h}`, '/assessments']) {
    await person.go(path)
    expect(
      await person.page.evaluate(() => document.documentElement.scrollWidth - innerWidth),
    ).toBeLessThanOrEqual(1)
  }
})

test('the year line moves by key and by typing, and says plainly that one looks at another day', async () => {
  const person = await app.person()
  await person.signIn('r.achterberg')
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
  expect(await (await fetch(`${app.running.url}/api/health`)).json()).toMatchObject({
    status: 'ok',
    database: 'ok',
  })
})

test('a real school starts empty, and its pages say what to do first', async () => {
  const empty = await openApplication('empty', `kedge_browser_empty_${process.pid}`)
  try {
    const password = await createSchool(empty.ownerUrl, {
      name: 'Farrow School',
      shortName: 'farrow',
      username: 'zara.skaar',
      adminName: 'Zara Skaar',
    })
    const person = await empty.person()
    await person.signIn('zara.skaar', password)
    await person.focus('New password')
    await person.type('kelp and driftwood')
    await Promise.all([person.page.waitForNavigation(), person.press('Enter')])
    await person.sees('Set up Farrow School')
    for (const path of [
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
      '/school/check',
      '/school/carry-forward',
      '/people/guardians',
      '/people/groups',
      '/school/structure',
      '/school/scales',
      '/school/codes',
      '/school/settings',
      '/school/staff',
      '/school/set-up',
    ]) {
      await person.go(path)
      expect(await person.axe()).toEqual([])
    }
    await person.go('/school/year')
    await person.enterOn('Create academic year')
    await person.sees('Academic year 2026/27')
    await person.go('/school/structure')
    expect(await person.axe()).toEqual([])
    expect(person.complaints).toEqual([])
  } finally {
    await empty.close()
  }
})
