import type { Actor } from '@/server/platform/actor'
import { explainMark } from '@/core/marks/explanation'
import { termMark } from '@/core/marks/term-mark'
import type { ScoreEntry } from '@/core/marks/gradebook'
import { bad, good, openSchool, type TestSchool } from './school'

// The same figure, asked in different places, is the same figure.
let school: TestSchool
let head: Actor
let teacher: Actor
const date = '2026-11-23'
beforeAll(async () => {
  school = await openSchool()
  head = await school.actor('s.kirkness')
  teacher = await school.actor('r.achterberg')
})
afterAll(() => school.close())

test('a mark is the same in the gradebook, in the report entries, on the card and in its explanation', async () => {
  const round = await school.row('select id from report_round')
  const classes = await school.rows(
    'select c.id, c.name from class_entries e join class c on c.id = e.class_id order by c.name',
  )
  const cards = good(
    await school.query('reports.cardsToPrint', head, { roundId: round.id, homeroomId: null }),
  )
  let compared = 0
  for (const c of classes) {
    const { book } = good(await school.query('marks.gradebook', head, { classId: c.id, date }))
    const { rows } = good(
      await school.query('reports.classEntries', head, { roundId: round.id, classId: c.id }),
    )
    if (!book) throw new Error('every class of the demo has a gradebook')
    for (const row of rows) {
      const entries = new Map(
        book.scores
          .filter((s) => s.studentId === row.studentId && s.entry)
          .map((s): [string, ScoreEntry] => [s.assignmentId, s.entry as ScoreEntry]),
      )
      const dates = { on: date, since: row.since }
      const mark = termMark(book, entries, dates)
      const why = explainMark(book, entries, dates)
      const line = cards
        .find((card) => card.student.id === row.studentId)
        ?.lines.find((l) => l.className === c.name)
      const [own] = row.values
      expect([own?.mark, own?.grade]).toEqual([mark.mark, mark.grade])
      expect([line?.mark, line?.grade]).toEqual([mark.mark, mark.grade])
      expect(why.mark).toBe(mark.mark)
      compared++
    }
  }
  expect(compared).toBeGreaterThan(500)
})

test('attendance on the card is what a slow count over the registers gives, only while enrolled', async () => {
  const round = await school.row('select id from report_round')
  const cards = good(
    await school.query('reports.cardsToPrint', head, { roundId: round.id, homeroomId: null }),
  )
  for (const card of cards) {
    const marks = await school.rows(
      `select c.meaning from attendance_mark m join attendance_code c on c.id = m.code_id join enrolment e on e.student_id = m.student_id
       where m.student_id = $1 and m.session_date between '2026-09-01' and '2026-11-23' and m.session_date >= lower(e.period)
         and m.session in ('morning', 'afternoon')`,
      [card.student.id],
    )
    const count = (...meanings: string[]) => marks.filter((m) => meanings.includes(m.meaning)).length
    expect(card.attendance).toMatchObject({
      possible: marks.length - count('not expected'),
      present: count('present', 'late', 'elsewhere'),
      late: count('late'),
      withReason: count('absent with reason'),
      withoutReason: count('absent without reason'),
    })
  }
})

test('the number beside Today is the number of things on Today, for everyone', async () => {
  for (const user of ['r.achterberg', 's.kirkness', 'e.leask', 'm.vester', 'p.ilves']) {
    const actor = await school.actor(user)
    const { items } = good(await school.query('today.due', actor, { date }))
    expect(good(await school.query('shell.frame', actor, {})).dueCount).toBe(items.length)
    for (const item of items) expect(item.href).toMatch(/^\/(attendance|classes|reports|assessments|people)/)
  }
})

test('what waits is told to those it waits for', async () => {
  const due = async (user: string) =>
    good(await school.query('today.due', await school.actor(user), { date })).items.map((i) => i.what)
  expect(await due('r.achterberg')).toEqual([
    '7 Tern, morning register',
    '7 Science A, period 1 register',
    'Fair tests, answers',
    '7 Science A, report entries',
  ])
  expect(await due('s.kirkness')).toEqual([
    expect.stringMatching(/morning registers are not complete/),
    expect.stringMatching(/lesson registers are not complete/),
    '1 absence reported by a guardian',
    '7 English A, entries to check',
  ])
  expect(await due('p.ilves')).toEqual([
    expect.stringMatching(/morning registers/),
    expect.stringMatching(/lesson registers/),
    'Iversen, Noor, accepted and expected',
    '1 absence reported by a guardian',
  ])
  expect(
    good(await school.query('today.due', teacher, { date: '2026-11-21' })).items.some((i) =>
      i.what.includes('register'),
    ),
  ).toBe(false)
})

describe('the lessons of a week', () => {
  const lessonsOf = async (day: string) =>
    good(await school.query('attendance.lessonsOfDay', head, { date: day }))
      .lessons.filter((l) => l.register && !l.cancelled)
      .map((l) => `${l.classId} ${day} ${l.period}`)
  const onSheets = async (day: string) => {
    const { sheets, days } = good(
      await school.query('attendance.sheets', head, { date: day, of: 'classes', id: null }),
    )
    const slots = sheets.flatMap((s) => s.sessions.map((x) => `${s.id} ${x.date} ${x.session}`))
    return { days, slots }
  }
  // Two weeks after one another in which nothing is marked yet, the second the first of another cycle.
  const weeks = ['2026-12-02', '2026-12-09']

  test.each([
    ['week', 5],
    ['two weeks', 10],
    ['days', 4],
    ['days', 7],
  ])(
    'are the same on the sheets and on each day’s list, where a timetable repeats by %s (%i days)',
    async (cycle, cycleDays) => {
      const before = await school.row(
        `select id, cycle, cycle_days from timetable where date '2026-12-02' between first_day and coalesce(last_day, 'infinity')`,
      )
      await school.rows('update timetable set cycle = $1, cycle_days = $2 where id = $3', [
        cycle,
        cycleDays,
        before.id,
      ])
      await school.rows(
        `insert into lesson_change (school_id, class_id, on_date, period, cancelled, changed_by)
       select school_id, class_id, date '2026-12-03', period, true, 'Ewan Leask' from lesson where cycle_day = 4 limit 5
       on conflict do nothing`,
      )
      try {
        let expectedVersion = 0
        for (const week of weeks) {
          const { days, slots } = await onSheets(week)
          expect(days).toHaveLength(5)
          const each = (await Promise.all(days.map(lessonsOf))).flat()
          expect([...slots].sort()).toEqual([...each].sort())
          expectedVersion += slots.length
        }
        expect(expectedVersion).toBeGreaterThan(100)
      } finally {
        await school.rows('update timetable set cycle = $1, cycle_days = $2 where id = $3', [
          before.cycle,
          before.cycleDays,
          before.id,
        ])
      }
    },
  )

  test('of one class are those of all, and none of a class that takes registers for half-days', async () => {
    const all = await onSheets('2026-12-02')
    const { id } = await school.row("select id from class where name = '8 Science A'")
    const { sheets } = good(
      await school.query('attendance.sheets', head, { date: '2026-12-02', of: 'classes', id: String(id) }),
    )
    expect(sheets.map((s) => s.name)).toEqual(['8 Science A'])
    expect(sheets[0]?.sessions.map((x) => `${String(id)} ${x.date} ${x.session}`)).toEqual(
      all.slots.filter((slot) => slot.startsWith(String(id))),
    )
    await school.rows("update year_group set registers = 'half-days' where name = 'Year 8'")
    const none = good(
      await school.query('attendance.sheets', head, { date: '2026-12-02', of: 'classes', id: String(id) }),
    )
    expect(none.sheets).toEqual([])
    expect(none.classes.some((c) => c.name === '8 Science A')).toBe(false)
    await school.rows("update year_group set registers = 'both' where name = 'Year 8'")
  })
})

describe('finding', () => {
  const find = async (actor: Actor, text: string) =>
    good(await school.query('find.anything', actor, { text })).map((f) => `${f.kind} ${f.name}`)
  test('by any words of the name in any order, by number, by class', async () => {
    expect(await find(teacher, 'marsh ilse')).toEqual(['student Okonjo-Marsh, Ilse'])
    const { number } = await school.row("select number from student where sort_name = 'Okonjo-Marsh, Ilse'")
    expect(await find(teacher, String(number).padStart(4, '0'))).toContain('student Okonjo-Marsh, Ilse')
    expect(await find(teacher, '7 tern')).toContain('homeroom 7 Tern')
    expect(await find(teacher, 'fair tests')).toEqual(['assessment Fair tests'])
  })
  test('a teacher finds the own classes only, the head all; signs of patterns are plain letters', async () => {
    expect(await find(teacher, 'gradebook science')).toEqual(['class 7 Science A', 'class 8 Science A'])
    expect((await find(head, 'gradebook science')).length).toBe(8)
    expect(await find(teacher, '%')).toEqual([])
    expect(await find(teacher, '   ')).toEqual([])
  })
})

test('a note on support is for the office and for those who teach the student', async () => {
  const { id } = await school.row("select id from student where sort_name = 'Marchetti, Oona'")
  const expectedVersion = async (actor: Actor) =>
    good(await school.query('people.student', actor, { studentId: id })).fields.supportNote
  const stranger = await school.row(
    'select u.username from membership m join auth."user" u on u.id = m.account_id join homeroom_teacher t on t.staff_id = m.person_id join homeroom h on h.id = t.homeroom_id where h.name = $1',
    ['1 Tern'],
  )
  expect(await expectedVersion(teacher)).toContain('coloured overlay')
  expect(await expectedVersion(await school.actor('e.leask'))).toContain('coloured overlay')
  expect(await expectedVersion(await school.actor('p.ilves'))).toBeNull()
  expect(await expectedVersion(await school.actor(stranger.username))).toBeNull()
})

describe('the registry', () => {
  test('one key belongs to one command', async () => {
    const key = crypto.randomUUID()
    good(await school.execute('account.signOutEverywhere', head, {}, { key }))
    expect(bad(await school.execute('work.cancel', head, { jobId: key }, { key }))).toMatchObject({
      kind: 'refused',
      code: 'platform.keyReused',
    })
  })
  test('a refused command leaves nothing, not even its key: the mended form can be sent with it', async () => {
    const key = crypto.randomUUID()
    expect(
      bad(
        await school.execute(
          'year.addYearGroups',
          head,
          { yearId: key, names: ['x'], homerooms: [] },
          { key },
        ),
      ).kind,
    ).toBe('not found')
    expect(
      (await school.row('select count(*)::int as n from answered_command where key = $1', [key])).n,
    ).toBe(0)
  })
  test('keys are kept for a week, then cleared away by the clock', async () => {
    const old = crypto.randomUUID()
    const fresh = crypto.randomUUID()
    for (const [key, days] of [
      [old, 8],
      [fresh, 6],
    ] as const) {
      good(await school.execute('account.signOutEverywhere', head, {}, { key }))
      await school.rows("update answered_command set at = at - $2 * interval '1 day' where key = $1", [
        key,
        days,
      ])
    }
    const { recurring } = await import('@/server/registry')
    const { inSchool } = await import('@/server/platform/in-school')
    const { database } = await import('@/server/platform/database')
    await database()
      .transaction()
      .execute((db) =>
        inSchool(db, head, { command: 'history.forget' }, async (context) =>
          recurring.get('history.forget')?.run(context, date),
        ),
      )
    const kept = (await school.rows('select key from answered_command')).map((r) => r.key as string)
    expect(kept).toEqual(expect.arrayContaining([fresh]))
    expect(kept).not.toContain(old)
  })
  test('a query cannot change anything', async () => {
    const { defineQuery } = await import('@/server/platform/define')
    const { executeQuery } = await import('@/server/platform/run')
    const { onlyRoles } = await import('@/server/platform/rights')
    const { z } = await import('zod')
    const sly = defineQuery({
      input: z.object({}),
      right: onlyRoles('try', 'head'),
      run: ({ db }) => db.deleteFrom('subject').execute(),
    })
    const nouns = await school.row('select count(*)::int as n from subject')
    expect(bad(await executeQuery(sly, head, {})).kind).toBe('fault')
    expect(await school.row('select count(*)::int as n from subject')).toEqual(nouns)
  })
  test('those who look are told of a change once it stands, and only in their school', async () => {
    const { onChange } = await import('@/server/platform/live')
    const { registersTopic } = await import('@/server/school/topics')
    const heard: string[] = []
    const stops = [
      onChange(head.schoolId, [registersTopic()], () => heard.push('own')),
      onChange(crypto.randomUUID(), [registersTopic()], () => heard.push('other')),
    ]
    // The first word is that listening has begun.
    for (let n = 0; n < 100 && heard.length < 2; n++) await new Promise((resolve) => setTimeout(resolve, 20))
    heard.length = 0
    const homeroom = await school.row("select id from homeroom where name = '9 Tern'")
    const present = await school.row("select id from attendance_code where code = 'P'")
    const before = heard.length
    good(
      await school.execute('attendance.markRest', head, {
        homeroomId: homeroom.id,
        date: '2026-11-23',
        session: 'afternoon',
        codeId: present.id,
      }),
    )
    for (let n = 0; n < 100 && heard.length === before; n++)
      await new Promise((resolve) => setTimeout(resolve, 20))
    for (const stop of stops) stop()
    expect(heard).toEqual(['own'])
  })
  test('an answer over the address carries its status and is kept by nobody', async () => {
    const { answered, failed, sameOrigin } = await import('@/server/platform/http')
    expect(answered({ ok: true, value: 1 }).headers.get('cache-control')).toBe('no-store')
    expect([
      failed({ kind: 'conflict', message: '', standing: [] }).status,
      failed({ kind: 'not found', message: '' }).status,
      failed({ kind: 'refused', code: 'x', about: null, message: '' }).status,
    ]).toEqual([409, 404, 422])
    const from = (headers: Record<string, string>) =>
      sameOrigin(
        new Request('http://kedge.example/api', {
          method: 'POST',
          headers: { host: 'kedge.example', ...headers },
        }),
      )
    expect([
      from({ origin: 'http://kedge.example' }),
      from({ origin: 'http://elsewhere.example' }),
      from({ 'sec-fetch-site': 'cross-site' }),
      from({}),
    ]).toEqual([true, false, false, true])
  })
})
