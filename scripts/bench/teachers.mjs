// 300 teachers who take a register within the same minutes, against the real server, while its parts are killed.
import { randomUUID } from 'node:crypto'
import { at, ms, row } from './table.mjs'
import { cookieOf } from './pages.mjs'
import { untilHealthy } from '../lib/application.mjs'

const teachers = 300
const minutes = Number(process.env.KEDGE_BENCH_MINUTES ?? 5)
const kills = 20
const pause = (milliseconds) => new Promise((resolve) => setTimeout(resolve, milliseconds))

/** Everyone on roll of 300 registers of past days, whose marks are removed first. */
function openRegisters({ cluster, name, school }) {
  cluster.psql(
    name,
    `set kedge.history = 'off'; delete from attendance_mark where school_id = '${school}' and session_date > '2026-11-12' and homeroom_id is not null;
     truncate history`,
  )
  const rows = cluster.psql(
    name,
    `select m.homeroom_id, d.day, s.session, string_agg(m.student_id::text, ',') from homeroom_member m
     cross join (select distinct session_date as day from attendance_mark where session_date between '2026-11-13' and '2026-11-20') d
     cross join (values ('morning'), ('afternoon')) s(session)
     where m.school_id = '${school}' and m.period @> d.day group by 1, 2, 3 order by 2, 3, 1 limit ${teachers}`,
  )
  return rows.split('\n').map((line) => {
    const [homeroomId, date, session, students] = line.split('|')
    return { homeroomId, date, session, students: students.split(',') }
  })
}

/** One mark, sent again under the same key until it is acknowledged, as the outbox of a page does. */
async function send(app, cookie, register, studentId, codeId) {
  const body = JSON.stringify({
    key: randomUUID(),
    input: {
      homeroomId: register.homeroomId,
      date: register.date,
      session: register.session,
      cells: [{ key: { studentId }, value: { codeId, minutesLate: null, note: null }, expectedVersion: 0 }],
    },
  })
  for (let attempts = 1; ; attempts++) {
    const from = performance.now()
    const response = await fetch(`${app.url}/api/command/attendance.setMarks`, {
      method: 'POST',
      headers: { cookie, 'content-type': 'application/json' },
      body,
      signal: AbortSignal.timeout(15_000),
    }).catch(() => undefined)
    const answer = await response?.json().catch(() => undefined)
    if (answer?.ok) return { took: performance.now() - from, attempts }
    if (attempts > 200) throw new Error(`a mark was never acknowledged: ${JSON.stringify(answer)}`)
    await pause(300)
  }
}

/** Ends the web application, the worker or the database at random, as a crash would, and starts it again. */
async function killAtRandom(cluster, app, until) {
  const done = { web: 0, worker: 0, database: 0 }
  for (let n = 0; n < kills && Date.now() < until; n++) {
    await pause(((until - Date.now()) / (kills - n)) * (0.4 + 0.6 * Math.random()))
    const part = ['web', 'worker', 'database'][Math.floor(Math.random() * 3)]
    done[part]++
    if (part === 'worker') {
      app.worker.kill('SIGKILL')
      app.startWorker()
    } else if (part === 'web') {
      app.web.kill('SIGKILL')
      await app.startWeb()
    } else {
      cluster.crash()
      await cluster.restart()
      await untilHealthy(app.url, app.web)
    }
  }
  return done
}

/** 300 registers taken within the minutes; answers how each mark was acknowledged. */
async function takeAll(app, cookies, registers, present, until) {
  const taken = await Promise.all(
    registers.map(async (register, i) => {
      const own = []
      const each = (until - Date.now() - 5000) / register.students.length
      await pause(Math.random() * each)
      for (const studentId of register.students) {
        const from = Date.now()
        own.push(await send(app, cookies[i % cookies.length], register, studentId, present))
        await pause(Math.max(0, each * (0.5 + Math.random()) - (Date.now() - from)))
      }
      return own
    }),
  )
  return taken.flat()
}

/** Prints how fast marks are acknowledged, then, with parts killed at random, whether any was lost or doubled. */
export async function measureTeachers(cluster, { app, name, school }) {
  // What was acknowledged must have left the process, also on a cluster that does not wait for the disk.
  cluster.psql('postgres', `alter database ${name} set synchronous_commit = on`)
  const ask = (statement) => cluster.psql(name, statement)
  const present = ask(`select id from attendance_code where school_id = '${school}' and code = 'P'`)
  const accounts = ask(
    `select u.username from auth."user" u join membership m on m.account_id = u.id where m.role = 'teacher' order by 1`,
  ).split('\n')
  const cookies = []
  for (const username of accounts.slice(0, 30)) cookies.push(await cookieOf(app, username))
  const queries = async () => (await (await fetch(`${app.url}/api/health`)).json()).queries
  let statements
  for (const killing of [false, true]) {
    const registers = openRegisters({ cluster, name, school })
    const asked = registers.reduce((sum, register) => sum + register.students.length, 0)
    const [first] = registers
    const before = await queries()
    await send(app, cookies[0], first, first.students.pop(), present)
    // Asking for the number is a statement too.
    statements ??= (await queries()) - before - 1
    const until = Date.now() + minutes * 60_000
    const killed = killing ? killAtRandom(cluster, app, until - 5000) : undefined
    const all = await takeAll(app, cookies, registers, present, until)
    const done = Object.entries((await killed) ?? {}).map(([part, n]) => `${part} ${n}`)
    const smooth = all.filter((m) => m.attempts === 1).map((m) => m.took)
    console.log(`\n${teachers} teachers within ${minutes} minutes; killed: ${done.join(', ') || 'nothing'}`)
    row('', 'median', '95 %', 'marks')
    row('a mark acknowledged at once', ms(at(smooth, 0.5)), ms(at(smooth, 0.95)), smooth.length)
    row('sent again after a kill', '', '', all.length - smooth.length)
    row('marks asked for', '', '', asked)
    row(
      'marks saved, different ones',
      '',
      '',
      ask(`select count(*), count(distinct (student_id, session_date, session)) from attendance_mark m
       where school_id = '${school}' and session_date > '2026-11-12' and homeroom_id is not null and code_id = '${present}'`),
    )
    row(
      'entries in the history, different ones',
      '',
      '',
      ask(
        `select count(*) || ' of ' || count(distinct row_key) from history where table_name = 'attendance_mark' and operation = 'insert'`,
      ),
    )
  }
  row('statements for a mark', '', '', statements)
}
