import { openApplication, type Application } from './application'
import type { Person } from './person'

// Lessons: their registers by keys and by finger, cover, the timetable, figures, letters, and what guardians report.
let app: Application
let office: Person
let teacher: Person
beforeAll(async () => {
  app = await openApplication('demo')
  office = await app.signedIn('e.leask')
  teacher = await app.signedIn('r.achterberg')
})
afterAll(async () => {
  expect([...office.complaints, ...teacher.complaints]).toEqual([])
  await app.close()
})

const marksOf = async (className: string, period: string) =>
  app.rows(
    `select s.sort_name as name, c.code, m.minutes_late, m.changed_by from attendance_mark m
     join attendance_code c on c.id = m.code_id join student s on s.id = m.student_id join class k on k.id = m.class_id
     where k.name = $1 and m.session = $2 and m.session_date = '2026-11-23' order by s.sort_name`,
    [className, period],
  )

test('a lesson’s register is taken by keys: to a name by its letters, late by the time of arrival, one key for the rest', async () => {
  await teacher.go('/today')
  await teacher.sees('Your lessons')
  await teacher.sees('now')
  expect(await teacher.axe()).toEqual([])
  await teacher.page.waitForSelector('a[href*="/register?session=1"]')
  await teacher.page.$$eval('main a[href*="/register?session=1"]', (links) =>
    links.find((a) => a.textContent?.startsWith('7 Science A'))?.focus(),
  )
  await teacher.press('Enter')
  await teacher.sees('08:50 to 09:40, Lab 1, Remi Achterberg')
  await teacher.page.waitForSelector('[data-student][data-focus-home]')
  await teacher.press(',')
  await teacher.type('ils')
  await teacher.sees('Go to a name: ils_')
  await teacher.page.waitForFunction(
    () => document.querySelector('[data-focus-home]')?.getAttribute('data-student') === 'Okonjo-Marsh, Ilse',
  )
  await teacher.press('Enter', 'l')
  await teacher.focus('Minutes late, Okonjo-Marsh, Ilse')
  await teacher.type('8:40')
  await teacher.press('Enter')
  await teacher.sees('8:40 is before the session started at 08:50.')
  await teacher.focus('Minutes late, Okonjo-Marsh, Ilse')
  await teacher.type('9:02')
  await teacher.press('Enter')
  await teacher.page.waitForSelector(
    'input[aria-label="Minutes late, Okonjo-Marsh, Ilse"][title="Arrived at 09:02"]',
  )
  expect(await teacher.axe()).toEqual([])
  await teacher.press('.')
  await teacher.sees('27 students marked')
  await teacher.saved()
  const marks = await marksOf('7 Science A', '1')
  expect(marks).toHaveLength(28)
  expect(marks.filter((m) => m.code !== 'P')).toEqual([
    { name: 'Okonjo-Marsh, Ilse', code: 'L', minutes_late: 12, changed_by: 'Remi Achterberg' },
  ])
  await teacher.go('/today')
  await teacher.sees('✓ complete')
})

test('a colleague’s lesson is covered: arranged by the office, taken by finger on a tablet, recorded by whom', async () => {
  await office.go('/attendance/lessons')
  await office.fill('Class, teacher or room', '9 music')
  await office.page.waitForFunction(() => document.querySelectorAll('tbody tr').length === 1)
  await office.enterOn('Change for this day')
  await office.page.waitForSelector('[role=dialog] select[name=staffId]')
  await office.choose('Cover', 'Achterberg')
  await office.enterOn('Save')
  await office.sees('Remi Achterberg has 7 Science A in this period.')
  expect(await office.axe()).toEqual([])
  await office.focus('Save it anyway')
  await office.press('Space')
  await office.enterOn('Save')
  await office.sees(': saved.')
  await office.sees('Achterberg, Remi for')

  const tablet = teacher.page
  await tablet.setViewport({ width: 768, height: 1024, hasTouch: true, isMobile: true })
  await teacher.go('/today')
  await teacher.sees('cover for')
  await tablet.waitForSelector('main table[aria-label="Your lessons"] a')
  await Promise.all([
    tablet.waitForSelector('[data-testid=register]'),
    tablet.$$eval('main table[aria-label="Your lessons"] a', (links) =>
      links.find((a) => a.textContent?.startsWith('9 Music'))?.click(),
    ),
  ])
  await teacher.settled()
  await teacher.sees('Remi Achterberg covers for')
  await teacher.enterOn('Codes and contacts')
  await tablet.waitForSelector('aside[data-open]')
  // Everything that is touched while taking it is at least 44 points high.
  const heights = await tablet.$$eval(
    '[data-testid=register] tbody button, [aria-label=Codes] button',
    (all) => all.map((e) => e.getBoundingClientRect().height),
  )
  expect(Math.min(...heights)).toBeGreaterThanOrEqual(43.5)
  const tap = async (selector: string) => {
    const at = await tablet.waitForSelector(selector)
    await at?.evaluate((e) => e.scrollIntoView({ block: 'center' }))
    await at?.tap()
  }
  const second = await tablet.$$eval('[data-student]', (all) => all[1]?.getAttribute('data-student') ?? '')
  await tap(`[data-student="${second}"]`)
  const code = await tablet.$$('[aria-label=Codes] button')
  for (const button of code)
    if (await button.evaluate((e) => e.textContent?.startsWith('A1'))) await button.tap()
  await teacher.enterOn('Mark the rest present')
  await teacher.saved()
  const marks = await marksOf('9 Music A', '1')
  const other = marks.length > 0 ? marks : await marksOf('9 Music B', '1')
  expect(other.filter((m) => m.code === 'A1')).toEqual([
    { name: second, code: 'A1', minutes_late: null, changed_by: 'Remi Achterberg' },
  ])
  expect(other.length).toBeGreaterThan(20)
  expect(await teacher.axe()).toEqual([])
  await tablet.setViewport({ width: 1280, height: 800 })
})

test('the timetable is typed into: what is wrong is said at the cell, a clash is saved only when confirmed, undo puts it back', async () => {
  const cell = (day: string, period: number) => `${day}, period ${period}`
  const lessons = () =>
    app.rows("select l.id from lesson l join class c on c.id = l.class_id where c.name = '8 Science A'")
  const before = await lessons()
  await office.go('/school/timetable')
  await office.choose('Teacher', 'Remi Achterberg')
  await office.page.waitForSelector('table[aria-label="Timetable of Remi Achterberg"]')
  // A period in which neither the teacher nor the class has a lesson.
  const free = await app.rows(
    `select d, p from generate_series(1, 5) d, generate_series(1, 6) p where not exists (
      select 1 from lesson l where l.cycle_day = d and l.period = p and l.class_id in (
        select t.class_id from class_teacher t join staff_member f on f.id = t.staff_id where f.family_name = 'Achterberg'))
     order by 1, 2 limit 1`,
  )
  const days = ['Monday', 'Tuesday', 'Wednesday', 'Thursday', 'Friday']
  const at = cell(days[Number(free[0]?.d) - 1] ?? '', Number(free[0]?.p))
  await office.fill(`${at}[role="combobox"]`, '8 Scienc')
  await office.press('Tab')
  await office.sees('"8 Scienc" is not a class.')
  expect(await office.axe()).toEqual([])
  await office.fill(`${at}[role="combobox"]`, '8 Science A')
  await office.press('Enter')
  await office.sees(`${at}: 8 Science A.`)
  expect(await lessons()).toHaveLength(before.length + 1)
  await office.enterOn('Undo')
  await office.sees('Undone.')
  expect(await lessons()).toHaveLength(before.length)
  await office.page.waitForFunction(
    (label) =>
      (document.querySelector(`input[aria-label="${label}"]`) as HTMLInputElement | null)?.value === '',
    {},
    at,
  )
  // In a room that is taken.
  const [taken] = await app.rows(
    `select r.name from lesson l join room r on r.id = l.room_id where l.cycle_day = $1 and l.period = $2
     order by 1 limit 1`,
    [free[0]?.d, free[0]?.p],
  )
  await office.fill(`${at}[role="combobox"]`, `8 Science A, ${String(taken?.name)}`)
  await office.press('Tab')
  await office.sees('is used twice then')
  expect(await lessons()).toHaveLength(before.length)
  await office.enterOn('Save anyway')
  await office.sees('needed twice')
  expect(await lessons()).toHaveLength(before.length + 1)
  await office.enterOn('Undo')
  await office.sees('Undone.')
})

test('what is marked and no longer in the timetable can be read; where lessons alone are marked, the half-day says so', async () => {
  const [{ id: classId } = { id: '' }] = await app.rows("select id from class where name = '8 Science A'")
  const [last] = await app.rows(
    `select session_date::text as date, session from attendance_mark where class_id = '${classId}'
     order by session_date desc, session desc limit 1`,
  )
  const day = new Date(`${last?.date}T00:00:00Z`).getUTCDay()
  await app.rows(
    `delete from lesson where class_id = '${classId}' and cycle_day = ${day} and period = ${last?.session}`,
  )
  await teacher.go(`/classes/${classId}/register?date=${last?.date}&session=${last?.session}`)
  await teacher.sees(`8 Science A has no lesson in period ${last?.session}`)
  await teacher.sees('Its marks are kept, but count in no figure, letter or list.')
  expect(await teacher.page.$$eval('main tbody tr', (rows) => rows.length)).toBeGreaterThan(20)
  expect(await teacher.axe()).toEqual([])

  await app.rows("update year_group set registers = 'lessons' where name = 'Year 7'")
  const [{ id: homeroomId } = { id: '' }] = await app.rows("select id from homeroom where name = '7 Tern'")
  await office.go(`/attendance/registers/${homeroomId}`)
  await office.sees('7 Tern takes registers in lessons, not for half-days.')
  await office.enterOn('Lessons of the day')
  await office.page.waitForFunction(() => location.pathname === '/attendance/lessons')
  // What was marked before stays open.
  await office.go(`/attendance/registers/${homeroomId}?date=2026-11-20`)
  await office.page.waitForSelector('[data-student]')
  await app.rows("update year_group set registers = 'both' where name = 'Year 7'")
})

test('figures are drawn, each percentage opens into its sessions, and families below the threshold are written to once', async () => {
  await office.go('/attendance/figures')
  await office.page.waitForSelector('[role=img] .main-svg')
  await office.sees('By weekday')
  expect(await office.axe()).toEqual([])
  await office.page.$eval('table[aria-label="By weekday"] tbody button', (e) => (e as HTMLElement).focus())
  await office.press('Enter')
  await office.sees('Sessions of Monday')
  await office.page.waitForSelector('[role=dialog] table[aria-label=Sessions] tbody tr')
  expect(await office.axe()).toEqual([])
  await office.press('Escape')
  await office.choose('Figures of', '7 Tern')
  await office.sees('Figures, Mon 23 Nov')
  await office.sees('7 Tern, Tue 1 Sep to Mon 23 Nov')
  await office.fill('Threshold, %', '97')
  await office.sees('below 97%')
  await office.enterOn('Choose those below 97%')
  await office.enterOn('Write letters (')
  await office.sees('by e-mail')
  await office.sees('Dear ')
  expect(await office.axe()).toEqual([])
  // The list was narrowed by a threshold of one's own; the school's is lower, so that is asked.
  await office.sees("Not below the school's attendance threshold")
  await office.page.evaluate(() =>
    [...document.querySelectorAll<HTMLElement>('[role=dialog] label')]
      .find((label) => label.innerText.startsWith('Write about these students too'))
      ?.click(),
  )
  await office.enterOn('Send')
  await office.sees('letters sent.')
  await office.go('/attendance/letters')
  await office.page.waitForSelector('table[aria-label="Letters sent"] tbody tr')
  const sent = await app.rows("select 1 from mail where kind = 'attendance.attendanceLetter'")
  expect(sent.length).toBeGreaterThan(5)
})

test('a guardian reports an absence, the office confirms it, and the guardian sees so at once', async () => {
  const guardian = await app.signedIn('hana.marsh@islandmail.example')
  await guardian.go('/absences')
  await guardian.fill('First day', '26 Nov')
  await guardian.fill('Last day', '25 Nov')
  await guardian.fill('Reason', 'Fever')
  await guardian.enterOn('Report the absence')
  await guardian.sees('The last day must not be before the first day.')
  expect(await guardian.axe()).toEqual([])
  await guardian.fill('Last day', '26 Nov')
  await guardian.enterOn('Report the absence')
  await guardian.sees('Thank you. The office has your report')
  await office.go('/attendance/planned')
  await office.sees('Fever')
  await office.page.$$eval('button', (all) =>
    all
      .filter(
        (b) => b.textContent?.startsWith('Confirm') && b.closest('tr')?.textContent?.includes('Fever'),
      )[0]
      ?.focus(),
  )
  await office.press('Enter')
  await office.page.waitForSelector('[role=dialog] select[name=codeId]')
  await office.choose('Code', 'A1')
  expect(await office.axe()).toEqual([])
  await office.enterOn('Confirm')
  await office.sees('The absence of Okonjo-Marsh, Ilse was saved.')
  await guardian.sees('confirmed, entered in the registers')
  expect(guardian.complaints).toEqual([])
})
