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

test('nobody has seen an error', () => {
  expect(teacher.complaints).toEqual([])
})
