// Server time of each main page against the bare SQL it cannot do without, and how many statements it sends.
import pg from 'pg'
import { environment, startApplication } from '../lib/application.mjs'
import { ensureDatabase } from '../lib/postgres.mjs'
import { kedge } from '../lib/tools.mjs'
import { loadWrackline } from '../lib/wrackline.mjs'
import { at, ms, row } from './table.mjs'

const schools = Number(process.env.KEDGE_BENCH_SCHOOLS ?? 40)

/** The demo is made anew, since measuring the gradebook fills it; the large size takes long and is kept. */
function prepare(cluster, size) {
  // What the floods cause is measured, not printed.
  const counting = { KEDGE_COUNT_QUERIES: '1', LOG_LEVEL: 'silent' }
  if (size === 'demo') {
    const name = 'kedge_bench_demo'
    return { name, env: loadWrackline(cluster, name, counting), now: '2026-11-23T09:05:00' }
  }
  const name = `kedge_bench_schools_${schools}`
  const env = environment(cluster, name, counting)
  const isNew = ensureDatabase(cluster, name)
  kedge(['migrate'], env)
  if (isNew) {
    // Forty million rows made from each other's keys need no check of each foreign key.
    cluster.psql('postgres', 'grant set on parameter session_replication_role to kedge_owner')
    kedge(['demo', 'large', '--schools', String(schools)], env)
  }
  return { name, env, now: '2027-06-14T09:05:00' }
}

/** Starts Kedge on one of the sizes: `demo`, or `large` with many schools and a whole year. */
export async function openSize(cluster, size) {
  const { name, env, now } = prepare(cluster, size)
  const app = await startApplication({ ...env, KEDGE_NOW: now }, { quiet: true })
  const id = (statement) => cluster.psql(name, `${statement} order by 1 limit 1`)
  const school = id("select id from school where short_name in ('wrackline', 'bench-1')")
  const own = (table, where) => id(`select id from ${table} where school_id = '${school}' and ${where}`)
  return {
    size,
    name,
    env,
    app,
    school,
    day: now.slice(0, 10),
    classId: own('class', "name = '8 Science A'"),
    englishId: own('class', "name = '7 English A'"),
    homeroomId: own('homeroom', "name = '7 Tern'"),
    roundId: id('select id from report_round'),
    assessmentId: id("select id from assessment where name = 'Fair tests'"),
  }
}

/** Each main page: its name, who looks, where it is, and the one statement that fetches the rows it cannot do without. */
export function mainPages({ school, day, classId, englishId, homeroomId, roundId, assessmentId }) {
  const of = `school_id = '${school}'`
  return [
    {
      name: 'today',
      who: 'r.achterberg',
      path: '/today',
      bare: `select count(*) from attendance_mark where ${of} and session_date = '${day}' and code_id is not null`,
    },
    {
      name: 'people',
      who: 'e.leask',
      path: '/people',
      bare: `select s.id, s.sort_name from enrolment e join student s using (school_id) where s.id = e.student_id and ${of} and e.period @> '${day}'::date order by s.sort_name`,
    },
    {
      name: 'register',
      who: 'r.achterberg',
      path: `/attendance/registers/${homeroomId}`,
      bare: `select m.* from attendance_mark m join homeroom_member h using (school_id, student_id) where m.${of} and h.homeroom_id = '${homeroomId}' and h.period @> '${day}'::date and m.session_date > date '${day}' - 21`,
    },
    {
      name: 'gradebook',
      who: 'r.achterberg',
      path: `/classes/${classId}/marks`,
      bare: `select s.* from assignment a join score s on s.school_id = a.school_id and s.assignment_id = a.id where a.${of} and a.class_id = '${classId}'`,
    },
    {
      name: 'classes',
      who: 'm.vester',
      path: '/classes',
      bare: `select id, name from class where ${of} order by name`,
    },
    assessmentId && {
      name: 'findings',
      who: 'r.achterberg',
      path: `/assessments/${assessmentId}/findings`,
      bare: `select * from response where ${of} and assessment_id = '${assessmentId}'`,
    },
    roundId && {
      name: 'round',
      who: 's.kirkness',
      path: `/reports/${roundId}`,
      bare: `select * from report_entry where ${of} and round_id = '${roundId}'`,
    },
    roundId && {
      name: 'entries',
      who: 's.kirkness',
      path: `/classes/${englishId}/entries/${roundId}`,
      bare: `select * from report_entry where ${of} and round_id = '${roundId}'`,
    },
  ].filter(Boolean)
}

/** Signs somebody in and answers the cookies. */
export async function cookieOf(app, username) {
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

const rounds = 30
const warmUp = 5

/** Prints the times of all main pages of an opened size. */
export async function measurePages(cluster, opened) {
  const { app, name, size } = opened
  const of = size === 'large' ? `, ${schools} schools` : ''
  console.log(`\nServer time of pages, size ${size}${of} (${rounds} times each)`)
  row('', 'median', '95 %', 'bare SQL', 'page / SQL', 'statements')
  const client = new pg.Client({ connectionString: cluster.url('postgres', name) })
  await client.connect()
  const cookies = new Map()
  const queries = async () => (await (await fetch(`${app.url}/api/health`)).json()).queries
  for (const page of mainPages(opened)) {
    if (!cookies.has(page.who)) cookies.set(page.who, await cookieOf(app, page.who))
    const get = async () => {
      const response = await fetch(app.url + page.path, { headers: { cookie: cookies.get(page.who) } })
      await response.text()
      if (response.status !== 200) throw new Error(`${page.path} answered ${response.status}`)
    }
    const times = []
    const bare = []
    for (let n = 0; n < rounds + warmUp; n++) {
      const from = performance.now()
      await get()
      const between = performance.now()
      await client.query(page.bare)
      if (n < warmUp) continue
      times.push(between - from)
      bare.push(performance.now() - between)
    }
    const before = await queries()
    await get()
    // Asking for the number is a statement too.
    const sent = (await queries()) - before - 1
    const ratio = (at(times, 0.5) / at(bare, 0.5)).toFixed(1)
    row(page.name, ms(at(times, 0.5)), ms(at(times, 0.95)), ms(at(bare, 0.5)), ratio, sent)
  }
  await client.end()
}
