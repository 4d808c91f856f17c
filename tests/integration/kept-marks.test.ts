import type { Actor } from '@/server/platform/actor'
import type { Result } from '@/server/platform/failure'
import type { CommandInput } from '@/server/registry'
import { bad, good, openSchool, type TestSchool } from './school'

// Days, lessons and timetables that change under registers that were taken.
let school: TestSchool
let admin: Actor
let office: Actor
let teacher: Actor
let homeroomId: string
let classId: string
let yearId: string
let codes: Record<string, string>
let student: string
let other: string
const today = '2026-11-23'
beforeAll(async () => {
  school = await openSchool()
  admin = await school.actor('m.vester')
  office = await school.actor('e.leask')
  teacher = await school.actor('r.achterberg')
  homeroomId = (await school.row("select id from homeroom where name = '7 Tern'")).id
  classId = (await school.row("select id from class where name = '7 Science A'")).id
  yearId = (await school.row("select id from academic_year where name = '2026/27'")).id
  codes = Object.fromEntries(
    (await school.rows('select code, id from attendance_code')).map((c) => [String(c.code), String(c.id)]),
  )
  const [first, second] = await school.rows(
    `select m.student_id as id from homeroom_member m join class_member c on c.student_id = m.student_id and c.class_id = $2
      and c.period @> date '2026-11-16' where m.homeroom_id = $1 and m.period @> date '2026-11-16' order by 1`,
    [homeroomId, classId],
  )
  student = String(first?.id)
  other = String(second?.id)
})
afterAll(() => school.close())

const undo = async (result: Result<unknown>, actor = admin) =>
  good(await school.execute('history.undo', actor, { run: result.ok ? (result.run ?? '') : '' }))
const closure = (name: string, firstDay: string, lastDay = firstDay) =>
  school.execute('year.saveClosure', admin, {
    closureId: null,
    expectedVersion: 0,
    yearId,
    kind: 'holiday',
    name,
    firstDay,
    lastDay,
  })
const figures = async (id: string, from: string, to: string) =>
  good(await school.query('attendance.certificate', office, { id, from, to, date: to })).figures
const lessonMark = (
  id: string,
  code: string | null,
  expectedVersion: number,
  date = today,
  session = '1',
  actor = teacher,
) =>
  school.execute('attendance.setLessonMarks', actor, {
    classId,
    date,
    session,
    cells: [
      {
        key: { studentId: id },
        value: { codeId: code && (codes[code] ?? ''), minutesLate: null, note: null },
        expectedVersion,
      },
    ],
  })
const markOf = (id: string, date: string, session: string) =>
  school.row(
    'select kept, version, code_id from attendance_mark where student_id = $1 and session_date = $2 and session = $3',
    [id, date, session],
  )
const onCalls = async (id: string) =>
  good(await school.query('attendance.callList', office, { date: today })).students.find(
    (s) => s.studentId === id,
  )

test('marks of a day that loses its school count in nothing, are listed, and the office clears them; undo counts them again', async () => {
  const correct = {
    studentIds: [student],
    firstDay: '2026-11-18',
    lastDay: '2026-11-18',
    sessions: ['morning' as const, 'afternoon' as const],
    codeId: codes.A ?? '',
    note: null,
    reason: 'x',
    replace: true,
  }
  good(await school.execute('attendance.correct', office, correct))
  const before = await figures(student, '2026-11-16', '2026-11-20')
  expect(before.withoutReason).toBe(2)
  const storm = await closure('Storm', '2026-11-18')
  good(storm)
  const after = await figures(student, '2026-11-16', '2026-11-20')
  expect([after.withoutReason, after.possible, after.unmarked]).toEqual([0, before.possible - 2, 0])
  expect((await onCalls(student))?.before ?? 0).toBe(0)
  const { registers } = good(await school.query('attendance.keptMarks', office, {}))
  expect(registers).toContainEqual(
    expect.objectContaining({ homeroomId, date: '2026-11-18', session: 'morning', name: '7 Tern' }),
  )
  const clear = async (actor: Actor) =>
    school.execute('attendance.setMarks', actor, {
      homeroomId,
      date: '2026-11-18',
      session: 'morning',
      cells: [
        {
          key: { studentId: student },
          value: { codeId: null, minutesLate: null, note: null },
          expectedVersion: Number((await markOf(student, '2026-11-18', 'morning')).version),
        },
      ],
    })
  // Nobody enters new ones there, and what is there is the office's.
  expect(bad(await clear(teacher)).message).toContain('There is no session')
  const cleared = await clear(office)
  good(cleared)
  // The mark that was cleared meanwhile stays cleared.
  await undo(storm)
  expect((await markOf(student, '2026-11-18', 'afternoon')).kept).toBe(false)
  const again = await figures(student, '2026-11-16', '2026-11-20')
  expect([again.withoutReason, again.unmarked]).toEqual([1, 1])
})

test('two causes at once: a mark counts again only when neither holds any more', async () => {
  const kept = async () => (await markOf(other, '2026-11-17', 'morning')).kept
  const first = await closure('Flood', '2026-11-17')
  good(first)
  expect(await kept()).toBe(true)
  const { id, version } = await school.row("select id, version from closure where name = 'Flood'")
  const longer = await school.execute('year.saveClosure', admin, {
    closureId: String(id),
    expectedVersion: Number(version),
    yearId,
    kind: 'holiday',
    name: 'Flood',
    firstDay: '2026-11-16',
    lastDay: '2026-11-17',
  })
  good(longer)
  expect((await markOf(other, '2026-11-16', 'morning')).kept).toBe(true)
  await undo(longer)
  expect([await kept(), (await markOf(other, '2026-11-16', 'morning')).kept]).toEqual([true, false])
  await undo(first)
  expect(await kept()).toBe(false)
})

test('a lesson that is cancelled keeps its marks apart; who cancels it is told first', async () => {
  await school.rows(
    "delete from attendance_mark where session_date = $1 and session = '1' and class_id = $2",
    [today, classId],
  )
  good(await lessonMark(student, 'A', 0))
  expect((await onCalls(student))?.sessions).toContain('1')
  const cancel = (confirmed: boolean) =>
    school.execute('timetable.changeLesson', office, {
      classId,
      date: today,
      period: 1,
      expectedVersion: 0,
      cancelled: true,
      staffId: null,
      roomId: null,
      note: 'Lab flooded',
      confirmed,
    })
  expect(bad(await cancel(false)).message).toContain('The register of this lesson was taken: 1 mark.')
  const done = await cancel(true)
  good(done)
  expect(await onCalls(student)).toBeUndefined()
  const scope = {
    kind: 'student' as const,
    id: student,
    from: today,
    to: today,
    date: today,
    sessions: 'lessons' as const,
  }
  const behind = async () =>
    good(await school.query('attendance.sessionsBehind', office, scope)).sessions.filter(
      (s) => s.session === '1',
    )
  expect(await behind()).toEqual([])
  await undo(done, office)
  expect(await behind()).toHaveLength(1)
  good(await lessonMark(student, null, Number((await markOf(student, today, '1')).version)))
})

describe('the timetable', () => {
  const shown = async () => good(await school.query('timetable.shown', office, { date: today }))
  const old = '2026-11-16'

  test('changes from a day on: the register of last week keeps its lesson, and can be corrected', async () => {
    const now = await shown()
    const [t] = now.timetables
    const mine = now.lessons.find((l) => l.classId === classId && l.cycleDay === 1)
    if (!t || !mine) throw new Error('there is a lesson on Mondays')
    const session = String(mine.period)
    const before = await school.row(
      'select student_id as id, version from attendance_mark where class_id = $1 and session_date = $2 and session = $3 limit 1',
      [classId, old, session],
    )
    const gone = await school.execute('timetable.setLesson', office, {
      timetableId: t.id,
      cycleDay: 1,
      period: mine.period,
      gone: { lessonId: mine.id, expectedVersion: mine.version },
      lesson: null,
      confirmed: false,
    })
    good(gone)
    // The lesson of this Monday has begun, so it goes from the next one on.
    const on = async (date: string) =>
      good(await school.query('attendance.lessonRegister', teacher, { classId, date, session })).lesson !==
      null
    expect([await on(old), await on(today), await on('2026-11-30')]).toEqual([true, true, false])
    good(await lessonMark(String(before.id), 'P', Number(before.version), old, session))
    await undo(gone, office)
    expect(await on('2026-11-30')).toBe(true)
  })

  test('is not replaced by a file unseen, nor under registers that were taken', async () => {
    const { timetables, lessons } = await shown()
    const [t] = timetables
    const [first] = lessons.filter((l) => l.classId === classId)
    if (!t || !first) throw new Error('there is a timetable')
    const rows = lessons.map(({ cycleDay, period, classId: c, roomId }) => ({
      cycleDay,
      period,
      classId: c,
      roomId,
    }))
    const typed = await school.execute('timetable.setLesson', office, {
      timetableId: t.id,
      cycleDay: first.cycleDay,
      period: first.period,
      gone: { lessonId: first.id, expectedVersion: first.version },
      lesson: null,
      confirmed: false,
    })
    good(typed)
    const file = { timetableId: t.id, expectedVersion: t.version, lessons: rows.slice(0, 5) }
    expect(bad(await school.execute('timetable.replaceLessons', office, file)).kind).toBe('conflict')
    await undo(typed, office)
    const { version } = await school.row('select version from timetable where id = $1', [t.id])
    const taken = async () =>
      (await school.row('select count(*)::int as n from attendance_mark where kept and class_id is not null'))
        .n
    const replaced = await school.execute('timetable.replaceLessons', office, {
      ...file,
      expectedVersion: Number(version),
    })
    good(replaced)
    expect(await taken()).toBe(0)
    await undo(replaced, office)
  })

  test('is not begun later, ended earlier or followed by another in the past over registers that were taken', async () => {
    const { timetables, periods } = await shown()
    const [t] = timetables
    if (!t) throw new Error('there is a timetable')
    const save = (over: Partial<CommandInput<'timetable.saveTimetable'>>) =>
      school.execute('timetable.saveTimetable', office, {
        timetableId: t.id,
        expectedVersion: t.version,
        name: t.name,
        firstDay: t.firstDay,
        lastDay: t.lastDay,
        cycle: t.cycle,
        cycleDays: t.cycleDays,
        periods: periods.map(({ starts, ends }) => ({ starts, ends })),
        ...over,
      })
    expect(bad(await save({ firstDay: '2026-11-30' })).message).toContain('would no longer be there')
    expect(bad(await save({ lastDay: '2026-11-10' })).message).toContain('would no longer be there')
  })

  test('of numbered days is not moved under what was taught by a day without school that is entered late', async () => {
    const { periods } = await shown()
    await school.rows(
      "delete from attendance_mark where class_id is not null and session_date >= '2026-11-16'",
    )
    await school.rows("update timetable set last_day = '2026-11-15'")
    const made = good(
      await school.execute('timetable.saveTimetable', office, {
        timetableId: null,
        expectedVersion: 0,
        name: 'Six days',
        firstDay: '2026-11-16',
        lastDay: null,
        cycle: 'days',
        cycleDays: 6,
        periods: periods.map(({ starts, ends }) => ({ starts, ends })),
      }),
    )
    // Friday 20 November is day 5.
    await school.rows(
      `insert into lesson (school_id, id, timetable_id, cycle_day, period, class_id) values ($1, gen_random_uuid(), $2, 5, 1, $3)`,
      [office.schoolId, made.timetableId, classId],
    )
    const first = good(await lessonMark(student, 'A', 0, '2026-11-20'))
    const late = await closure('Storm again', '2026-11-18')
    good(late)
    good(await lessonMark(student, 'P', first[0]?.version ?? 0, '2026-11-20'))
    expect((await markOf(student, '2026-11-20', '1')).kept).toBe(false)
    // One that is known beforehand leaves no day of the cycle out: the days after it move on.
    const on = async (date: string) =>
      good(await school.query('attendance.lessonRegister', teacher, { classId, date, session: '1' }))
        .lesson !== null
    expect([await on('2026-11-30'), await on('2026-12-01')]).toEqual([true, false])
    good(await closure('Fair', '2026-11-27'))
    expect([await on('2026-11-30'), await on('2026-12-01')]).toEqual([false, true])
  })
})

test('who is in the building: a period that no timetable has today does not outrank what was marked since', async () => {
  await school.rows('delete from attendance_mark where student_id = $1 and session_date = $2', [other, today])
  await school.rows(
    `insert into attendance_mark (school_id, student_id, session_date, session, class_id, code_id, changed_by)
      values ($1, $2, $3, '9', $4, $5, 'x')`,
    [office.schoolId, other, today, classId, codes.A],
  )
  await school.rows(
    `insert into attendance_mark (school_id, student_id, session_date, session, homeroom_id, code_id, changed_by)
      values ($1, $2, $3, 'morning', $4, $5, 'x')`,
    [office.schoolId, other, today, homeroomId, codes.P],
  )
  const { students } = good(await school.query('attendance.inBuilding', office, {}))
  expect(students.find((s) => s.studentId === other)?.where).toBe('here')
})

test('nobody is reminded of a register that cannot be taken', async () => {
  const remind = (date: string, session: string) =>
    school.execute('attendance.remind', office, { homeroomId, classId: null, date, session })
  expect(bad(await remind(today, 'afternoon')).message).toContain('has not started')
  expect(bad(await remind('2026-11-21', 'morning')).message).toContain('There is no session')
  expect(bad(await remind('2026-10-27', 'morning')).message).toContain('There is no session')
})

test('no absence is planned or reported for days of which none has school', async () => {
  const asked = { studentId: student, firstDay: '2026-12-05', lastDay: '2026-12-06' }
  const planned = await school.execute('attendance.savePlanned', office, {
    ...asked,
    plannedId: null,
    expectedVersion: 0,
    sessions: 'whole day',
    firstPeriod: null,
    lastPeriod: null,
    codeId: codes.A2 ?? '',
    note: null,
    report: null,
  })
  expect(bad(planned).message).toContain('There is no school day between')
  const guardian = await school.actor('hana.marsh@islandmail.example')
  const child = await school.row('select student_id as id from guardianship where guardian_id = $1 limit 1', [
    guardian.guardianId,
  ])
  const reported = await school.execute('attendance.reportAbsence', guardian, {
    ...asked,
    studentId: String(child.id),
    sessions: 'whole day',
    reason: 'Wedding',
  })
  expect(bad(reported).message).toContain('There is no school day between')
})

test('a correction may begin in the holidays before the year', async () => {
  const done = await school.execute('attendance.correct', office, {
    studentIds: [student],
    firstDay: '2026-08-24',
    lastDay: '2026-09-04',
    sessions: ['morning'],
    codeId: codes.A1 ?? '',
    note: null,
    reason: 'x',
    replace: true,
  })
  expect(good(done).changed).toBeGreaterThan(0)
})

test('a mark of the office takes a teacher’s note, but not another code of the office', async () => {
  const [set] = good(await school.query('attendance.codeSets', admin, {})).sets
  if (!set) throw new Error('the school has codes')
  good(
    await school.execute('attendance.saveCodeSet', admin, {
      setId: set.id,
      expectedVersion: set.version,
      name: set.name,
      firstDay: set.firstDay,
      lastDay: set.lastDay,
      codes: set.codes.map((c) => (c.code === 'A2' || c.code === 'A3' ? { ...c, officeOnly: true } : c)),
    }),
  )
  const put = (actor: Actor, code: string, expectedVersion: number, note: string | null = null) =>
    school.execute('attendance.setMarks', actor, {
      homeroomId,
      date: today,
      session: 'morning',
      cells: [
        {
          key: { studentId: other },
          value: { codeId: codes[code] ?? '', minutesLate: null, note },
          expectedVersion,
        },
      ],
    })
  const [mark] = good(await put(office, 'A2', Number((await markOf(other, today, 'morning')).version)))
  const [noted] = good(await put(teacher, 'A2', mark?.version ?? 0, 'Back on Tuesday'))
  expect(bad(await put(teacher, 'A3', noted?.version ?? 0)).message).toContain('not in use')
})

test('who covers sees names, marks and what is planned, and nothing of how it was before', async () => {
  const room = await school.row(
    `select h.id, m.student_id as s from homeroom h join homeroom_member m on m.homeroom_id = h.id and m.period @> date '2026-11-23'
      where h.name like '4 %' limit 1`,
  )
  good(
    await school.execute('attendance.savePlanned', office, {
      plannedId: null,
      expectedVersion: 0,
      studentId: String(room.s),
      firstDay: '2026-12-07',
      lastDay: '2026-12-09',
      sessions: 'whole day',
      firstPeriod: null,
      lastPeriod: null,
      codeId: codes.A1 ?? '',
      note: 'Child protection meeting',
      report: null,
    }),
  )
  const rowFor = async (actor: Actor) =>
    good(
      await school.query('attendance.register', actor, {
        homeroomId: String(room.id),
        date: '2026-12-07',
        session: 'morning',
      }),
    ).rows.find((r) => r.studentId === room.s)
  const covered = await rowFor(teacher)
  expect(covered).toMatchObject({ recent: [], planned: { codeId: codes.A1, note: null } })
  expect(covered?.figures).toBeUndefined()
  expect(await rowFor(office)).toMatchObject({ planned: { note: 'Child protection meeting' } })
  const sheets = good(
    await school.query('attendance.sheets', teacher, {
      date: '2026-11-20',
      of: 'homerooms',
      id: String(room.id),
    }),
  ).sheets
  expect(sheets[0]?.students.every((s) => Object.keys(s.marks).length === 0)).toBe(true)
})
