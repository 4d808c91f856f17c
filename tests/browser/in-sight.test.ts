import { openApplication, type Application } from './application'
import type { Person } from './person'

// What is typed, refused or done stays in sight: while a colleague saves, while the server is away, by key and by finger.
let app: Application
let teacher: Person
let office: Person
let admin: Person
beforeAll(async () => {
  app = await openApplication('demo')
  teacher = await app.signedIn('r.achterberg')
  office = await app.signedIn('e.leask')
  admin = await app.signedIn('m.vester')
})
afterAll(async () => {
  expect([...teacher.complaints, ...office.complaints, ...admin.complaints]).toEqual([])
  await app.close()
})

const idOf = async (statement: string) => String((await app.rows(statement))[0]?.id)
const focused = (person: Person) =>
  person.page.evaluate(
    () => document.activeElement?.getAttribute('aria-label') ?? document.activeElement?.textContent,
  )
const register = async () =>
  `/attendance/registers/${await idOf("select id from homeroom where name = '7 Tern'")}`
const openRegister = async (at: string) => {
  await app.rows("delete from attendance_mark where session_date = '2026-11-23'")
  await teacher.go(await register())
  await (await teacher.page.waitForSelector(`button[data-student="${at}"]`))?.focus()
}

describe('a colleague saves meanwhile', () => {
  test('a lesson typed into the timetable stays beside the one that came, and may replace it', async () => {
    const art = await idOf(
      "select c.id from class c join academic_year y on y.id = c.year_id where c.name = '9 Art A' and y.name = '2026/27'",
    )
    const [table] = await app.rows('select id from timetable order by first_day desc limit 1')
    const [room] = await app.rows("select id from room where name = 'Boathouse'")
    await app.rows('delete from lesson where class_id = $1', [art])
    await office.go('/today')
    await admin.go(`/school/timetable?by=class&of=${art}`)
    await admin.fill('Monday, period 1[role="combobox"]', 'Art room')
    const saved = await office.execute('timetable.setLesson', {
      timetableId: table?.id,
      cycleDay: 1,
      period: 1,
      gone: null,
      lesson: { classId: art, roomId: room?.id },
      confirmed: true,
    })
    expect(saved).toMatchObject({ ok: true })
    await admin.sees('Someone else saved Boathouse here while you were typing.')
    expect(await admin.axe()).toEqual([])
    // Leaving the field saves nothing before one has chosen.
    await admin.press('Tab')
    await admin.enterOn('Use Art room')
    await app.until(`select 1 from lesson l join room r on r.id = l.room_id where l.class_id = '${art}'
      and r.name = 'Art room' and upper_inf(l.days)`)
    await admin.seesNot('Someone else saved')
  })

  test('a call about somebody whose absence was explained meanwhile keeps what was typed, and its reason is not dropped', async () => {
    const [mark] =
      await app.rows(`insert into attendance_mark (school_id, student_id, session_date, session, homeroom_id, code_id, changed_by, changed_at)
      select m.school_id, m.student_id, '2026-11-23', 'morning', m.homeroom_id, c.id, 'Somebody', now()
      from homeroom_member m join attendance_code c on c.school_id = m.school_id and c.code = 'A'
      join homeroom h on h.id = m.homeroom_id where h.name = '7 Tern' and upper_inf(m.period)
      and not exists (select 1 from attendance_mark x where x.student_id = m.student_id and x.session_date = '2026-11-23')
      limit 1 returning student_id, version, homeroom_id`)
    const [student] = await app.rows('select sort_name from student where id = $1', [mark?.student_id])
    const code = await idOf("select id from attendance_code where code = 'A1'")
    await office.go('/attendance/calls')
    await office.enterOn(`Note a call , ${student?.sort_name}`)
    await office.fill('Note', 'Rang from the harbour')
    await office.choose('Reason', 'A2')
    await teacher.go('/today')
    const marked = await teacher.execute('attendance.setMarks', {
      homeroomId: mark?.homeroom_id,
      date: '2026-11-23',
      session: 'morning',
      cells: [
        {
          key: { studentId: mark?.student_id },
          value: { codeId: code, minutesLate: null, note: null },
          expectedVersion: mark?.version,
        },
      ],
    })
    expect(marked).toMatchObject({ ok: true })
    await office.page.waitForFunction(
      (name) => ![...document.querySelectorAll('tbody th')].some((th) => th.textContent?.includes(name)),
      {},
      String(student?.sort_name),
    )
    await office.enterOn('Save')
    await office.sees('has entered A1 for this absence.')
    await office.page.select('[role=dialog] select[name=codeId]', '')
    await office.enterOn('Save')
    await app.until("select 1 from absence_call where note = 'Rang from the harbour'")
  })
})

describe('in the register', () => {
  test('note and minutes belong to the student just marked, one key away', async () => {
    await openRegister('Bellweather, Juno')
    await teacher.press('l', '-')
    expect(await focused(teacher)).toBe('Minutes late, Bellweather, Juno')
    await teacher.type('12')
    await teacher.press('Enter')
    await teacher.page.waitForFunction(() =>
      document.activeElement?.getAttribute('data-student')?.startsWith('Castellane'),
    )
    await teacher.press('/')
    expect(await focused(teacher)).toBe('Note, Bellweather, Juno')
    await teacher.type('Ferry')
    await teacher.press('Enter', 'ArrowDown', '/')
    // Once one has gone elsewhere, it is the student one has gone to.
    expect(await focused(teacher)).toBe('Note, Cerny, Paola')
    await teacher.press('Escape')
    await app.until(`select 1 from attendance_mark m join student s on s.id = m.student_id
      where s.sort_name = 'Bellweather, Juno' and m.minutes_late = 12 and m.note = 'Ferry'`)
  })
  test('Enter goes to the list of codes and back', async () => {
    await openRegister('Arslan, Camila')
    await teacher.press('Enter')
    expect(await focused(teacher)).toContain('Present')
    await teacher.press('ArrowDown')
    expect(await focused(teacher)).toContain('Late')
    await teacher.press('Escape')
    expect(await focused(teacher)).toMatch(/^Arslan, Camila/)
    await teacher.press('Enter', 'Enter')
    await app.until(`select 1 from attendance_mark m join student s on s.id = m.student_id join attendance_code c on c.id = m.code_id
      where s.sort_name = 'Arslan, Camila' and m.session_date = '2026-11-23' and c.code = 'P'`)
  })
  test('the rest says how many it marked, with Undo beside it; the key can be switched off', async () => {
    await openRegister('Arslan, Camila')
    await teacher.press('.')
    await teacher.sees('students marked present.')
    await teacher.enterOn('Undo')
    await app.until(`select 1 where not exists (select 1 from attendance_mark where session_date = '2026-11-23'
      and code_id is not null)`)
    await teacher.press('?')
    await teacher.focus('. marks the rest present in a register')
    await teacher.press('Space')
    expect(await teacher.axe()).toEqual([])
    await teacher.press('Escape')
    await teacher.page.waitForFunction(() => !document.querySelector('[role=dialog]'))
    await (await teacher.page.waitForSelector('button[data-student="Arslan, Camila"]'))?.focus()
    await teacher.press('.', 'p')
    await teacher.saved()
    expect(
      await app.rows(
        "select 1 from attendance_mark where session_date = '2026-11-23' and code_id is not null",
      ),
    ).toHaveLength(1)
    await teacher.page.evaluate(() => localStorage.clear())
  })
  test('what was not saved is under its row, and told at the top of the window wherever one is', async () => {
    await openRegister('Abara, Tobias')
    await teacher.page.setViewport({ width: 1280, height: 560 })
    await teacher.page.setRequestInterception(true)
    const refuse = (request: import('puppeteer-core').HTTPRequest) =>
      request.url().endsWith('/attendance.setMarks')
        ? void request.respond({
            status: 422,
            contentType: 'application/json',
            body: JSON.stringify({ ok: false, failure: { kind: 'refused', message: 'Not today.' } }),
          })
        : void request.continue()
    teacher.page.on('request', refuse)
    await teacher.press('p')
    await teacher.sees('Not today.')
    expect(
      await teacher.page.$$eval('tbody tr', (rows) =>
        rows.slice(0, 2).map((row) => (row as HTMLElement).innerText.replace(/\s+/g, ' ')),
      ),
    ).toEqual([
      expect.stringContaining('Abara, Tobias'),
      expect.stringContaining('was not saved. Not today.'),
    ])
    await teacher.page.evaluate(() => window.scrollTo(0, document.body.scrollHeight))
    await teacher.page.waitForFunction(() => {
      const button = [...document.querySelectorAll('button')].find((b) => b.innerText.includes('not saved'))
      const { top = -1, bottom = 1e6 } = button?.getBoundingClientRect() ?? {}
      return top > 0 && bottom < window.innerHeight
    })
    teacher.page.off('request', refuse)
    await teacher.page.setRequestInterception(false)
    await teacher.enterOn('Try again')
    await teacher.saved()
    await teacher.page.setViewport({ width: 1280, height: 800 })
  })
})

describe('in the gradebook', () => {
  const marks = async () => `/classes/${await idOf("select id from class where name = '7 Science A'")}/marks`
  test('an assignment is opened by keys from the head of its column', async () => {
    await teacher.go(await marks())
    await teacher.page.waitForFunction(() => document.activeElement?.getAttribute('role') === 'grid')
    await teacher.press('ArrowUp')
    await teacher.page.waitForSelector('[role=columnheader][aria-selected=true]')
    await teacher.press('Enter')
    await teacher.page.waitForSelector('[role=dialog]')
    await teacher.press('Escape')
    await teacher.page.waitForFunction(() => !document.querySelector('[role=dialog]'))
    await teacher.press('ArrowDown')
    await teacher.page.waitForFunction(
      () => !document.querySelector('[role=columnheader][aria-selected=true]'),
    )
  })
  test('a score is typed by finger into a field of the chosen cell', async () => {
    const person = await app.signedIn('r.achterberg')
    await person.page.setViewport({ width: 768, height: 1024, hasTouch: true, isMobile: true })
    await person.go(await marks())
    const cell = await person.page.waitForSelector('[data-at="1:1"]')
    await cell?.tap()
    await person.page.waitForFunction(
      () =>
        document.activeElement instanceof HTMLInputElement && document.activeElement.inputMode === 'decimal',
    )
    expect(await person.axe()).toEqual([])
    await person.type('7')
    await person.press('Enter')
    await person.saved()
    await person.page.waitForFunction(() => document.querySelector('[data-at="1:1"]')?.textContent === '7')
    // The field has gone on to the next student.
    await person.type('5')
    await person.enterOn('Down')
    await person.page.waitForFunction(() => document.querySelector('[data-at="2:1"]')?.textContent === '5')
    expect(person.complaints).toEqual([])
    await person.close()
  })
})

test('on a phone a register is taken by touch, marks are entered, and places are gone to', async () => {
  await app.rows("delete from attendance_mark where session_date = '2026-11-23'")
  const person = await app.signedIn('r.achterberg')
  await person.page.setViewport({ width: 390, height: 844, hasTouch: true, isMobile: true })
  const tap = async (selector: string) => (await person.page.waitForSelector(selector))?.tap()
  await person.go(await register())
  await tap('button[aria-label="Present, Abara, Tobias"]')
  await person.page.waitForSelector('button[aria-label="Present, Abara, Tobias"][aria-pressed=true]')
  // The mark itself opens all codes, over the lower part of the page.
  await tap('button[data-student="Arslan, Camila"]')
  await person.page.waitForSelector('aside[data-open]')
  expect(await person.axe()).toEqual([])
  await person.page.$$eval('[data-codes] button', (all) =>
    (all.find((b) => b.textContent?.startsWith('A1')) as HTMLElement).scrollIntoView(),
  )
  const code = await person.page.$$('[data-codes] button')
  for (const button of code)
    if ((await button.evaluate((b) => b.textContent)).startsWith('A1')) await button.tap()
  await person.saved()
  await person.page.waitForFunction(() => !document.querySelector('aside[data-open]'))
  expect(
    await app.rows(`select s.sort_name as name, c.code from attendance_mark m join student s on s.id = m.student_id
      join attendance_code c on c.id = m.code_id where m.session_date = '2026-11-23' order by 1`),
  ).toEqual([
    { name: 'Abara, Tobias', code: 'P' },
    { name: 'Arslan, Camila', code: 'A1' },
  ])
  await tap('button[aria-controls=places]')
  await person.page.$$eval('#places a', (all) =>
    all.find((a) => a.textContent?.startsWith('7 Science A'))?.setAttribute('data-next', ''),
  )
  await tap('#places a[data-next]')
  await person.sees('7 Science A, marks')
  await person.page.waitForFunction(() => !document.querySelector('[data-part=rail][data-open]'))
  await tap('input[aria-label^="Abara, Tobias, "]')
  await person.page.keyboard.down('Control')
  await person.page.keyboard.press('a')
  await person.page.keyboard.up('Control')
  await person.type('31')
  await person.press('Enter')
  await person.saved()
  await app.until(`select 1 from score c join student s on s.id = c.student_id join assignment a on a.id = c.assignment_id
    join class k on k.id = a.class_id where s.sort_name = 'Abara, Tobias' and k.name = '7 Science A' and c.points = 31`)
  expect(person.complaints).toEqual([])
  await person.close()
})

describe('what cannot be saved or opened', () => {
  test('a row of the year that does not fit is there again when one comes back; a term says what moves with it', async () => {
    await admin.go('/school/year')
    await admin.fill('Autumn, last day', '1 Aug 2026')
    await admin.sees('The term must end after its first day.')
    await admin.enterOn('Timetable')
    await admin.sees('Edit days and periods')
    await admin.page.goBack()
    await admin.sees('The term must end after its first day.')
    await admin.fill('Autumn, last day', '17 Dec 2026')
    await admin.sees('Second half (Mon 2 Nov to Thu 17 Dec) moves with it.')
    await admin.press('Escape')
    await admin.seesNot('moves with it.')
  })
  test('a page stays when the server is away, and the link is followed when it is back', async () => {
    await teacher.go('/today')
    const gone = new Promise((resolve) => app.running.web.once('exit', resolve))
    app.running.web.kill('SIGKILL')
    await gone
    await teacher.sees('Not up to date')
    await teacher.page.evaluate(() =>
      [...document.querySelectorAll<HTMLElement>('nav a')]
        .find((a) => a.innerText.startsWith('People'))
        ?.click(),
    )
    await teacher.sees('Kedge cannot be reached, so the page was not opened.')
    expect(await teacher.text('h1')).toBe('Today')
    await app.running.startWeb()
    await teacher.enterOn('Try again')
    await teacher.page.waitForFunction(() => document.querySelector('h1')?.textContent === 'Students')
  })
})

test('a correction that was begun is asked about before it is given up', async () => {
  await office.go('/attendance/corrections?date=2026-11-20')
  await office.page.waitForSelector('tbody input[type=checkbox]')
  await office.page.focus('tbody input[type=checkbox]')
  await office.press('Space')
  await office.enterOn('Enter marks')
  await office.fill('Reason', 'Storm')
  await office.press('Escape')
  await office.sees('Discard what you typed?')
  expect(await office.axe()).toEqual([])
  await office.enterOn('Discard')
  await office.page.waitForFunction(() => !document.querySelector('[role=dialog]'))
})
