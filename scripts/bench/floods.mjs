// Floods that one person or a stranger can send, and how long somebody else waits for a register meanwhile.
import PDFDocument from 'pdfkit'
import { cookieOf } from './pages.mjs'
import { at, ms, row } from './table.mjs'

const pause = (milliseconds) => new Promise((resolve) => setTimeout(resolve, milliseconds))
const quietFor = 5000
/** A flood goes on for at least so long, so that there are enough registers to tell of. */
const floodFor = 10_000

/** Opens a register again and again until told to stop; answers how long each answer took. */
async function waits(app, cookie, path, until) {
  const times = []
  // A connection that the server closes after a while of quiet is no answer: the browser asks again, too.
  const get = () => fetch(app.url + path, { headers: { cookie }, signal: AbortSignal.timeout(60_000) })
  for (let n = 0; n < 5; n++) await (await get()).arrayBuffer()
  while (!until.over || times.length < 20) {
    const from = performance.now()
    const response = await get().catch(get)
    await response.arrayBuffer()
    if (response.status !== 200) throw new Error(`${path} answered ${response.status}`)
    times.push(performance.now() - from)
    await pause(50)
  }
  return times
}

/** A PDF with so many pages, heavy to look through. */
function pdfOf(pages) {
  return new Promise((resolve) => {
    const document = new PDFDocument({ compress: true, autoFirstPage: false })
    const parts = []
    document.on('data', (part) => parts.push(part))
    document.on('end', () => resolve(Buffer.concat(parts)))
    for (let n = 0; n < pages; n++) document.addPage().text(`Page ${n}`, 40, 40)
    document.end()
  })
}

const statusOf = (response) => response.status
const post = (app, cookie, path, body, type = 'application/json') =>
  fetch(app.url + path, { method: 'POST', headers: { cookie, 'content-type': type }, body }).then(
    async (r) => {
      await r.arrayBuffer()
      return r
    },
  )

/** Each flood: its name, and what is sent once; it is sent again for as long as the flood goes on. */
async function floods({ app, homeroomId, day }) {
  const teacher = await cookieOf(app, 'h.tulloch')
  const head = await cookieOf(app, 's.kirkness')
  const rowOfList = JSON.stringify(Array.from({ length: 25 }, (_, n) => `value ${n}`))
  const list = [
    JSON.stringify({ name: 'Large', header: Array.from({ length: 25 }, (_, n) => `Column ${n}`) }),
    ...Array.from({ length: 20_000 }, () => rowOfList),
  ].join('\n')
  const topics = JSON.stringify(
    Array.from({ length: 20 }, () => ({
      query: 'attendance.register',
      input: { homeroomId, date: day, session: 'morning' },
    })),
  )
  const figures = encodeURIComponent(
    JSON.stringify({ kind: 'school', id: null, from: '2026-09-01', to: day, date: day, sessions: 'lessons' }),
  )
  const pdf = await pdfOf(20_000)
  let name = 0
  return [
    {
      name: '10 workbooks of 500,000 cells',
      send: () =>
        Promise.all(
          Array.from({ length: 10 }, () =>
            post(app, teacher, '/api/list', list, 'application/x-ndjson').then(statusOf),
          ),
        ),
    },
    {
      name: '300 live streams of 20 topics',
      send: async () => {
        const leave = new AbortController()
        const answers = await Promise.all(
          Array.from({ length: 300 }, () =>
            fetch(`${app.url}/api/live?topics=${encodeURIComponent(topics)}`, {
              headers: { cookie: teacher },
              signal: leave.signal,
            }).then(statusOf),
          ),
        )
        await pause(3000)
        leave.abort()
        return answers
      },
    },
    {
      name: '60 sign-ins with invented names',
      send: () =>
        Promise.all(
          Array.from({ length: 60 }, () =>
            post(
              app,
              '',
              '/api/sign-in',
              JSON.stringify({ username: `flood.${name++}`, password: 'guessed' }),
            ).then(statusOf),
          ),
        ),
    },
    {
      name: '12 figures of all lessons, a term',
      send: () =>
        Promise.all(
          Array.from({ length: 12 }, () =>
            fetch(`${app.url}/api/query/attendance.figures?input=${figures}`, {
              headers: { cookie: head },
            }).then(async (r) => {
              await r.arrayBuffer()
              return r.status
            }),
          ),
        ),
    },
    {
      name: `6 uploads of ${Math.round(pdf.length / 1e6)} MB`,
      send: () =>
        Promise.all(
          Array.from({ length: 6 }, () =>
            post(app, head, '/api/upload?name=large.pdf', pdf, 'application/pdf').then(statusOf),
          ),
        ),
    },
  ]
}

/** How often each answer came: "200 ×3, 503 ×7". */
const counted = (answers) =>
  [...new Set(answers)]
    .sort()
    .map((status) => `${status} ×${answers.filter((other) => other === status).length}`)
    .join(', ')

/** Prints for each flood how long another teacher waits for a register, against the same without a flood. */
export async function measureFloods(opened) {
  const { app, homeroomId, day } = opened
  const other = await cookieOf(app, 'r.achterberg')
  const path = `/attendance/registers/${homeroomId}?date=${day}`
  console.log('\nAnother teacher opens a register')
  row('', 'median', '95 %', 'longest', 'to quiet')
  const quiet = { over: false }
  setTimeout(() => (quiet.over = true), quietFor)
  const alone = await waits(app, other, path, quiet)
  row('nothing else', ms(at(alone, 0.5)), ms(at(alone, 0.95)), ms(Math.max(...alone)), '1.0')
  for (const flood of await floods(opened)) {
    const state = { over: false }
    const waited = waits(app, other, path, state)
    const until = performance.now() + floodFor
    const answers = []
    while (performance.now() < until) answers.push(...(await flood.send()))
    state.over = true
    const times = await waited
    const ratio = (at(times, 0.95) / at(alone, 0.95)).toFixed(1)
    row(flood.name, ms(at(times, 0.5)), ms(at(times, 0.95)), ms(Math.max(...times)), ratio)
    console.log(`    answers: ${counted(answers)}`)
    await pause(2000)
  }
}
