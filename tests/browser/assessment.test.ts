import { mkdtempSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import type { ElementHandle } from 'puppeteer-core'
import sharp from 'sharp'
import { docx, paragraph } from '../files/docx'
import { openApplication, type Application } from './application'
import type { Person } from './person'

// An assessment from what a teacher already has: from a word-processor file and from pictures, with a key of every kind,
// standards from a published file, places on the pages, a preview, and colleagues.

let app: Application
let teacher: Person
let head: Person
let colleague: Person
let colleagueName: string
const folder = mkdtempSync(join(tmpdir(), 'kedge-tests-'))
const file = (name: string, contents: Uint8Array | string) => {
  writeFileSync(join(folder, name), contents)
  return join(folder, name)
}

const framework = JSON.stringify({
  CFDocument: { identifier: 'tides', title: 'Tides and ice' },
  CFItems: [
    { identifier: 'a', fullStatement: 'Water' },
    { identifier: 'b', fullStatement: 'Says when water freezes', humanCodingScheme: 'ICE.1' },
  ],
  CFAssociations: [
    {
      associationType: 'isChildOf',
      originNodeURI: { identifier: 'b' },
      destinationNodeURI: { identifier: 'a' },
    },
  ],
})
const photo = (words: string) =>
  sharp(
    Buffer.from(
      `<svg xmlns="http://www.w3.org/2000/svg" width="600" height="850"><rect width="600" height="850" fill="#fdfcf7"/><text x="60" y="120" font-size="40">${words}</text></svg>`,
    ),
  )
    .jpeg()
    .toBuffer()

beforeAll(async () => {
  app = await openApplication()
  const [other] = await app.rows(
    `select u.username, f.given_name || ' ' || f.family_name as name from staff_member f
      join membership m on m.person_id = f.id and m.role = 'teacher' join auth."user" u on u.id = m.account_id
      join class_teacher t on t.staff_id = f.id and t.period @> date '2026-11-23'
      join class c on c.id = t.class_id join course k on k.id = c.course_id join subject s on s.id = k.subject_id
      where s.name = 'Science' and u.username <> 'r.achterberg' order by 1 limit 1`,
  )
  colleagueName = String(other?.name)
  teacher = await app.signedIn('r.achterberg')
  head = await app.signedIn('s.kirkness')
  colleague = await app.signedIn(String(other?.username))
})
afterAll(() => app.close())

const choose = async (person: Person, where: string, ...paths: string[]) => {
  const input = (await person.page.waitForSelector(
    `${where} input[type=file]`,
  )) as ElementHandle<HTMLInputElement>
  await input.uploadFile(...paths)
}
const shown = (person: Person) => person.page.waitForSelector('canvas[data-state=shown]')
const closed = (person: Person) => person.page.waitForFunction(() => !document.querySelector('[role=dialog]'))
const pathOf = (person: Person) => new URL(person.page.url()).pathname
let assessment: string

test('standards are read from a published file', async () => {
  await head.go('/school/standards')
  await head.enterOn('Read a file')
  await choose(head, '[role=dialog]', file('tides.json', framework))
  await head.sees('2 standards on 2 levels')
  await head.choose('Subject', 'Science')
  await head.enterOn('Read')
  await closed(head)
  await app.until("select 1 from standard where code = 'ICE.1'")
})

test('an assessment is made from a word-processor file, with a key of every kind by keyboard alone', async () => {
  await teacher.go('/assessments/new')
  await choose(teacher, 'main', file('none.docx', 'no file of any kind'))
  await teacher.sees('is not a PDF, a picture (PNG or JPEG) or a word-processor file (DOCX)')
  const questions = [
    'What is ice?',
    'What melts?',
    'Does ice float?',
    'How cold is it?',
    'Name the sea.',
    'Why?',
  ]
  const body = questions
    .map((q) => paragraph(q, { list: 1 }) + paragraph('a choice', { list: 1, level: 1 }))
    .join('')
  await choose(teacher, 'main', file('Ice and sea.docx', docx(body)))
  await teacher.page.waitForFunction(
    () => (document.querySelector('input[name=name]') as HTMLInputElement).value === 'Ice and sea',
  )
  await teacher.focus('8 Science A[role="checkbox"]')
  await teacher.press('Space')
  await teacher.fill('Questions', '1')
  await teacher.enterOn('Continue to the answer key')
  await shown(teacher)
  assessment = pathOf(teacher)
  for (const kind of ['Several choices', 'True or false', 'Number', 'Short text', 'Written answer']) {
    await teacher.choose('Kind of the added questions', kind)
    await teacher.enterOn('Add a question')
    await teacher.page.waitForFunction(
      (k) =>
        [...document.querySelectorAll<HTMLSelectElement>('[aria-label^="Kind of question"]')].at(-1)
          ?.selectedOptions[0]?.text === k,
      {},
      kind,
    )
  }
  await teacher.page.focus('#key')
  await teacher.type('B A+C T 3.5 "north sea/sea"')
  await teacher.sees('5 of 5 questions have a key, 1 is marked by hand, 6 points in total.')
  await teacher.press('Tab')
  await teacher.page.focus('[aria-label="Learning standards of question 1: none, tag"]')
  await teacher.press('Enter')
  await teacher.page.waitForFunction(() => document.activeElement?.getAttribute('role') === 'combobox')
  await teacher.type('freezes')
  await teacher.press('Enter', 'Escape')
  await teacher.page.waitForSelector('[aria-label="Learning standards of question 1: ICE.1"]')
  await teacher.saved()
  await app.until(
    `select 1 from asked_question q join assessment a on a.id = q.assessment_id where a.name = 'Ice and sea' and q.kind = 'short text'
     and q.content -> 'accepted' @> '["sea"]'`,
  )
})

test('its questions are found on the page, and a place is drawn by keyboard', async () => {
  await teacher.enterOn('Find the questions on the document')
  await teacher.sees('Places of 6 of 6 questions were found')
  await teacher.saved()
  await teacher.page.focus('[aria-label="Draw the place of question 2 on the document"]')
  await teacher.press('Enter')
  await teacher.page.waitForFunction(() => document.activeElement?.getAttribute('role') === 'application')
  await teacher.press('ArrowDown', 'ArrowDown', 'Enter')
  await teacher.saved()
  await app.until(
    `select 1 from question_place p join question q on q.id = p.question_id join question_place o on o.form_id = p.form_id
      join question f on f.id = o.question_id join assessment a on a.id = p.assessment_id
      where a.name = 'Ice and sea' and q.position = 2 and f.position = 1 and p.y > o.y + o.height`,
  )
  expect(await teacher.axe()).toEqual([])
  // The file it was made from is there as it was sent, to be saved and not shown.
  const original = await teacher.page.$eval('aside a[download="Ice and sea.docx"]', async (a) => {
    const answer = await fetch((a as HTMLAnchorElement).href)
    const bytes = new Uint8Array(await answer.arrayBuffer())
    return [
      answer.status,
      answer.headers.get('content-disposition')?.split(';')[0],
      String.fromCharCode(...bytes.slice(0, 2)),
    ]
  })
  expect(original).toEqual([200, 'attachment', 'PK'])
})

test('a rationale is written, and the preview shows it with the score', async () => {
  await teacher.page.focus('[aria-label="More for question 1"]')
  await teacher.press('Enter')
  await teacher.enterOn('Rationale')
  await teacher.fill('Why the answer is right', 'Ice is water below 0 °C.')
  await teacher.press('Escape')
  await teacher.sees('Discard what you typed?')
  await teacher.enterOn('Keep editing')
  await teacher.enterOn('Save')
  await teacher.saved()
  await teacher.go(`${assessment}/preview`)
  await shown(teacher)
  await teacher.page.focus('[aria-label="Answer to question 1"] input')
  await teacher.press('ArrowRight')
  await teacher.fill('Answer to question 4', '3,5')
  await teacher.fill('Answer to question 6', 'Because of the salt')
  await teacher.sees('3 of 6 answered')
  await teacher.enterOn('Hand in')
  await teacher.sees('Ice is water below 0 °C.')
  await teacher.sees('2 of 6 points')
  await teacher.sees('marked by hand or without a key, so this is not final')
})

test('pictures become one document, in the order of their numbers', async () => {
  await teacher.go('/assessments/new')
  await choose(
    teacher,
    'main',
    file('page 10.jpg', await photo('Page ten')),
    file('page 2.jpg', await photo('Page two')),
  )
  await teacher.sees('2 pictures: page 2.jpg, page 10.jpg')
  await teacher.fill('Name', 'Scanned')
  await teacher.focus('8 Science A[role="checkbox"]')
  await teacher.press('Space')
  await teacher.enterOn('Continue to the answer key')
  await shown(teacher)
  await teacher.sees('Page 1 of 2')
  expect(
    await app.rows(
      "select d.page_count from form_document f join document d on d.id = f.document_id join assessment a on a.id = f.assessment_id where a.name = 'Scanned'",
    ),
  ).toEqual([{ page_count: 2 }])
})

test('a colleague it is shared with reads it and copies it, and does not change it', async () => {
  await teacher.go(assessment)
  await teacher.enterOn('More')
  await teacher.enterOn('Share')
  await teacher.choose('Share with', colleagueName)
  await teacher.enterOn('Save')
  await closed(teacher)
  await colleague.go('/assessments')
  await colleague.enterOn('Ice and sea')
  await colleague.sees('Ice and sea, answer key')
  await shown(colleague)
  expect(await colleague.page.$eval('#key', (e) => (e as HTMLInputElement).disabled)).toBe(true)
  expect(await colleague.page.$('aside input[type=file]')).toBeNull()
  await colleague.enterOn('Copy')
  await colleague.fill('Name', 'Ice and sea, ours')
  await colleague.page.waitForSelector('[role=dialog] input[type=checkbox]')
  await colleague.enterOn('Copy')
  await colleague.page.waitForFunction((path) => location.pathname !== path, {}, assessment)
  await colleague.sees('Ice and sea, ours, answer key')
  expect(await colleague.page.$eval('#key', (e) => (e as HTMLInputElement).disabled)).toBe(false)
})

test('the right to edit, withdrawn while a colleague types, is said, and what was typed stays to be copied', async () => {
  await app.rows(
    `update assessment_share set may_edit = true where assessment_id = (select id from assessment where name = 'Ice and sea')`,
  )
  await colleague.go(assessment)
  expect(await colleague.page.$eval('#key', (e) => (e as HTMLInputElement).disabled)).toBe(false)
  await app.rows(
    `update assessment_share set may_edit = false where assessment_id = (select id from assessment where name = 'Ice and sea')`,
  )
  await colleague.page.focus('#key')
  await colleague.press('Control+a')
  await colleague.type('D A+C F 4 "the north sea"')
  await colleague.press('Tab')
  await colleague.sees('was not saved')
  await app.until(
    "select 1 from asked_question q join assessment a on a.id = q.assessment_id where a.name = 'Ice and sea' and q.position = 1 and q.content ->> 'right' = 'B'",
  )
})

test('a result goes into the gradebooks of two classes in one act, and is taken out again in one', async () => {
  const [fair] = await app.rows("select id from assessment where name = 'Measuring in the harbour'")
  const id = String(fair?.id)
  await app.rows(
    `insert into sitting_class (school_id, assessment_id, sitting_id, class_id)
     select school_id, $1, (select id from sitting where assessment_id = $1), id from class where name = '7 Science A'`,
    [id],
  )
  const links = async () =>
    Number((await app.rows('select count(*)::int as n from assignment where assessment_id = $1', [id]))[0]?.n)
  const before = await links()
  await teacher.go(`/assessments/${id}/findings`)
  await teacher.enterOn('Add to gradebook')
  await teacher.sees('Gradebooks')
  await teacher.fill('Scaled to', '20')
  await teacher.enterOn('Add')
  await teacher.sees('Added to 2 gradebooks.')
  expect(await links()).toBe(before + 2)
  expect(await teacher.axe()).toEqual([])
  await teacher.enterOn('Undo')
  await teacher.sees('Undone.')
  expect(await links()).toBe(before)
})

test('nobody has seen an error', () => {
  expect([...teacher.complaints, ...head.complaints, ...colleague.complaints]).toEqual([])
})
