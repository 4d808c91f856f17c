// Five hundred open pages: what they cost while nothing happens, and how soon they hear of ten changes a second.
import { randomUUID } from 'node:crypto'
import { Agent, get } from 'node:http'
import { cookieOf } from './pages.mjs'
import { at, ms, row } from './table.mjs'

const pages = 500
/** How many pages one person may have open. */
const perPerson = 35
const idleFor = 30_000
const changesFor = 20_000
const pause = (milliseconds) => new Promise((resolve) => setTimeout(resolve, milliseconds))

/** A page's stream: resolves when it has begun; calls back with each event. */
function openStream({ app, cookie, topics, agent, hear }) {
  return new Promise((resolve, reject) => {
    const address = `${app.url}/api/live?topics=${encodeURIComponent(JSON.stringify(topics))}&age=1000`
    const request = get(address, { headers: { cookie }, agent }, (response) => {
      if (response.statusCode !== 200) return reject(new Error(`a stream answered ${response.statusCode}`))
      response.setEncoding('utf8')
      response.on('data', (text) => {
        if (text.includes('event: ready')) resolve(() => request.destroy())
        if (text.includes('event: changed')) hear(performance.now())
      })
      response.on('error', () => {})
    })
    request.on('error', reject)
  })
}

/** Prints statements and connections of idle pages, and the time from a commit to the pages that follow it. */
export async function measureLive(cluster, { app, name, school, homeroomId, day }) {
  const usernames = cluster
    .psql(
      name,
      `select distinct u.username from auth."user" u join membership m on m.account_id = u.id
       where m.role in ('office', 'records', 'teacher') and m.active and not u."mustChangePassword" order by 1 limit ${Math.ceil(pages / perPerson)}`,
    )
    .split('\n')
  const cookies = []
  for (const username of usernames) cookies.push(await cookieOf(app, username))
  const register = { homeroomId, date: day, session: 'morning' }
  const topics = [
    { query: 'shell.frame', input: {} },
    { query: 'attendance.register', input: register },
  ]
  const heard = []
  let counts = 0
  const hear = (when) => {
    counts++
    heard.push(when)
  }
  const agent = new Agent({ keepAlive: true, maxSockets: pages + 10 })
  const close = []
  for (let n = 0; n < Math.min(pages, cookies.length * perPerson); n += 25)
    close.push(
      ...(await Promise.all(
        Array.from({ length: 25 }, (_, i) =>
          openStream({ app, cookie: cookies[(n + i) % cookies.length], topics, agent, hear }),
        ),
      )),
    )
  const statements = async () => (await (await fetch(`${app.url}/api/health`)).json()).queries
  const connections = () =>
    cluster.psql(
      name,
      `select count(*) from pg_stat_activity where datname = '${name}' and pid <> pg_backend_pid()`,
    )

  console.log(`\n${close.length} open pages`)
  const before = await statements()
  await pause(idleFor)
  row(`statements in ${idleFor / 1000} s of rest`, (await statements()) - before)
  row('connections to the database', connections())

  const office = await cookieOf(app, 'e.leask')
  const [codeId] = cluster
    .psql(name, `select id from attendance_code where school_id = '${school}' and code in ('P', 'A1')`)
    .split('\n')
  const studentId = cluster.psql(
    name,
    `select student_id from homeroom_member where homeroom_id = '${homeroomId}' and upper_inf(period) limit 1`,
  )
  let expectedVersion = Number(
    cluster.psql(
      name,
      `select coalesce(max(version), 0) from attendance_mark where student_id = '${studentId}' and session_date = '${day}' and session = 'morning'`,
    ),
  )
  const delays = []
  const startStatements = await statements()
  counts = 0
  let sent = 0
  for (const until = performance.now() + changesFor; performance.now() < until; sent++) {
    heard.length = 0
    const response = await fetch(`${app.url}/api/command/attendance.setMarks`, {
      method: 'POST',
      headers: { cookie: office, 'content-type': 'application/json' },
      body: JSON.stringify({
        key: randomUUID(),
        input: {
          ...register,
          cells: [
            { key: { studentId }, value: { codeId, minutesLate: null, note: `${sent}` }, expectedVersion },
          ],
        },
      }),
    })
    const answer = await response.json()
    if (!answer.ok) throw new Error(`a mark was refused: ${JSON.stringify(answer)}`)
    const committed = performance.now()
    expectedVersion = answer.value[0].version
    await pause(100)
    for (const when of heard) delays.push(Math.max(0, when - committed))
  }
  await pause(500)
  row('changes', sent)
  row('events told to each page', (counts / close.length).toFixed(1))
  row('statements for each change', (((await statements()) - startStatements) / sent).toFixed(1))
  row(
    'from a commit to a page, first of each',
    '',
    '',
    `${ms(at(delays, 0.5))} (95 %: ${ms(at(delays, 0.95))})`,
  )
  for (const end of close) end()
  agent.destroy()
}
