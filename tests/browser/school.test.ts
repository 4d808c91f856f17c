import { createSchool } from '@/terminal/create-school'
import { openApplication, type Application } from './application'
import type { Person } from './person'

// A school is set up from nothing to its first register; and one that runs is kept in order.

const chosen = 'kelp and driftwood'

/** Signs in with an initial password and chooses another. */
async function firstSignIn(person: Person, username: string, initial: string): Promise<void> {
  await person.signIn(username, initial)
  await person.focus('New password')
  await person.type(chosen)
  await Promise.all([person.page.waitForNavigation(), person.press('Enter')])
}

/** Fills the field Name of a dialog; the table behind it has a column of that name. */
async function fillName(person: Person, text: string): Promise<void> {
  const input = await person.page.waitForSelector('[role=dialog] input[name=name]')
  await input?.focus()
  await person.press('Control+a')
  await person.type(text)
}

/** Fills the one field of a dialog for names; the page behind has links and headings of the same name. */
async function fillNames(person: Person, text: string): Promise<void> {
  const input = await person.page.waitForSelector('[role=dialog] textarea')
  await input?.focus()
  await person.type(text)
}

const tick = async (person: Person, label: string) => {
  // A cell that holds nothing but a checkbox has its name, too.
  await person.focus(`${label}[role="checkbox"]`)
  await person.press('Space')
}

test('an administrator sets up a school from nothing, and its first teacher takes the first register', async () => {
  const app = await openApplication('empty', `kedge_browser_school_${process.pid}`)
  try {
    const password = await createSchool(app.ownerUrl, {
      name: 'Farrow School',
      shortName: 'farrow',
      username: 'zara.skaar',
      adminName: 'Zara Skaar',
    })
    const admin = await app.person()
    await firstSignIn(admin, 'zara.skaar', password)
    await admin.sees('Set up Farrow School')
    expect(await admin.axe()).toEqual([])
    await admin.enterOn('Create the academic year')
    await admin.sees('What will be created')
    await admin.sees('school days in the year.')
    await admin.enterOn('Add days without school')
    await admin.sees('Enter a name, such as Autumn break.')
    await admin.fill('Name of row 1', 'Autumn break')
    await admin.fill('First day of Autumn break', '26 Oct')
    await admin.fill('Last day of Autumn break', '20 Oct')
    await admin.sees('The last day must not be before the first day.')
    await admin.fill('Last day of Autumn break', '30 Oct')
    await admin.sees('Autumn break: Mon 26 Oct 2026 to Fri 30 Oct 2026, no school')
    expect(await admin.axe()).toEqual([])
    await admin.enterOn('Create academic year')
    await admin.sees('Academic year 2026/27')
    await admin.sees('Days without school')

    await admin.enterOn('Year groups, homerooms')
    await admin.fill('Year groups', 'Year 6, Year 7')
    await admin.fill('Homerooms in each', 'Tern')
    await admin.press('Enter')
    await admin.sees('7 Tern')
    await admin.enterOn('Subjects')
    await admin.enterOn('Add subjects')
    await fillNames(admin, 'Science, Music')
    await admin.enterOn('Add')
    await admin.sees('2 subjects added.')
    await admin.page.waitForFunction(
      () =>
        [...document.querySelectorAll('tbody th')].map((cell) => cell.textContent).join() === 'Science,Music',
    )
    expect(await admin.axe()).toEqual([])

    await admin.enterOn('Staff accounts')
    await admin.sees('There is only one administrator.')
    await admin.enterOn('Add a member of staff')
    await admin.fill('Given name', 'Søren')
    await admin.fill('Family name', 'Tvedt')
    await admin.page.waitForFunction(
      () => document.querySelector<HTMLInputElement>('input[name=username]')?.value === 's.tvedt',
    )
    expect(await admin.axe()).toEqual([])
    await admin.press('Enter')
    await admin.sees('Sign-in for Søren Tvedt')
    const initial = await admin.text('[data-slip] dd:last-of-type')
    await admin.enterOn('Done')
    await admin.sees('has not signed in yet')

    await admin.go('/school/year-groups')
    await admin.enterOn('Edit the teacher and room of 7 Tern')
    await admin.choose('Homeroom teacher', 'Tvedt')
    await admin.enterOn('Save')
    await admin.sees('7 Tern was saved.')
    await admin.go('/school/classes')
    await admin.enterOn('Add a class')
    await fillName(admin, '7 Science')
    await admin.choose('Subject', 'Science')
    await admin.choose('Year group', 'Year 7')
    await admin.choose('Teachers', 'Tvedt')
    await tick(admin, '7 Tern')
    expect(await admin.axe()).toEqual([])
    await admin.enterOn('Add')
    await admin.sees('7 Science was added with 0 students.')

    await admin.enterOn('Set-up')
    await admin.sees('Before the first register can be taken: students.')
    await admin.sees('2 homerooms, 1 without a teacher')
    expect(await admin.axe()).toEqual([])
    await admin.enterOn('Enrol the first student')
    await admin.sees('Legal given name')
    await admin.fill('Legal given name', 'Noor')
    await admin.fill('Legal family name', 'Iversen')
    await admin.fill('Birth date', '3/4/15')
    await admin.choose('Year group', 'Year 7')
    await admin.choose('Homeroom', '7 Tern')
    await admin.sees('7 Science')
    await admin.page.evaluate(() =>
      document.querySelector<HTMLInputElement>('fieldset:nth-of-type(2) input')?.focus(),
    )
    for (const text of ['Odile', 'Iversen', 'mother', '000 2222']) {
      await admin.type(text)
      await admin.press('Tab')
    }
    await admin.enterOn('Enrol')
    await admin.sees('Noor Iversen is enrolled')

    const teacher = await app.person()
    await firstSignIn(teacher, 's.tvedt', initial)
    await teacher.sees('7 Tern, morning register')
    await teacher.enterOn('Take the register')
    await teacher.sees('1 on roll')
    await teacher.settled()
    await teacher.page.waitForFunction(() =>
      document.activeElement?.getAttribute('aria-label')?.startsWith('Iversen, Noor'),
    )
    await teacher.press('p')
    await teacher.saved()
    const [mark] = await app.rows(
      "select m.changed_by, c.code from attendance_mark m join attendance_code c on c.id = m.code_id where session_date = '2026-11-23'",
    )
    expect(mark).toEqual({ changed_by: 'Søren Tvedt', code: 'P' })
    const [member] = await app.rows(
      "select count(*)::int as n from class_member m join class c on c.id = m.class_id where c.name = '7 Science'",
    )
    expect(member?.n).toBe(1)
    expect([...admin.complaints, ...teacher.complaints]).toEqual([])
  } finally {
    await app.close()
  }
})

describe('a school that runs', () => {
  let app: Application
  let office: Person
  let admin: Person
  let ilse: string
  beforeAll(async () => {
    app = await openApplication('demo')
    office = await app.signedIn('e.leask')
    admin = await app.signedIn('m.vester')
    const [row] = await app.rows("select id from student where sort_name = 'Okonjo-Marsh, Ilse'")
    ilse = `/people/${String(row?.id)}`
  })
  afterAll(async () => {
    expect([...office.complaints, ...admin.complaints]).toEqual([])
    await app.close()
  })
  const field = (person: Person, label: string) =>
    person.page.$eval(`aria/${label}`, (e) => (e as HTMLInputElement).value)
  const student = async () =>
    (
      await app.rows(
        "select * from student where legal_family_name = 'Okonjo-Marsh' and legal_given_name = 'Ilse'",
      )
    )[0]

  test('the office corrects a record field by field; what is wrong stays in its field; Ctrl Z takes a change back', async () => {
    await office.go(ilse)
    await office.fill('Preferred name', 'Ilsabet')
    await office.press('Enter')
    await office.saved()
    await office.sees('Ilsabet Okonjo-Marsh, record')
    await office.fill('Birth date', '31 February')
    await office.press('Tab')
    await office.sees('This is not a date.')
    expect(await field(office, 'Birth date')).toBe('31 February')
    await office.focus('Birth date')
    await office.press('Escape')
    await office.seesNot('This is not a date.')
    await office.focus('Preferred name')
    await office.press('Control+z')
    await office.sees('Ilse Okonjo-Marsh, record')
    await app.until("select 1 from student where sort_name = 'Okonjo-Marsh, Ilse' and preferred_name is null")
    expect(await office.axe()).toEqual([])
  })

  test('two people at one field: the second sees both values and chooses; a field left half typed is saved on leaving', async () => {
    await office.go(ilse)
    await admin.go(ilse)
    await office.focus('Address')
    await office.press('End')
    await office.type(', upper floor')
    await admin.fill('Address', 'Gull House, Farrow')
    await admin.press('Enter')
    await admin.saved()
    await office.press('Enter')
    await office.sees('changed this field while you were editing it')
    await office.sees('Gull House, Farrow')
    await office.enterOn('Keep their version')
    await office.seesNot('changed this field while you were editing it')
    await office.fill('Transport', 'On foot')
    await office.enterOn('History')
    await office.sees('history')
    await app.until("select 1 from student where transport = 'On foot' and address = 'Gull House, Farrow'")
  })

  test('a guardian is added and called first; a student moves, leaves and both are undone', async () => {
    await office.go(ilse)
    await office.enterOn('Add a guardian')
    await office.fill('Given name', 'Tove')
    await office.fill('Relation', 'aunt')
    await office.choose('Order to call', 'First')
    expect(await office.axe()).toEqual([])
    await office.enterOn('Save')
    await office.sees('Tove Okonjo-Marsh was saved.')
    await office.page.waitForFunction(() =>
      document.querySelector<HTMLElement>('[aria-labelledby=guardians] ol li')?.innerText.startsWith('Tove'),
    )
    await office.enterOn('Move')
    await office.page.waitForFunction(() =>
      [...document.querySelectorAll('option')].some((o) => o.textContent?.startsWith('7 Plover')),
    )
    await office.choose('Homeroom', '7 Plover')
    await office.sees('7 Science B')
    expect(await office.axe()).toEqual([])
    await office.enterOn('Save')
    await office.sees('Saved from Mon 23 Nov 2026.')
    await office.sees('Year 7, 7 Plover')
    await office.enterOn('Undo')
    await office.sees('Undone.')
    await office.sees('Year 7, 7 Tern')

    await office.enterOn('Leave')
    await office.sees('Last day at this school')
    await office.enterOn('Leave')
    await office.sees('Enter the reason.')
    await office.fill('Reason', 'Moved to Little Skarn')
    await office.fill('Last day at this school', '20 Nov')
    await office.enterOn('Leave')
    await office.sees('Left on Fri 20 Nov 2026: Moved to Little Skarn')
    await office.enterOn('Undo')
    await office.sees('Year 7, 7 Tern')
    expect((await student())?.number).not.toBeNull()
  })

  test('an administrator adds a day without school, sees what it touches, and takes it back', async () => {
    await admin.go('/school/year')
    await admin.enterOn('Add days without school')
    await fillName(admin, 'Storm')
    await admin.fill('First day', '20 Nov')
    await admin.fill('Last day', '20 Nov')
    await admin.sees('1 school day becomes a day without school.')
    await admin.sees('On these days there are already')
    await admin.fill('Last day', '18 Nov')
    await admin.sees('The last day must not be before the first day.')
    await admin.fill('Last day', '20 Nov')
    expect(await admin.axe()).toEqual([])
    await admin.enterOn('Add')
    await admin.sees('Storm was saved.')
    await admin.enterOn('Undo')
    await admin.sees('Undone.')
    expect(await app.rows("select 1 from closure where name = 'Storm'")).toEqual([])
  })

  test('the tables of the year are typed into: wrong days are said beside their field, right ones saved', async () => {
    await admin.go('/school/year')
    await admin.fill('Spring, first day', '1 Dec')
    await admin.sees('already covers some of these days')
    await admin.sees('Spring: not saved yet.')
    expect(await admin.axe()).toEqual([])
    await admin.press('Escape')
    await admin.seesNot('already covers')
    const spring = () =>
      app.rows(
        "select first_day::text as day from term where name = 'Spring' and first_day between '2027-01-01' and '2027-12-31'",
      )
    const [before] = await spring()
    await admin.press('ArrowDown', 'Enter')
    await admin.sees('Spring was saved.')
    expect((await spring())[0]?.day).toBe('2027-01-04')
    await admin.enterOn('Undo')
    await admin.sees('Undone.')
    expect((await spring())[0]).toEqual(before)

    // Leaving the row saves it; what lies on days it loses opens the dialog first.
    await admin.fill('Autumn, first day', '14 Sep')
    await admin.focus('Summer, name')
    await admin.sees('On the days that Autumn loses there')
    await admin.press('Escape')
    await admin.sees('Discard what you typed?')
    await admin.enterOn('Discard')
    await admin.page.waitForFunction(() => !document.querySelector('[role=dialog]'))
  })

  test('two administrators at one row of the year: the second sees both versions and chooses', async () => {
    const other = await app.signedIn('m.vester')
    await other.go('/school/year')
    await other.fill('Spring, name', 'Spring term')
    await admin.go('/school/year')
    await admin.fill('Spring, name', 'Lent')
    await admin.press('Enter')
    await admin.sees('Lent was saved.')
    await other.sees('It is now Lent,')
    await other.press('Enter')
    expect(await app.rows("select 1 from term where name = 'Spring term'")).toEqual([])
    await other.enterOn('Use mine')
    await other.sees('Spring term was saved.')
    await other.fill('Spring term, name', 'Spring')
    await other.press('Enter')
    await other.sees('Spring was saved.')
    expect(other.complaints).toEqual([])
    await other.close()
  })

  test('a list is downloaded as it is shown', async () => {
    await office.go('/people')
    await office.enterOn('Columns')
    await tick(office, 'Groups')
    await office.page.waitForFunction(() => location.search.includes('hide=groups'))
    expect(await office.axe()).toEqual([])
    await office.fill('Name, number, homeroom or guardian', 'okonjo-marsh ils')
    await office.sees('1 of')
    const saved = office.page.evaluate(
      () =>
        new Promise<string>((resolve) => {
          const make = URL.createObjectURL.bind(URL)
          URL.createObjectURL = (blob: Blob) => {
            void blob.text().then(resolve)
            return make(blob)
          }
        }),
    )
    await office.enterOn('Download or print')
    await office.enterOn('Download as CSV')
    const [row] = await app.rows("select number from student where sort_name = 'Okonjo-Marsh, Ilse'")
    expect(await saved).toBe(
      `Name,Number,Year group,Homeroom\r\n"Okonjo-Marsh, Ilse",${String(row?.number).padStart(4, '0')},Year 7,7 Tern\r\n`,
    )
  })

  test('the year after a colleague’s is created beside the others, and each can be looked at', async () => {
    await admin.go('/school/year')
    await admin.sees('Mara Vester created 2027/28 on 12 Nov')
    await admin.enterOn('Open 2027/28')
    await admin.sees('Academic year 2027/28')
    await admin.sees('You are looking at Wed 1 Sep 2027, not today.')
    await admin.sees('read only')
    await admin.enterOn('Create the next academic year')
    await admin.sees('The year after 2027/28')
    expect(await admin.axe()).toEqual([])
    await admin.enterOn('Create academic year')
    await admin.sees('The academic year 2028/29 was created.')
  })

  test('the year is a calendar: a file, and a secret address that stops working when it is replaced or its owner goes', async () => {
    await admin.go('/school/year')
    const [href] = await admin.page.$$eval('a[download]', (links) =>
      links.map((a) => (a as HTMLAnchorElement).href),
    )
    const file = await admin.page.evaluate(async (at) => {
      const answer = await fetch(at)
      return { type: answer.headers.get('content-type'), text: await answer.text() }
    }, href ?? '')
    expect(file.type).toMatch('text/calendar')
    expect(file.text).toMatch('SUMMARY:Autumn term')
    const newAddress = async (words: string) => {
      const before = await admin.page.$eval(
        'main',
        (e) => e.querySelector('[data-testid=feed]')?.textContent ?? '',
      )
      await admin.enterOn(words)
      await admin.page.waitForFunction(
        (old) => ![null, undefined, old].includes(document.querySelector('[data-testid=feed]')?.textContent),
        {},
        before,
      )
      return admin.text('[data-testid=feed]')
    }
    const first = await newAddress('Create a calendar address')
    expect(await admin.axe()).toEqual([])
    const get = async (at: string) => (await fetch(at)).status
    expect(await get(first)).toBe(200)
    const second = await newAddress('Replace the calendar address')
    expect(await get(second)).toBe(200)
    expect([
      await get(first),
      await get(`${first.slice(0, -1)}_`),
      await get(`${app.running.url}/api/feed/x`),
    ]).toEqual([404, 404, 404])
    await app.rows("update membership set active = false where name = 'Mara Vester'")
    expect(await get(second)).toBe(404)
    await app.rows("update membership set active = true where name = 'Mara Vester'")
  })

  test('classes are carried into the next year as their preview says, and all of it is undone', async () => {
    const [summer] = await app.rows(
      `select count(*)::int as classes from class_term ct join term t on t.id = ct.term_id
       join academic_year y on y.id = t.year_id where t.name = 'Summer' and y.name = '2026/27'`,
    )
    const made = () =>
      app.rows("select c.id from class c join academic_year y on y.id = c.year_id where y.name = '2027/28'")
    await admin.go('/school/carry-forward?date=2027-06-01')
    await admin.sees('From Summer 2026/27 to Autumn 2027/28')
    await admin.sees('will be created in Autumn 2027/28')
    expect(await admin.axe()).toEqual([])
    await tick(admin, 'Carry 1 Art A')
    const n = Number(summer?.classes) - 1
    await admin.enterOn(`Carry ${n} classes`)
    await admin.sees(`Class: ${n} added`)
    expect(await admin.axe()).toEqual([])
    expect(await made()).toEqual([])
    await admin.enterOn('Carry forward')
    await admin.sees(`${n} classes carried to Autumn 2027/28.`)
    expect(await made()).toHaveLength(n)
    await admin.sees('already there')
    await admin.enterOn('Undo')
    await admin.sees('Undone.')
    expect(await made()).toEqual([])
  })

  test('a term is moved while it runs, and closed to teachers', async () => {
    await admin.go('/school/year')
    await admin.enterOn('Edit Autumn')
    // The table behind has a column of the same name as the field.
    await admin.page.waitForSelector('[role=dialog] input[name=name]')
    await admin.fill('Last day', '5 Jan')
    await admin.sees('already covers some of these days')
    await admin.fill('Last day', '20 Nov')
    await admin.sees('This leaves out Exams, from Mon 7 Dec 2026.')
    await admin.fill('Last day', '11 Dec')
    await admin.fill('First day', '14 Sep')
    await admin.sees('On the days that Autumn loses there')
    expect(await admin.axe()).toEqual([])
    await admin.fill('First day', '1 Sep')
    await admin.enterOn('Save')
    await admin.sees('Autumn was saved.')
    await admin.enterOn('Undo')
    await admin.sees('Undone.')
    await admin.enterOn('Make read only Summer')
    await admin.sees('Teachers can read Summer but not change it.')
    await admin.enterOn('Let teachers edit Summer')
    await admin.sees('Teachers can change Summer again.')
  })

  test('a date is chosen from its calendar by keys, and the focus comes back to its field', async () => {
    await admin.go('/school/year')
    await admin.enterOn('Edit Spring')
    await admin.page.waitForSelector('[role=dialog] input[name=name]')
    await admin.focus('Last day')
    await admin.press('Alt+ArrowDown')
    await admin.page.waitForFunction(
      () =>
        document.activeElement?.closest('[aria-label=Calendar]') !== null &&
        document.activeElement !== document.body,
    )
    await admin.press('ArrowLeft', 'Enter')
    await admin.page.waitForFunction(
      () => (document.activeElement as HTMLInputElement).value === 'Wed 31 Mar 2027',
    )
    await admin.press('Alt+ArrowDown')
    await admin.page.waitForSelector('[aria-label=Calendar]')
    expect(await admin.axe()).toEqual([])
    await admin.page.waitForFunction(() => document.activeElement?.closest('[aria-label=Calendar]'))
    await admin.press('Escape')
    await admin.page.waitForFunction(() => document.activeElement?.matches('[role=dialog] input'))
    await admin.enterOn('Cancel')
  })

  test('several students join a class in one act, and it is undone', async () => {
    await office.go('/people?q=7+Tern')
    await tick(office, 'Choose Abara, Tobias')
    await tick(office, 'Choose Arslan, Camila')
    await office.sees('2 students chosen')
    expect(await office.axe()).toEqual([])
    await office.enterOn('Move')
    await office.sees('Move 2 students')
    await tick(office, '7 Science B')
    expect(await office.axe()).toEqual([])
    await office.enterOn('Save')
    await office.sees('2 students moved from Mon 23 Nov.')
    const there = () =>
      app.rows(`select m.student_id from class_member m join class c on c.id = m.class_id and c.name = '7 Science B'
        join student s on s.id = m.student_id and s.sort_name in ('Abara, Tobias', 'Arslan, Camila')
        where m.period @> date '2026-11-23'`)
    expect(await there()).toHaveLength(2)
    await office.enterOn('Undo')
    await office.sees('Undone.')
    expect(await there()).toEqual([])
  })

  test('a group is added, students join it from the list, and the list can be narrowed to it', async () => {
    await office.go('/people/groups')
    await office.enterOn('Add groups')
    await fillNames(office, 'Early reading, Rowing')
    await office.enterOn('Add')
    await office.sees('2 groups added.')
    expect(await office.axe()).toEqual([])
    await office.go('/people?q=7+Tern')
    await tick(office, 'Choose Abara, Tobias')
    await office.enterOn('Move')
    await office.enterOn('Join groups')
    await tick(office, 'Rowing')
    await office.enterOn('Save')
    await office.sees('1 student moved from Mon 23 Nov.')
    await office.go('/people?q=rowing')
    await office.sees('1 of')
    await office.sees('Abara, Tobias')
    await office.go('/people/groups')
    await office.enterOn('Edit Rowing')
    await office.enterOn('Remove')
    await office.sees('Rowing has or had students, so it stays.')
    await office.press('Escape')
    await office.enterOn('Edit Early reading')
    await office.enterOn('Remove')
    await office.sees('Early reading was removed.')
    await office.go('/people/guardians?q=okonjo-marsh')
    await office.sees('Marsh, Hana')
    expect(await office.axe()).toEqual([])
  })

  test('a subject is renamed and moved; one in use cannot be removed', async () => {
    await admin.go('/school/subjects')
    await admin.enterOn('Computing')
    await fillName(admin, 'Computing and code')
    expect(await admin.axe()).toEqual([])
    await admin.press('Enter')
    await admin.sees('Computing and code was saved.')
    await admin.enterOn('Computing and code')
    await admin.enterOn('Remove')
    await admin.sees('Computing and code is in use or has a history, so this subject stays.')
    await admin.press('Escape')
  })

  test('subjects are put into another order by keys alone', async () => {
    await admin.go('/school/subjects')
    const order = () =>
      admin.page.$$eval('table[aria-label=Subjects] tbody th', (all) =>
        all.slice(0, 2).map((cell) => cell.textContent),
      )
    const [first, second] = await order()
    await admin.enterOn('Change the order')
    await admin.page.waitForSelector('ol[aria-label="Order of the subjects"]')
    expect(await admin.axe()).toEqual([])
    await admin.page.focus('ol[aria-label="Order of the subjects"] li:nth-child(2) button')
    await admin.press('Space')
    await admin.sees(`${second} at place 2`)
    // A key pressed before the list has measured its entries moves nothing.
    await admin.page.waitForFunction(
      (words) => {
        const said = document.querySelector('[aria-live=assertive]')?.textContent
        if (said?.startsWith(words)) return true
        document.activeElement?.dispatchEvent(
          new KeyboardEvent('keydown', { key: 'ArrowUp', code: 'ArrowUp', bubbles: true }),
        )
        return false
      },
      { polling: 200 },
      `${second} at place 1`,
    )
    await admin.press('Space')
    await admin.sees(`${second} set down at place 1`)
    await admin.enterOn('Save')
    await admin.sees('The order of the subjects was saved.')
    await admin.page.waitForFunction(
      (words) => document.querySelector('table[aria-label=Subjects] tbody th')?.textContent === words,
      {},
      second,
    )
    expect(await order()).toEqual([second, first])
    await admin.enterOn('Undo')
    await admin.sees('Undone.')
  })

  test('a room is added and given to a homeroom; a homeroom with students is not closed', async () => {
    await admin.go('/school/rooms')
    await admin.enterOn('Add rooms')
    await fillNames(admin, 'Attic')
    await admin.press('Tab', 'Enter')
    await admin.sees('1 room added.')
    await admin.go('/school/year-groups')
    await admin.enterOn('Edit the teacher and room of 9 Tern')
    await admin.choose('Room', 'Attic')
    await admin.enterOn('Save')
    await admin.sees('9 Tern was saved.')
    // What is opened next is the homeroom as the list shows it by now.
    await admin.page.waitForFunction(() =>
      [...document.querySelectorAll('tr')].some((row) => /9 Tern[^]*Attic/.test(row.innerText)),
    )
    await admin.enterOn('End on a date 9 Tern')
    // The dialog is there before its button is looked for: the page behind has buttons that begin alike.
    await admin.page.waitForSelector('[role=dialog]')
    expect(await admin.axe()).toEqual([])
    await admin.enterOn('End')
    await admin.sees('belong to 9 Tern after')
    await admin.press('Escape')
  })

  test('a grading scale is added; what does not fit is said while typing', async () => {
    await admin.go('/school/scales')
    await admin.enterOn('Add a scale')
    await fillName(admin, 'Four letters')
    await admin.fill('Grade 2 from percent', '85')
    await admin.sees('Two grades cannot both begin at 85 %.')
    await admin.fill('Grade 2 from percent', '71.5')
    await admin.sees('B 71.5 to under 85')
    expect(await admin.axe()).toEqual([])
    await admin.press('Enter')
    await admin.sees('Four letters was saved.')
  })

  test('the set-up check leads from a number to its list, and its table can be turned round', async () => {
    await admin.go('/school/set-up')
    await admin.sees('Enrolments in classes')
    expect(await admin.axe()).toEqual([])
    await admin.enterOn('Swap rows and columns')
    await admin.page.waitForFunction(
      () => location.search.includes('down=year+group') || location.search.includes('down=year%20group'),
    )
    expect(await admin.axe()).toEqual([])
  })

  test('an administrator deactivates a teacher, who is signed out at once, and reactivates them', async () => {
    const teacher = await app.signedIn('r.achterberg')
    const [row] = await app.rows("select id from staff_member where sort_name = 'Achterberg, Remi'")
    await admin.go(`/school/staff/${String(row?.id)}`)
    await admin.enterOn('Deactivate')
    await admin.sees('Still responsible for: 7 Tern')
    expect(await admin.axe()).toEqual([])
    // With a day to come they go on working; the button says so until it is taken back.
    await admin.fill('Last day', '27 Nov')
    await admin.choose('Taken over after the last day by', 'Almqvist, Asta')
    await admin.enterOn('Deactivate')
    await admin.sees('Remi Achterberg works here until the last day.')
    await admin.sees('leaves after Fri 27 Nov 2026')
    await admin.enterOn('Undo')
    await admin.seesNot('leaves after')
    await admin.enterOn('Deactivate')
    await admin.fill('Last day', '27 Nov')
    await admin.page.click('[role=dialog] input[name=atOnce]')
    await admin.enterOn('Deactivate')
    await admin.sees('Remi Achterberg can no longer sign in.')
    await teacher.page.goto(`${app.running.url}/today`)
    await teacher.sees('Sign in')
    await admin.enterOn('Reactivate')
    await admin.sees('User name r.achterberg')
    await admin.seesNot('deactivated')
    await teacher.close()
  })
})
