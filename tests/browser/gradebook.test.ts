import { openApplication, type Application } from './application'
import type { Person } from './person'

// Gradebooks set up as schools keep them: rules for several at once, work that is late or incomplete, columns that are
// worked out.

let app: Application
let teacher: Person
let science: string
beforeAll(async () => {
  app = await openApplication()
  teacher = await app.signedIn('r.achterberg')
  const [row] = await app.rows("select id from class where name = '8 Science A'")
  science = String(row?.id)
})
afterAll(() => app.close())

const closed = () => teacher.page.waitForFunction(() => !document.querySelector('[role=dialog]'))
const cell = (row: number, col: number) =>
  teacher.page.$eval(`[data-at="${row}:${col}"]`, (c) => (c as HTMLElement).innerText.trim())
const shows = (row: number, col: number, text: string) =>
  teacher.page.waitForFunction(
    (at, wanted) =>
      (document.querySelector(`[data-at="${at}"]`) as HTMLElement | null)?.innerText.trim() === wanted,
    {},
    `${row}:${col}`,
    text,
  )
const weights = () =>
  app.rows(
    `select c.name, k.weight::float as weight from category k join class c on c.id = k.class_id join term t on t.id = k.term_id
     where t.name = 'Autumn' and k.name = 'Unit tests' and c.name in ('7 Science A', '8 Science A', '10 Biology A') order by c.name`,
  )

test('three gradebooks are set up in one act, with whose marks change; undo brings all three back', async () => {
  await teacher.go(`/classes/${science}/marks`)
  await teacher.enterOn('Weights and rules')
  await teacher.sees('Also for these gradebooks of yours')
  await teacher.fill('Weight of Unit tests', '40')
  await teacher.sees('The weights add up to 80, not 100.')
  await teacher.fill('Weight of Homework', '35')
  await teacher.sees('The weights add up to 100.')
  for (const name of ['7 Science A', '10 Biology A']) {
    await teacher.focus(`${name}[role="checkbox"]`)
    await teacher.press('Space')
  }
  await teacher.choose('Late work', 'loses a part of its points')
  await teacher.fill('Lost, in per cent', '0')
  await teacher.sees('Which marks change is shown once all fields are right.')
  await teacher.fill('Lost, in per cent', '20')
  await teacher.page.waitForFunction(
    () => document.querySelectorAll('[aria-label="Marks that change"] summary').length === 3,
  )
  expect(await teacher.axe()).toEqual([])
  await teacher.enterOn('Save')
  await teacher.sees('Rules saved for 3 gradebooks.')
  expect(await weights()).toEqual(
    ['7 Science A', '8 Science A', '10 Biology A'].map((name) => ({ name, weight: 40 })),
  )
  await teacher.sees('Late work loses 20% of its points.')
  await teacher.enterOn('Undo')
  await teacher.sees('Undone.')
  expect(await weights()).toEqual(
    ['7 Science A', '8 Science A', '10 Biology A'].map((name) => ({ name, weight: 60 })),
  )
})

test('a score is late with one letter, and incomplete with another', async () => {
  await teacher.go(`/classes/${science}/marks`)
  await teacher.page.waitForSelector('[data-testid=grid]')
  const before = await cell(0, 0)
  expect(before).toMatch(/^\d+$/)
  await teacher.page.focus('[data-testid=grid]')
  await teacher.press('l', 'Enter')
  await shows(0, 0, `${before} late`)
  await teacher.press('ArrowUp', 'l', 'Enter')
  await shows(0, 0, before)
  await teacher.press('ArrowUp')
  await teacher.type('i')
  await teacher.press('Enter')
  await shows(0, 0, 'incomplete')
  await teacher.press('Control+z')
  await shows(0, 0, before)
  await teacher.saved()
})

test('a year mark is chosen by keys, reads back as a sentence, and is explained', async () => {
  await teacher.enterOn('Add column')
  await teacher.fill('Name', 'Year mark')
  await teacher.choose('Shown in', 'all terms of the year')
  for (const name of ['Autumn term mark', 'Spring term mark']) {
    await teacher.focus(`${name}[role="checkbox"]`)
    await teacher.press('Space')
  }
  await teacher.fill('Weight of Autumn term mark', '40')
  await teacher.fill('Weight of Spring term mark', '60')
  await teacher.sees(
    'Weighted mean of Autumn term mark (40) and Spring term mark (60), rounded to 1 decimal.',
  )
  expect(await teacher.axe()).toEqual([])
  await teacher.enterOn('Save')
  await closed()
  await teacher.sees('Year mark saved.')
  await teacher.page.focus('[data-testid=grid]')
  // The term mark, and one to the left of it.
  await teacher.press('End', 'ArrowLeft')
  await teacher.page.waitForSelector('[data-testid=column-explanation]')
  expect(await teacher.text('[data-testid=column-explanation]')).toContain('Year mark is worked out')
  const [made] = await app.rows("select id from mark_column where name = 'Year mark'")
  const place = await teacher.page.$$eval('[role=columnheader]', (heads) =>
    Number(
      heads.find((h) => (h as HTMLElement).innerText.startsWith('Year mark'))?.getAttribute('aria-colindex'),
    ),
  )
  expect(await cell(0, place - 2)).toBe(await cell(0, place - 1))
  expect(made).toBeDefined()
})

test('columns that would feed each other are refused, with the circle', async () => {
  await teacher.enterOn('Weeks level')
  await teacher.sees('Shown as secure from 85')
  await teacher.press('Escape')
  await closed()
  await teacher.enterOn('Best three weeks')
  await teacher.focus('Weeks level[role="checkbox"]')
  await teacher.press('Space')
  await teacher.enterOn('Save')
  await teacher.sees('Best three weeks reads Weeks level reads Best three weeks')
  await teacher.press('Escape')
  await teacher.enterOn('Discard')
  await closed()
})

test('an assignment is added to two gradebooks at once, and taken back in one act', async () => {
  const added = async () => (await app.rows("select 1 from assignment where name = 'Tide tables'")).length
  await teacher.enterOn('Add assignment')
  await teacher.fill('Short name', 'Tide tables')
  await teacher.sees('Also in Unit tests of')
  await teacher.focus('7 Science A[role="checkbox"]')
  await teacher.press('Space')
  await teacher.enterOn('Save')
  await closed()
  await teacher.sees('Tide tables added to 2 gradebooks.')
  expect(await added()).toBe(2)
  await teacher.enterOn('Undo')
  await teacher.sees('Undone.')
  expect(await added()).toBe(0)
})

test('several cells are chosen with Shift, filled with one entry, and emptied; each is one step back', async () => {
  await teacher.go(`/classes/${science}/marks`)
  await teacher.page.waitForSelector('[data-testid=grid]')
  await teacher.page.focus('[data-testid=grid]')
  const before = [await cell(0, 0), await cell(0, 1), await cell(1, 0), await cell(1, 1)]
  await teacher.press('Shift+ArrowRight', 'Shift+ArrowDown')
  await teacher.type('4')
  await teacher.press('Control+Enter')
  await teacher.sees('4 cells filled in.')
  for (const [row, col] of [
    [0, 0],
    [0, 1],
    [1, 0],
    [1, 1],
  ] as const)
    await shows(row, col, '4')
  await teacher.press('Delete')
  await shows(1, 1, '')
  await teacher.press('Control+z')
  await shows(1, 1, '4')
  await teacher.press('Control+z')
  await shows(0, 0, before[0] ?? '')
  await shows(1, 1, before[3] ?? '')
  // The first column of the chosen ones to the right.
  await teacher.press('Home', 'Shift+ArrowRight')
  await teacher.press('Control+r')
  await shows(0, 1, await cell(0, 0))
  await teacher.press('Control+z')
  await shows(0, 1, before[1] ?? '')
  await teacher.saved()
})

test('a student is found by typing a part of the name', async () => {
  await teacher.page.focus('[data-testid=grid]')
  await teacher.press('/')
  const name = await teacher.page.$$eval('[role=rowheader]', (rows) => rows.at(-1)?.textContent ?? '')
  await teacher.type(name.slice(0, 5).toLowerCase())
  await teacher.page.waitForFunction(
    (wanted) =>
      document
        .querySelector('[role=gridcell][aria-selected=true]')
        ?.getAttribute('aria-label')
        ?.startsWith(wanted) === true,
    {},
    name,
  )
  await teacher.press('Enter')
  expect(await teacher.page.evaluate(() => document.activeElement?.getAttribute('role'))).toBe('grid')
})

test('a column entered by hand takes the beginning of a choice, and says what it cannot take', async () => {
  await teacher.enterOn('Add column')
  await teacher.fill('Name', 'Effort')
  await teacher.choose('It holds', 'one of a list')
  for (const [i, name] of ['excellent', 'good', 'uneven'].entries()) {
    await teacher.enterOn('Add a choice')
    await teacher.fill(`Name of choice ${i + 1}`, name)
  }
  expect(await teacher.axe()).toEqual([])
  await teacher.enterOn('Save')
  await closed()
  await teacher.sees('Effort saved.')
  await teacher.page.focus('[data-testid=grid]')
  // Beside the term mark, to which End goes.
  await teacher.press('End', 'ArrowLeft')
  const [row, column] = await teacher.page.$eval('[data-testid=grid]', (grid) =>
    (grid.getAttribute('aria-activedescendant') ?? '').split('-').slice(1).map(Number),
  )
  if (row === undefined || column === undefined) throw new Error('the cursor is in a cell')
  await teacher.type('fine')
  await teacher.press('Enter')
  await teacher.sees('fine is none of excellent, good, uneven.')
  await teacher.press('Escape')
  await teacher.type('g')
  await teacher.press('Enter')
  await shows(row, column, 'good')
  await teacher.saved()
  expect(
    await app.rows(
      "select value from column_entry e join mark_column c on c.id = e.column_id where c.name = 'Effort'",
    ),
  ).toEqual([{ value: 'good' }])
})

test('a copy tries other scores and weights, and nothing of it is saved', async () => {
  const scores = () => app.rows('select count(*)::int as n, sum(points)::float as points from score')
  const before = await scores()
  await teacher.enterOn('What if')
  await teacher.sees('nothing here is saved')
  await teacher.fill('Weight of Unit tests in the copy', '10')
  await teacher.sees('differ from the gradebook')
  await teacher.page.focus('[data-testid=grid]')
  await teacher.press('Home')
  await teacher.type('1')
  await teacher.press('Enter')
  await teacher.page.waitForSelector('[data-testid=needed]')
  expect(await teacher.axe()).toEqual([])
  // Back step by step: the score, then the weight as it was before it was typed.
  await teacher.press('Control+z')
  await teacher.sees('Undone: ')
  await teacher.press('Control+z')
  await teacher.sees('Every mark is as in the gradebook.')
  await teacher.sees('Undone: weight of Unit tests.')
  await teacher.press('Control+y')
  await teacher.sees('differ from the gradebook')
  await teacher.enterOn('Start again')
  await teacher.sees('Every mark is as in the gradebook.')
  await teacher.enterOn('Back to the gradebook')
  await teacher.sees('Weights and rules')
  expect(await scores()).toEqual(before)
})

test('marks are confirmed, closed by the head, locked, and reopened by the office with a reason', async () => {
  await teacher.enterOn('Confirm marks')
  await teacher.page.waitForSelector('[aria-label="Marks"] li')
  expect(await teacher.axe()).toEqual([])
  await teacher.page.evaluate(() =>
    [...document.querySelectorAll<HTMLButtonElement>('[role=dialog] button')]
      .find((b) => b.innerText.trim() === 'Confirm marks')
      ?.click(),
  )
  await teacher.sees('Take back')
  // What was held is explained as it was.
  await teacher.sees('The gradebook says the same now.')
  await teacher.enterOn('Show all')
  await teacher.enterOn('How')
  await teacher.sees('Best three weeks: ')
  await teacher.sees('Mean of the best 3 of Week 3')
  expect(await teacher.axe()).toEqual([])
  await teacher.press('Escape')
  await closed()
  const head = await app.signedIn('s.kirkness')
  await head.go(`/classes/${science}/marks`)
  await head.enterOn('Confirmed marks')
  await head.page.waitForSelector('[role=dialog]')
  await head.enterOn('Close marks')
  await head.sees('marks closed')
  // The teacher's page follows, and a score is refused in words; what was typed is not lost.
  await teacher.sees('marks closed')
  await teacher.page.focus('[data-testid=grid]')
  await teacher.press('Home')
  await teacher.type('2')
  await teacher.press('Enter')
  await teacher.sees('were closed by Sunniva Kirkness')
  const office = await app.signedIn('m.vester')
  await office.go(`/classes/${science}/marks`)
  await office.enterOn('Confirmed marks')
  await office.fill('Why they are reopened', 'A test was marked anew.')
  await office.enterOn('Reopen marks')
  await office.sees('Reopened: A test was marked anew.')
  await head.close()
  await office.close()
})

test('nobody has seen an error', () => {
  expect(teacher.complaints).toEqual([])
})
