import { readdirSync, readFileSync } from 'node:fs'
import { join } from 'node:path'
import { openApplication, type Application } from './application'
import type { Person } from './person'

// Every form that changes a record, open while a colleague changes it: nobody is overwritten unseen, and nothing that
// was typed is lost.

interface Form {
  /** The file it is declared in, below src/app. */
  readonly file: string
  readonly who: string
  readonly path: string
  /** The words of the button that opens it, or of a menu and its item; a form that is the page has none. */
  readonly opens?: string
  readonly field: string
  /** What the colleague and the person put there; of a choice, the words of the option. */
  readonly theirs: string
  readonly mine: string
  readonly isChoice?: boolean
  /** It opens in the page, not in a dialog. */
  readonly isInPage?: boolean
  /** The one value that is saved. */
  readonly saved: string
}

const admin = 'm.vester'
const forms: readonly Form[] = [
  {
    file: 'school/structure/part-dialog.tsx',
    who: admin,
    path: '/school/subjects',
    opens: 'Music',
    field: 'Name',
    theirs: 'Sailing',
    mine: 'Seamanship',
    saved: "select name from subject where name in ('Sailing', 'Seamanship')",
  },
  {
    file: 'school/year-groups/homeroom-dialog.tsx',
    who: admin,
    path: '/school/year-groups',
    opens: 'Edit the teacher and room of 8 Tern',
    field: 'Room',
    theirs: 'Art room',
    mine: 'Boathouse',
    isChoice: true,
    saved: "select r.name from homeroom h left join room r on r.id = h.room_id where h.name = '8 Tern'",
  },
  {
    file: 'school/classes/class-dialog.tsx',
    who: admin,
    path: '/school/classes',
    opens: 'Edit 1 Art A',
    field: 'Name',
    theirs: '1 Drawing A',
    mine: '1 Painting A',
    saved: "select name from class where name in ('1 Drawing A', '1 Painting A')",
  },
  {
    file: 'school/scales/scale-dialog.tsx',
    who: admin,
    path: '/school/scales',
    opens: 'Edit A to E',
    field: 'Name',
    theirs: 'Letters of the office',
    mine: 'Letters',
    saved: "select name from grading_scale where name like 'Letters%'",
  },
  {
    file: 'school/settings/school-dialog.tsx',
    who: admin,
    path: '/school/settings',
    opens: 'Name, address and time zone',
    field: 'Name',
    theirs: 'Wrackline School by the sea',
    mine: 'The Wrackline School',
    saved: "select name from school where name like '%Wrackline School%'",
  },
  {
    file: 'school/year/year-dialog.tsx',
    who: admin,
    path: '/school/year',
    opens: 'Edit the year',
    field: 'Name',
    theirs: '2026-27',
    mine: '26/27',
    saved: "select name from academic_year where name in ('2026-27', '26/27')",
  },
  {
    file: 'school/year/term-dialog.tsx',
    who: admin,
    path: '/school/year',
    opens: 'Edit Summer',
    field: 'Name',
    theirs: 'Sun term',
    mine: 'Third term',
    saved: "select name from term where name in ('Sun term', 'Third term')",
  },
  {
    file: 'school/year/period-dialog.tsx',
    who: admin,
    path: '/school/year',
    opens: 'Edit Exams',
    field: 'Name',
    theirs: 'Papers',
    mine: 'Written exams',
    saved: "select name from term_period where name in ('Papers', 'Written exams')",
  },
  {
    file: 'school/year/closure-dialog.tsx',
    who: admin,
    path: '/school/year',
    opens: 'Edit Island Day',
    field: 'Name',
    theirs: 'Day of the island',
    mine: 'Islanders’ Day',
    saved: "select name from closure where name like '%sland%'",
  },
  {
    file: 'school/timetable/timetable-dialog.tsx',
    who: admin,
    path: '/school/timetable',
    opens: 'Edit days and periods',
    field: 'Name',
    theirs: 'Lessons',
    mine: 'Autumn lessons',
    saved: 'select name from timetable',
  },
  {
    file: 'school/codes/code-set-form.tsx',
    who: admin,
    path: '/school/codes',
    opens: 'Edit Attendance codes',
    isInPage: true,
    field: 'Name',
    theirs: 'Codes of the office',
    mine: 'Codes',
    saved: "select name from attendance_code_set where name like 'Codes%'",
  },
  {
    file: 'school/timetable/registers-dialog.tsx',
    who: admin,
    path: '/school/timetable',
    opens: 'Registers of year groups',
    field: 'Year 3',
    theirs: 'Lessons',
    mine: 'Mornings, afternoons and',
    isChoice: true,
    saved: "select registers from year_group where name = 'Year 3'",
  },
  {
    file: 'school/settings/settings-page.tsx',
    who: admin,
    path: '/school/settings',
    field: 'Per cent present',
    theirs: '85',
    mine: '92',
    saved: 'select attendance_threshold::text from school_setting',
  },
  {
    file: 'people/groups/group-dialog.tsx',
    who: admin,
    path: '/people/groups',
    opens: 'Edit Choir',
    field: 'Name',
    theirs: 'Great choir',
    mine: 'Chamber choir',
    saved: "select name from analysis_group where name like '% choir'",
  },
  {
    file: 'people/[studentId]/guardian-dialog.tsx',
    who: admin,
    path: '/people/{ilse}',
    opens: 'Edit',
    field: 'Telephone',
    theirs: '0151 1',
    mine: '0151 2',
    saved: "select phone from guardian where phone like '0151 _'",
  },
  {
    file: 'attendance/lessons/arrange-dialog.tsx',
    who: admin,
    path: '/attendance/lessons?date=2026-11-23',
    opens: 'Change for this day : 7 Mathematics B, period 1',
    field: 'Note',
    theirs: 'Work is on the desk',
    mine: 'In the library',
    saved:
      "select note from lesson_change l join class c on c.id = l.class_id where c.name = '7 Mathematics B' and on_date = '2026-11-23'",
  },
  {
    file: 'assessments/[assessmentId]/levels-dialog.tsx',
    who: 'r.achterberg',
    path: '/assessments/{fair}',
    opens: 'Change levels',
    field: 'Name of level 2',
    theirs: 'afloat',
    mine: 'at anchor',
    saved:
      "select l.name from assessment_level l join assessment a on a.id = l.assessment_id where a.name = 'Fair tests' and l.position = 2",
  },
  {
    file: 'assessments/[assessmentId]/acts/describe-dialog.tsx',
    who: 'r.achterberg',
    path: '/assessments/{fair}',
    opens: 'More > Name, description and tags',
    field: 'Description',
    theirs: 'for the first half of term',
    mine: 'for the whole term',
    saved: "select description from assessment where name = 'Fair tests'",
  },
  {
    file: 'assessments/[assessmentId]/acts/share-dialog.tsx',
    who: 'r.achterberg',
    path: '/assessments/{fair}',
    opens: 'More > Share',
    field: 'Share with',
    theirs: 'All teachers of the school',
    mine: 'The team of Year 9',
    isChoice: true,
    saved: "select id from assessment where name = 'Fair tests'",
  },
  {
    file: 'school/standards/set-dialog.tsx',
    who: admin,
    path: '/school/standards',
    opens: 'Change the set',
    field: 'Name',
    theirs: 'English on the islands',
    mine: 'English, our own',
    saved: "select name from standard_set where name like 'English%'",
  },
  {
    file: 'school/standards/standard-dialog.tsx',
    who: admin,
    path: '/school/standards',
    opens: 'ENG.7.01',
    field: 'Statement',
    theirs: 'Finds what is said',
    mine: 'Quotes what is said',
    saved: "select statement from standard where code = 'ENG.7.01'",
  },
  {
    file: 'attendance/letters/template-dialog.tsx',
    who: admin,
    path: '/attendance/letters',
    opens: 'Edit the template Below 90%',
    field: 'Subject',
    theirs: 'From the office',
    mine: 'About {student}',
    saved: 'select subject from letter_template',
  },
  {
    file: 'attendance/planned/planned-dialog.tsx',
    who: admin,
    path: '/attendance/planned',
    opens: 'Edit the absence of Hakim, Ike',
    field: 'Note',
    theirs: 'Told by telephone',
    mine: 'Told at the desk',
    saved: "select note from planned_absence where note like 'Told%'",
  },
  {
    file: 'classes/[classId]/marks/settings-dialog.tsx',
    who: 'r.achterberg',
    path: '/classes/{science}/marks',
    opens: 'Weights and rules',
    field: 'Empty scores',
    theirs: 'zero after',
    mine: 'ignored',
    isChoice: true,
    saved:
      "select empty_counts from gradebook g join class c on c.id = g.class_id where c.name = '7 Science A'",
  },
  {
    file: 'classes/[classId]/marks/column-dialog.tsx',
    who: 'r.achterberg',
    path: '/classes/{eight}/marks',
    opens: 'Year so far',
    field: 'Name',
    theirs: 'The year',
    mine: 'The whole year',
    saved: "select name from mark_column where name like 'The %'",
  },
  {
    file: 'classes/[classId]/marks/assignment-dialog.tsx',
    who: 'r.achterberg',
    path: '/classes/{science}/marks',
    opens: '{assignment}',
    field: 'Short name',
    theirs: 'Quiz A',
    mine: 'Quiz B',
    saved: "select name from assignment where name like 'Quiz _'",
  },
]

let app: Application
const people = new Map<string, readonly [Person, Person]>()
let names: Record<string, string>
beforeAll(async () => {
  app = await openApplication('demo', `kedge_browser_dialogs_${process.pid}`)
  const one = async (statement: string) => String(Object.values((await app.rows(statement))[0] ?? {})[0])
  names = {
    ilse: await one("select id from student where sort_name = 'Okonjo-Marsh, Ilse'"),
    science: await one("select id from class where name = '7 Science A'"),
    eight: await one("select id from class where name = '8 Science A'"),
    fair: await one("select id from assessment where name = 'Fair tests'"),
    assignment: await one(
      `select a.name from assignment a join class c on c.id = a.class_id where c.name = '7 Science A'
       and a.assessment_id is null order by a.due_on limit 1`,
    ),
  }
  for (const who of new Set(forms.map((f) => f.who)))
    people.set(who, [await app.signedIn(who), await app.signedIn(who)])
})
afterAll(() => app.close())

const filled = (text: string) => text.replace(/\{(\w+)\}/g, (_, name: string) => names[name] ?? '')
const both = (form: Form): readonly [Person, Person] => {
  const pair = people.get(form.who)
  if (!pair) throw new Error(`${form.who} is not signed in`)
  return pair
}
async function open(person: Person, form: Form) {
  await person.go(filled(form.path))
  for (const words of form.opens?.split(' > ') ?? []) await person.enterOn(filled(words))
  if (form.opens && !form.isInPage) await person.page.waitForSelector('[role=dialog]')
  await person.page.waitForSelector(`aria/${form.field}`)
}
const put = (person: Person, form: Form, value: string) =>
  form.isChoice ? person.choose(form.field, value) : person.fill(form.field, value)
const closed = (person: Person) => person.page.waitForFunction(() => !document.querySelector('[role=dialog]'))
const titleOf = (person: Person) =>
  person.page.evaluate(() => document.querySelector('[role=dialog] h2')?.textContent ?? '')
const savedIs = async (form: Form, value: string) => {
  const rows = await app.rows(form.saved)
  expect(rows.map((row) => Object.values(row)[0] ?? 'none')).toEqual([expect.stringMatching(`^${value}`)])
}

/** Forms of an act on what was in sight when they opened: their conflict is answered by opening them again. */
const acts = [
  'absences/absences-page.tsx',
  'assessments/[assessmentId]/acts/hand-over-dialog.tsx',
  'assessments/[assessmentId]/findings/gradebook-dialog.tsx',
  'attendance/planned/decline-dialog.tsx',
  'classes/[classId]/entries/[roundId]/send-back.tsx',
  'classes/[classId]/students/join-dialog.tsx',
  'classes/[classId]/students/take-out-dialog.tsx',
  'people/[studentId]/move-dialog.tsx',
  'people/leave-dialog.tsx',
  'people/move-many-dialog.tsx',
  'school/standards/import-dialog.tsx',
  'school/staff/[staffId]/deactivate.tsx',
  'school/staff/[staffId]/new-password.tsx',
  'school/year-groups/close-homeroom.tsx',
]

test('every form that sends a version is in one of these lists', () => {
  const root = join(process.cwd(), 'src/app/(school)')
  const found = readdirSync(root, { recursive: true, encoding: 'utf8' }).filter((file) => {
    if (!file.endsWith('.tsx')) return false
    const text = readFileSync(join(root, file), 'utf8')
    return (
      (text.includes('useCommandForm(') && /\bexpectedVersion\b/.test(text)) || text.includes('data-theirs')
    )
  })
  expect(found.sort()).toEqual([...forms.map((form) => form.file), ...acts].sort())
})

test.each(forms.map((form, i) => [form.file, i % 2 === 0 ? 'mine' : 'theirs', form] as const))(
  '%s: what a colleague has saved is shown, and %s stays',
  async (_, whose, form) => {
    const [person, colleague] = both(form)
    await open(person, form)
    const title = await titleOf(person)
    await put(person, form, form.mine)
    await open(colleague, form)
    await put(colleague, form, form.theirs)
    await colleague.enterOn('Save')
    await closed(colleague)
    await person.page.waitForSelector('[data-theirs]')
    expect(await titleOf(person)).toBe(title)
    await person.enterOn(whose === 'mine' ? 'Keep mine' : 'Use theirs')
    await person.page.waitForFunction(() => !document.querySelector('[data-theirs]'))
    if (form.opens || whose === 'mine') await person.enterOn('Save')
    await closed(person)
    const value = form.isChoice ? undefined : whose === 'mine' ? form.mine : form.theirs
    if (value) {
      await app.until(`select 1 from (${form.saved}) x(v) where v = '${value.replaceAll("'", "''")}'`)
      await savedIs(form, value)
    }
    expect([...person.complaints, ...colleague.complaints]).toEqual([])
  },
)

describe('what was typed into a dialog', () => {
  const group = () => people.get(admin)?.[0] as Person
  const openChoir = async () => {
    await group().go('/people/groups')
    await group().enterOn('Edit')
    await group().page.waitForSelector('[role=dialog] input')
  }
  const value = () => group().page.$eval('[role=dialog] input', (e) => e.value)

  test.each([
    ['Escape', () => group().press('Escape')],
    ['a click outside', () => group().page.mouse.click(20, 400)],
    ['Back', () => group().page.evaluate(() => window.history.back())],
  ] as const)('is asked about before %s gives it up', async (_, leave) => {
    await group().go('/people')
    await group().page.$eval('nav a[href="/people/groups"]', (a) => (a as HTMLElement).click())
    await group().page.waitForFunction(() => document.querySelector('h1')?.textContent === 'Groups')
    await group().settled()
    await group().enterOn('Edit')
    await group().page.waitForSelector('[role=dialog] input')
    await group().fill('Name', 'Boat choir')
    await leave()
    await group().sees('Discard what you typed?')
    await group().enterOn('Keep editing')
    expect(await value()).toBe('Boat choir')
    await group().press('Escape')
    await group().sees('Discard what you typed?')
    await group().enterOn('Discard')
    await closed(group())
  })

  test('is saved by itself once the server is back', async () => {
    await openChoir()
    await group().fill('Name', 'Harbour choir')
    await group().page.setOfflineMode(true)
    await group().press('Enter')
    await group().sees('Kedge cannot be reached at the moment. This is saved as soon as it can be')
    await group().page.setOfflineMode(false)
    await closed(group())
    await app.until("select 1 from analysis_group where name = 'Harbour choir'")
  })

  test('stays where a colleague has removed the record', async () => {
    const [person, colleague] = people.get(admin) as readonly [Person, Person]
    await app.rows(
      "insert into analysis_group (school_id, id, name) select id, gen_random_uuid(), 'Ushers' from school",
    )
    await person.go('/people/groups')
    await person.enterOn('Edit Ushers')
    await person.page.waitForSelector('[role=dialog] input')
    await person.fill('Name', 'Plan')
    await colleague.go('/people/groups')
    await colleague.enterOn('Edit Ushers')
    await colleague.page.waitForSelector('[role=dialog] input')
    await colleague.enterOn('Remove')
    await closed(colleague)
    await person.sees('This was removed by someone else since you opened it, so it cannot be saved.')
    expect(await value()).toBe('Plan')
  })

  test('is no conflict unseen where the page has not heard of the change', async () => {
    const [person, colleague] = people.get(admin) as readonly [Person, Person]
    await person.page.setRequestInterception(true)
    const noStream = (request: import('puppeteer-core').HTTPRequest) =>
      request.url().includes('/api/live') ? void request.abort() : void request.continue()
    person.page.on('request', noStream)
    await person.go('/people/groups')
    await person.enterOn('Edit')
    await person.page.waitForSelector('[role=dialog] input')
    await person.fill('Name', 'Quay choir')
    await colleague.go('/people/groups')
    await colleague.enterOn('Edit')
    await colleague.page.waitForSelector('[role=dialog] input')
    await colleague.fill('Name', 'Pier choir')
    await colleague.enterOn('Save')
    await closed(colleague)
    await person.enterOn('Save')
    await person.page.waitForSelector('[data-theirs]')
    await person.sees('Pier choir')
    await person.enterOn('Keep mine')
    await person.enterOn('Save')
    await closed(person)
    await app.until("select 1 from analysis_group where name = 'Quay choir'")
    person.page.off('request', noStream)
    await person.page.setRequestInterception(false)
  })
})

test.each([
  ['m.vester', '/people/enrol'],
  ['m.vester', '/school/codes'],
  ['r.achterberg', '/assessments/new'],
  ['hana.marsh@islandmail.example', '/absences'],
  [undefined, '/sign-in'],
  [undefined, '/forgotten-password'],
] as const)('before the page is live, what %s types at %s goes nowhere', async (who, path) => {
  const person = who ? await app.signedIn(who) : await app.person()
  await person.page.setRequestInterception(true)
  person.page.on('request', (request) =>
    request.resourceType() === 'script' ? void request.abort() : void request.continue(),
  )
  await person.page.goto(app.running.url + path, { waitUntil: 'load' })
  const before = person.page.url()
  const forms = await person.page.$$eval('form', (all) => all.map((form) => form.method))
  expect(new Set(forms)).toEqual(new Set(forms.length > 0 ? ['post'] : []))
  const field = await person.page.$('form input:not([type=checkbox]):not([type=radio])')
  await field?.focus()
  await field?.type('Ilse')
  await person.page.keyboard.press('Enter')
  await person.page.evaluate(() => document.querySelector('form')?.requestSubmit())
  await new Promise((resolve) => setTimeout(resolve, 300))
  expect(person.page.url()).toBe(before)
  await person.close()
})

/** Opens a page whose scripts wait until they are let go. */
async function withScriptsHeld(who: string | undefined, path: string) {
  const person = who ? await app.signedIn(who) : await app.person()
  const held: (() => void)[] = []
  let holds = true
  await person.page.setRequestInterception(true)
  person.page.on('request', (request) => {
    if (holds && request.resourceType() === 'script') held.push(() => void request.continue())
    else void request.continue()
  })
  const opened = person.page.goto(app.running.url + path)
  // What is looked for while one document gives way to the next may never be found.
  const isThere = () =>
    person.page
      .evaluate((to) => location.pathname === to && document.querySelector('main input') !== null, path)
      .catch(() => false)
  while (!(await isThere())) await new Promise((resolve) => setTimeout(resolve, 50))
  return {
    person,
    release: async () => {
      holds = false
      for (const go of held) go()
      await opened
    },
  }
}

test.each([
  ['m.vester', '/people/enrol', 'Legal given name', 'Aurelie'],
  ['m.vester', '/people', 'Name, number, homeroom or guardian', 'Okonjo'],
  ['r.achterberg', '/assessments/new', 'Name', 'Tides and moons'],
  ['hana.marsh@islandmail.example', '/absences', 'Reason', 'Dentist'],
  [undefined, '/sign-in', 'User name or e-mail', 'r.achterberg'],
] as const)('before the page is live, what %s types at %s is kept', async (who, path, label, text) => {
  const { person, release } = await withScriptsHeld(who, path)
  await person.focus(label)
  await person.type(text)
  await release()
  await person.settled()
  await person.quiet()
  // React knows of it, too: a field drawn again would lose it otherwise.
  await person.type('s')
  await person.drawn()
  const field = await person.page.waitForSelector(`aria/${label}`)
  expect(await field?.evaluate((f) => (f as HTMLInputElement).value)).toBe(`${text}s`)
  if (path === '/people') await person.page.waitForFunction(() => location.search.includes('Okonjos'))
  await person.close()
})
