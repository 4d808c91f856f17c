import { readdirSync } from 'node:fs'
import { join } from 'node:path'
import { heatAndIce, printTest } from '@/demo/heat-and-ice'
import { openApplication, type Application } from './application'

// What the addresses answer to those who do not come through a page: wrong, foreign, too large, too late.
let app: Application
let cookie: string
beforeAll(async () => {
  app = await openApplication('demo')
  cookie = await signIn('r.achterberg')
})
afterAll(() => app.close())

async function signIn(username: string, password = 'harbour lights at dusk'): Promise<string> {
  const response = await fetch(`${app.running.url}/api/sign-in`, {
    method: 'POST',
    headers: { 'content-type': 'application/json' },
    body: JSON.stringify({ username, password }),
  })
  return response.headers
    .getSetCookie()
    .map((c) => c.split(';')[0])
    .join('; ')
}
const get = (path: string, as = cookie) => fetch(`${app.running.url}${path}`, { headers: { cookie: as } })
const post = (path: string, body: BodyInit, headers: Record<string, string> = {}) =>
  fetch(`${app.running.url}${path}`, {
    method: 'POST',
    headers: { cookie, 'content-type': 'application/json', ...headers },
    body,
    duplex: 'half',
  } as RequestInit)
const failure = async (response: Response) =>
  ((await response.json()) as { failure: { kind: string; message: string } }).failure
const idOf = async (statement: string) => String((await app.rows(statement))[0]?.id)

/** Every route of the interface, with something that cannot be in the place of what varies. */
const routes = readdirSync(join(process.cwd(), 'src/app/api'), { recursive: true, encoding: 'utf8' })
  .filter((file) => file.endsWith('route.ts'))
  .map((file) => `/api/${file.replace(/\/?route\.ts$/, '')}`)

describe('what nobody should send is answered without an error of the server, and without its insides:', () => {
  const calm = async (response: Response) => {
    const text = await response.text()
    expect(text).not.toMatch(/ {4}at |node_modules|syntax error at|select /)
    expect(response.status).toBeLessThan(500)
  }
  const broken = ['%', '%E0%A4', '%00', '%ff', 'a%2', '%2e%2e%2f', '𝄞'.repeat(50)]
  test.each([
    ...broken.map((code) => `/people/${code}`),
    ...broken.map((code) => `/invitation/${code}`),
    ...broken.map((code) => `/sign-in?next=${code}`),
    ...broken.map((code) => `/today?date=${code}`),
    '/today?date=2026-11-23&date=2026-11-24',
    '/attendance/registers/%00?session=%00',
  ])('the page %s', async (path) => calm(await get(path)))

  test.each(routes.flatMap((route) => broken.map((code) => [route, code] as const)))(
    '%s with %s',
    async (route, code) => {
      const path = route.replace(/\[\w+\]/, code)
      await calm(await get(path))
      await calm(await get(`${path}?input=${code}&topics=${code}&date=${code}&kind=${code}&id=${code}`))
    },
  )

  const bodies = [
    '',
    '{',
    'null',
    '[]',
    '"text"',
    '1e999',
    '{"input":{"__proto__":{"a":1}},"key":"\\u0000"}',
    '{"input":null,"key":null}',
    `{"input":${'['.repeat(20_000)}${']'.repeat(20_000)},"key":"x"}`,
    '\u0000\u0001\ufffe',
  ]
  test.each(routes.flatMap((route) => bodies.map((body) => [route, body] as const)))(
    '%s is sent %p',
    async (route, body) => {
      const path = route.replace('command/[name]', 'command/people.enrol').replace(/\[\w+\]/, 'x')
      // Signing out would end the session of all that follow.
      await calm(await post(path, body, path === '/api/sign-out' ? { cookie: '' } : {}))
    },
  )
})

describe('queries', () => {
  const today = encodeURIComponent(JSON.stringify({ date: '2026-11-23' }))

  test('answer those who are signed in, and are kept by nobody on the way', async () => {
    const response = await get(`/api/query/today.due?input=${today}`)
    expect(response.status).toBe(200)
    expect(response.headers.get('cache-control')).toBe('no-store')
    expect(await response.json()).toMatchObject({ ok: true, value: { empty: false } })
    expect((await get(`/api/query/today.due?input=${today}`, '')).status).toBe(401)
  })
  test.each([
    ['an unknown name', '/api/query/today.nothing?input={}', 404],
    ['a command asked as a query', '/api/query/people.enrol?input={}', 404],
    ['an input that is no JSON', '/api/query/today.due?input=%7Bdate', 400],
    ['an input of another shape', '/api/query/today.due?input=[1]', 400],
    ['no input where one is needed', '/api/query/today.due', 400],
    ['a date that is none', `/api/query/today.due?input=${encodeURIComponent('{"date":"2026-02-30"}')}`, 400],
  ])('%s is refused without an error of the server', async (_what, path, status) => {
    const response = await get(path)
    expect(response.status).toBe(status)
    expect((await failure(response)).message).not.toBe('')
  })
  test('that are long travel compressed, where the browser takes it so', async () => {
    const office = await signIn('e.leask')
    const path = `/api/query/people.list?input=${encodeURIComponent(JSON.stringify({ date: '2026-11-23' }))}`
    const how = async (encoding: string) =>
      (
        await fetch(app.running.url + path, { headers: { cookie: office, 'accept-encoding': encoding } })
      ).headers.get('content-encoding')
    expect([await how('gzip'), await how('identity')]).toEqual(['gzip', null])
  })
  test('whoever must first choose a password is told so and gets nothing else', async () => {
    const initial = await signIn('d.munro', 'tide table 1')
    const response = await get(`/api/query/today.due?input=${today}`, initial)
    expect((await failure(response)).kind).toBe('password first')
  })
})

describe('commands', () => {
  const key = () => crypto.randomUUID()
  test.each([
    ['an unknown name', '/api/command/people.nothing', JSON.stringify({ input: {}, key: key() }), 404],
    ['a query told as a command', '/api/command/today.due', JSON.stringify({ input: {}, key: key() }), 404],
    ['a body that is no JSON', '/api/command/account.signOutEverywhere', '{input', 400],
    ['no key', '/api/command/account.signOutEverywhere', JSON.stringify({ input: {} }), 400],
    [
      'a key that is none',
      '/api/command/account.signOutEverywhere',
      JSON.stringify({ input: {}, key: '1' }),
      400,
    ],
  ])('%s is refused', async (_what, path, body, status) => {
    expect((await post(path, body)).status).toBe(status)
  })
  test.each([
    ['another place', 'http://elsewhere.example'],
    ['a page without a place', 'null'],
    ['nonsense', 'http//'],
  ])('a change that %s asks for is refused, and the session lives on', async (_what, origin) => {
    const body = JSON.stringify({ input: {}, key: key() })
    expect((await post('/api/command/account.signOutEverywhere', body, { origin })).status).toBe(404)
    expect((await post('/api/upload?name=a.pdf', 'x', { origin })).status).toBe(404)
    expect((await post('/api/sign-out', '', { origin })).status).toBe(400)
    expect((await get('/api/query/work.list?input={}')).status).not.toBe(401)
  })
  test('one that is meant for background work is not there, whoever asks', async () => {
    const head = await signIn('s.kirkness')
    const roundId = await idOf('select id from report_round')
    for (const [name, input] of [
      ['reports.finishRelease', { roundId, checkedBefore: '2027-01-01T00:00:00Z' }],
      ['reports.keepIssue', { roundId }],
      ['reports.keepPrint', { roundId }],
    ] as const) {
      const body = JSON.stringify({ input, key: crypto.randomUUID() })
      expect((await post(`/api/command/${name}`, body, { cookie: head })).status).toBe(404)
    }
    expect((await get('/api/query/files.readPart?input={}', head)).status).toBe(404)
  })
  test('a body that is too long is not read, before and after signing in', async () => {
    const long = JSON.stringify({ username: 'e.leask', password: 'x'.repeat(5000) })
    expect((await post('/api/sign-in', long, { cookie: '' })).status).toBe(400)
    const input = { text: 'x'.repeat(2 << 20) }
    const body = JSON.stringify({ input, key: crypto.randomUUID() })
    expect((await post('/api/command/people.enrol', body)).status).toBe(400)
  })
  test('a preview over the address changes nothing and says what would change', async () => {
    const homeroomId = await idOf("select id from homeroom where name = '8 Tern'")
    const codeId = await idOf("select id from attendance_code where code = 'P'")
    const input = { homeroomId, date: '2026-11-20', session: 'morning', codeId }
    await app.rows("delete from attendance_mark where session_date = '2026-11-20' and session = 'morning'")
    const body = JSON.stringify({ input, key: crypto.randomUUID(), preview: true })
    const answer = (await (await post('/api/command/attendance.markRest', body)).json()) as {
      value: { counts: { kind: string; rows: number }[]; fingerprint: string }
    }
    expect(answer.value.counts).toMatchObject([{ kind: 'Attendance' }])
    expect(answer.value.counts[0]?.rows).toBeGreaterThan(20)
    expect(
      await app.rows(
        "select 1 from attendance_mark where session_date = '2026-11-20' and session = 'morning'",
      ),
    ).toEqual([])
  })
  test('one that may not be done and one that is not there look alike', async () => {
    const classId = await idOf("select id from class where name = '1 English A'")
    const cell = {
      key: { assignmentId: crypto.randomUUID(), studentId: crypto.randomUUID() },
      value: null,
      expectedVersion: 0,
    }
    const told = async (id: string) =>
      failure(
        await post(
          '/api/command/marks.setScores',
          JSON.stringify({ input: { classId: id, cells: [cell] }, key: key() }),
        ),
      )
    expect(await told(classId)).toEqual(await told(crypto.randomUUID()))
  })
})

describe('documents', () => {
  let pdf: Uint8Array<ArrayBuffer>
  beforeAll(async () => {
    pdf = Uint8Array.from(await printTest('Heat and ice', heatAndIce))
  })
  const upload = (name: string, body: BodyInit) =>
    post(`/api/upload?name=${encodeURIComponent(name)}&key=${crypto.randomUUID()}`, body, {
      'content-type': 'application/pdf',
    })

  test('a PDF is taken in, and is shown so that it cannot run as a page', async () => {
    const { value } = (await (await upload('Heat & ice "1".pdf', pdf)).json()) as {
      value: { documentId: string; pageCount: number }
    }
    expect(value.pageCount).toBe(3)
    const shown = await get(`/api/documents/${value.documentId}`)
    expect(shown.headers.get('content-type')).toBe('application/pdf')
    expect(shown.headers.get('x-content-type-options')).toBe('nosniff')
    expect(shown.headers.get('content-security-policy')).toContain('sandbox')
    expect(shown.headers.get('content-disposition')).toBe(
      "inline; filename*=UTF-8''Heat%20%26%20ice%20%221%22.pdf",
    )
    expect(Buffer.from(await shown.arrayBuffer()).equals(pdf)).toBe(true)
    const stranger = await signIn('e.leask')
    expect((await get(`/api/documents/${value.documentId}`, stranger)).status).toBe(404)
    expect((await get(`/api/documents/${value.documentId}`, '')).status).toBe(401)
  })
  test('the same upload sent twice is one document', async () => {
    const again = `/api/upload?name=twice.pdf&key=${crypto.randomUUID()}`
    const ids = await Promise.all(
      [1, 2].map(async () => {
        const response = await post(again, pdf, { 'content-type': 'application/pdf' })
        return ((await response.json()) as { value: { documentId: string } }).value.documentId
      }),
    )
    expect(ids[0]).toBe(ids[1])
    expect(await app.rows("select id from document where name = 'twice.pdf'")).toHaveLength(1)
  })
  test('what is no PDF is told by its content, whatever its name', async () => {
    const response = await upload('letter.pdf', '<html><script>alert(1)</script></html>')
    expect(response.status).toBe(400)
    expect((await failure(response)).message).toContain('letter.pdf is not a PDF')
  })
  test('what is too large is refused, also when it does not say how large it is', async () => {
    const large = Buffer.alloc(26 * 1048576, '%PDF-1.7 ')
    expect((await failure(await upload('large.pdf', large))).message).toContain('the limit is 25 MB')
    const silent = new ReadableStream<Uint8Array>({
      start(controller) {
        for (let n = 0; n < 26; n++) controller.enqueue(new Uint8Array(1048576))
        controller.close()
      },
    })
    expect((await failure(await upload('silent.pdf', silent))).message).toContain('the limit is 25 MB')
  })
  test.each(['not-an-id', '00000000-0000-7000-8000-000000000000', '..%2f..%2fetc%2fpasswd'])(
    'there is nothing under %s',
    async (id) => {
      expect([400, 404]).toContain((await get(`/api/documents/${id}`)).status)
    },
  )
  test('a card is shown to those who may, as a real page that is not final', async () => {
    const roundId = await idOf('select id from report_round')
    const studentId = await idOf("select id from student where sort_name = 'Okonjo-Marsh, Ilse'")
    const homeroomId = await idOf("select id from homeroom where name = '7 Tern'")
    const address = `/api/card-preview?${new URLSearchParams({ roundId, homeroomId, studentId })}`
    const card = await get(address)
    expect(card.headers.get('content-type')).toBe('application/pdf')
    const guardian = await signIn('hana.marsh@islandmail.example')
    expect((await get(address, guardian)).status).toBe(404)
    expect((await get('/api/card-preview?roundId=1')).status).toBe(400)
  })
})

describe('live updates', () => {
  test('end by themselves once the account has no access any more', async () => {
    const records = await signIn('p.ilves')
    const topics = encodeURIComponent(JSON.stringify([{ query: 'shell.frame', input: {} }]))
    const response = await get(`/api/live?topics=${topics}`, records)
    const reader = response.body?.getReader()
    await reader?.read()
    await app.rows(
      `update membership set active = false where account_id = (select id from auth."user" where username = 'p.ilves')`,
    )
    const from = Date.now()
    // The database tells of it; the test's own limit is what would stop a stream that does not hear.
    for (let read = await reader?.read(); read && !read.done; read = await reader?.read());
    expect(Date.now() - from).toBeGreaterThan(0)
    await app.rows(
      `update membership set active = true where account_id = (select id from auth."user" where username = 'p.ilves')`,
    )
  })

  test('are told of once, however many of one topic come at the same time', async () => {
    const stopped = new AbortController()
    const topics = encodeURIComponent(JSON.stringify([{ query: 'shell.frame', input: {} }]))
    const office = await signIn('e.leask')
    const response = await fetch(`${app.running.url}/api/live?topics=${topics}`, {
      headers: { cookie: office },
      signal: stopped.signal,
    })
    const reader = response.body?.getReader()
    await reader?.read()
    const client = new (await import('pg')).default.Client({ connectionString: app.ownerUrl })
    await client.connect()
    const school = await idOf('select id from school')
    const tell = (tab: string) =>
      client.query('select pg_notify($1, $2)', [
        'kedge',
        JSON.stringify({ school, topics: ['roll', 'year'], tab }),
      ])
    for (let n = 0; n < 40; n++) await tell(n % 2 === 0 ? 'one' : 'other')
    await client.end()
    let heard = ''
    const until = Date.now() + 1500
    while (Date.now() < until) {
      const next = await Promise.race([
        reader?.read(),
        new Promise<undefined>((resolve) => setTimeout(() => resolve(undefined), until - Date.now())),
      ])
      heard += Buffer.from(next?.value ?? []).toString()
    }
    stopped.abort()
    const told = [...heard.matchAll(/"tab":("one"|"other"|null)/g)].map(([, tab]) => tab)
    // The first at once, the others together; they were made by several tabs.
    expect(told.length).toBeGreaterThan(0)
    expect(told.length).toBeLessThan(20)
    expect(told).toContain('null')
  })

  const live = (topics: string, as = cookie) => get(`/api/live?topics=${encodeURIComponent(topics)}`, as)
  test('begin with a word, for what one may ask', async () => {
    const stopped = new AbortController()
    const response = await fetch(
      `${app.running.url}/api/live?topics=${encodeURIComponent(JSON.stringify([{ query: 'today.due', input: { date: '2026-11-23' } }]))}`,
      { headers: { cookie }, signal: stopped.signal },
    )
    expect(response.headers.get('content-type')).toBe('text/event-stream')
    const first = await response.body?.getReader().read()
    expect(Buffer.from(first?.value ?? []).toString()).toContain('event: ready')
    stopped.abort()
  })
  test('say what may have changed since the page was made, and nothing else', async () => {
    const topics = encodeURIComponent(
      JSON.stringify([
        { query: 'shell.frame', input: {} },
        { query: 'people.list', input: { date: '2026-11-23' } },
      ]),
    )
    const office = await signIn('e.leask')
    const stopped = new AbortController()
    const begins = async (age: string) => {
      const response = await fetch(`${app.running.url}/api/live?topics=${topics}${age}`, {
        headers: { cookie: office },
        signal: stopped.signal,
      })
      const first = await response.body?.getReader().read()
      const [, data = ''] = /data: (.*)/.exec(Buffer.from(first?.value ?? []).toString()) ?? []
      return (JSON.parse(data) as { changed: readonly number[] }).changed
    }
    expect(await begins('')).toEqual([0, 1])
    // From here on the process listens; what is older than that it cannot know.
    await new Promise((resolve) => setTimeout(resolve, 1500))
    expect(await begins('&age=1000')).toEqual([])
    expect(await begins('&age=3600000')).toEqual([0, 1])
    const client = new (await import('pg')).default.Client({ connectionString: app.ownerUrl })
    await client.connect()
    const school = await idOf('select id from school')
    await client.query('select pg_notify($1, $2)', ['kedge', JSON.stringify({ school, topics: ['roll'] })])
    await client.end()
    // Until it has been heard.
    for (let n = 0; n < 100 && (await begins('&age=1000')).length === 0; n++);
    expect(await begins('&age=1000')).toEqual([1])
    stopped.abort()
  })
  test.each([
    ['no JSON', '[{'],
    ['no topics', '[]'],
    ['a query that is none', '[{"query":"today.nothing","input":{}}]'],
    ['a query that has nothing to follow', '[{"query":"find.anything","input":{"text":"a"}}]'],
  ])('%s is refused', async (_what, topics) => {
    expect((await live(topics)).status).toBe(404)
  })
  test('another’s register is not followed', async () => {
    const guardian = await signIn('hana.marsh@islandmail.example')
    const homeroomId = await idOf("select id from homeroom where name = '7 Tern'")
    const topic = {
      query: 'attendance.register',
      input: { homeroomId, date: '2026-11-23', session: 'morning' },
    }
    expect((await live(JSON.stringify([topic]), guardian)).status).toBe(404)
    expect((await live(JSON.stringify([topic]), '')).status).toBe(401)
  })
})

test('while the database is away Kedge says so, and goes on by itself when it is back', async () => {
  const health = async () =>
    (await (await fetch(`${app.running.url}/api/ready`)).json()) as { status: string; database: string }
  expect(await health()).toMatchObject({ status: 'ok', database: 'ok' })
  await app.closeDatabase()
  try {
    const away = await fetch(`${app.running.url}/api/ready`)
    expect(away.status).toBe(503)
    const told = (await away.json()) as { status: string; database: string; version: string }
    expect(told).toMatchObject({ status: 'unavailable', version: expect.any(String) })
    expect(told.database).toBe('away')
    // The process itself is alive.
    expect((await fetch(`${app.running.url}/api/health`)).status).toBe(200)
    const query = await get(`/api/query/work.list?input={}`)
    expect(query.status).toBe(503)
    expect((await failure(query)).message).toContain('Nothing was changed')
    const attempt = await fetch(`${app.running.url}/api/sign-in`, {
      method: 'POST',
      headers: { 'content-type': 'application/json' },
      body: JSON.stringify({ username: 'e.leask', password: 'harbour lights at dusk' }),
    })
    expect(attempt.status).toBe(503)
    expect(((await attempt.json()) as { message: string }).message).toContain('Something went wrong')
  } finally {
    await app.openDatabase()
  }
  // The worker may not have come back yet, which is a warning.
  expect(await health()).toMatchObject({ database: 'ok' })
  expect((await get('/today')).status).toBe(200)

  // The worker is the same process still, and takes up work again.
  expect(app.running.worker.exitCode).toBeNull()
  const head = await signIn('s.kirkness')
  const asked = await fetch(`${app.running.url}/api/command/reports.askForCards`, {
    method: 'POST',
    headers: { cookie: head, 'content-type': 'application/json' },
    body: JSON.stringify({
      input: {
        roundId: await idOf('select id from report_round'),
        homeroomId: await idOf("select id from homeroom where name = '7 Tern'"),
      },
      key: crypto.randomUUID(),
    }),
  })
  expect(asked.status).toBe(200)
  await app.until("select 1 from job where state = 'done'")
  expect(app.running.worker.exitCode).toBeNull()
})
