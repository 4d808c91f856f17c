import type { Actor } from '@/server/platform/actor'
import type { CommandInput } from '@/server/registry'
import { bad, good, openSchool, type TestSchool } from './school'

const today = '2026-11-23'
let school: TestSchool
let office: Actor
let remi: Actor
let codes: Record<string, string>
let classId: string
let homeroomId: string
beforeAll(async () => {
  school = await openSchool()
  office = await school.actor('e.leask')
  remi = await school.actor('r.achterberg')
  classId = (await school.row("select id from class where name = '7 Science A'")).id
  homeroomId = (await school.row("select id from homeroom where name = '7 Tern'")).id
  codes = Object.fromEntries(
    (await school.rows('select code, id from attendance_code')).map((c) => [c.code, c.id]),
  )
})
afterAll(() => school.close())

const lesson = async (over: { date?: string; session?: string | null; actor?: Actor } = {}) =>
  good(
    await school.query('attendance.lessonRegister', over.actor ?? remi, {
      classId,
      date: over.date ?? today,
      session: over.session === undefined ? '1' : over.session,
    }),
  )
const idOf = async (name: string) =>
  String((await school.row('select id from student where sort_name = $1', [name])).id)
const mark = (
  studentId: string,
  code: string | null,
  expectedVersion = 0,
  at: { date?: string; session?: string } = {},
) =>
  school.execute('attendance.setLessonMarks', remi, {
    classId,
    date: at.date ?? today,
    session: at.session ?? '1',
    cells: [
      {
        key: { studentId },
        value: { codeId: code && (codes[code] ?? ''), minutesLate: null, note: null },
        expectedVersion,
      },
    ],
  })

describe('the register of a lesson', () => {
  test('is the class’s present lesson when none is named, with its room, time and roll of that day', async () => {
    const now = await lesson({ session: null })
    expect(now).toMatchObject({
      session: '1',
      begun: true,
      starts: '08:50',
      lesson: { room: 'Lab 1', cancelled: false },
    })
    expect(now.rows).toHaveLength(28)
    // Emeka came to the class with his homeroom in November.
    const emeka = await idOf('Kestrel, Emeka')
    const earlier = await school.row(
      "select session_date::text as d from attendance_mark where class_id = $1 and session_date < '2026-11-20' order by 1 desc limit 1",
      [classId],
    )
    expect(now.rows.some((r) => r.studentId === emeka)).toBe(true)
    expect(now.nearest.previous).toBeDefined()
    expect(await lesson({ date: '2026-11-22', session: null })).toMatchObject({ session: '', lesson: null })
    expect(earlier.d < today).toBe(true)
  })
  test('takes marks beside those of the half-day, which stay their own', async () => {
    const tobias = await idOf('Abara, Tobias')
    good(await mark(tobias, 'P'))
    good(
      await school.execute('attendance.setMarks', remi, {
        homeroomId,
        date: today,
        session: 'morning',
        cells: [
          {
            key: { studentId: tobias },
            value: { codeId: codes.L ?? '', minutesLate: 4, note: null },
            expectedVersion: 0,
          },
        ],
      }),
    )
    const rows = await school.rows(
      'select session, class_id, homeroom_id from attendance_mark where student_id = $1 and session_date = $2 order by session',
      [tobias, today],
    )
    expect(rows).toEqual([
      { session: '1', classId, homeroomId: null },
      { session: 'morning', classId: null, homeroomId },
    ])
  })
  test('is refused before it opens, in a period without the class, on a day without school and for strangers to the class', async () => {
    const rui = await idOf('Castellane, Rui')
    expect(bad(await mark(rui, 'P', 0, { session: '6' })).message).toContain('has no lesson in period 6')
    expect(bad(await mark(rui, 'P', 0, { date: '2026-11-22' })).message).toContain('has no lesson')
    expect(bad(await mark(rui, 'P', 0, { date: '2026-11-30' })).message).toContain('in the future')
    const other = await school.row(
      "select student_id as id from homeroom_member m join homeroom h on h.id = m.homeroom_id where h.name = '9 Tern' limit 1",
    )
    expect(bad(await mark(String(other.id), 'P')).message).toContain('not on the roll')
    const { lessons } = good(await school.query('attendance.lessonsOfDay', office, { date: today }))
    const later = lessons.find((l) => l.period === 2)
    const early = await school.execute('attendance.markLessonRest', remi, {
      classId: later?.classId ?? '',
      date: today,
      session: '2',
      codeId: codes.P ?? '',
    })
    expect(bad(early).message).toContain('opens ten minutes before')
  })
  test('marking the rest takes over what the half-day knows: a reason, not a mere absence', async () => {
    const [ill, gone] = [await idOf('Arslan, Camila'), await idOf('Bellweather, Juno')]
    for (const [studentId, code] of [
      [ill, 'A1'],
      [gone, 'A'],
    ] as const)
      good(
        await school.execute('attendance.setMarks', remi, {
          homeroomId,
          date: today,
          session: 'morning',
          cells: [
            {
              key: { studentId },
              value: { codeId: codes[code] ?? '', minutesLate: null, note: null },
              expectedVersion: 0,
            },
          ],
        }),
      )
    const before = await lesson()
    expect(before.rows.find((r) => r.studentId === ill)?.planned).toMatchObject({
      id: null,
      codeId: codes.A1,
    })
    expect(before.rows.find((r) => r.studentId === gone)?.planned).toBeNull()
    const ask = { classId, date: today, session: '1', codeId: codes.P ?? '' }
    const done = await school.execute('attendance.markLessonRest', remi, ask)
    expect(good(done)).toHaveLength(27)
    const after = await lesson()
    expect(after.rows.find((r) => r.studentId === ill)?.mark?.codeId).toBe(codes.A1)
    expect(after.rows.find((r) => r.studentId === gone)?.mark?.codeId).toBe(codes.P)
    expect(good(await school.execute('attendance.markLessonRest', remi, ask))).toHaveLength(0)
    good(await school.execute('history.undo', remi, { run: done.ok ? (done.run ?? '') : '' }))
    expect((await lesson()).rows.filter((r) => r.mark?.codeId)).toHaveLength(1)
  })
  test('shows an absence planned for its period and no other; whoever takes it ends it', async () => {
    const pia = await idOf('Gallowglass, Pia')
    const plan = {
      plannedId: null,
      expectedVersion: 0,
      studentId: pia,
      firstDay: today,
      lastDay: today,
      sessions: 'lessons' as const,
      firstPeriod: 1,
      lastPeriod: 2,
      codeId: codes.A3 ?? '',
      note: null,
    }
    expect(
      bad(await school.execute('attendance.savePlanned', office, { ...plan, lastPeriod: null })).kind,
    ).toBe('invalid')
    good(await school.execute('attendance.savePlanned', office, plan))
    expect(
      bad(await school.execute('attendance.savePlanned', office, { ...plan, firstPeriod: 2, lastPeriod: 4 }))
        .message,
    ).toContain('already planned')
    good(await school.execute('attendance.savePlanned', office, { ...plan, firstPeriod: 3, lastPeriod: 3 }))
    const planned = (await lesson()).rows.find((r) => r.studentId === pia)?.planned
    expect(planned).toMatchObject({ codeId: codes.A3 })
    const half = good(
      await school.query('attendance.register', remi, { homeroomId, date: today, session: 'morning' }),
    )
    expect(half.rows.find((r) => r.studentId === pia)?.planned).toBeNull()
    const end = { classId, date: today, plannedId: planned?.id ?? '', expectedVersion: planned?.version ?? 0 }
    good(await school.execute('attendance.endPlannedInLesson', remi, end))
    expect((await lesson()).rows.find((r) => r.studentId === pia)?.planned).toBeNull()
  })
  test('a mark of a colleague at the same time is shown, not overwritten', async () => {
    const rui = await idOf('Castellane, Rui')
    const [first, second] = await Promise.all([mark(rui, 'P'), mark(rui, 'A')])
    expect([first, second].filter((r) => r.ok)).toHaveLength(1)
    expect([first, second].find((r) => !r.ok)).toMatchObject({ failure: { kind: 'conflict' } })
  })
})

describe('what is different on a day', () => {
  const change = (over: Partial<CommandInput<'timetable.changeLesson'>>) =>
    school.execute('timetable.changeLesson', office, {
      classId,
      date: today,
      period: 1,
      expectedVersion: 0,
      cancelled: false,
      staffId: null,
      roomId: null,
      note: null,
      confirmed: false,
      ...over,
    })
  const version = async () => (await lessonOf(office))?.version ?? 0
  const lessonOf = async (actor: Actor) =>
    good(await school.query('attendance.lessonsOfDay', actor, { date: today })).lessons.find(
      (l) => l.classId === classId && l.period === 1,
    )

  test('cover makes the lesson the colleague’s, on Today and in the register; a cancelled one takes no marks', async () => {
    const busy = good(await school.query('attendance.lessonsOfDay', office, { date: today })).lessons.find(
      (l) => l.period === 1 && l.classId !== classId && l.teacher !== null && !l.cover,
    )
    const teacher = await school.row(
      'select t.staff_id as id from class_teacher t where t.class_id = $1 and upper(period) is null',
      [busy?.classId],
    )
    const clash = bad(await change({ staffId: String(teacher.id) }))
    expect(clash).toMatchObject({ fields: [{ path: 'confirmed' }] })
    expect(clash.message).toContain('in this period')
    good(await change({ staffId: String(teacher.id), confirmed: true, note: 'Work is on the desk' }))
    expect((await lessonOf(remi))?.own).toBe(false)
    expect((await lesson()).lesson).toMatchObject({ cover: expect.any(String), note: 'Work is on the desk' })
    // The one who covers takes the register in their own name.
    const marked = bad(await change({ expectedVersion: await version(), cancelled: true }))
    expect(marked.message).toContain('The register of this lesson was taken')
    good(await change({ expectedVersion: await version(), cancelled: true, confirmed: true }))
    const farrow = await idOf('Farrow, Milan')
    expect(bad(await mark(farrow, 'P')).message).toContain('is cancelled')
    good(await change({ expectedVersion: await version() }))
    expect((await lessonOf(remi))?.own).toBe(true)
    good(await mark(farrow, 'P'))
  })
  test('two who arrange the same lesson: the second sees that it has changed', async () => {
    const both = await Promise.all([change({ note: 'A' }), change({ note: 'B' })])
    expect(both.filter((r) => r.ok)).toHaveLength(1)
    good(await change({ expectedVersion: await version() }))
  })
  test('no lesson, no change', async () =>
    expect(bad(await change({ date: '2026-11-22' })).message).toContain('no such lesson'))
})

describe('the timetable', () => {
  const shown = async (date = today) => good(await school.query('timetable.shown', office, { date }))
  const cell = (over: Partial<CommandInput<'timetable.setLesson'>>, timetableId: string) =>
    school.execute('timetable.setLesson', office, {
      timetableId,
      cycleDay: 1,
      period: 1,
      gone: null,
      lesson: null,
      confirmed: false,
      ...over,
    })
  test('takes a lesson with a clash only when that was seen; two at one cell: the second is told', async () => {
    const now = await shown()
    const id = now.timetables[0]?.id ?? ''
    const marine = now.classes.find((c) => c.name === '11 Marine studies A')
    const put = { lesson: { classId: marine?.id ?? '', roomId: null } }
    expect(bad(await cell(put, id))).toMatchObject({ fields: [{ path: 'confirmed' }] })
    const done = await cell({ ...put, confirmed: true }, id)
    good(done)
    expect(bad(await cell({ ...put, confirmed: true }, id)).message).toContain('already has a lesson')
    const made = (await shown()).lessons.find(
      (l) => l.classId === marine?.id && l.cycleDay === 1 && l.period === 1,
    )
    const gone = { lessonId: made?.id ?? '', expectedVersion: made?.version ?? 0 }
    const both = await Promise.all([cell({ gone }, id), cell({ gone }, id)])
    expect(both.filter((r) => r.ok)).toHaveLength(1)
    expect(bad(both.find((r) => !r.ok) as never).message).toContain('Someone changed this lesson')
  })
  test('is replaced by a file as a whole and put back by undo; equal lessons keep their rows', async () => {
    const now = await shown()
    const id = now.timetables[0]?.id ?? ''
    const lessons = now.lessons.map(({ cycleDay, period, classId: c, roomId }) => ({
      cycleDay,
      period,
      classId: c,
      roomId,
    }))
    const done = await school.execute('timetable.replaceLessons', office, {
      timetableId: id,
      expectedVersion: now.timetables[0]?.version ?? 0,
      lessons: lessons.slice(10),
    })
    expect(good(done)).toEqual({ removed: 10, added: 0 })
    good(await school.execute('history.undo', office, { run: done.ok ? (done.run ?? '') : '' }))
    expect((await shown()).lessons.map((l) => l.id).sort()).toEqual(now.lessons.map((l) => l.id).sort())
    const twice = [...lessons.slice(0, 1), ...lessons.slice(0, 1)]
    expect(
      bad(
        await school.execute('timetable.replaceLessons', office, {
          timetableId: id,
          expectedVersion: (await shown()).timetables[0]?.version ?? 0,
          lessons: twice,
        }),
      ).message,
    ).toContain('listed twice')
  })
  test('of a new name ends the one before; one with registers stays; days of lessons are not cut off', async () => {
    const [old] = (await shown()).timetables
    const ask = {
      timetableId: null,
      expectedVersion: 0,
      name: 'Spring timetable',
      firstDay: '2027-01-11',
      lastDay: '2027-07-16',
      cycle: 'days' as const,
      cycleDays: 6,
      periods: [
        { starts: '08:50', ends: '09:40' },
        { starts: '09:45', ends: '10:35' },
      ],
    }
    expect(bad(await school.execute('timetable.saveTimetable', office, ask)).message).toContain(
      'Choose days that no other',
    )
    good(
      await school.execute('timetable.saveTimetable', office, {
        timetableId: old?.id ?? '',
        expectedVersion: old?.version ?? 0,
        name: old?.name ?? '',
        firstDay: '2026-09-01',
        lastDay: '2026-12-18',
        cycle: 'week',
        cycleDays: 5,
        periods: (await shown()).periods.map(({ starts, ends }) => ({ starts, ends })),
      }),
    )
    const made = await school.execute('timetable.saveTimetable', office, ask)
    const { timetableId } = good(made)
    const spring = await shown('2027-01-11')
    expect(spring.days).toHaveLength(6)
    good(await cell({ cycleDay: 6, period: 2, lesson: { classId, roomId: null } }, timetableId))
    const fewer = await school.execute('timetable.saveTimetable', office, {
      ...ask,
      timetableId,
      expectedVersion: (await shown('2027-01-11')).timetables.find((t) => t.id === timetableId)?.version ?? 0,
      cycleDays: 5,
    })
    expect(bad(fewer).message).toContain('1 lesson lies on a day')
    const again = (await shown()).timetables.find((t) => t.id === old?.id)
    const removed = await school.execute('timetable.removeTimetable', office, {
      timetableId: old?.id ?? '',
      expectedVersion: again?.version ?? 0,
    })
    expect(bad(removed).message).toContain('registers were taken with this timetable')
  })
})

describe('what is missing, and who is here', () => {
  test('a teacher is reminded once in ten minutes, whoever asks, on Today and by mail', async () => {
    const ask = { homeroomId, classId: null, date: today, session: 'morning' }
    const both = await Promise.all([
      school.execute('attendance.remind', office, ask),
      school.execute('attendance.remind', await school.actor('s.kirkness'), ask),
    ])
    expect(both.filter((r) => r.ok)).toHaveLength(1)
    const mails = await school.rows(
      "select to_address, body from mail where kind = 'attendance.registerReminder'",
    )
    expect(mails).toEqual([
      { toAddress: 'r.achterberg@wrackline.example', body: expect.stringContaining('7 Tern') },
    ])
    const due = good(await school.query('today.due', remi, { date: today })).items
    expect(due.find((i) => i.what === '7 Tern, morning register')?.detail).toMatch(/asks for it/)
    const { registers } = good(await school.query('attendance.registersOfDay', office, { date: today }))
    expect(registers.find((r) => r.name === '7 Tern')?.reminded.morning?.by).toBeTruthy()
    expect(registers.find((r) => r.name === '7 Tern')?.begun.morning?.by).toBe('Remi Achterberg')
    const complete = registers.find((r) => r.morning >= r.onRoll)
    expect(
      bad(await school.execute('attendance.remind', office, { ...ask, homeroomId: complete?.id ?? '' }))
        .message,
    ).toContain('is complete')
  })
  test('the latest register says who is in the building', async () => {
    const { students } = good(await school.query('attendance.inBuilding', office, {}))
    const slow = await school.rows(
      `select distinct on (m.student_id) m.student_id, c.meaning from attendance_mark m join attendance_code c on c.id = m.code_id
       where m.session_date = $1 order by m.student_id, case m.session when 'morning' then 0 when 'afternoon' then 5 else m.session::int end desc`,
      [today],
    )
    const at = new Map(slow.map((m) => [m.studentId, m.meaning]))
    for (const s of students) {
      const meaning = at.get(s.studentId)
      expect(s.where).toBe(
        meaning === undefined ? 'not known' : meaning === 'present' || meaning === 'late' ? 'here' : 'away',
      )
    }
    expect(students.length).toBeGreaterThan(600)
  })
  test('who was present and then is away without a reason is pointed out to those who look after all registers', async () => {
    const { gone } = good(await school.query('attendance.unusual', office, { date: today }))
    expect(gone).toEqual([
      expect.objectContaining({ className: '12 English B', period: '1', before: 'morning' }),
    ])
    expect(good(await school.query('attendance.unusual', remi, { date: today }))).toEqual({
      many: [],
      gone: [],
    })
    const storm = await school.row(
      `select session_date::text as d from attendance_mark m join attendance_code c on c.id = m.code_id where c.code = 'W' limit 1`,
    )
    const { many } = good(await school.query('attendance.unusual', office, { date: String(storm.d) }))
    expect(many.length).toBeGreaterThan(5)
    expect(many.every((m) => m.away >= 5 && m.away * 4 >= m.marked)).toBe(true)
  })
})

test('year groups choose their registers: of lessons alone, no half-day is due', async () => {
  const administrator = await school.actor('m.vester')
  const group = good(await school.query('timetable.shown', office, { date: today })).yearGroups.find(
    (g) => g.name === 'Year 7',
  )
  const choose = {
    yearGroupId: group?.id ?? '',
    expectedVersion: group?.version ?? 0,
    registers: 'lessons' as const,
  }
  const done = await school.execute('year.setRegisters', administrator, { groups: [choose] })
  good(done)
  const { registers } = good(await school.query('attendance.registersOfDay', office, { date: today }))
  expect(registers.some((r) => r.name === '7 Tern')).toBe(false)
  expect(bad(await school.execute('year.setRegisters', administrator, { groups: [choose] })).kind).toBe(
    'conflict',
  )
  good(await school.execute('history.undo', administrator, { run: done.ok ? (done.run ?? '') : '' }))
})
