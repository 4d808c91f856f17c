// From a key to the paint that follows it, in the register and in a gradebook of 35 students and 120 assignments.
import { signInPage } from '../lib/chromium.mjs'
import { at, ms, row } from './table.mjs'

const fill = ({ school, classId }) => `set kedge.history = 'off';
  insert into class_member (school_id, class_id, student_id, period) select '${school}', '${classId}', s.id, '[2026-09-01,)' from student s
    where s.number is not null and not exists (select 1 from class_member m where m.class_id = '${classId}' and m.student_id = s.id)
    limit greatest(0, 35 - (select count(*)::int from class_member where class_id = '${classId}' and upper_inf(period)));
  insert into assignment (school_id, id, class_id, term_id, category_id, name, max_points, due_on)
    select c.school_id, gen_random_uuid(), c.class_id, c.term_id, c.id, 'Piece ' || n, 20, '2026-11-01' from category c join term t on t.id = c.term_id and t.name = 'Autumn', generate_series(1, 120 - (select count(*)::int from assignment a join term t on t.id = a.term_id where a.class_id = '${classId}' and t.name = 'Autumn')) n where c.class_id = '${classId}' and c.position = 3;
  insert into score (school_id, assignment_id, student_id, points, changed_by) select a.school_id, a.id, m.student_id, 12, 'Benchmark' from assignment a join class_member m on m.class_id = a.class_id and upper_inf(m.period) where a.class_id = '${classId}' and a.name like 'Piece%' on conflict do nothing`

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

/** Prints keystroke-to-paint times of the two grids people type in most. */
export async function measureTyping(cluster, browser, opened) {
  cluster.psql(opened.name, fill(opened))
  const page = await browser.newPage()
  page.on('dialog', (dialog) => void dialog.accept())
  await page.setViewport({ width: 1280, height: 800 })
  await signInPage(page, opened.app.url, 'r.achterberg')
  const grids = [
    ['reference: an empty page', 'about:blank', Array(80).fill('a')],
    [
      'register',
      `${opened.app.url}/attendance/registers/${opened.homeroomId}`,
      ['Home', ...Array(6).fill(['p', 'a', '1', 'l', 'ArrowUp', 'p', 'p', 'a', '2', 'p']).flat()],
    ],
    [
      'gradebook, 35 × 120',
      `${opened.app.url}/classes/${opened.classId}/marks`,
      Array(10).fill(['1', '2', 'Enter', '9', '.', '5', 'Enter', 'ArrowRight', '7', 'Enter']).flat(),
    ],
  ]
  console.log('\nKeystroke to paint in Chromium (one frame is 16.7 ms; waiting for the frame is part of it)')
  row('', 'median', '95 %', 'median warm', '95 % warm')
  for (const [name, url, keys] of grids) {
    await page.goto(url, { waitUntil: 'networkidle2' })
    // The first keys on a page are slower, because the browser has yet to compile what they run.
    const times = await strokes(page, Array(5).fill(keys).flat())
    const [first, later] = [times.slice(0, keys.length), times.slice(keys.length)]
    row(name, ...[first, later].flatMap((part) => [ms(at(part, 0.5)), ms(at(part, 0.95))]))
  }
  await page.close()
}
