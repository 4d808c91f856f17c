import { openApplication, type Application } from './application'
import type { Person } from './person'

// The lines of reports for all classes at once, and what families see of marks.

let app: Application
let head: Person
let round: string
beforeAll(async () => {
  app = await openApplication()
  head = await app.signedIn('s.kirkness')
  round = String((await app.rows('select id from report_round'))[0]?.id)
})
afterAll(() => app.close())

const unfed = async () =>
  (
    await app.rows(
      `select c.name from class_entries e join class c on c.id = e.class_id cross join report_line l
       where l.round_id = e.round_id and not exists (select 1 from feed f where f.class_id = e.class_id and f.line_id = l.id) order by 1`,
    )
  ).map((row) => row.name)

test('all lines of three classes are filled in one act from what is proposed, and an undo empties them again', async () => {
  const before = await unfed()
  expect(before).toEqual(['7 History B', '7 Mathematics A', '7 Science A'])
  await head.go(`/reports/${round}`)
  await head.sees('1 to settle')
  await head.enterOn('What fills the lines')
  await head.sees('3 lines still to be settled.')
  // Those that are to be settled come first.
  const first = await head.page.$$eval('tbody th', (cells) =>
    cells.slice(0, 3).map((c) => (c as HTMLElement).innerText.trim()),
  )
  expect(first.sort()).toEqual(before)
  await head.enterOn('Take all 3 proposals')
  await head.sees('Every line is filled by one column.')
  await head.sees('Nothing is saved yet.')
  expect(await unfed()).toEqual(before)
  expect(await head.axe()).toEqual([])
  await head.enterOn('Save 3 lines')
  await head.sees('3 lines saved.')
  expect(await unfed()).toEqual([])
  await head.enterOn('Undo')
  await head.sees('Undone.')
  expect(await unfed()).toEqual(before)
  await head.sees('3 lines still to be settled.')
})

test('a line chosen by hand can be the same for the other classes of the course', async () => {
  await head.choose('7 Science A, Target', 'Target')
  await head.sees('Nothing is saved yet.')
  await head.enterOn('Save 1 line')
  await head.sees('1 line saved.')
  expect(await unfed()).toEqual(['7 History B', '7 Mathematics A'])
})

test('the teacher reads in the entries what is filled in', async () => {
  const teacher = await app.signedIn('r.achterberg')
  const [science] = await app.rows("select id from class where name = '7 Science A'")
  await teacher.go(`/classes/${String(science?.id)}/entries/${round}`)
  await teacher.sees('marks open')
  await teacher.sees('Target')
  expect(await teacher.axe()).toEqual([])
  await teacher.close()
})

test('a guardian opens how a mark is worked out, and sees nothing that is not shown', async () => {
  const guardian = await app.signedIn('hana.marsh@islandmail.example')
  await guardian.go('/marks')
  await guardian.sees('Ilse Okonjo-Marsh')
  await guardian.page.focus('summary')
  await guardian.press('Enter')
  await guardian.sees('Weighted total')
  expect(await guardian.axe()).toEqual([])
  const hidden = await app.rows(
    "select distinct a.name from assignment a join class c on c.id = a.class_id where c.name = '7 Science A' and (a.shown_from is null or a.shown_from > date '2026-11-23')",
  )
  const page = await guardian.page.content()
  const shown = await app.rows(
    "select distinct a.name from assignment a where a.shown_from <= date '2026-11-23'",
  )
  const names = new Set(shown.map((row) => row.name))
  for (const { name } of hidden) if (!names.has(name)) expect(page).not.toContain(String(name))
  await guardian.close()
})

test('nobody has seen an error', () => {
  expect(head.complaints).toEqual([])
})
