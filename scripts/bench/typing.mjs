// From a key to the paint that follows it: in a register of 40 students while a colleague's marks arrive, and in a
// gradebook of 35 students and 120 assignments. And how many keys and clicks a register takes.
import { randomUUID } from 'node:crypto'
import { join } from 'node:path'
import { signInPage } from '../lib/chromium.mjs'
import { dataGridPage } from './data-grid.mjs'
import { cookieOf } from './pages.mjs'
import { at, ms, row } from './table.mjs'

const fill = ({ school, classId }) => `set kedge.history = 'off';
  insert into class_member (school_id, class_id, student_id, period) select '${school}', '${classId}', s.id, '[2026-09-01,)' from student s
    where s.number is not null and not exists (select 1 from class_member m where m.class_id = '${classId}' and m.student_id = s.id)
    limit greatest(0, 35 - (select count(*)::int from class_member where class_id = '${classId}' and upper_inf(period)));
  insert into assignment (school_id, id, class_id, term_id, category_id, name, max_points, due_on)
    select c.school_id, gen_random_uuid(), c.class_id, c.term_id, c.id, 'Piece ' || n, 20, '2026-11-01' from category c join term t on t.id = c.term_id and t.name = 'Autumn', generate_series(1, 120 - (select count(*)::int from assignment a join term t on t.id = a.term_id where a.class_id = '${classId}' and t.name = 'Autumn')) n where c.class_id = '${classId}' and c.position = 3;
  insert into score (school_id, assignment_id, student_id, points, changed_by) select a.school_id, a.id, m.student_id, 12, 'Benchmark' from assignment a join class_member m on m.class_id = a.class_id and upper_inf(m.period) where a.class_id = '${classId}' and a.name like 'Piece%' on conflict do nothing;
  insert into mark_column (school_id, id, class_id, term_id, name, does, position)
    select '${school}', gen_random_uuid(), '${classId}', t.id, 'Mean ' || n, 'mean', 50 + n from term t, generate_series(1, 10) n
    where t.name = 'Autumn' and exists (select 1 from class_term c where c.term_id = t.id and c.class_id = '${classId}')
    and not exists (select 1 from mark_column m where m.class_id = '${classId}' and m.name = 'Mean 1');
  insert into mark_column_part (school_id, column_id, position, assignment_id)
    select m.school_id, m.id, p.at, p.id from mark_column m
    join (select a.id, a.term_id, row_number() over (order by a.id) as at from assignment a where a.class_id = '${classId}') p
      on p.term_id = m.term_id and (p.at - 1) / 12 + 1 = m.position - 50
    where m.class_id = '${classId}' and m.name like 'Mean %' on conflict do nothing`

/** Presses keys fifteen times a second: faster than anybody types marks, slow enough that each stroke is one of its own. */
async function strokes(page, keys) {
  await page.evaluate(() => {
    window.strokes = []
    addEventListener(
      'keydown',
      () => {
        const from = performance.now()
        requestAnimationFrame(() => {
          const channel = new MessageChannel()
          channel.port1.onmessage = () => window.strokes.push(performance.now() - from)
          channel.port2.postMessage(0)
        })
      },
      { capture: true },
    )
  })
  for (const key of keys) {
    await page.keyboard.press(key)
    await new Promise((resolve) => setTimeout(resolve, 65))
  }
  return page.evaluate(() => window.strokes)
}

/** Forty students in the homeroom, from the other homerooms. */
const fillHomeroom = ({ school, homeroomId, day }) => `set kedge.history = 'off';
  with moved as (update homeroom_member set period = daterange(lower(period), '${day}') where school_id = '${school}' and upper_inf(period)
    and lower(period) < '${day}' and student_id in (select m.student_id from homeroom_member m where m.school_id = '${school}'
      and m.homeroom_id <> '${homeroomId}' and upper_inf(m.period) and lower(m.period) < '${day}' order by 1
      limit greatest(0, 40 - (select count(*)::int from homeroom_member where homeroom_id = '${homeroomId}' and upper_inf(period))))
    returning school_id, student_id)
  insert into homeroom_member (school_id, homeroom_id, student_id, period)
    select school_id, '${homeroomId}', student_id, daterange('${day}', null) from moved`

/** A colleague who marks the same register's last students, over and over, until told to stop. */
async function colleague({ cluster, name, app, homeroomId, day, school }) {
  const cookie = await cookieOf(app, 'e.leask')
  const code = (c) =>
    cluster.psql(name, `select id from attendance_code where school_id = '${school}' and code = '${c}'`)
  const codes = [code('P'), code('A1')]
  const last = cluster
    .psql(
      name,
      `select m.student_id from homeroom_member m join student s on s.id = m.student_id where m.homeroom_id = '${homeroomId}' and upper_inf(m.period) order by s.sort_name desc limit 5`,
    )
    .split('\n')
  const expectedVersion = new Map()
  let stopped = false
  let sent = 0
  const going = (async () => {
    for (let n = 0; !stopped; n++) {
      const studentId = last[n % last.length]
      const response = await fetch(`${app.url}/api/command/attendance.setMarks`, {
        method: 'POST',
        headers: { cookie, 'content-type': 'application/json' },
        body: JSON.stringify({
          key: randomUUID(),
          input: {
            homeroomId,
            date: day,
            session: 'morning',
            cells: [
              {
                key: { studentId },
                value: { codeId: codes[Math.floor(n / last.length) % 2], minutesLate: null, note: null },
                expectedVersion: expectedVersion.get(studentId) ?? 0,
              },
            ],
          },
        }),
      })
      const answer = await response.json()
      if (answer.ok) {
        expectedVersion.set(studentId, answer.value[0].version)
        sent++
      }
      await new Promise((resolve) => setTimeout(resolve, 300))
    }
  })()
  return {
    async stop() {
      stopped = true
      await going
      return sent
    },
  }
}

/** From Today to a register of 28 that is saved, two of them not present: every key and click is counted. */
async function countStrokes(cluster, page, { app, name, homeroomId, day }) {
  let strokes = 0
  const press = async (key) => {
    strokes++
    await page.keyboard.press(key)
  }
  const click = async (index) => {
    strokes++
    await (await page.$$('[data-student]'))[index].click()
  }
  await page.goto(`${app.url}/today`, { waitUntil: 'networkidle2' })
  await page.waitForFunction(() => document.activeElement?.hasAttribute('data-first'))
  await press('Enter')
  await page.waitForSelector('[data-student][data-focus-home]')
  await click(4)
  await press('l')
  await click(17)
  await press('a')
  await press('.')
  await page.waitForFunction(
    () =>
      document.querySelector('[data-testid=counts]')?.innerText.includes('0 not marked') &&
      document.querySelector('[data-saved]')?.getAttribute('data-saved') === 'yes' &&
      /students marked/.test(document.body.innerText),
  )
  const saved = cluster.psql(
    name,
    `select string_agg(n || ' ' || code, ', ' order by n desc) from (select c.code, count(*) as n from attendance_mark m
     join attendance_code c on c.id = m.code_id where m.homeroom_id = '${homeroomId}' and m.session_date = '${day}' and m.session = 'morning' group by 1) x`,
  )
  console.log('\nFrom Today to a saved register')
  row('keys and clicks', strokes)
  row('marks saved', saved)
}

/** Prints keystroke-to-paint times of the two grids people type in most. */
export async function measureTyping(cluster, browser, opened, data) {
  cluster.psql(opened.name, fill(opened))
  const page = await browser.newPage()
  page.on('dialog', (dialog) => void dialog.accept())
  await page.setViewport({ width: 1280, height: 800 })
  await signInPage(page, opened.app.url, 'r.achterberg')
  await countStrokes(cluster, page, opened)
  cluster.psql(opened.name, fillHomeroom(opened))
  const inputs = Array.from({ length: 40 }, () => '<tr><td>Name<td><input></tr>').join('')
  const grids = [
    ['reference: an empty page', 'about:blank', Array(80).fill('a')],
    [
      'reference: a table of 40 inputs',
      `data:text/html,<table>${inputs}</table><script>document.querySelector('input').focus()</script>`,
      Array(80).fill('a'),
    ],
    [
      'register of 40, live',
      `${opened.app.url}/attendance/registers/${opened.homeroomId}`,
      ['Home', ...Array(6).fill(['p', 'a', '1', 'l', 'ArrowUp', 'p', 'p', 'a', '2', 'p']).flat()],
    ],
    [
      'reference: a data grid, 35 × 120 + 10',
      dataGridPage(join(data, 'bench-grid.html')),
      Array(10).fill(['1', '2', 'ArrowDown', '9', '.', '5', 'ArrowDown', 'Tab', '7', 'ArrowDown']).flat(),
    ],
    [
      'gradebook, 35 × 120 + 10 calculated',
      `${opened.app.url}/classes/${opened.classId}/marks`,
      Array(10).fill(['1', '2', 'Enter', '9', '.', '5', 'Enter', 'ArrowRight', '7', 'Enter']).flat(),
    ],
  ]
  console.log('\nKeystroke to paint in Chromium (one frame is 16.7 ms; waiting for the frame is part of it)')
  row('', 'median', '95 %', 'median warm', '95 % warm')
  for (const [name, url, keys] of grids) {
    await page.goto(url, { waitUntil: 'networkidle2' })
    const beside = name.endsWith('live') ? await colleague({ cluster, ...opened }) : undefined
    // The first keys on a page are slower, because the browser has yet to compile what they run.
    const times = await strokes(page, Array(5).fill(keys).flat())
    const arrived = await beside?.stop()
    if (arrived !== undefined) row("a colleague's marks meanwhile", arrived)
    const [first, later] = [times.slice(0, keys.length), times.slice(keys.length)]
    row(name, ...[first, later].flatMap((part) => [ms(at(part, 0.5)), ms(at(part, 0.95))]))
  }
  await page.close()
}
