import type { Actor } from '@/server/platform/actor'
import type { QueryInput } from '@/server/registry'
import { bad, good, openSchool, type TestSchool } from './school'

let school: TestSchool
let office: Actor
let hana: Actor
let ilse: string
let codes: Record<string, string>
beforeAll(async () => {
  school = await openSchool()
  office = await school.actor('e.leask')
  hana = await school.actor('hana.marsh@islandmail.example')
  ilse = String((await school.row("select id from student where sort_name = 'Okonjo-Marsh, Ilse'")).id)
  codes = Object.fromEntries(
    (await school.rows('select code, id from attendance_code')).map((c) => [c.code, c.id]),
  )
})
afterAll(() => school.close())

describe('letters about attendance', () => {
  const shown = async () => good(await school.query('attendance.letters', office, {}))
  type Asked = QueryInput<'attendance.lettersToSend'>
  const ask = async (over: Partial<Asked> = {}): Promise<Asked> => {
    const [template] = (await shown()).templates
    return {
      templateId: template?.id ?? '',
      expectedVersion: template?.version ?? 0,
      studentIds: [ilse],
      from: '2026-09-01',
      date: '2026-11-23',
      sessions: 'half-days',
      classId: null,
      again: false,
      aboveToo: true,
      ...over,
    }
  }
  test('go to each guardian with the figures filled in, and stay on record; the family is not written to twice', async () => {
    const before = good(await school.query('attendance.lettersToSend', office, await ask()))
    expect(before.reached).toBe(2)
    expect(before.first?.body).toMatch(
      /^Dear Hana Marsh,\n\nIlse Okonjo-Marsh was present in \d+\.\d% of the half-days/,
    )
    // She is above the school's threshold: that is asked first.
    expect(before.above).toEqual([expect.stringMatching(/^Okonjo-Marsh, Ilse \(9\d/)])
    expect(
      bad(await school.execute('attendance.sendLetters', office, await ask({ aboveToo: false }))).message,
    ).toContain('not below the school')
    const both = await Promise.all([
      school.execute('attendance.sendLetters', office, await ask()),
      school.execute('attendance.sendLetters', await school.actor('s.kirkness'), await ask()),
    ])
    expect(both.filter((r) => r.ok)).toHaveLength(1)
    expect(bad(both.find((r) => !r.ok) as never).message).toContain('written to lately')
    const { sent } = await shown()
    expect(sent.map((l) => l.guardian).sort()).toEqual(['Bram Okonjo', 'Hana Marsh'])
    expect(sent[0]).toMatchObject({ student: 'Okonjo-Marsh, Ilse', template: 'Below 90%' })
    const again = good(await school.query('attendance.lettersToSend', office, await ask({ again: true })))
    expect([again.reached, again.lately.length]).toEqual([2, 2])
    expect(
      good(await school.execute('attendance.sendLetters', office, await ask({ again: true }))).sent,
    ).toBe(2)
  })
  test('say of lessons what the figures of lessons say, of all or of one class', async () => {
    const science = await school.row("select id from class where name = '7 Science A'")
    const scope = { from: '2026-09-01', to: '2026-12-18', date: '2026-11-23', sessions: 'lessons' as const }
    for (const [kind, id, classId, words] of [
      ['student', ilse, null, 'lessons'],
      ['class', String(science.id), String(science.id), 'lessons of 7 Science A'],
    ] as const) {
      const figures = good(await school.query('attendance.figures', office, { kind, id, ...scope }))
      if (figures.hidden) throw new Error('neither is a small group')
      const percent = figures.students.find((s) => s.id === ilse)?.figures.percentPresent
      const { first } = good(
        await school.query(
          'attendance.lettersToSend',
          office,
          await ask({ sessions: 'lessons', classId, again: true }),
        ),
      )
      expect(first?.body).toContain(`was present in ${percent}% of the ${words} from`)
    }
    const nobody = await ask({ sessions: 'lessons', classId: ilse })
    expect(bad(await school.query('attendance.lettersToSend', office, nobody)).kind).toBe('not found')
  })
  test('a template with a field that there is not is refused; two who edit it: the second sees it', async () => {
    const [template] = (await shown()).templates
    const save = (over: object) =>
      school.execute('attendance.saveLetterTemplate', office, {
        templateId: template?.id ?? '',
        expectedVersion: template?.version ?? 0,
        name: 'Below 90%',
        subject: 'Attendance of {student}',
        body: 'Dear {guardian}',
        ...over,
      })
    expect(bad(await save({ body: 'Dear {parent}' })).message).toContain('{parent} is not a field')
    const both = await Promise.all([save({ subject: 'A' }), save({ subject: 'B' })])
    expect(both.filter((r) => r.ok)).toHaveLength(1)
    const stale = { ...(await ask({ again: true })), expectedVersion: template?.version ?? 0 }
    expect(bad(await school.execute('attendance.sendLetters', office, stale)).message).toContain(
      'changed this template',
    )
    expect(bad(await save({ templateId: null, expectedVersion: 0, name: 'below 90%' })).message).toContain(
      'already the name',
    )
  })
})

describe('an absence that a guardian reports', () => {
  const own = async () => good(await school.query('attendance.ownReports', hana, {}))
  const planned = async () => good(await school.query('attendance.planned', office, { date: '2026-11-23' }))
  const report = (over: object = {}) =>
    school.execute('attendance.reportAbsence', hana, {
      studentId: ilse,
      firstDay: '2026-11-26',
      lastDay: '2026-11-26',
      sessions: 'whole day',
      reason: 'Fever',
      ...over,
    })
  test('waits for the office, is entered once when it is confirmed, and the guardian reads so', async () => {
    good(await report())
    expect(bad(await report()).message).toContain('already reported')
    expect(bad(await report({ firstDay: '2026-11-20', lastDay: '2026-11-20' })).message).toContain('are over')
    expect(bad(await report({ lastDay: '2026-11-25' })).message).toContain('must not be before')
    const waiting = (await planned()).reported.find((r) => r.firstDay === '2026-11-26')
    expect(waiting).toMatchObject({ student: 'Okonjo-Marsh, Ilse', guardian: 'Hana Marsh', reason: 'Fever' })
    const due = good(await school.query('today.due', office, { date: '2026-11-23' })).items
    expect(due.some((i) => i.what === '2 absences reported by guardians')).toBe(true)
    const confirm = () =>
      school.execute('attendance.savePlanned', office, {
        plannedId: null,
        expectedVersion: 0,
        studentId: ilse,
        firstDay: '2026-11-26',
        lastDay: '2026-11-26',
        sessions: 'whole day',
        codeId: codes.A1 ?? '',
        note: 'Fever',
        report: { reportId: waiting?.id ?? '', expectedVersion: waiting?.version ?? 0 },
      })
    const both = await Promise.all([confirm(), confirm()])
    expect(both.filter((r) => r.ok)).toHaveLength(1)
    expect((await planned()).absences.filter((a) => a.studentId === ilse)).toHaveLength(1)
    expect((await own()).reports.find((r) => r.firstDay === '2026-11-26')?.state).toEqual('confirmed')
  })
  test('is declined with words the guardian reads, or withdrawn while it waits', async () => {
    const waiting = (await planned()).reported[0]
    good(
      await school.execute('attendance.declineReport', office, {
        reportId: waiting?.id ?? '',
        expectedVersion: waiting?.version ?? 0,
        answer: 'There is an examination that morning.',
      }),
    )
    expect((await own()).reports.find((r) => r.id === waiting?.id)).toMatchObject({
      state: 'declined',
      answer: 'There is an examination that morning.',
    })
    const withdraw = (r: { id: string; version: number }) =>
      school.execute('attendance.withdrawReport', hana, { reportId: r.id, expectedVersion: r.version })
    const answered = (await own()).reports.find((r) => r.id === waiting?.id)
    expect(bad(await withdraw(answered ?? { id: '', version: 0 })).kind).not.toBe('fault')
    good(await report({ firstDay: '2026-12-01', lastDay: '2026-12-01' }))
    const fresh = (await own()).reports.find((r) => r.firstDay === '2026-12-01')
    good(await withdraw(fresh ?? { id: '', version: 0 }))
    expect((await own()).reports.some((r) => r.firstDay === '2026-12-01')).toBe(false)
  })
  test('is of the own child alone', async () => {
    const other = await school.row("select id from student where sort_name = 'Abara, Tobias'")
    expect(bad(await report({ studentId: other.id })).kind).toBe('not found')
    expect((await own()).children.map((c) => c.name)).toEqual(['Okonjo-Marsh, Ilse'])
  })
})

test('sheets and the certificate say what the registers say', async () => {
  const homeroom = await school.row("select id from homeroom where name = '7 Tern'")
  const { sheets, days } = good(
    await school.query('attendance.sheets', office, {
      date: '2026-11-18',
      of: 'homerooms',
      id: String(homeroom.id),
    }),
  )
  expect(days).toEqual(['2026-11-16', '2026-11-17', '2026-11-18', '2026-11-19', '2026-11-20'])
  const own = sheets[0]?.students.find((s) => s.id === ilse)
  const rows = await school.rows(
    `select m.session_date::text || ' ' || m.session as at, c.code from attendance_mark m join attendance_code c on c.id = m.code_id
     where m.student_id = $1 and m.session_date between '2026-11-16' and '2026-11-20' and m.homeroom_id is not null`,
    [ilse],
  )
  expect(own?.marks).toEqual(Object.fromEntries(rows.map((r) => [r.at, r.code])))
  const schoolClass = await school.row("select id from class where name = '7 Science A'")
  const lessons = good(
    await school.query('attendance.sheets', office, {
      date: '2026-11-18',
      of: 'classes',
      id: String(schoolClass.id),
    }),
  ).sheets[0]
  const taken = await school.rows(
    `select m.session_date::text || ' ' || m.session as at, c.code from attendance_mark m join attendance_code c on c.id = m.code_id
     where m.student_id = $1 and m.session_date between '2026-11-16' and '2026-11-20' and m.class_id = $2 order by 1`,
    [ilse, schoolClass.id],
  )
  expect(taken.length).toBeGreaterThan(0)
  expect(lessons?.students.find((s) => s.id === ilse)?.marks).toEqual(
    Object.fromEntries(taken.map((r) => [r.at, r.code])),
  )
  expect(lessons?.sessions.map((s) => `${s.date} ${s.session}`)).toEqual(
    expect.arrayContaining(taken.map((r) => r.at)),
  )
  const certificate = good(
    await school.query('attendance.certificate', office, {
      id: ilse,
      from: '2026-09-01',
      to: '2026-12-18',
      date: '2026-11-23',
    }),
  )
  const figures = good(
    await school.query('attendance.figures', office, {
      kind: 'student',
      id: ilse,
      from: '2026-09-01',
      to: '2026-12-18',
      date: '2026-11-23',
      sessions: 'half-days',
    }),
  )
  if (figures.hidden) throw new Error('one student is no group')
  expect(certificate.figures).toEqual(figures.total)
  const { printCertificate } = await import('@/formats/pdf/certificate')
  const bytes = await printCertificate(certificate)
  expect(bytes.subarray(0, 5).toString()).toBe('%PDF-')
})
