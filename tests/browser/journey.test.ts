import { writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { heatAndIce, printTest } from '@/demo/heat-and-ice'
import { openApplication, type Application } from './application'
import type { Person } from './person'

// The whole path, from enrolment to report card, by keyboard where a person would, with five people at five browsers.
let app: Application
let office: Person
let teacher: Person
let head: Person
let admin: Person
let pdf: string

beforeAll(async () => {
  app = await openApplication('demo')
  office = await app.person()
  teacher = await app.person()
  head = await app.person()
  admin = await app.person()
  pdf = join(tmpdir(), `Heat and ice ${process.pid}.pdf`)
  writeFileSync(pdf, await printTest('Heat and ice', heatAndIce))
})
afterAll(() => app.close())

test('1. the office signs in, sets a password, and enrols a student', async () => {
  await office.signIn('d.munro', 'tide table 1')
  await office.sees('Choose your own password')
  await office.focus('New password')
  await office.type('seven')
  expect(await office.text('ul[aria-label="Rule for passwords"]')).toContain(
    '○ Not met yet: At least 12 characters',
  )
  await office.type(' grey seals')
  await office.page.waitForFunction(() =>
    [...document.querySelectorAll('ul[aria-label="Rule for passwords"] li')].every((li) =>
      li.textContent?.startsWith('✓'),
    ),
  )
  await Promise.all([office.page.waitForNavigation(), office.press('Enter')])
  await office.sees('accepted and expected')

  await office.press('Control+k')
  await office.page.waitForSelector('[role=dialog] [role=combobox]')
  await office.type('enrol a')
  await office.page.waitForFunction(() =>
    document
      .querySelector<HTMLElement>('[role=option][aria-selected=true]')
      ?.innerText.startsWith('Enrol a student'),
  )
  await office.press('Enter')
  await office.sees('Legal given name')
  await office.fill('Legal given name', 'Ilse')
  await office.fill('Legal family name', 'Okonjo-Marsh')
  const [ilse] = await app.rows(
    "select birth_date::text as born from student where sort_name = 'Okonjo-Marsh, Ilse'",
  )
  await office.fill('Birth date', String(ilse?.born))
  await office.sees('Is this student already on record?')
  await office.fill('Legal given name', 'Wren')
  await office.fill('Legal family name', 'Sandvik')
  await office.seesNot('Is this student already on record?')
  await office.choose('Year group', 'Year 7')
  await office.choose('Homeroom', '7 Tern')
  await office.sees('7 Science A')
  await office.enterOn('Enrol')
  await office.sees('Nothing was saved')
  await office.page.evaluate(() =>
    document.querySelector<HTMLInputElement>('fieldset:nth-of-type(2) input')?.focus(),
  )
  for (const text of ['Bea', 'Sandvik', 'mother', '000 1111', 'bea.sandvik@islandmail.example']) {
    await office.type(text)
    await office.press('Tab')
  }
  await office.enterOn('Enrol')
  await office.sees('Wren Sandvik is enrolled')
  await office.sees('Permanent number')
  const [row] = await app.rows("select number from student where sort_name = 'Sandvik, Wren'")
  await office.sees(String(row?.number).padStart(4, '0'))
})

test('2. the teacher takes the register by keyboard; another person sees it within a second', async () => {
  await teacher.signIn('r.achterberg')
  await teacher.page.waitForFunction(() =>
    document.activeElement?.textContent?.includes('7 Tern, morning register'),
  )
  await Promise.all([teacher.page.waitForNavigation(), teacher.press('Enter')])
  await teacher.sees('29 on roll, 1 expected')
  await office.go(new URL(teacher.page.url()).pathname)
  await office.sees('29 on roll')

  const focused = () => teacher.page.evaluate(() => document.activeElement?.getAttribute('aria-label') ?? '')
  expect(await focused()).toMatch(/^Abara, Tobias/)
  await teacher.press('p')
  expect(await focused()).toMatch(/not marked$/)
  await teacher.press('a')
  await teacher.sees('Press Enter for A, or type 1, 2 or 3.')
  expect(await focused()).toMatch(/A typed$/)
  await teacher.press('2')
  await teacher.press('l', 'a', 'Enter', 'a', 'p')
  const marks = () =>
    teacher.page.$$eval('[data-testid=register] button[data-student]', (cells) =>
      cells.slice(0, 6).map((c) => c.textContent),
    )
  expect(await marks()).toEqual(['P', 'A2', 'L', 'A', 'A', 'P'])
  await teacher.saved()
  await office.page.waitForFunction(
    () =>
      [...document.querySelectorAll('[data-testid=register] button[data-student]')]
        .slice(0, 6)
        .map((c) => c.textContent)
        .join() === 'P,A2,L,A,A,P',
    {},
  )

  await teacher.press('ArrowUp', '/')
  await teacher.type('Guardian rang')
  await teacher.press('Enter')
  await teacher.press('Control+z')
  await teacher.press('.')
  await teacher.sees('0 not marked')
  await teacher.sees('23 students marked present')
  await teacher.press('Control+z')
  await teacher.sees('23 not marked')
  await teacher.press('.')
  await teacher.sees('0 not marked')
  await teacher.saved()
  const [taken] = await app.rows(
    "select count(*)::int as n from attendance_mark m join homeroom h on h.id = m.homeroom_id where h.name = '7 Tern' and session_date = '2026-11-23' and code_id is not null",
  )
  expect(taken?.n).toBe(29)
})

test('2b. two people mark the same student: neither is overwritten silently', async () => {
  const cellOf = (person: Person) => person.page.$('button[data-student="Dunmore, Asta"]')
  // The office's page is held back from hearing of the change, as on a slow line.
  await office.page.setOfflineMode(true)
  await (await cellOf(office))?.focus()
  await office.press('e', '1')
  await office.sees('1 change saved on this device.')
  await (await cellOf(teacher))?.focus()
  await teacher.press('a', '1')
  await app.until(
    "select 1 from attendance_mark m join attendance_code c on c.id = m.code_id join student s on s.id = m.student_id where s.sort_name = 'Dunmore, Asta' and session_date = '2026-11-23' and session = 'morning' and c.code = 'A1'",
  )
  await office.page.setOfflineMode(false)
  await office.sees('Remi Achterberg entered A1 while you were entering E1')
  await office.enterOn('Use E1')
  await office.saved()
  await teacher.page.waitForFunction(
    () => document.querySelector('button[data-student="Dunmore, Asta"]')?.textContent === 'E1',
    {},
  )
})

test('2c. the server is gone: marks are kept, the page says so, and they are sent when it is back', async () => {
  app.running.web.kill('SIGKILL')
  await (await teacher.page.$('button[data-student="Gallowglass, Pia"]'))?.focus()
  await teacher.press('w')
  await teacher.sees('1 change saved on this device. It will be sent when Kedge is available.')
  await app.running.startWeb()
  await teacher.saved()
  const [row] = await app.rows(
    "select c.code from attendance_mark m join attendance_code c on c.id = m.code_id join student s on s.id = m.student_id where s.sort_name = 'Gallowglass, Pia' and session_date = '2026-11-23' and session = 'morning'",
  )
  expect(row?.code).toBe('W')
})

test('3. the teacher makes an assessment from a PDF, types the key and the answers', async () => {
  await teacher.go('/assessments/new')
  const bad = join(tmpdir(), `none ${process.pid}.pdf`)
  writeFileSync(bad, 'this is no pdf')
  const input = (await teacher.page.$(
    'input[type=file]',
  )) as import('puppeteer-core').ElementHandle<HTMLInputElement>
  await input.uploadFile(bad)
  await teacher.sees('is not a PDF, a picture (PNG or JPEG) or a word-processor file (DOCX)')
  await input.uploadFile(pdf)
  await teacher.sees('3 pages')
  await teacher.fill('Name', 'Heat and ice')
  await teacher.focus('7 Science A[role="checkbox"]')
  await teacher.press('Space')
  await teacher.enterOn('Continue to the answer key')
  await teacher.sees('Answer key: type the letters in order')
  await teacher.page.waitForSelector('canvas[data-state=shown]')
  await teacher.page.focus('#key')
  await teacher.type('CBDAACDB')
  await teacher.sees('8 of 10 letters typed: 2 remaining')
  await teacher.type('BA')
  await teacher.sees('10 of 10 questions have a key, 10 points in total. ✓ Complete.')
  for (const [question, code] of [
    [1, '7.03'],
    [2, '7.01'],
  ]) {
    // The cell of the button has the same name.
    await teacher.page.focus(`[aria-label="Learning standards of question ${question}: none, tag"]`)
    await teacher.press('Enter')
    await teacher.page.waitForFunction(() => document.activeElement?.getAttribute('role') === 'combobox')
    await teacher.type(String(code))
    await teacher.press('Enter', 'Escape')
    await teacher.page.waitForFunction(
      (label) => document.activeElement?.getAttribute('aria-label') === label,
      {},
      `Learning standards of question ${question}: SCI.${code}`,
    )
  }
  await teacher.saved()
  await teacher.enterOn('Enter answers')
  await teacher.sees('have no answers yet')
  await teacher.page.waitForFunction(
    () => document.activeElement?.getAttribute('aria-label') === 'Answers of Abara, Tobias',
  )
  await teacher.type('CBDAACDBXA')
  await teacher.sees('Question 9: X is not a choice. Type A to D.')
  await teacher.press('Backspace', 'Backspace')
  await teacher.type('BA')
  await teacher.sees('10 of 10')
  await teacher.press('Enter')
  for (const answers of ['CBDAACDBBB', 'CBDBACDBBA', 'ABDAACDCBA', 'CBD']) {
    await teacher.type(answers)
    await teacher.press('Enter')
  }
  await teacher.sees('3 of 10 letters typed: 7 remaining. Type . for a question left out.')
  await teacher.saved()
  const [sheets] = await app.rows(
    "select count(*)::int as n from attempt s join assessment a on a.id = s.assessment_id where a.name = 'Heat and ice'",
  )
  expect(sheets?.n).toBe(4)
})

test('4. the teacher reads the result; a figure opens into its students, with the page of the test', async () => {
  await teacher.enterOn('View findings')
  await teacher.sees('4 assessed, 25 missing')
  await teacher.sees('Mean 9.0 of 10')
  await teacher.enterOn('25 missing')
  expect(await teacher.text('[data-testid=behind]')).toContain('Without answers')
  const row = await teacher.page.evaluate(() =>
    [...document.querySelectorAll('tr')]
      .find((r) => r.innerText.startsWith('10'))
      ?.innerText.replace(/\s+/g, ' '),
  )
  expect(row).toContain('75%')
  await teacher.page.evaluate(() =>
    [...document.querySelectorAll('tr')]
      .find((r) => r.innerText.startsWith('10'))
      ?.querySelectorAll('button')[0]
      ?.focus(),
  )
  await teacher.press('Enter')
  await teacher.page.waitForFunction(() =>
    document.querySelector('[data-testid=behind]')?.textContent?.includes('Question 10'),
  )
  expect(await teacher.text('[data-testid=behind]')).toContain('Arslan')
})

test('5. the result goes into the gradebook, linked; scores are entered as in a spreadsheet; the mark is explained', async () => {
  await teacher.enterOn('Add to gradebook')
  await teacher.sees('later changes of answers or key follow by themselves')
  await teacher.enterOn('Add')
  await teacher.sees('added to the gradebook; later changes follow.')
  const answersUrl = new URL(teacher.page.url()).pathname.replace('findings', 'answers')
  await teacher.enterOn('Open the gradebook')
  await teacher.sees('7 Science A, marks')
  await teacher.page.waitForSelector('[data-testid=grid]')
  /** Walks along the row until an assignment's column is in view; wide gradebooks draw only what is. */
  const column = async (name: string) => {
    await teacher.page.focus('[data-testid=grid]')
    await teacher.press('Home')
    for (let n = 0; n < 60; n++) {
      const at = await teacher.page.$$eval(
        '[role=columnheader]',
        (heads, wanted) =>
          Number(
            heads.find((h) => (h as HTMLElement).innerText.startsWith(wanted))?.getAttribute('aria-colindex'),
          ) - 2,
        name,
      )
      if (at >= 0) return at
      await teacher.press('ArrowRight')
    }
    throw new Error(`there is no column ${name}`)
  }
  const cell = (row: number, col: number) =>
    teacher.page.$eval(`[data-at="${row}:${col}"]`, (c) => (c as HTMLElement).innerText.trim())
  const linked = await column('Heat and ice')
  expect(await cell(1, linked)).toBe('9')

  // A change of one answer elsewhere shows here by itself.
  const colleague = await app.signedIn('r.achterberg')
  await colleague.go(answersUrl)
  await colleague.focus('Answers of Arslan, Camila')
  await colleague.press('Control+a')
  await colleague.type('CBDAACDBBA')
  await colleague.saved()
  await teacher.page.waitForFunction(
    (at) => (document.querySelector(`[data-at="1:${at}"]`) as HTMLElement).innerText.trim() === '10',
    {},
    linked,
  )
  await colleague.close()

  const week11 = await column('Week 11')
  await teacher.page.focus('[data-testid=grid]')
  await teacher.press('Home')
  for (let n = 0; n < week11; n++) await teacher.press('ArrowRight')
  await teacher.type('12')
  await teacher.press('Enter')
  await teacher.sees('12 is over the maximum of 10')
  await teacher.press('Escape')
  await teacher.type('7.5')
  await teacher.press('Enter')
  await teacher.type('m')
  await teacher.press('Enter')
  await teacher.type('e')
  await teacher.press('Enter')
  expect([await cell(0, week11), await cell(1, week11), await cell(2, week11)]).toEqual([
    '7.5',
    'missing',
    'excused',
  ])
  await teacher.press('ArrowUp', 'Control+z')
  expect(await cell(2, week11)).not.toBe('excused')
  await teacher.saved()

  // Fill down fills only what is empty; a pasted column must have one value for each student.
  await teacher.enterOn('Add assignment')
  await teacher.fill('Short name', 'Tide log')
  await teacher.enterOn('Save')
  await teacher.sees('Tide log')
  const tide = await column('Tide log')
  await teacher.page.focus('[data-testid=grid]')
  // Up to the heads, and down to the first student.
  await teacher.press('Home', 'ArrowUp', 'ArrowUp', 'ArrowUp', 'ArrowUp', 'ArrowUp', 'ArrowDown')
  for (let n = 0; n < tide; n++) await teacher.press('ArrowRight')
  await teacher.type('8')
  await teacher.press('Control+d')
  await teacher.sees('entered in 28 empty cells below')
  const paste = (text: string) =>
    teacher.page.evaluate((t) => {
      const data = new DataTransfer()
      data.setData('text/plain', t)
      document
        .querySelector('[data-testid=grid]')
        ?.dispatchEvent(new ClipboardEvent('paste', { clipboardData: data, bubbles: true, cancelable: true }))
    }, text)
  await paste('1\n2\n3')
  await teacher.sees('3 values were copied, but there are 29 students from the selected cell down')
  await paste(Array.from({ length: 29 }, (_, i) => String((i % 10) + 1)).join('\r\n') + '\r\n')
  await teacher.page.waitForFunction(
    (at) => (document.querySelector(`[data-at="9:${at}"]`) as HTMLElement).innerText.trim() === '10',
    {},
    tide,
  )
  await teacher.press('Control+z')
  await teacher.page.waitForFunction(
    (at) => (document.querySelector(`[data-at="9:${at}"]`) as HTMLElement).innerText.trim() === '8',
    {},
    tide,
  )
  await teacher.saved()

  // The margin's figures add up to the mark, exactly as they are shown.
  const termMark = await column('Term')
  await teacher.page.waitForFunction(
    (at) =>
      document
        .querySelector('[data-testid=explained-mark]')
        ?.textContent?.startsWith(
          document.querySelector(`[data-at="0:${at}"]`)?.textContent ?? 'no such cell',
        ),
    {},
    termMark,
  )
  const [parts, total, mark, inTable] = await teacher.page.evaluate(
    (last) =>
      [
        [...document.querySelectorAll('[data-testid=contribution]')].map((e) => e.textContent ?? ''),
        document.querySelector('[data-testid=total]')?.textContent ?? '',
        document.querySelector('[data-testid=explained-mark]')?.childNodes[0]?.textContent?.trim() ?? '',
        (document.querySelector(`[data-at="0:${last}"]`) as HTMLElement).innerText,
      ] as const,
    termMark,
  )
  const units = (text: string) => Math.round(Number(text) * 10 ** (total.split('.')[1]?.length ?? 0))
  expect(parts.length).toBe(3)
  expect(parts.reduce((sum, p) => sum + units(p), 0)).toBe(units(total))
  expect(mark).toBe(inTable)
})

test('6. entries are written and handed in; the head checks, sends back, prints and releases', async () => {
  await teacher.go('/reports')
  await teacher.enterOn('Autumn report, Year 7')
  await teacher.sees('Class entries')
  await teacher.enterOn('7 Science A')
  await teacher.sees('7 Science A, report entries')
  await teacher.focus('Comment on Abara, Tobias')
  await teacher.type('x'.repeat(401))
  await teacher.sees('1 characters too long for the card')
  await teacher.press('Control+a')
  await teacher.type('Tobias explains ideas clearly.')
  await teacher.press('Control+ArrowDown')
  await teacher.type('Camila asks good questions.')
  await teacher.saved()
  await teacher.focus('Effort of Abara, Tobias')
  await teacher.page.evaluate(() =>
    document.querySelector<HTMLElement>('[aria-label="Effort of Abara, Tobias"] button')?.focus(),
  )
  await teacher.press('1')
  await teacher.saved()
  await teacher.enterOn('Give to the 28 without an effort grade')
  await teacher.sees('Filled in for 28 students.')
  await teacher.enterOn('Hand in')
  await teacher.sees('Some entries are not complete')
  await teacher.sees('Wren Sandvik')
  await teacher.enterOn('Go to the first')
  await teacher.fill('Comment for students without one', 'A good term; more next time.')
  await teacher.enterOn('Give to the 27 without a comment')
  await teacher.sees('Filled in for 27 students.')
  await teacher.enterOn('Hand in')
  await teacher.page.waitForFunction(
    () =>
      document.body.innerText.includes('Some entries are not complete') ||
      document.body.innerText.includes('handed in'),
  )
  if (await teacher.page.evaluate(() => document.body.innerText.includes('Some entries are not complete')))
    await teacher.enterOn('Hand in as it is')
  await teacher.sees('Take back to edit')

  await head.signIn('s.kirkness')
  await head.sees('7 Science A, entries to check')
  await head.go('/reports')
  await head.enterOn('Autumn report, Year 7')
  await head.sees('2 handed in')
  await head.enterOn('7 English A')
  await head.enterOn('Send back with a remark')
  await head.focus('Remark')
  await head.type('Please name the books read.')
  await head.enterOn('Send back')
  await head.sees('sent back')
  await head.enterOn('Next handed in: 7 Science A')
  await head.sees('Tobias explains ideas clearly.')
  await head.enterOn('Mark as checked')
  await head.sees('No other entries are waiting to be checked.')
  await teacher.sees('The head has checked these entries')

  await head.enterOn('All classes of the round')
  await head.sees('1 checked')
  await head.page.evaluate(() =>
    [...document.querySelectorAll('tr')]
      .find((r) => r.innerText.startsWith('7 Tern'))
      ?.querySelector('button')
      ?.focus(),
  )
  await head.press('Enter')
  await head.sees('cards of 7 Tern')
  await head.sees('29 cards on')
  await head.enterOn('Release to guardians')
  await head.sees('Not included, and listed on the card as still to follow')
  await head.enterOn('Release')
  await head.sees('29 cards released to guardians.')
})

test('7. the guardian finds the released card and nothing else; the mail lies in the mailbox', async () => {
  await admin.signIn('m.vester')
  await admin.page.waitForFunction(
    async () => {
      const answer = await fetch('/api/query/mail.received?input={}')
      const body = (await answer.json()) as { value: { recipient: string; subject: string }[] }
      return body.value.filter((m) => m.recipient.includes('bea.sandvik')).length === 2
    },
    { polling: 300 },
  )
  await admin.go('/school/mail')
  await admin.sees('report card of Wren Sandvik, Autumn term')
  const body = await admin.page.evaluate(
    () =>
      [...document.querySelectorAll('details')]
        .find((d) => d.innerText.includes('your account') && d.innerText.includes('bea.sandvik'))
        ?.querySelector('pre')?.textContent ?? '',
  )
  const invitation = /\/invitation\/[\w-]+/.exec(body)?.[0] ?? ''
  const guardian = await app.person()
  await guardian.go(invitation)
  await guardian.sees('invites Bea Sandvik')
  expect(await guardian.axe()).toEqual([])
  await guardian.focus('New password')
  await guardian.type('kelp and driftwood')
  await Promise.all([guardian.page.waitForNavigation(), guardian.press('Enter')])
  await guardian.signIn('bea.sandvik@islandmail.example', 'kelp and driftwood')
  await guardian.sees('Wren Sandvik, Autumn report, Year 7')
  expect(
    await guardian.page.$$eval('nav[aria-label=Places] a', (links) => links.map((a) => a.textContent)),
  ).toEqual(['Report cards', 'Marks', 'Absences'])
  const link = await guardian.page.$eval('a[href^="/api/documents/"]', (a) => a.getAttribute('href') ?? '')
  const [type, begins] = await guardian.page.evaluate(async (href) => {
    const response = await fetch(href)
    return [
      response.headers.get('content-type'),
      new TextDecoder().decode((await response.arrayBuffer()).slice(0, 5)),
    ]
  }, link)
  expect([type, begins]).toEqual(['application/pdf', '%PDF-'])
  for (const path of ['/today', '/people', '/classes', '/school/mail', '/school/year']) {
    await guardian.go(path)
    await guardian.sees('Page not found')
  }
  expect(guardian.complaints).toEqual([])
  await guardian.close()
})

test('8. the history tells for this student everything that happened', async () => {
  const [student] = await app.rows("select id from student where sort_name = 'Sandvik, Wren'")
  await office.go(`/people/${student?.id}/history`)
  await office.sees('Wren Sandvik, history')
  for (const words of [
    'Report card',
    'Mail',
    'Report entry',
    'Attendance',
    'Score',
    'Class, 7 Science A',
    'Homeroom, 7 Tern',
    'Guardian, Bea Sandvik',
    'Student record',
    'Dalia Munro',
    'Remi Achterberg',
    'Sunniva Kirkness',
  ])
    await office.sees(words)
})

test('a session that ends while one types: one signs in again on the spot and nothing is lost', async () => {
  await teacher.go('/assessments')
  await teacher.enterOn('Fair tests')
  await teacher.sees('Fair tests, findings')
  await teacher.enterOn('Answers')
  await teacher.sees('have no answers yet')
  await teacher.page.waitForFunction(() =>
    document.activeElement?.getAttribute('aria-label')?.startsWith('Answers of'),
  )
  const who = await teacher.page.evaluate(
    () => document.activeElement?.getAttribute('aria-label')?.replace('Answers of ', '') ?? '',
  )
  // The page hears at once that its session has ended: what is typed before must still be on its way then.
  await teacher.page.setOfflineMode(true)
  await teacher.type('ABCDABCDABCD')
  await app.rows('delete from auth.session')
  await teacher.page.setOfflineMode(false)
  await teacher.sees('Sign in again')
  await teacher.sees('Your changes are kept')
  await teacher.fill('Password', 'harbour lights at dusk')
  await teacher.press('Enter')
  await teacher.saved()
  const [sheet] = await app.rows(
    `select count(*)::int as n from attempt a join student s on s.id = a.student_id join assessment e on e.id = a.assessment_id
      where s.sort_name = $1 and e.name = 'Fair tests'`,
    [who],
  )
  expect(sheet?.n).toBe(1)
})

test('nobody’s console complained', () => {
  expect([...office.complaints, ...teacher.complaints, ...head.complaints, ...admin.complaints]).toEqual([])
})
