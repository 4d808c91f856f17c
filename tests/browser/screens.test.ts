import { openApplication, type Application } from './application'
import type { Person } from './person'

// The smaller states of the screens: dialogs, lists that narrow, wide gradebooks, work that is stopped.
let app: Application
let teacher: Person
beforeAll(async () => {
  app = await openApplication('demo')
  teacher = await app.signedIn('r.achterberg')
})
afterAll(() => app.close())

const idOf = async (statement: string) => String((await app.rows(statement))[0]?.id)
const classOf = (name: string) => idOf(`select id from class where name = '${name}'`)
const cell = (person: Person, row: number, column: number) =>
  person.page.$eval(`[data-at="${row}:${column}"]`, (c) => (c as HTMLElement).innerText.trim())
const dialogGone = (person: Person) =>
  person.page.waitForFunction(() => !document.querySelector('[role=dialog]'))

describe('an assignment', () => {
  let classId: string
  beforeAll(async () => {
    classId = await classOf('8 Science A')
    await teacher.go(`/classes/${classId}/marks`)
  })

  test('that is not right is told field by field, and what was typed stays', async () => {
    await teacher.enterOn('Add assignment')
    await teacher.fill('Out of', '0')
    await teacher.fill('Due', '07/04/2027')
    await teacher.enterOn('Save')
    await teacher.sees('The maximum must be above zero.')
    expect(
      await teacher.page.$$eval('[role=dialog] [aria-invalid=true]', (fields) => fields.length),
    ).toBeGreaterThan(0)
    await teacher.fill('Short name', 'Ice core log')
    expect(
      await teacher.page.$eval(
        '[role=dialog] input[inputmode=decimal]',
        (i) => (i as HTMLInputElement).value,
      ),
    ).toBe('0')
    expect(await teacher.axe()).toEqual([])
    await teacher.press('Escape')
    await teacher.enterOn('Discard')
    await dialogGone(teacher)
    expect(await app.rows("select id from assignment where name = 'Ice core log'")).toEqual([])
  })

  test('is made, is gone to, is changed, and is deleted with its scores said first', async () => {
    await teacher.enterOn('Add assignment')
    await teacher.fill('Short name', 'Ice core log')
    await teacher.fill('Out of', '12')
    // The first digit comes in the very moment the new column is there, before the page has come to rest.
    await teacher.page.evaluate(() => {
      const inNewColumn = () =>
        document.querySelector('[aria-selected=true]')?.getAttribute('aria-label')?.includes('Ice core log')
      const observer = new MutationObserver(() => {
        if (!inNewColumn()) return
        observer.disconnect()
        document
          .querySelector('[data-testid=grid]')
          ?.dispatchEvent(new KeyboardEvent('keydown', { key: '1', bubbles: true, cancelable: true }))
      })
      observer.observe(document.body, { subtree: true, childList: true, attributes: true })
      // A machine that is slow just then, so that what follows a drawing comes after the key.
      const setAttribute = Element.prototype.setAttribute
      Element.prototype.setAttribute = function (name, value) {
        setAttribute.call(this, name, value)
        if (name !== 'aria-selected' || !inNewColumn()) return
        Element.prototype.setAttribute = setAttribute
        for (const until = performance.now() + 50; performance.now() < until;);
      }
    })
    await teacher.enterOn('Save')
    await dialogGone(teacher)
    // The grid has the keys again and stands in the new column, so that one can type at once.
    await teacher.page.waitForFunction(() =>
      document.querySelector('[aria-selected=true]')?.getAttribute('aria-label')?.includes('Ice core log'),
    )
    await teacher.page.waitForFunction(
      () => document.querySelector<HTMLElement>('[aria-selected=true]')?.innerText === '1',
    )
    await teacher.type('1')
    await teacher.press('Enter')
    await teacher.saved()
    await app.until(
      "select 1 from score s join assignment a on a.id = s.assignment_id where a.name = 'Ice core log' and s.points = 11",
    )

    await teacher.enterOn('Ice core log')
    await teacher.fill('Out of', '10')
    await teacher.enterOn('Save')
    await teacher.sees('The maximum cannot be lower than an existing score.')
    await teacher.fill('Out of', '14')
    await teacher.enterOn('Save')
    await dialogGone(teacher)
    await teacher.sees('out of 14')

    await teacher.enterOn('Ice core log')
    await teacher.enterOn('Delete assignment')
    await teacher.sees('The scores of 1 student are deleted with it')
    expect(await teacher.axe()).toEqual([])
    await teacher.enterOn('Delete Ice core log')
    await dialogGone(teacher)
    await teacher.page.waitForFunction(
      () =>
        ![...document.querySelectorAll('[role=columnheader]')].some((h) =>
          h.textContent?.includes('Ice core log'),
        ),
    )
  })

  test('that is linked says where its scores come from, and is not typed over', async () => {
    await teacher.enterOn('Fair tests')
    await teacher.sees('Its scores and its maximum come from the assessment')
    await teacher.press('Escape')
    await dialogGone(teacher)
    await teacher.page.focus('[data-testid=grid]')
    await teacher.press('Home', 'ArrowRight', 'ArrowRight')
    const before = await cell(teacher, 0, 2)
    await teacher.type('1')
    await teacher.sees('The scores of Fair tests come from the assessment.')
    expect(await cell(teacher, 0, 2)).toBe(before)
    await teacher.press('End')
    await teacher.type('9')
    await teacher.sees('Term marks are calculated. Select a score to change it.')
  })
})

describe('weights and rules', () => {
  test('say what the weights make while one types, keep what is not 100, and show it above the grid', async () => {
    await teacher.go(`/classes/${await classOf('10 Biology A')}/marks`)
    await teacher.enterOn('Weights and rules')
    await teacher.sees('The weights add up to 100.')
    await teacher.fill('Weight of Homework', '25')
    await teacher.sees(
      'The weights add up to 110, not 100. You can still save. Each weight will count as a share of 110.',
    )
    await teacher.enterOn('Save')
    await dialogGone(teacher)
    await teacher.sees('The weights add up to 110, not 100: each counts as a share of 110.')
    await teacher.sees('Homework 25%')
  })
  test('a weight that is no number and a category that holds assignments are pointed out', async () => {
    await teacher.enterOn('Weights and rules')
    await teacher.fill('Weight of Homework', 'much')
    await teacher.enterOn('Save')
    await teacher.page.waitForSelector('[role=dialog] [aria-invalid=true]')
    await teacher.fill('Weight of Homework', '15')
    await teacher.enterOn('Remove Homework')
    await teacher.enterOn('Save')
    await teacher.sees('Homework still holds')
    await teacher.press('Escape')
    await teacher.enterOn('Discard')
    await dialogGone(teacher)
    await teacher.sees('Homework 25%')
  })
})

describe('a wide gradebook', () => {
  beforeAll(async () => {
    const classId = await classOf('11 Marine studies A')
    await app.rows(
      `insert into assignment (school_id, id, class_id, term_id, category_id, name, max_points, due_on)
       select c.school_id, gen_random_uuid(), c.class_id, c.term_id, c.id, 'Piece ' || lpad(n::text, 3, '0'), 20, '2026-11-02'
       from category c join term t on t.id = c.term_id and t.name = 'Autumn', generate_series(1, 80) n
       where c.class_id = $1 and c.position = 1`,
      [classId],
    )
    await teacher.go(`/classes/${classId}/marks`)
  })
  const drawn = () => teacher.page.$$eval('[data-at^="0:"]', (cells) => cells.length)

  test('draws the columns in view alone, and brings each to where one walks', async () => {
    expect(await drawn()).toBeLessThan(40)
    await teacher.page.focus('[data-testid=grid]')
    await teacher.press('End', 'ArrowLeft')
    await teacher.page.waitForSelector('[aria-selected=true]')
    const last = await teacher.page.$eval('[aria-selected=true]', (c) => ({
      column: Number(c.getAttribute('data-at')?.split(':')[1]),
      left: c.getBoundingClientRect().left,
      right: c.getBoundingClientRect().right,
    }))
    const [names, marks] = await teacher.page.evaluate(() => [
      document.querySelector('[role=rowheader]')?.getBoundingClientRect().right ?? 0,
      document.querySelector('[role=columnheader]:nth-last-child(2)')?.getBoundingClientRect().left ?? 0,
    ])
    expect(last.column).toBeGreaterThanOrEqual(80)
    // In full view: neither under the names nor under the marks.
    expect(last.left).toBeGreaterThanOrEqual(names ?? 0)
    expect(last.right).toBeLessThanOrEqual((marks ?? 0) + 1)
    expect(await drawn()).toBeLessThan(40)
    await teacher.press('Home')
    await teacher.page.waitForSelector('[data-at="0:0"][aria-selected=true]')
    expect(await teacher.axe()).toEqual([])
  })
  test('says how many columns there are and which each is', async () => {
    const { count, indexes } = await teacher.page.evaluate(() => ({
      count: Number(document.querySelector('[role=grid]')?.getAttribute('aria-colcount')),
      indexes: [...document.querySelectorAll('[aria-rowindex="2"] > [aria-colindex]')].map((c) =>
        Number(c.getAttribute('aria-colindex')),
      ),
    }))
    expect(indexes).toEqual([...indexes].sort((a, b) => a - b))
    expect(indexes[0]).toBe(1)
    expect(indexes.at(-1)).toBe(count)
  })
  test('prints all of them', async () => {
    const printed = await teacher.page.evaluate(() => {
      window.dispatchEvent(new Event('beforeprint'))
      const cells = document.querySelectorAll('[data-at^="0:"]').length
      window.dispatchEvent(new Event('afterprint'))
      return cells
    })
    expect(printed).toBeGreaterThanOrEqual(82)
  })
  test('typing in a far column is kept there', async () => {
    await teacher.page.focus('[data-testid=grid]')
    await teacher.press('Home')
    for (let n = 0; n < 30; n++) await teacher.press('ArrowRight')
    await teacher.type('17')
    await teacher.press('Enter')
    await teacher.saved()
    expect(await cell(teacher, 0, 30)).toBe('17')
    await teacher.press('Control+z')
    await teacher.page.waitForFunction(
      () => (document.querySelector('[data-at="0:30"]') as HTMLElement).innerText.trim() === '',
    )
    await app.until(
      "select 1 from score s join assignment a on a.id = s.assignment_id where a.name like 'Piece 0%' and s.points is null",
    )
    await teacher.saved()
  })
})

describe('people', () => {
  test('narrow with every key, by name, number or homeroom; nobody is said so', async () => {
    await teacher.go('/people')
    const list = () =>
      teacher.page.$$eval('tbody th', (cells) =>
        // What the server sent may still lie beside, unseen, for a moment.
        (cells as HTMLElement[]).filter((c) => c.offsetParent !== null).map((c) => c.innerText.trim()),
      )
    await teacher.type('okonjo ilse')
    await teacher.sees('1 of 616')
    expect(await list()).toEqual(['Okonjo-Marsh, Ilse'])
    await teacher.fill('Name, number, year group or homeroom', '7 tern')
    await teacher.page.waitForFunction(() => {
      const homerooms = [...document.querySelectorAll('tbody td:last-child')].map((c) => c.textContent)
      return homerooms.length > 20 && homerooms.every((h) => h === '7 Tern')
    })
    expect(await list()).toContain('Okonjo-Marsh, Ilse')
    await teacher.fill('Name, number, year group or homeroom', 'nobody of that name')
    await teacher.sees('No matches. Check the spelling')
    expect(await teacher.axe()).toEqual([])
  })
  test('one who joined later is not among those on roll before', async () => {
    const [joined] = (await app.rows(
      `select s.sort_name as name, (lower(e.period) - 1)::text as before from enrolment e join student s on s.id = e.student_id
       where lower(e.period) > date '2026-09-14' order by 1 limit 1`,
    )) as [{ name: string; before: string }]
    await teacher.fill('Name, number, year group or homeroom', joined.name)
    await teacher.sees('1 of 616')
    await teacher.go(`/people?date=${joined.before}`)
    await teacher.type(joined.name)
    await teacher.sees('No matches. Check the spelling')
  })
  test('a teacher sees no act that is not a teacher’s', async () => {
    const words = await teacher.page.evaluate(() => document.body.innerText)
    expect(words).not.toContain('Enrol a student')
    await teacher.go('/people/enrol')
    await teacher.sees('Page not found')
  })
})

describe('findings', () => {
  test('every figure opens into the students behind it, and says who they are', async () => {
    await teacher.go(
      `/assessments/${await idOf("select id from assessment where name = 'Fair tests'")}/findings`,
    )
    const figures = await teacher.page.$$eval('main button', (all) =>
      all.map((b) => b.innerText.replace(/\s+/g, ' ').trim()).filter((t) => /\d/.test(t)),
    )
    expect(figures.length).toBeGreaterThan(5)
    const counts = figures
      .map((f) => /^(\d+) (secure|nearly|not yet)/.exec(f))
      .filter((m) => m !== null)
      .slice(0, 3)
    for (const [words, number] of counts) {
      await teacher.enterOn(words)
      await teacher.page.waitForFunction(
        (n) =>
          document.querySelectorAll('aside[aria-label="Students of the selected figure"] li').length === n,
        {},
        Number(number),
      )
    }
    expect(await teacher.axe()).toEqual([])
  })
  test('a class without a gradebook for the term is told so, with what to do', async () => {
    const assessmentId = await idOf("select id from assessment where name = 'Fair tests'")
    await app.rows(
      `insert into sitting_class (school_id, assessment_id, sitting_id, class_id)
       select school_id, $1, (select id from sitting where assessment_id = $1), id from class where name = '7 Navigation'`,
      [assessmentId],
    )
    const navigation = await classOf('7 Navigation')
    await app.rows('delete from score using assignment a where a.id = assignment_id and a.class_id = $1', [
      navigation,
    ])
    for (const table of ['assignment', 'category', 'gradebook'])
      await app.rows(`delete from ${table} where class_id = $1`, [navigation])
    await teacher.go(`/assessments/${assessmentId}/findings`)
    await teacher.enterOn('Add to gradebook')
    await teacher.sees('Set up its categories and weights first.')
  })
})

describe('the frame', () => {
  test('finds anybody by keys alone, and goes there', async () => {
    await teacher.go('/today')
    await teacher.press('Control+k')
    await teacher.page.waitForSelector('[role=dialog] [role=combobox]')
    await teacher.type('ilse okonjo')
    await teacher.page.waitForFunction(() =>
      document.querySelector('[role=dialog] [role=option]')?.textContent?.includes('Okonjo-Marsh, Ilse'),
    )
    await Promise.all([teacher.page.waitForNavigation(), teacher.press('Enter')])
    await teacher.sees('Guardians, in the order to call')
  })
  test('tells the keys of the page one is on', async () => {
    await teacher.go(`/classes/${await classOf('8 Science A')}/marks`)
    await teacher.page.evaluate(() => (document.activeElement as HTMLElement).blur())
    await teacher.press('?')
    await teacher.sees('Copy, or paste from a spreadsheet, also with names in front')
    await teacher.press('Escape')
    await dialogGone(teacher)
  })
  test('the year line is drawn along with the mouse', async () => {
    await teacher.go('/today')
    const line = await teacher.page.$('[data-part=year] svg')
    const box = await line?.boundingBox()
    if (!box) throw new Error('there is no year line')
    await teacher.page.mouse.move(box.x + box.width * 0.24, box.y + box.height / 2)
    await teacher.page.mouse.down()
    await teacher.page.mouse.move(box.x + box.width * 0.18, box.y + box.height / 2, { steps: 6 })
    await teacher.page.mouse.move(box.x + box.width * 0.1, box.y + box.height / 2, { steps: 6 })
    await teacher.page.mouse.up()
    await teacher.sees(', not today.')
    expect(new URL(teacher.page.url()).searchParams.get('date')).toMatch(/^2026-(09|10)-\d\d$/)
    await teacher.enterOn('Back to today')
    await teacher.seesNot(', not today')
  })
})

test('a part that cannot be fetched says so and can be tried again; the page goes on', async () => {
  const person = await app.signedIn('e.leask')
  await person.go('/people')
  let away = true
  await person.page.setRequestInterception(true)
  person.page.on('request', (request) => {
    if (away && request.url().includes('/_next/static/')) void request.abort()
    else void request.continue()
  })
  await person.page.evaluate(() => (document.activeElement as HTMLElement).blur())
  await person.press('?')
  await person.sees('This part could not be loaded.')
  expect(await person.axe()).toEqual([])
  await person.sees('616 on roll')
  away = false
  await person.enterOn('Try again')
  await person.sees('In a date field: open the calendar')
  await person.close()
})

describe('background work', () => {
  test('can be cancelled and tried again; the PDF is there once it is done', async () => {
    const head = await app.signedIn('s.kirkness')
    await head.go(`/reports/${await idOf('select id from report_round')}`)
    // With no worker there it waits; so it can surely be stopped before it begins.
    const worker = app.running.worker
    const gone = new Promise((resolve) => worker.once('exit', resolve))
    worker.kill('SIGKILL')
    await gone
    await head.enterOn('Print everyone as one PDF')
    await app.until("select 1 from job where state = 'waiting'")
    await head.sees(': queued')
    // It stands in the head of every page.
    await head.go('/today')
    const line = () => head.page.$eval('[data-saved] button', (e) => e.innerText)
    expect(await line()).toMatch(/, cards of everyone: queued$/)
    await head.enterOn(await line())
    await head.sees('This continues when you leave the page.')
    await head.enterOn('Cancel')
    await head.sees(': cancelled')
    expect(await head.axe()).toEqual([])
    await head.enterOn('Try again')
    await head.sees(': queued')
    app.running.startWorker()
    await head.page.waitForSelector('[data-job=done]')
    const address = await head.page.$eval('[data-job=done] a', (a) => (a as HTMLAnchorElement).href)
    const pdf = await head.page.evaluate(async (href) => {
      const response = await fetch(href)
      return [response.headers.get('content-type'), (await response.arrayBuffer()).byteLength] as const
    }, address)
    expect(pdf[0]).toBe('application/pdf')
    expect(pdf[1]).toBeGreaterThan(50000)
    // Once it was fetched the head is free again; the round still lists it.
    await head.sees('Nothing is in progress.')
    await head.press('Escape')
    await head.page.waitForSelector('[data-saved] button', { hidden: true })
    await head.go(`/reports/${await idOf('select id from report_round')}`)
    await head.sees('Earlier prints and releases')
    expect(head.complaints).toEqual([])
    await head.close()
  })
})

describe('a date', () => {
  const shown = (person: Person, label: string) =>
    person.page.$eval(`aria/${label}`, (e) => (e as HTMLInputElement).value)
  let office: Person
  beforeAll(async () => {
    office = await app.signedIn('e.leask')
    await office.go('/people/enrol')
  })
  afterAll(async () => {
    expect(office.complaints).toEqual([])
    await office.close()
  })

  test('is typed day before month and shown in words once it is left', async () => {
    await office.fill('Birth date', '3/4/14')
    await office.press('Tab')
    expect(await shown(office, 'Birth date')).toBe('Thu 3 Apr 2014')
    await office.focus('Birth date')
    await office.press('ArrowUp', 'ArrowUp', 'PageDown')
    expect(await shown(office, 'Birth date')).toBe('Sat 29 Mar 2014')
    await office.fill('First day of enrolment', 'tomorrow')
    await office.press('Tab')
    expect(await shown(office, 'First day of enrolment')).toBe('Tue 24 Nov 2026')
  })
  test('that is none stays as it was typed and is pointed out, each wrong field by itself', async () => {
    await office.fill('Birth date', '31 February')
    await office.enterOn('Enrol')
    await office.sees('Nothing was saved. Check the 8 highlighted fields.')
    await office.sees('This is not a date. Write day, month and year, such as 23 Nov 2026.')
    expect(await shown(office, 'Birth date')).toBe('31 February')
    const focused = await office.page.evaluate(() => (document.activeElement as HTMLElement).ariaInvalid)
    expect(focused).toBe('true')
    expect(await office.axe()).toEqual([])
  })
})

describe('the number beside Today', () => {
  const due = () =>
    teacher.page.$eval('[data-part=rail] a[href="/today"]', (a) =>
      Number(/\d+/.exec(a.textContent ?? '')?.[0]),
    )
  test('falls when one completes a register oneself, and rises when one takes it back', async () => {
    await teacher.go(`/attendance/registers/${await idOf("select id from homeroom where name = '7 Tern'")}`)
    const before = await due()
    await teacher.press('.')
    await teacher.sees('marked present.')
    const falls = async (to: number) =>
      teacher.page.waitForFunction(
        (n) => document.querySelector('[data-part=rail] a[href="/today"]')?.textContent?.includes(String(n)),
        {},
        to,
      )
    await falls(before - 1)
    await teacher.press('.')
    await teacher.sees('Everyone on roll already has a mark.')
    await teacher.press('Control+z')
    await teacher.sees('Undone: Present for the rest')
    await falls(before)
    await teacher.saved()
  })
})

describe('answers', () => {
  test('left empty are removed, said so, and can be restored', async () => {
    const assessmentId = await idOf("select id from assessment where name = 'Fair tests'")
    const [sheet] = (await app.rows(
      `select st.sort_name as name, st.id from attempt s join student st on st.id = s.student_id
       where s.assessment_id = $1 and s.state = 'handed in' order by 1 offset 2 limit 1`,
      [assessmentId],
    )) as [{ name: string; id: string }]
    const given = `select 1 from response where assessment_id = '${assessmentId}' and student_id = '${sheet.id}'`
    await teacher.go(`/assessments/${assessmentId}/answers`)
    const label = `Answers of ${sheet.name}`
    const letters = await teacher.page.$eval(`aria/${label}`, (e) => (e as HTMLInputElement).value)
    await teacher.focus(label)
    await teacher.press('Control+a', 'Backspace')
    // Empty for a moment while one types is not removed.
    expect((await app.rows(given)).length).toBeGreaterThan(0)
    await teacher.type(letters.slice(0, 4))
    await teacher.sees(`${letters.length - 4} remaining`)
    await teacher.press('Control+a', 'Backspace', 'Enter')
    await teacher.sees('were removed.')
    await teacher.saved()
    expect(await app.rows(given)).toEqual([])
    expect(await teacher.axe()).toEqual([])
    await teacher.enterOn('Undo')
    await app.until(given)
    await teacher.seesNot('were removed.')
    expect(await teacher.page.$eval(`aria/${label}`, (e) => (e as HTMLInputElement).value)).toBe(letters)
    await teacher.saved()
  })
})

describe('answers somebody else types meanwhile', () => {
  test('are neither overwritten nor removed unseen', async () => {
    const assessmentId = await idOf("select id from assessment where name = 'Fair tests'")
    const [free] = (await app.rows(
      `select st.sort_name as name, st.id from attempt s right join class_member m on m.student_id = s.student_id and s.assessment_id = $1
       join student st on st.id = m.student_id join class c on c.id = m.class_id and c.name = '8 Science A'
       where s.student_id is null and upper_inf(m.period) order by 1 limit 1`,
      [assessmentId],
    )) as [{ name: string; id: string }]
    const label = `Answers of ${free.name}`
    const value = (person: Person) => person.page.$eval(`aria/${label}`, (e) => (e as HTMLInputElement).value)
    await teacher.go(`/assessments/${assessmentId}/answers`)
    const elsewhere = await app.signedIn('r.achterberg')
    await elsewhere.go(`/assessments/${assessmentId}/answers`)
    await teacher.focus(label)
    await teacher.type('BAD')
    await elsewhere.focus(label)
    await elsewhere.type('BADCBDACBDCA')
    await elsewhere.saved()
    // One who began where nothing stood and empties the field has removed nothing.
    await teacher.press('Control+a', 'Backspace', 'Enter')
    await teacher.page.waitForFunction(
      (l) => document.querySelector<HTMLInputElement>(`[aria-label="${l}"]`)?.value === 'BADCBDACBDCA',
      {},
      label,
    )
    // One who began before the other changed it is shown both.
    await teacher.focus(label)
    await teacher.press('End', 'Backspace')
    await elsewhere.fill(label, 'AAAAAAAAAAAA')
    await app.until(
      `select 1 from response where student_id = '${free.id}' and assessment_id = '${assessmentId}' group by student_id having count(*) filter (where value = '"A"') = 12`,
    )
    await teacher.type('B')
    await teacher.sees('entered AAAAAAAAAAAA while you were entering BADCBDACBDCB')
    await teacher.enterOn('Keep AAAAAAAAAAAA')
    expect(await value(elsewhere)).toBe('AAAAAAAAAAAA')
    expect(elsewhere.complaints).toEqual([])
    await elsewhere.close()
  })
})

describe('a mark among the report entries', () => {
  test('opens the gradebook in that student’s row, with how it came about beside it', async () => {
    const science = await classOf('7 Science A')
    await teacher.go(`/classes/${science}/entries/${await idOf('select id from report_round')}`)
    const [name, mark] = await teacher.page.$$eval('li[data-student]', (rows) => {
      const row = rows[6] as HTMLElement
      return [row.dataset.student ?? '', row.querySelector('strong')?.textContent ?? ''] as const
    })
    await Promise.all([
      teacher.page.waitForNavigation(),
      teacher.page.$eval(`li[data-student="${name}"] a`, (a) => (a as HTMLElement).click()),
    ])
    await teacher.page.waitForFunction(
      (student) =>
        document.querySelector('[aria-selected=true]')?.getAttribute('aria-label')?.startsWith(student),
      {},
      name,
    )
    expect(await teacher.text('[data-testid=explanation]')).toContain(mark)
  })
})

describe('the year line', () => {
  test('stays in sight while one scrolls, and hides nothing one walks to by keys', async () => {
    await teacher.go('/people')
    for (const width of [1280, 768]) {
      await teacher.page.setViewport({ width, height: 800 })
      await teacher.page.evaluate(() => window.scrollTo(0, 2000))
      const line = await teacher.page.$eval('[data-part=year]', (e) => {
        const box = e.getBoundingClientRect()
        return { top: box.top, bottom: box.bottom }
      })
      expect(line.top).toBe(0)
      // Walking back up, each link comes to stand below it.
      for (let n = 0; n < 12; n++) await teacher.press('Shift+Tab')
      const focused = await teacher.page.evaluate(
        () => document.activeElement?.getBoundingClientRect().top ?? 0,
      )
      expect(focused).toBeGreaterThanOrEqual(line.bottom)
    }
    await teacher.page.setViewport({ width: 1280, height: 480 })
    await teacher.page.evaluate(() => window.scrollTo(0, 2000))
    // A low screen keeps its room for the work.
    expect(
      await teacher.page.$eval('[data-part=year]', (e) => e.getBoundingClientRect().bottom),
    ).toBeLessThan(0)
    await teacher.page.setViewport({ width: 1280, height: 800 })
  })
})

describe('on a tablet', () => {
  beforeAll(() => teacher.page.setViewport({ width: 768, height: 1024, hasTouch: true }))
  afterAll(() => teacher.page.setViewport({ width: 1280, height: 800 }))
  const place = (selector: string) =>
    teacher.page.$eval(selector, (e) => {
      const { top, bottom, height } = e.getBoundingClientRect()
      return { top, bottom, height }
    })

  test('the codes open within reach at the bottom, and no row one comes to lies under them', async () => {
    await teacher.go(`/attendance/registers/${await idOf("select id from homeroom where name = '6 Tern'")}`)
    await teacher.sees('not marked')
    expect((await place('aside')).height).toBe(0)
    await teacher.enterOn('Codes and contacts')
    await teacher.page.waitForSelector('aside[data-open]')
    await teacher.page.focus('[data-student][data-focus-home]')
    await teacher.press('End')
    const margin = await place('aside')
    expect(Math.round(margin.bottom)).toBe(1024)
    expect(margin.height).toBeLessThanOrEqual(0.62 * 1024 + 1)
    expect((await place('[data-student]:focus')).bottom).toBeLessThanOrEqual(margin.top)
    await teacher.press('Home')
    expect((await place('[data-student]:focus')).top).toBeGreaterThanOrEqual(64)
    expect(await teacher.axe()).toEqual([])
  })
  test('a register is taken by finger: the student, then the code, and the next one is chosen', async () => {
    const names = await teacher.page.$$eval('[data-student]', (cells) =>
      cells.map((c) => (c as HTMLElement).dataset.student ?? ''),
    )
    await teacher.page.tap(`[data-student="${names[2]}"]`)
    const palette = await teacher.page.$$('aside [aria-label=Codes] button')
    for (const button of palette)
      if ((await button.evaluate((b) => b.innerText.replace(/\s+/g, ' '))).startsWith('L '))
        await button.tap()
    await teacher.page.waitForFunction(
      (name) => (document.activeElement as HTMLElement).dataset.student === name,
      {},
      names[3],
    )
    expect(await teacher.text(`[data-student="${names[2]}"]`)).toBe('L')
    await teacher.saved()
    await teacher.press('Control+z')
    await teacher.saved()
  })
  test('several scores are chosen by finger, filled down, and taken back', async () => {
    await teacher.page.setViewport({ width: 768, height: 1024, hasTouch: true, isMobile: true })
    await teacher.go(`/classes/${await classOf('8 Science A')}/marks`)
    const column = () =>
      teacher.page.$$eval('#cell-0-1, #cell-1-1, #cell-2-1', (cells) => cells.map((c) => c.textContent))
    const before = await column()
    await teacher.page.tap('#cell-0-1')
    await teacher.enterOn('Choose several')
    await teacher.page.tap('#cell-2-1')
    await teacher.page.waitForFunction(
      () => document.querySelectorAll('[role=gridcell][aria-selected=true]').length === 3,
    )
    await teacher.enterOn('Fill down')
    await teacher.sees('2 cells filled down')
    expect(await column()).toEqual([before[0], before[0], before[0]])
    expect(await teacher.axe()).toEqual([])
    await teacher.enterOn('Done with several')
    await teacher.page.focus('[data-testid=grid]')
    await teacher.press('Control+z')
    await teacher.saved()
    expect(await column()).toEqual(before)
    await teacher.page.setViewport({ width: 768, height: 1024, hasTouch: true })
  })
  test('the explanation of a mark opens over the lower part, and Escape closes it', async () => {
    await teacher.go(`/classes/${await classOf('8 Science A')}/marks`)
    for (let n = 0; n < 30; n++) await teacher.press('ArrowDown')
    await teacher.enterOn('How it is worked out')
    await teacher.page.waitForSelector('aside[data-open]')
    const margin = await place('aside')
    expect(Math.round(margin.bottom)).toBe(1024)
    await teacher.press('Escape')
    await teacher.page.waitForFunction(() => !document.querySelector('aside[data-open]'))
    expect(await teacher.axe()).toEqual([])
  })
})

test('nobody’s console complained', () => {
  expect(teacher.complaints).toEqual([])
})
