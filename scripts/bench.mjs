// npm run bench: speed as ratios to a reference measured in the same run. Nothing here passes or fails on time.
// KEDGE_BENCH_SCHOOLS sets how many schools the large size has (40 make 50,000 students and take about twenty minutes to load).
import { gzipSync } from 'node:zlib'
import { spawnSync } from 'node:child_process'
import { join } from 'node:path'
import {
  ensureBuild,
  ensureDataFolder,
  ensureDebianPackages,
  ensureNodeModules,
  root,
} from './lib/bootstrap.mjs'

ensureDebianPackages(['postgresql', 'chromium'])
ensureNodeModules()
const data = ensureDataFolder()
ensureBuild()
const { default: puppeteer } = await import('puppeteer-core')
const { startCluster, ensureDatabase } = await import('./lib/postgres.mjs')
const { environment, startApplication } = await import('./lib/application.mjs')
const { kedge } = await import('./lib/tools.mjs')

const row = (name, ...values) =>
  console.log(`  ${name.padEnd(34)}${values.map((v) => String(v).padStart(13)).join('')}`)
const sorted = (xs) => [...xs].sort((a, b) => a - b)
const at = (xs, share) => sorted(xs)[Math.min(xs.length - 1, Math.floor(xs.length * share))] ?? NaN
const ms = (x) => `${x.toFixed(1)} ms`
const typescript = (file, ...args) =>
  spawnSync(
    process.execPath,
    ['--expose-gc', '--import', 'tsx', join(root, 'scripts/bench', file), ...args],
    { cwd: root, encoding: 'utf8', stdio: ['ignore', 'pipe', 'inherit'] },
  )

console.log(typescript('arithmetic.ts').stdout)

const chromium = [
  '--no-sandbox',
  '--disable-gpu',
  '--disable-quic',
  '--no-first-run',
  '--disable-background-networking',
  '--disable-component-update',
  '--disable-sync',
]
const browser = await puppeteer.launch({ executablePath: '/usr/bin/chromium', args: chromium })

{
  const page = join(data, 'bench-cards.html')
  const own = JSON.parse(typescript('cards.ts', page).stdout)
  const tab = await browser.newPage()
  const from = performance.now()
  await tab.goto(`file://${page}`)
  await tab.pdf({ format: 'A4', tagged: true, timeout: 0 })
  const reference = performance.now() - from
  await tab.close()
  console.log('620 report cards in one PDF')
  row('Kedge', ms(own.milliseconds), `${own.pages} pages`, `${(own.bytes / 1048576).toFixed(1)} MiB`)
  row('headless Chromium, same contents', ms(reference))
  row('Kedge / Chromium', (own.milliseconds / reference).toFixed(3))
  row('heap after each tenth, MiB', own.heap.join(' '))
}

const cluster = await startCluster(join(data, 'test-postgres'), { durable: false })
const schools = Number(process.env.KEDGE_BENCH_SCHOOLS ?? 40)

function prepare(size) {
  const name = size === 'demo' ? 'kedge_bench_demo' : `kedge_bench_large_${schools}`
  const env = environment(cluster, name, { KEDGE_COUNT_QUERIES: '1' })
  // The demo's is made anew, since measuring the gradebook fills it; the large one takes long and is kept.
  if (size === 'demo') cluster.psql('postgres', `drop database if exists ${name} with (force)`)
  if (ensureDatabase(cluster, name)) {
    kedge(['migrate'], env)
    kedge(
      size === 'demo'
        ? ['demo', 'load', '--date', '2026-11-23']
        : ['demo', 'large', '--schools', String(schools)],
      env,
    )
  }
  return { name, env }
}

async function signedIn(app, username) {
  const response = await fetch(`${app.url}/api/sign-in`, {
    method: 'POST',
    headers: { 'content-type': 'application/json' },
    body: JSON.stringify({ username, password: 'harbour lights at dusk' }),
  })
  return response.headers
    .getSetCookie()
    .map((c) => c.split(';')[0])
    .join('; ')
}

async function pages(size) {
  const { name, env } = prepare(size)
  const now = size === 'demo' ? '2026-11-23T09:05:00' : '2027-06-14T09:05:00'
  const app = await startApplication({ ...env, KEDGE_NOW: now }, { quiet: true })
  const id = (statement) => cluster.psql(name, `${statement} order by 1 limit 1`)
  const school = id("select id from school where short_name in ('wrackline', 'bench-1')")
  const own = (table, where) => id(`select id from ${table} where school_id = '${school}' and ${where}`)
  const classId = own('class', "name = '8 Science A'")
  const homeroomId = own('homeroom', "name = '7 Tern'")
  const round = id('select id from report_round')
  const assessment = id('select id from assessment')
  const day = now.slice(0, 10)
  // The bare SQL is the one statement that fetches the rows the page cannot do without.
  const list = [
    [
      'today',
      'r.achterberg',
      '/today',
      `select count(*) from attendance_mark where school_id = '${school}' and session_date = '${day}' and code_id is not null`,
    ],
    [
      'people',
      'e.leask',
      '/people',
      `select s.id, s.sort_name from enrolment e join student s using (school_id) where s.id = e.student_id and school_id = '${school}' and e.period @> '${day}'::date order by s.sort_name`,
    ],
    [
      'register',
      'r.achterberg',
      `/homerooms/${homeroomId}/register`,
      `select m.* from attendance_mark m join homeroom_member h using (school_id, student_id) where m.school_id = '${school}' and h.homeroom_id = '${homeroomId}' and h.period @> '${day}'::date and m.session_date > date '${day}' - 21`,
    ],
    [
      'gradebook',
      'r.achterberg',
      `/classes/${classId}/gradebook`,
      `select s.* from assignment a join score s on s.school_id = a.school_id and s.assignment_id = a.id where a.school_id = '${school}' and a.class_id = '${classId}'`,
    ],
    [
      'classes',
      'm.vester',
      '/classes',
      `select id, name from class where school_id = '${school}' order by name`,
    ],
    ...(assessment
      ? [
          [
            'findings',
            'r.achterberg',
            `/assessments/${assessment}/findings`,
            `select * from answer where school_id = '${school}' and assessment_id = '${assessment}'`,
          ],
        ]
      : []),
    ...(round
      ? [
          [
            'round',
            's.kirkness',
            `/reports/${round}`,
            `select * from report_entry where school_id = '${school}' and round_id = '${round}'`,
          ],
          [
            'entries',
            's.kirkness',
            `/reports/${round}/classes/${own('class', "name = '7 English A'")}`,
            `select * from report_entry where school_id = '${school}' and round_id = '${round}'`,
          ],
        ]
      : []),
  ]
  console.log(
    `\nServer time of pages, size ${size}${size === 'large' ? `, ${schools} schools` : ''} (median of 30)`,
  )
  row('', 'page', '95 %', 'bare SQL', 'page / SQL', 'statements')
  const { default: pg } = await import('pg')
  const client = new pg.Client({ connectionString: cluster.url('postgres', name) })
  await client.connect()
  const cookies = new Map()
  for (const [label, user, path, statement] of list) {
    if (!cookies.has(user)) cookies.set(user, await signedIn(app, user))
    const headers = { cookie: cookies.get(user) }
    const queries = async () => (await (await fetch(`${app.url}/api/health`)).json()).queries
    const times = []
    const bare = []
    for (let n = 0; n < 35; n++) {
      const from = performance.now()
      const response = await fetch(app.url + path, { headers })
      await response.text()
      if (n >= 5) times.push(performance.now() - from)
      if (response.status !== 200) throw new Error(`${path} answered ${response.status}`)
      const sqlFrom = performance.now()
      await client.query(statement)
      if (n >= 5) bare.push(performance.now() - sqlFrom)
    }
    const before = await queries()
    await (await fetch(app.url + path, { headers })).text()
    const sent = (await queries()) - before - 1
    row(
      label,
      ms(at(times, 0.5)),
      ms(at(times, 0.95)),
      ms(at(bare, 0.5)),
      (at(times, 0.5) / at(bare, 0.5)).toFixed(1),
      sent,
    )
  }
  await client.end()
  return { app, name, env, classId, homeroomId, list, school }
}

/** From the key event to the paint that follows it, and how long the page's own code took of it. */
async function typing(page, label, keys) {
  await page.evaluate(() => {
    window.strokes = []
    addEventListener(
      'keydown',
      () => {
        const from = performance.now()
        requestAnimationFrame(() => {
          const worked = performance.now() - from
          const channel = new MessageChannel()
          channel.port1.onmessage = () => window.strokes.push([performance.now() - from, worked])
          channel.port2.postMessage(0)
        })
      },
      { capture: true },
    )
  })
  // Fifteen keys a second: faster than anybody types marks, slow enough that each stroke is one of its own.
  for (const key of keys) {
    await page.keyboard.press(key)
    await new Promise((resolve) => setTimeout(resolve, 65))
  }
  const strokes = await page.evaluate(() => window.strokes)
  row(
    label,
    ms(
      at(
        strokes.map((s) => s[0]),
        0.5,
      ),
    ),
    ms(
      at(
        strokes.map((s) => s[0]),
        0.95,
      ),
    ),
    `${strokes.length} keys`,
  )
}

const demo = await pages('demo')
{
  // A gradebook of 35 students and 120 assignments.
  cluster.psql(
    demo.name,
    `set kedge.history = 'off';
    insert into class_member (school_id, class_id, student_id, period) select '${demo.school}', '${demo.classId}', s.id, '[2026-09-01,)' from student s
      where s.number is not null and not exists (select 1 from class_member m where m.class_id = '${demo.classId}' and m.student_id = s.id)
      limit greatest(0, 35 - (select count(*)::int from class_member where class_id = '${demo.classId}' and upper_inf(period)));
    insert into assignment (school_id, id, class_id, term_id, category_id, name, max_points, due_on)
      select c.school_id, gen_random_uuid(), c.class_id, c.term_id, c.id, 'Piece ' || n, 20, '2026-11-01' from category c join term t on t.id = c.term_id and t.name = 'Autumn', generate_series(1, 120 - (select count(*)::int from assignment a join term t on t.id = a.term_id where a.class_id = '${demo.classId}' and t.name = 'Autumn')) n where c.class_id = '${demo.classId}' and c.position = 3;
    insert into score (school_id, assignment_id, student_id, points, changed_by) select a.school_id, a.id, m.student_id, 12, 'Benchmark' from assignment a join class_member m on m.class_id = a.class_id and upper_inf(m.period) where a.class_id = '${demo.classId}' and a.name like 'Piece%' on conflict do nothing`,
  )
  const page = await browser.newPage()
  page.on('dialog', (dialog) => void dialog.accept())
  await page.setViewport({ width: 1280, height: 800 })
  await page.goto(`${demo.app.url}/sign-in`)
  await page.evaluate(async () =>
    fetch('/api/sign-in', {
      method: 'POST',
      headers: { 'content-type': 'application/json' },
      body: JSON.stringify({ username: 'r.achterberg', password: 'harbour lights at dusk' }),
    }),
  )
  console.log('\nKeystroke to paint in Chromium (one frame is 16.7 ms; waiting for the frame is part of it)')
  row('', 'median', '95 %')
  await page.goto('about:blank')
  await typing(page, 'reference: an empty page', Array(80).fill('a'))
  await page.goto(`${demo.app.url}/homerooms/${demo.homeroomId}/register`, { waitUntil: 'networkidle2' })
  await typing(
    page,
    'register',
    Array(6).fill(['p', 'a', '1', 'l', 'ArrowUp', 'p', 'p', 'a', '2', 'p']).flat(),
  )
  await page.goto(`${demo.app.url}/classes/${demo.classId}/gradebook`, { waitUntil: 'networkidle2' })
  await typing(
    page,
    'gradebook, 35 × 120',
    Array(10).fill(['1', '2', 'Enter', '9', '.', '5', 'Enter', 'ArrowRight', '7', 'Enter']).flat(),
  )

  console.log('\nFirst-load JavaScript, gzipped')
  row('', 'kB')
  for (const [label, , path] of [['sign-in', '', '/sign-in'], ...demo.list]) {
    const urls = new Set()
    const listen = (response) => /_next\/static\/.*\.js/.test(response.url()) && urls.add(response.url())
    page.on('response', listen)
    await page.goto(demo.app.url + path, { waitUntil: 'networkidle2' })
    page.off('response', listen)
    let bytes = 0
    for (const url of urls) bytes += gzipSync(Buffer.from(await (await fetch(url)).arrayBuffer())).length
    row(label, (bytes / 1000).toFixed(0))
  }
  await page.close()
}
await demo.app.stop()
const large = await pages('large')
await large.app.stop()
await browser.close()
cluster.stop()
