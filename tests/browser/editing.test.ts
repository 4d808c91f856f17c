import { settingsOf } from '@/core/marks/settings'
import type { HTTPRequest } from 'puppeteer-core'
import { openApplication, type Application } from './application'
import type { Person } from './person'

// Two people, slow answers, lost answers, a server that is away: what is typed is neither lost nor put elsewhere.
let app: Application
let teacher: Person
let office: Person
/** The teacher at another browser. */
let second: Person
let home: string
let science: string
beforeAll(async () => {
  app = await openApplication('demo')
  teacher = await app.signedIn('r.achterberg')
  office = await app.signedIn('e.leask')
  second = await app.signedIn('r.achterberg')
  // They ask the server from a page of Kedge.
  for (const person of [office, second]) await person.go('/today')
  home = await idOf("select id from homeroom where name = '7 Tern'")
  science = await idOf("select id from class where name = '8 Science A'")
})
afterAll(() => app.close())

const idOf = async (statement: string) => String((await app.rows(statement))[0]?.id)
const registerPath = () => `/attendance/registers/${home}`
const marksPath = () => `/classes/${science}/marks`
const markOf = async (name: string) =>
  (
    await app.rows(
      `select c.code, m.note from attendance_mark m left join attendance_code c on c.id = m.code_id
       join student s on s.id = m.student_id
       where s.sort_name = $1 and session_date = '2026-11-23' and session = 'morning'`,
      [name],
    )
  )[0]
const untilMark = (name: string, code: string) =>
  app.until(
    `select 1 from attendance_mark m join attendance_code c on c.id = m.code_id join student s on s.id = m.student_id
     where s.sort_name = '${name}' and session_date = '2026-11-23' and session = 'morning' and c.code = '${code}'`,
  )
const select = async (person: Person, name: string) =>
  (await person.page.waitForSelector(`button[data-student="${name}"]`))?.focus()
const shown = (person: Person, name: string, code: string) =>
  person.page.waitForFunction(
    (n, c) => document.querySelector(`button[data-student="${n}"]`)?.textContent === c,
    {},
    name,
    code,
  )
const focused = (person: Person) =>
  person.page.evaluate(
    () => document.activeElement?.getAttribute('aria-label') ?? document.activeElement?.tagName,
  )
const dialogGone = (person: Person) =>
  person.page.waitForFunction(() => !document.querySelector('[role=dialog]'))
const ask = (person: Person, name: string, input: unknown) =>
  person.page.evaluate(
    async (n, i) => {
      const response = await fetch(`/api/query/${n}?input=${encodeURIComponent(JSON.stringify(i))}`)
      return ((await response.json()) as { value: any }).value
    },
    name,
    input,
  )

/** Answers some requests of a page otherwise, until it is undone. */
async function meddle(person: Person, how: (request: HTTPRequest) => boolean) {
  const handler = (request: HTTPRequest) => {
    if (request.isInterceptResolutionHandled()) return
    // A request that comes just when this is undone goes on by itself.
    if (!how(request)) void request.continue().catch(() => {})
  }
  await person.page.setRequestInterception(true)
  person.page.on('request', handler)
  return async () => {
    person.page.off('request', handler)
    await person.page.setRequestInterception(false)
  }
}
const isFor = (request: HTTPRequest, command: string) => request.url().endsWith(`/api/command/${command}`)
const late = (milliseconds: number, command: string) => (request: HTTPRequest) => {
  if (!isFor(request, command)) return false
  setTimeout(() => void request.continue().catch(() => {}), milliseconds)
  return true
}

describe('a code that waits for a second key', () => {
  beforeEach(async () => {
    await app.rows("delete from attendance_mark where session_date = '2026-11-23'")
    await teacher.go(registerPath())
    await select(teacher, 'Gallowglass, Pia')
  })
  test('is kept when the rest is marked', async () => {
    await teacher.press('a', '.')
    await teacher.saved()
    await untilMark('Gallowglass, Pia', 'A')
    await untilMark('Dunmore, Asta', 'P')
  })
  test.each([['End'], ['Home'], ['/'], ['Tab']])('is kept by %s', async (key) => {
    await teacher.press('a', key)
    await untilMark('Gallowglass, Pia', 'A')
  })
  test('is kept when the page is left by a link', async () => {
    await teacher.press('a')
    await teacher.page.evaluate(() =>
      [...document.querySelectorAll<HTMLElement>('nav a')]
        .find((a) => a.innerText.startsWith('People'))
        ?.click(),
    )
    await untilMark('Gallowglass, Pia', 'A')
  })
  test('and clearing a mark and typing again is no conflict', async () => {
    await teacher.press('p', 'ArrowUp', 'Backspace', 'l')
    await untilMark('Gallowglass, Pia', 'L')
    await teacher.press('ArrowUp', 'Backspace')
    await teacher.saved()
    await teacher.press('w')
    await untilMark('Gallowglass, Pia', 'W')
    expect(await teacher.page.$$('[role=alert]')).toEqual([])
  })
})

describe('somebody else’s work', () => {
  beforeEach(async () => {
    await app.rows("delete from attendance_mark where session_date = '2026-11-23'")
    await teacher.go(registerPath())
    await office.go(registerPath())
  })
  test('is not replaced unseen by a note begun before it', async () => {
    await select(teacher, 'Dunmore, Asta')
    await teacher.press('/')
    await teacher.type('Guardian rang')
    await select(office, 'Dunmore, Asta')
    await office.press('a', '1')
    await office.saved()
    await shown(teacher, 'Dunmore, Asta', 'A1')
    // What is being written stays, and so does the focus.
    expect(await focused(teacher)).toBe('Note, Dunmore, Asta')
    await teacher.type(' at nine')
    await teacher.press('Enter')
    await teacher.sees('Dunmore')
    await teacher.sees('has been kept.')
    await teacher.enterOn('Use')
    await app.until(
      "select 1 from attendance_mark m join student s on s.id = m.student_id where s.sort_name = 'Dunmore, Asta' and note = 'Guardian rang at nine'",
    )
    expect((await markOf('Dunmore, Asta'))?.code).toBe('A1')
  })
  test('is not replaced by an undo', async () => {
    await select(teacher, 'Dunmore, Asta')
    await teacher.press('p')
    await teacher.saved()
    await shown(office, 'Dunmore, Asta', 'P')
    await select(office, 'Dunmore, Asta')
    await office.press('w')
    await office.saved()
    await shown(teacher, 'Dunmore, Asta', 'W')
    await teacher.press('Control+z')
    await teacher.sees('W has been kept.')
    expect((await markOf('Dunmore, Asta'))?.code).toBe('W')
    await teacher.enterOn('Keep W')
  })
  test('an undo can be done again', async () => {
    await select(teacher, 'Dunmore, Asta')
    await teacher.press('l', 'Control+z')
    await shown(teacher, 'Dunmore, Asta', '')
    await teacher.press('Control+y')
    await shown(teacher, 'Dunmore, Asta', 'L')
    await teacher.saved()
    await untilMark('Dunmore, Asta', 'L')
  })
  test('is not replaced unseen in a gradebook cell, and the cursor stays with its student and column', async () => {
    await teacher.go(marksPath())
    await teacher.page.focus('[data-testid=grid]')
    await teacher.press('Home', 'ArrowDown')
    const [name, column] = await teacher.page.$eval('[aria-selected=true]', (c) =>
      (c.getAttribute('aria-label') ?? '').split(/, (?=[^,]*:)|: /).slice(0, 2),
    )
    await teacher.type('1')
    // A colleague adds an assignment that comes to stand before it, and changes the same cell.
    const input = { classId: science, date: '2026-11-23' }
    const { book, students } = await ask(teacher, 'marks.gradebook', input)
    await second.execute('marks.createAssignment', {
      classId: science,
      name: 'Earlier one',
      categoryId: book.categories[0].id,
      maxPoints: '10',
      dueOn: '2026-09-02',
      counts: true,
    })
    await teacher.sees('Earlier one')
    expect(
      await teacher.page.$eval('[aria-selected=true]', (c) => c.getAttribute('aria-label') ?? ''),
    ).toContain(`${name}, ${column}`)
    const assignment = book.assignments.find((a: { name: string }) => a.name === column)
    const studentId = students[1].id as string
    const score = book.scores.find(
      (s: { assignmentId: string; studentId: string }) =>
        s.assignmentId === assignment.id && s.studentId === studentId,
    )
    const key = { assignmentId: assignment.id, studentId }
    const cells = [{ key, value: { kind: 'points', points: '3' }, expectedVersion: score?.version ?? 0 }]
    expect(await second.execute('marks.setScores', { classId: science, cells })).toMatchObject({ ok: true })
    await teacher.type('2')
    await teacher.press('Enter')
    await teacher.sees('entered 3 while you were entering 12')
    await teacher.enterOn('Use 12')
    await app.until(
      `select 1 from score where assignment_id = '${assignment.id}' and student_id = '${studentId}' and points = 12`,
    )
    await teacher.saved()
  })
  test('is not replaced unseen by a comment that is being typed', async () => {
    const [entry] = await app.rows(
      "select e.round_id, e.class_id from class_entries e join class c on c.id = e.class_id where c.name = '7 Science A'",
    )
    const scope = { roundId: String(entry?.round_id), classId: String(entry?.class_id) }
    await teacher.go(`/classes/${scope.classId}/entries/${scope.roundId}`)
    const { rows } = await ask(teacher, 'reports.classEntries', scope)
    const [row] = rows as { studentId: string; name: string; version: number }[]
    const cells = [
      {
        key: { studentId: row?.studentId },
        value: { effort: null, comment: 'Of a colleague' },
        expectedVersion: row?.version,
      },
    ]
    expect(await office.execute('reports.setEntries', { ...scope, cells })).toMatchObject({ ok: false })
    await teacher.focus(`Comment on ${row?.name}`)
    // What a pause in typing sends waits on its way, so that the colleague saves first, however slow the machine is.
    const held: HTTPRequest[] = []
    const undo = await meddle(
      teacher,
      (request) => isFor(request, 'reports.setEntries') && held.push(request) > 0,
    )
    // At one stroke, so that it is one edit: two keys far apart on a slow machine would be two, each with its conflict.
    await teacher.page.keyboard.sendCharacter('Begun before it was changed by someone else')
    expect(await second.execute('reports.setEntries', { ...scope, cells })).toMatchObject({ ok: true })
    await teacher.page.keyboard.press('Tab')
    while (held.length === 0) await new Promise((resolve) => setTimeout(resolve, 50))
    for (const request of held.splice(0)) await request.continue()
    await undo()
    await teacher.sees('Of a colleague')
    await teacher.sees('Their version has been kept.')
    await teacher.enterOn('Keep their version')
    await teacher.page.waitForFunction(
      (label) =>
        document.querySelector<HTMLTextAreaElement>(`[aria-label="${label}"]`)?.value === 'Of a colleague',
      {},
      `Comment on ${row?.name}`,
    )
  })
  test('is not reverted by a dialog that was opened before', async () => {
    await teacher.go(marksPath())
    await teacher.enterOn('Weights and rules')
    await teacher.sees('The weights add up to 100.')
    const { book, term } = await ask(teacher, 'marks.gradebook', { classId: science, date: '2026-11-23' })
    expect(
      await second.execute('marks.saveSettings', {
        termId: term.id,
        targets: [{ classId: science, expectedVersion: book.version }],
        ...settingsOf(book),
        decimals: 2,
      }),
    ).toMatchObject({ ok: true })
    await teacher.enterOn('Save')
    await teacher.sees('Choose whose value stays, then save.')
    // What was sent before the page heard of the change has been answered.
    await teacher.page.waitForFunction(() => !document.querySelector('[role=dialog] [aria-busy=true]'))
    await teacher.press('Escape')
    await dialogGone(teacher)
    expect(
      (
        await app.rows('select decimals from gradebook where class_id = $1 and term_id = $2', [
          science,
          term.id,
        ])
      )[0]?.decimals,
    ).toBe(2)
  })
})

describe('two people at one browser', () => {
  test('what is typed on the page of one is never stored under the name of the other', async () => {
    await app.rows("delete from attendance_mark where session_date = '2026-11-23'")
    const first = await app.person()
    await first.signIn('r.achterberg')
    // A page that hears of changes would stop by itself as soon as the session ends, before anything is typed.
    await first.page.setRequestInterception(true)
    first.page.on('request', (request) => {
      if (!request.url().includes('/api/live')) void request.continue()
    })
    await first.go(registerPath())
    const tab = await first.page.browserContext().newPage()
    await tab.goto(`${app.running.url}/today`)
    // Signing in takes the place of the session before it; in between, the first page would only ask to sign in again.
    await tab.evaluate(async () => {
      await fetch('/api/sign-in', {
        method: 'POST',
        headers: { 'Content-Type': 'application/json' },
        body: JSON.stringify({ username: 'e.leask', password: 'harbour lights at dusk' }),
      })
    })
    await first.page.bringToFront()
    await select(first, 'Lacey, Thora')
    await first.press('p')
    await first.sees('Signed in as someone else')
    await first.sees('1 unsaved change stays on this device until Remi Achterberg signs in again.')
    expect(await first.axe()).toEqual([])
    expect(await markOf('Lacey, Thora')).toBeUndefined()
    // Whoever looks into the browser meanwhile learns nothing from what it keeps.
    const kept = await first.page.evaluate(() => Object.values(localStorage))
    expect(kept).toHaveLength(1)
    expect(kept.join()).toMatch(/^[0-9a-f]+$/)
    // It waits for the one who made it, and is sent when they are back.
    await first.page.goto(`${app.running.url}${registerPath()}`)
    await first.sees('7 Tern')
    expect(await markOf('Lacey, Thora')).toBeUndefined()
    await tab.evaluate(() => fetch('/api/sign-out', { method: 'POST' }))
    await first.signIn('r.achterberg')
    await first.go(registerPath())
    await untilMark('Lacey, Thora', 'P')
    expect(
      (
        await app.rows(
          "select changed_by from attendance_mark m join student s on s.id = m.student_id where s.sort_name = 'Lacey, Thora' and session_date = '2026-11-23'",
        )
      )[0]?.changed_by,
    ).toBe('Remi Achterberg')
    await first.close()
  })
  test('a page that is open beside the one that signs out shows nothing any more, nor does one whose session ended', async () => {
    const first = await app.person()
    await first.signIn('p.ilves')
    const record = `/people/${await idOf("select id from student where sort_name = 'Lacey, Thora'")}`
    await first.go(record)
    const shown = (page: typeof first.page) =>
      page.evaluate(() => {
        const shown = [...document.querySelectorAll<HTMLElement>('main h1')].find(
          (h) => getComputedStyle(h).visibility === 'visible',
        )
        return shown?.innerText ?? ''
      })
    expect(await shown(first.page)).toContain('Thora Lacey')
    const tab = await first.page.browserContext().newPage()
    await tab.goto(`${app.running.url}/today`)
    await tab.waitForSelector('[data-part=who]')
    await app.rows(
      `delete from auth.session where "userId" = (select id from auth."user" where username = 'p.ilves')`,
    )
    // The session has ended on the server: the page asks to sign in, and covers what it showed.
    await first.page.bringToFront()
    await first.press('Control+k')
    await first.page.keyboard.type('ilse')
    await first.sees('Sign in again')
    expect(await shown(first.page)).toBe('')
    await first.page.type('[role=dialog] input[type=password]', 'harbour lights at dusk')
    await first.press('Enter')
    await first.page.waitForFunction(
      () => !document.body.innerText.includes('Sign in again') && document.querySelector('main h1') !== null,
    )
    // Signed out on one page, the other goes as well.
    await first.go('/today')
    await first.enterOn('Petra Ilves')
    await first.page.waitForSelector('[role=menuitem]')
    await Promise.all([
      tab.waitForFunction(() => location.pathname === '/sign-in', { timeout: 60_000 }),
      first.page.evaluate(() =>
        [...document.querySelectorAll<HTMLElement>('[role=menuitem]')]
          .find((item) => item.innerText === 'Sign out')
          ?.click(),
      ),
    ])
    await first.close()
  })
  test('a half-filled form is not there for the next person; signing out asks about what is not saved, and clears', async () => {
    const one = await app.person()
    await one.signIn('e.leask')
    await one.go('/people/enrol')
    await one.fill('Legal given name', 'Wren')
    await one.page.reload()
    await one.page.waitForFunction(() => document.querySelector('input')?.value === 'Wren')
    await one.go(registerPath())
    const undo = await meddle(one, (request) => {
      if (!isFor(request, 'attendance.setMarks')) return false
      void request.respond({ status: 503, contentType: 'text/html', body: 'busy' })
      return true
    })
    await select(one, 'Lacey, Thora')
    await one.press('w')
    await one.sees('1 change saved on this device.')
    await one.page.focus('[data-part=who] button')
    await one.press('Enter')
    await one.page.waitForSelector('[role=menuitem]')
    await one.page.evaluate(() =>
      [...document.querySelectorAll<HTMLElement>('[role=menuitem]')]
        .find((i) => i.innerText === 'Sign out')
        ?.click(),
    )
    await one.sees('1 change is not saved. If you sign out now, it is discarded.')
    expect(await one.axe()).toEqual([])
    await Promise.all([one.page.waitForNavigation(), one.enterOn('Discard and sign out')])
    await undo()
    expect(
      await one.page.evaluate(() =>
        [...Object.keys(localStorage), ...Object.keys(sessionStorage)].filter((k) => k.startsWith('kedge.')),
      ),
    ).toEqual([])
    await one.signIn('m.vester')
    await one.go('/people/enrol')
    await one.sees('Legal given name')
    expect(await one.page.$eval('input', (i) => i.value)).toBe('')
    await one.close()
  })
})

describe('an edit that is not saved', () => {
  beforeEach(() => app.rows("delete from attendance_mark where session_date = '2026-11-23'"))
  test('is listed on every page with what, where and why, and can be tried again or discarded', async () => {
    await teacher.go(registerPath())
    const undo = await meddle(teacher, (request) => {
      if (!isFor(request, 'attendance.setMarks')) return false
      const failure = { kind: 'refused', code: 'x', about: {}, message: 'This student is not on the roll.' }
      void request.respond({
        status: 422,
        contentType: 'application/json',
        body: JSON.stringify({ ok: false, failure }),
      })
      return true
    })
    await select(teacher, 'Lacey, Thora')
    await teacher.press('p')
    await teacher.sees('Lacey, Thora: P was not saved. This student is not on the roll.')
    await undo()
    await teacher.go('/people')
    await teacher.page.$eval('[data-saved] button', (b) => b.click())
    await teacher.sees('Changes that are not saved')
    await teacher.sees('7 Tern, morning register, Mon 23 Nov')
    expect(await teacher.axe()).toEqual([])
    await teacher.enterOn('Try again')
    await untilMark('Lacey, Thora', 'P')
    await teacher.sees('All changes are saved.')
    await teacher.press('Escape')
  })
  test('by an error of ours does not hold up the others, and is set aside after three tries', async () => {
    await teacher.go(registerPath())
    let tries = 0
    const undo = await meddle(teacher, (request) => {
      if (!isFor(request, 'attendance.setMarks') || !request.postData()?.includes('poison')) return false
      tries++
      void request.respond({ status: 500, contentType: 'text/html', body: '<h1>proxy</h1>' })
      return true
    })
    await select(teacher, 'Lacey, Thora')
    await teacher.press('/')
    await teacher.type('poison')
    await teacher.press('Enter')
    await select(teacher, 'Dunmore, Asta')
    await teacher.press('p')
    await untilMark('Dunmore, Asta', 'P')
    await teacher.sees('Lacey, Thora: no mark, poison was not saved.')
    expect(tries).toBe(3)
    await teacher.enterOn('Discard')
    await undo()
  })
  test('while a proxy answers for a server that is away is sent when it is back', async () => {
    await teacher.go(registerPath())
    let away = true
    const undo = await meddle(teacher, (request) => {
      if (!away || !isFor(request, 'attendance.setMarks')) return false
      void request.respond({ status: 502, contentType: 'text/html', body: '<h1>Bad gateway</h1>' })
      return true
    })
    await select(teacher, 'Dunmore, Asta')
    await teacher.press('w')
    await teacher.sees('It will be sent when Kedge is available.')
    away = false
    await untilMark('Dunmore, Asta', 'W')
    await undo()
  })
  test('holds nothing that cannot be seen or stored: such characters are taken out as they are pasted', async () => {
    await teacher.go(registerPath())
    await select(teacher, 'Dunmore, Asta')
    await teacher.press('/')
    await teacher.page.evaluate(() =>
      document.execCommand('insertText', false, 'copied\u0000 from\u0007 a PDF'),
    )
    await teacher.press('Enter')
    await app.until("select 1 from attendance_mark where note = 'copied from a PDF'")
  })
  test('is sent even where the browser keeps nothing, and a damaged entry harms nothing', async () => {
    await teacher.page.evaluate(() => {
      localStorage.setItem('kedge.edit.nobody.x.y', 'damaged')
      const mine = Object.keys(localStorage)
      localStorage.setItem(`kedge.edit.${mine.length}`, '{')
    })
    await teacher.go(registerPath())
    await teacher.page.evaluate(() => {
      Storage.prototype.setItem = () => {
        throw new DOMException('full', 'QuotaExceededError')
      }
    })
    await select(teacher, 'Dunmore, Asta')
    await teacher.press('p')
    await untilMark('Dunmore, Asta', 'P')
    await teacher.go('/today')
    await teacher.page.evaluate(() => localStorage.clear())
  })
})

describe('questions of an answer key', () => {
  const fair = () => idOf("select id from assessment where name = 'Fair tests'")
  const questions = async (assessmentId: string) =>
    (await app.rows(
      "select id, content ->> 'right' as key from asked_question where assessment_id = $1 order by position",
      [assessmentId],
    )) as {
      id: string
      key: string
    }[]
  const answers = async (assessmentId: string) =>
    (
      await app.rows(
        'select count(*)::int as n from counted_response where value is not null and assessment_id = $1',
        [assessmentId],
      )
    )[0]?.n as number
  test('removed quickly with slow answers take only their own answers along, and come back with them', async () => {
    const assessmentId = await fair()
    const before = await questions(assessmentId)
    const all = await answers(assessmentId)
    await teacher.go(`/assessments/${assessmentId}`)
    const undo = await meddle(teacher, late(400, 'assessment.setQuestions'))
    for (let n = 0; n < 3; n++) {
      await teacher.page.evaluate(() =>
        document.querySelector<HTMLElement>('[aria-label="Remove question 1"]')?.click(),
      )
      await new Promise((resolve) => setTimeout(resolve, 150))
    }
    await teacher.saved()
    expect(await questions(assessmentId)).toEqual(before.slice(3))
    await teacher.sees('Questions were removed.')
    await teacher.enterOn('Undo')
    await app.until(
      `select 1 from asked_question where assessment_id = '${assessmentId}' having count(*) = ${before.length}`,
    )
    await undo()
    expect(await questions(assessmentId)).toEqual(before)
    expect(await answers(assessmentId)).toBe(all)
    await teacher.saved()
  })
  test('score a class once typing pauses, not at every letter', async () => {
    const assessmentId = await fair()
    await teacher.go(`/assessments/${assessmentId}`)
    let sent = 0
    const undo = await meddle(teacher, (request) => {
      if (isFor(request, 'assessment.setQuestions')) sent++
      return false
    })
    await teacher.page.focus('#key')
    // A busy machine makes pauses of its own between two keys; each may save once.
    await teacher.page.evaluate(() => {
      const times: number[] = []
      document.querySelector('#key')?.addEventListener('input', () => times.push(performance.now()))
      Object.assign(window, { times })
    })
    await teacher.press('End', 'Backspace', 'Backspace', 'Backspace', 'Backspace')
    await teacher.type('BDCC')
    await teacher.press('Tab')
    await app.until(`select 1 from asked_question where assessment_id = '${assessmentId}' having
      (array_agg(content ->> 'right' order by position desc))[1] = 'C'`)
    await teacher.saved()
    const pauses = await teacher.page.evaluate(() => {
      const { times } = window as unknown as { times: number[] }
      return times.filter((at, i) => at - (times[i - 1] ?? at) >= 400).length
    })
    expect(sent).toBeGreaterThan(0)
    expect(sent).toBeLessThanOrEqual(1 + pauses)
    await undo()
  })
  test('changed by someone else meanwhile: what was typed stays to be used', async () => {
    const assessmentId = await fair()
    await teacher.go(`/assessments/${assessmentId}`)
    const { questions: now, version } = await ask(teacher, 'assessment.key', { assessmentId })
    const plain = now.map((q: { content: object }, i: number) =>
      i === 0 ? { ...q, content: { ...q.content, right: 'D' } } : q,
    )
    await teacher.page.focus('#key')
    await teacher.press('End', 'Backspace')
    expect(
      await second.execute('assessment.setQuestions', {
        assessmentId,
        expectedVersion: version,
        questions: plain,
      }),
    ).toMatchObject({ ok: true })
    await teacher.type('B')
    await teacher.sees('Someone else changed this answer key while you were editing it.')
    await teacher.sees('Yours: BADCBDACBDCB')
    await teacher.enterOn('Use mine')
    await app.until(
      `select 1 from asked_question where assessment_id = '${assessmentId}' and position = 12 and content ->> 'right' = 'B'`,
    )
    await teacher.saved()
  })
})

describe('answers half typed', () => {
  test('are there again when one comes back', async () => {
    const assessmentId = await idOf("select id from assessment where name = 'Fair tests'")
    const [free] = (await app.rows(
      `select st.sort_name as name from class_member m join student st on st.id = m.student_id
       join class c on c.id = m.class_id and c.name = '8 Science A'
       left join attempt s on s.student_id = m.student_id and s.assessment_id = $1
       where s.student_id is null and upper_inf(m.period) order by 1 limit 1`,
      [assessmentId],
    )) as [{ name: string }]
    await teacher.go(`/assessments/${assessmentId}/answers`)
    await teacher.focus(`Answers of ${free.name}`)
    await teacher.type('BADC')
    await teacher.go('/today')
    await teacher.go(`/assessments/${assessmentId}/answers`)
    await teacher.page.waitForFunction(
      (label) => document.querySelector<HTMLInputElement>(`[aria-label="${label}"]`)?.value === 'BADC',
      {},
      `Answers of ${free.name}`,
    )
    await teacher.focus(`Answers of ${free.name}`)
    await teacher.press('Control+a', 'Backspace', 'Enter')
  })
})

describe('live data', () => {
  test('Back shows what is saved now, and so does a page that was drawn before the change', async () => {
    await app.rows("delete from attendance_mark where session_date = '2026-11-23'")
    await teacher.go(registerPath())
    await teacher.page.evaluate(() =>
      [...document.querySelectorAll<HTMLElement>('nav a')]
        .find((a) => a.innerText.startsWith('People'))
        ?.click(),
    )
    await teacher.sees('on roll')
    await teacher.page.waitForFunction(() => location.pathname === '/people')
    await office.go(registerPath())
    await select(office, 'Dunmore, Asta')
    await office.press('w')
    await office.saved()
    await teacher.page.goBack()
    await shown(teacher, 'Dunmore, Asta', 'W')
  })
  test('comes again after a server restart and a session that ended; meanwhile the page says that it is not live', async () => {
    await teacher.go(registerPath())
    const kill = new Promise((resolve) => app.running.web.once('exit', resolve))
    app.running.web.kill('SIGKILL')
    await kill
    await teacher.sees('Not up to date')
    await app.rows('delete from auth.session')
    await app.running.startWeb()
    await teacher.sees('Sign in again')
    await teacher.type('harbour lights at dusk')
    await teacher.press('Enter')
    await dialogGone(teacher)
    await teacher.seesNot('Not up to date')
    // The keys are where they were.
    expect(await focused(teacher)).toMatch(/: /)
    await office.signIn('e.leask')
    await office.go(registerPath())
    await select(office, 'Dunmore, Asta')
    await office.press('e', '2')
    await office.saved()
    await shown(teacher, 'Dunmore, Asta', 'E2')
  })
})

describe('the chosen date', () => {
  test('is kept by every link, is in the title, and going back to today keeps the rest', async () => {
    await teacher.go('/today?date=2026-11-19')
    const links = await teacher.page.$$eval('nav a, main a', (all) =>
      all.map((a) => a.getAttribute('href') ?? ''),
    )
    expect(links.filter((href) => href.startsWith('/') && !href.includes('date=2026-11-19'))).toEqual([])
    await teacher.go(`${registerPath()}?date=2026-11-19&session=afternoon`)
    await teacher.sees('7 Tern, afternoon register, Thu 19 Nov')
    expect(await teacher.page.title()).toBe('7 Tern, afternoon register, Thu 19 Nov · Kedge')
    await teacher.enterOn('Back to today')
    await teacher.page.waitForFunction(() => location.search === '?session=afternoon')
  })
  test('moves on by itself when the day does, and what was typed belongs to the day it was typed on', async () => {
    await app.rows("delete from attendance_mark where session_date = '2026-11-23'")
    await teacher.go(registerPath())
    await select(teacher, 'Dunmore, Asta')
    await teacher.press('a')
    await teacher.page.evaluate(() => {
      const now = Date.now.bind(Date)
      Date.now = () => now() + 86400000
      document.dispatchEvent(new Event('visibilitychange'))
    })
    await teacher.page.waitForFunction(() =>
      document.querySelector('[data-testid=announced]')?.textContent?.includes('It is Tue 24 Nov now.'),
    )
    await untilMark('Dunmore, Asta', 'A')
  })
})

describe('focus', () => {
  test('comes back to the work after a dialog, and its keys work at once', async () => {
    await app.rows("delete from attendance_mark where session_date = '2026-11-23'")
    await teacher.go(registerPath())
    await select(teacher, 'Dunmore, Asta')
    await teacher.press('?')
    await teacher.sees('Everywhere')
    await teacher.press('Escape')
    await dialogGone(teacher)
    await teacher.page.waitForFunction(
      () => (document.activeElement as HTMLElement).dataset.student === 'Dunmore, Asta',
    )
    await teacher.press('l')
    await untilMark('Dunmore, Asta', 'L')
    expect(await teacher.text('[data-testid=announced]')).toBe(
      'Asta Dunmore: Late, before the register closes. Press - to enter minutes',
    )
  })
})

describe('a page that cannot be made', () => {
  test('says so in words, and recovers when the cause is gone', async () => {
    await office.go('/today')
    await app.closeDatabase()
    await office.page.evaluate(() =>
      [...document.querySelectorAll<HTMLElement>('nav a')]
        .find((a) => a.innerText.startsWith('People'))
        ?.click(),
    )
    await office.sees('This page could not be loaded')
    await office.sees('Kedge is not available at the moment.')
    expect(await office.axe()).toEqual([])
    await app.openDatabase()
    await office.page.waitForFunction(async () => (await fetch('/api/ready')).ok, { polling: 300 })
    await office.enterOn('Try again')
    await office.sees('on roll')
    await app.closeDatabase()
    await office.page.goto(`${app.running.url}/people`)
    await office.sees('Kedge is not available at the moment.')
    await app.openDatabase()
    await office.page.waitForFunction(async () => (await fetch('/api/ready')).ok, { polling: 300 })
    await office.enterOn('Try again')
    await office.sees('on roll')
  })
})

describe('a form', () => {
  test('whose answer was lost creates nothing twice, and a correction is not ignored', async () => {
    await office.go('/people/enrol')
    await office.fill('Legal given name', 'Wren')
    await office.fill('Legal family name', 'Hollins')
    await office.fill('Birth date', '3 Apr 2014')
    await office.choose('Year group', 'Year 7')
    await office.choose('Homeroom', '7 Tern')
    for (const [label, text] of [
      ['Given name', 'Bea'],
      ['Family name', 'Hollins'],
      ['Relation', 'mother'],
      ['E-mail', 'bea.hollins@islandmail'],
    ] as const)
      await office.fill(label, text)
    await office.enterOn('Enrol')
    await office.sees('Check the highlighted field.')
    await office.fill('E-mail', 'bea.hollins@islandmail.example')
    // The server hears of it, but its answer does not arrive.
    let lost = 0
    const undo = await meddle(office, (request) => {
      if (!isFor(request, 'people.enrol') || lost > 0) return false
      lost++
      void office.page
        .cookies()
        .then((cookies) =>
          fetch(request.url(), {
            method: 'POST',
            headers: { ...request.headers(), cookie: cookies.map((c) => `${c.name}=${c.value}`).join('; ') },
            body: request.postData(),
          }),
        )
        .then(() => request.abort())
      return true
    })
    await office.enterOn('Enrol')
    await office.sees('Kedge cannot be reached at the moment.')
    await office.sees('Wren Hollins is enrolled')
    await undo()
    expect(
      (await app.rows("select count(*)::int as n from student where sort_name = 'Hollins, Wren'"))[0]?.n,
    ).toBe(1)
  })
  test('asks again whether it is a different student when the name changes', async () => {
    await office.go('/people/enrol')
    for (const [given, family] of [
      ['Wren', 'Hollins'],
      ['Ilse', 'Okonjo-Marsh'],
    ] as const) {
      const [born] = await app.rows('select birth_date::text as date from student where sort_name = $1', [
        `${family}, ${given}`,
      ])
      await office.fill('Legal given name', given)
      await office.fill('Legal family name', family)
      await office.fill('Birth date', String(born?.date))
      await office.press('Tab')
      await office.sees('Is this student already on record?')
      const box = await office.page.waitForSelector('input[name=notADuplicate]')
      expect(await box?.evaluate((b) => b.checked)).toBe(false)
      await box?.click()
    }
    await office.enterOn('Cancel')
  })
})

describe('the find box', () => {
  test('Enter waits for the answer to what was typed', async () => {
    await teacher.go('/today')
    const undo = await meddle(teacher, (request) => {
      if (!request.url().includes('find.anything')) return false
      setTimeout(() => void request.continue().catch(() => {}), 500)
      return true
    })
    await teacher.press('Control+k')
    await teacher.page.waitForSelector('[role=dialog] [role=combobox]')
    await teacher.type('ilse okonjo')
    await teacher.press('Enter')
    await teacher.sees('Guardians, in the order to call')
    await undo()
  })
  test('the first entry is selected whenever answers come, and the arrows go on from there', async () => {
    await teacher.go('/today')
    let asked = 0
    const undo = await meddle(teacher, (request) => {
      if (!request.url().includes('find.anything')) return false
      setTimeout(() => void request.continue().catch(() => {}), [0, 250, 60][asked++ % 3])
      return true
    })
    const selected = () =>
      teacher.page.$$eval('[role=dialog] [role=option]', (all) =>
        all.map((o) => o.getAttribute('aria-selected')).indexOf('true'),
      )
    await teacher.press('Control+k')
    await teacher.page.waitForSelector('[role=dialog] [role=combobox]')
    for (const word of ['re', 'ilse', 'sci', 'e', '7 t', 'o']) {
      const answered = teacher.page.waitForResponse((r) =>
        decodeURIComponent(r.url()).includes(`"text":"${word}"`),
      )
      await teacher.press('Control+a')
      await teacher.type(word)
      await answered
      await teacher.page.waitForFunction(() => {
        const all = [...document.querySelectorAll<HTMLElement>('[role=dialog] [role=option]')]
        return all.length > 1 && all.every((o, n) => o.ariaSelected === String(n === 0))
      })
      await teacher.press('ArrowDown')
      expect(await selected()).toBe(1)
    }
    await teacher.press('Escape')
    await undo()
  })
  test('finds names that begin with what was typed before those that hold it', async () => {
    await teacher.go('/today')
    await teacher.press('Control+k')
    await teacher.page.waitForSelector('[role=dialog] [role=combobox]')
    await teacher.type('ils')
    await teacher.page.waitForFunction(
      () => document.querySelectorAll('[role=dialog] [role=option]').length > 1,
    )
    const names = await teacher.page.$$eval('[role=dialog] [role=option] span:first-child', (all) =>
      all.map((s) => s.textContent ?? ''),
    )
    const first = names.findIndex((n) => /, Nils/.test(n))
    expect(names[0]).toMatch(/, Ils/)
    expect(names.slice(0, first).every((n) => /(^|[ -])Ils/.test(n))).toBe(true)
    await teacher.press('Escape')
  })
  test('is not for guardians', async () => {
    const guardian = await app.signedIn('hana.marsh@islandmail.example')
    await guardian.go('/report-cards')
    await guardian.press('Control+k')
    await new Promise((resolve) => setTimeout(resolve, 500))
    expect(await guardian.page.$('[role=dialog]')).toBeNull()
    await guardian.close()
  })
})

test('nobody’s console complained', () => {
  const expected =
    /Minified React error #(?:419|441)|kedge:unavailable|server rendering errored|An error occurred in the Server Components/
  expect([...teacher.complaints, ...office.complaints].filter((c) => !expected.test(c))).toEqual([])
})
