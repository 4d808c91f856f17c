import { writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import type { ElementHandle } from 'puppeteer-core'
import { openApplication, type Application } from './application'
import type { Person } from './person'

// Attendance around the register: codes, corrections, what is planned.
let app: Application
let office: Person
let admin: Person
let teacher: Person
beforeAll(async () => {
  app = await openApplication('demo')
  office = await app.signedIn('e.leask')
  admin = await app.signedIn('m.vester')
  teacher = await app.signedIn('r.achterberg')
})
afterAll(async () => {
  expect([...office.complaints, ...admin.complaints, ...teacher.complaints]).toEqual([])
  await app.close()
})

const tick = async (person: Person, label: string) => {
  await person.focus(`${label}[role="checkbox"]`)
  await person.press('Space')
}
const marksOf = (day: string, code: string) =>
  app.rows(
    `select m.student_id from attendance_mark m join attendance_code c on c.id = m.code_id
     where m.session_date = $1 and c.code = $2`,
    [day, code],
  )

test('the ferry did not run: everybody from Farrow is marked in one act, seen before it is done, and undone', async () => {
  const before = await marksOf('2026-11-20', 'W')
  await office.go('/attendance/corrections?date=2026-11-20')
  await office.type('farrow')
  await office.page.waitForFunction(() => /\d+ of \d+/.test(document.body.innerText))
  await tick(
    office,
    await office.page.$eval('thead input[type=checkbox]', (e) => e.getAttribute('aria-label') ?? ''),
  )
  await office.sees('students chosen')
  await office.enterOn('Enter marks')
  await office.sees('Marks that exist already')
  await office.enterOn('Continue')
  await office.sees('Enter the reason.')
  expect(await office.axe()).toEqual([])
  await office.choose('Code', 'W Ferry')
  await office.fill('Reason', 'Storm, no ferry')
  await office.enterOn('Replace them')
  await office.enterOn('Continue')
  await office.sees('Attendance:')
  expect(await office.axe()).toEqual([])
  expect(await marksOf('2026-11-20', 'W')).toHaveLength(before.length)
  await office.enterOn('Enter these marks')
  await office.sees('marks entered as W')
  expect((await marksOf('2026-11-20', 'W')).length).toBeGreaterThan(before.length + 40)
  await office.enterOn('Undo')
  await office.sees('Undone.')
  expect(await marksOf('2026-11-20', 'W')).toHaveLength(before.length)
})

test('a set of codes starts from a file; what is wrong is said while typing; its codes are in the register at once', async () => {
  await teacher.go('/today')
  await teacher.enterOn('7 Tern')
  await teacher.sees('28 on roll')
  await admin.go('/school/codes')
  await admin.enterOn('Start a new set')
  await admin.fill('Name', 'Winter codes')
  await admin.fill('Code 4', 'A')
  await admin.sees('A is in the set twice.')
  const file = join(tmpdir(), `codes ${process.pid}.csv`)
  const read = async (text: string) => {
    writeFileSync(file, text)
    const input = (await admin.page.$('input[type=file]')) as ElementHandle<HTMLInputElement>
    await input.uploadFile(file)
  }
  await read('Code,Label,Meaning\nP,Here,present\nA,Away,somewhere\n')
  await admin.sees('Row 3: "somewhere" is not a meaning.')
  expect(await admin.axe()).toEqual([])
  const rest = ['L,Late,"Present, late"', 'A1,Ill,"Absent, with reason"', 'A2,Leave,"Absent, with reason"']
  const more = [
    'A3,Doctor,"Absent, with reason"',
    'E1,Shore survey,Educated elsewhere',
    'W,No ferry,"Absent, with reason"',
  ]
  await read(
    [
      'Code,Label,Meaning,Used by',
      'P,Here,present',
      'A,Away,"Absent, no reason yet"',
      ...rest,
      ...more,
      'X,Sent home,"Absent, with reason",office',
    ].join('\n'),
  )
  await admin.page.waitForFunction(() => document.querySelectorAll('tbody tr').length === 9)
  await admin.fill('First day of use', '23 Nov')
  await admin.enterOn('Start this set')
  await admin.sees('Winter codes was saved.')
  await admin.sees('to Sun 22 Nov 2026')
  await teacher.sees('Shore survey')
  await teacher.seesNot('Sent home')
  await teacher.press('x')
  await teacher.sees('X is not an attendance code.')
  await admin.enterOn('Undo')
  await admin.sees('Undone.')
  await teacher.sees('Elsewhere, field work')
})

test('leave is entered by keys, stands in the register, is given with the rest, and ends with one key', async () => {
  await office.go('/attendance/planned')
  await office.enterOn('Add a planned absence')
  await office.page.waitForSelector('[role=dialog] [role=combobox]')
  const plan = async (name: string, lastDay: string, code: string) => {
    await office.fill('Student', name)
    await office.page.waitForFunction(
      () => document.querySelectorAll('[role=dialog] [role=option]').length === 1,
    )
    expect(await office.axe()).toEqual([])
    await office.press('Enter')
    await office.fill('Last day', lastDay)
    await office.choose('Code', code)
    await office.enterOn('Add')
  }
  await plan('bellweather, juno', '18 Nov', 'A2')
  await office.sees('The last day must not be before the first day.')
  await office.fill('Last day', '27 Nov')
  await office.enterOn('Add')
  await office.sees('The absence of Bellweather, Juno was saved.')
  await office.enterOn('Add a planned absence')
  await office.page.waitForSelector('[role=dialog] [role=combobox]')
  await plan('abara, tobias', '23 Nov', 'A3')
  await office.sees('The absence of Abara, Tobias was saved.')

  await teacher.go('/today')
  await teacher.enterOn('7 Tern')
  await teacher.page.waitForSelector('input[placeholder="A2 planned to Fri 27 Nov"]')
  expect(await teacher.axe()).toEqual([])
  // Tobias is here nevertheless.
  await teacher.press('p')
  await teacher.page.waitForFunction(() => document.body.innerText.includes('A3 planned, but here'))
  await teacher.press('ArrowUp', '=')
  await teacher.sees('The planned absence of Tobias Abara has ended.')
  await teacher.press('.')
  await teacher.sees('27 students marked present or as planned')
  await teacher.saved()
  const marks = await app.rows(
    `select s.sort_name as name, c.code from attendance_mark m join attendance_code c on c.id = m.code_id
     join student s on s.id = m.student_id join homeroom h on h.id = m.homeroom_id
     where h.name = '7 Tern' and m.session_date = '2026-11-23' and m.session = 'morning' and c.code <> 'P'`,
  )
  expect(marks).toEqual([{ name: 'Bellweather, Juno', code: 'A2' }])
  await office.page.waitForFunction(
    () => !document.querySelector('tbody')?.textContent?.includes('Abara, Tobias'),
  )
})

test('the office works the call list: no answer, called again, and the reason set from there', async () => {
  await office.go('/attendance/calls?date=2026-11-20')
  await office.sees('absent without a reason yet')
  expect(await office.axe()).toEqual([])
  const name = await office.page.$eval('tbody th a', (e) => e.textContent ?? '')
  const row = () =>
    office.page.evaluate(
      (n) =>
        [...document.querySelectorAll<HTMLElement>('tbody tr')].find((tr) => tr.innerText.includes(n))
          ?.innerText,
      name,
    )
  await office.enterOn('Note a call')
  await office.page.waitForSelector('[role=dialog] select[name=outcome]')
  await office.choose('Result', 'no answer')
  await office.fill('Call again at', '25 to ten')
  await office.enterOn('Save')
  await office.sees('Enter a time, such as 10:30.')
  expect(await office.axe()).toEqual([])
  await office.fill('Call again at', '10:30')
  await office.enterOn('Save')
  await office.sees('was saved.')
  await office.sees('call again at 10:30')
  expect(await row()).toContain('no answer')

  await office.fill('Name or homeroom', name)
  await office.enterOn('Note a call')
  await office.page.waitForSelector('[role=dialog] select[name=outcome]')
  await office.choose('Result', 'reached')
  await office.choose('Reason', 'A1')
  await office.enterOn('Save')
  await office.sees('A1 now.')
  // The list follows at once: nobody of this name is on it any more.
  await office.page.waitForFunction((n) => !document.querySelector('main')?.innerText.includes(n), {}, name)
  await office.enterOn('Undo')
  await office.sees('Undone.')
  await office.sees('call again at 10:30')
})
