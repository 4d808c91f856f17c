import { v7 as uuid } from 'uuid'
import type { Actor } from '@/server/platform/actor'
import type { Result } from '@/server/platform/failure'
import type { CommandInput } from '@/server/registry'
import { previewOf, setMark } from './acts'
import { bad, good, openSchool, type TestSchool } from './school'

// What always holds, also after an undo, a merge, and when two act at once.
let school: TestSchool
let admin: Actor
let office: Actor
let teacher: Actor
let homeroomId: string
let codes: Record<string, string>
const today = '2026-11-23'
beforeAll(async () => {
  school = await openSchool()
  admin = await school.actor('m.vester')
  office = await school.actor('e.leask')
  teacher = await school.actor('r.achterberg')
  homeroomId = (await school.row("select id from homeroom where name = '7 Tern'")).id
  codes = Object.fromEntries(
    (await school.rows('select code, id from attendance_code')).map((c) => [String(c.code), String(c.id)]),
  )
})
afterAll(() => school.close())

const runOf = (result: Result<unknown>) => (result.ok ? (result.run ?? '') : '')
const undo = (result: Result<unknown>, actor = office) =>
  school.execute('history.undo', actor, { run: runOf(result) })
const members = async (id = homeroomId) =>
  (
    await school.rows(
      'select student_id as id from homeroom_member where homeroom_id = $1 and period @> $2::date order by 1',
      [id, today],
    )
  ).map((r) => String(r.id))
/** One of 7 Tern that no other test uses. */
let taken = 0
const somebody = async () => (await members())[taken++] ?? ''
const rollOf = async (id: string) =>
  Number((await school.row('select roll_version as v from student where id = $1', [id])).v)
const plan = (
  studentId: string,
  firstDay: string,
  lastDay: string,
  over: Partial<CommandInput<'attendance.savePlanned'>> = {},
) =>
  school.execute('attendance.savePlanned', office, {
    plannedId: null,
    expectedVersion: 0,
    studentId,
    firstDay,
    lastDay,
    sessions: 'whole day',
    firstPeriod: null,
    lastPeriod: null,
    codeId: codes.A2 ?? '',
    note: null,
    report: null,
    ...over,
  })
const leave = async (ids: readonly string[], lastDay: string) =>
  school.execute('people.leave', office, {
    students: await Promise.all(
      ids.map(async (studentId) => ({ studentId, expectedVersion: await rollOf(studentId) })),
    ),
    lastDay,
    reason: 'Moves away',
    destination: null,
  })
const codeSet = async (another: boolean, over: Partial<CommandInput<'attendance.saveCodeSet'>> = {}) => {
  const [set] = good(await school.query('attendance.codeSets', admin, {})).sets
  if (!set) throw new Error('the school has codes')
  return {
    setId: another ? null : set.id,
    expectedVersion: another ? 0 : set.version,
    name: set.name,
    firstDay: set.firstDay,
    lastDay: set.lastDay,
    codes: set.codes.map((c) => ({ ...c, id: another ? uuid() : c.id })),
    ...over,
  }
}

describe('an undo', () => {
  test('of a plan that was removed makes no overlap with one that took its place', async () => {
    const id = await somebody()
    const { plannedId } = good(await plan(id, '2026-12-07', '2026-12-09'))
    const { version } = await school.row('select version from planned_absence where id = $1', [plannedId])
    const removed = await school.execute('attendance.removePlanned', office, {
      plannedId,
      expectedVersion: version,
    })
    good(removed)
    good(await plan(id, '2026-12-08', '2026-12-08'))
    expect(bad(await undo(removed)).message).toContain('takes the place of this')
    expect(await school.rows('select 1 from planned_absence where student_id = $1', [id])).toHaveLength(1)
  })

  test('of days without school that were removed makes no overlap with others', async () => {
    const day = await school.row(
      "select id, version, first_day, last_day, year_id from closure where name = 'Island Day'",
    )
    const removed = await school.execute('year.removeClosure', admin, {
      closureId: day.id,
      expectedVersion: day.version,
    })
    good(removed)
    const other = await school.execute('year.saveClosure', admin, {
      closureId: null,
      expectedVersion: 0,
      yearId: day.yearId,
      kind: 'holiday',
      name: 'Bridge',
      firstDay: day.firstDay,
      lastDay: day.lastDay,
    })
    good(other)
    expect(bad(await undo(removed, admin)).message).toContain('takes the place of this')
    // Once the other is gone, it works: the right of a removal is judged by what is there again.
    good(await undo(other, admin))
    good(await undo(removed, admin))
  })

  test('of a longer set of codes leaves no mark without a code on its day', async () => {
    await school.rows("delete from attendance_mark where session_date >= '2026-11-23'")
    good(
      await school.execute('attendance.saveCodeSet', admin, await codeSet(false, { lastDay: '2026-11-22' })),
    )
    const longer = await school.execute(
      'attendance.saveCodeSet',
      admin,
      await codeSet(false, { lastDay: null }),
    )
    good(longer)
    const mark = {
      homeroomId,
      date: today,
      session: 'morning' as const,
      studentId: await somebody(),
      codeId: codes.A ?? '',
      minutesLate: null,
      note: null,
      expectedVersion: 0,
    }
    good(await setMark(school, teacher, mark))
    expect(bad(await undo(longer, admin)).message).toMatch(/^Marks would have codes .*\(.+, A\)/)
  })

  test('puts nobody back into a homeroom that was closed since', async () => {
    const room = await school.row(
      `select h.id, h.version from homeroom h join academic_year y on y.id = h.year_id and y.name = '2026/27'
        where h.name like '12%' limit 1`,
    )
    const left = await leave(await members(room.id), '2026-11-20')
    good(left)
    const { version } = await school.row('select version from homeroom where id = $1', [room.id])
    const closing = { homeroomId: String(room.id), expectedVersion: Number(version), lastDay: '2026-11-20' }
    const closed = await school.execute('year.closeHomeroom', admin, closing)
    good(closed)
    expect(bad(await undo(left)).message).toContain('closed by then')
    expect(await members(room.id)).toEqual([])
    good(await undo(closed, admin))
    good(await undo(left))
  })
})

describe('whoever leaves', () => {
  test('is in no class after that, whether they join one, one is made or carried forward', async () => {
    const id = await somebody()
    good(await leave([id], '2026-12-04'))
    const late = (name: string) =>
      school.rows(
        `select 1 from class_member m join class c on c.id = m.class_id
          where m.student_id = $1 and c.name = $2 and m.period @> date '2026-12-07'`,
        [id, name],
      )
    const other = await school.row(
      `select c.id, c.name from class c join class_term t on t.class_id = c.id
        join term w on w.id = t.term_id and w.name = 'Autumn' join academic_year y on y.id = c.year_id and y.name = '2026/27'
        where c.id not in (select class_id from class_member where student_id = $1) limit 1`,
      [id],
    )
    good(
      await school.execute('people.place', office, {
        students: [{ studentId: id, expectedVersion: await rollOf(id) }],
        from: '2026-11-24',
        yearGroupId: null,
        homeroomId: null,
        join: [String(other.id)],
        leave: [],
        joinGroups: [],
        leaveGroups: [],
      }),
    )
    expect(await late(String(other.name))).toEqual([])
    const like = await school.row(
      `select c.year_id, c.scale_id, k.subject_id, k.year_group_id from class c join course k on k.id = c.course_id
        where c.name = '7 Science A' and c.year_id = (select year_id from homeroom where id = $1)`,
      [homeroomId],
    )
    const term = await school.row("select id from term where year_id = $1 and name = 'Autumn'", [like.yearId])
    good(
      await school.execute('setUp.saveClass', admin, {
        classId: null,
        expectedVersion: 0,
        yearId: like.yearId,
        name: '7 Boats',
        subjectId: like.subjectId,
        yearGroupId: like.yearGroupId,
        scaleId: like.scaleId,
        roomId: null,
        termIds: [String(term.id)],
        staffIds: [],
        homeroomIds: [homeroomId],
        from: today,
      }),
    )
    expect(await late('7 Boats')).toEqual([])
  })
})

describe('a record that was merged', () => {
  let keepId: string
  let dropId: string
  beforeAll(async () => {
    ;[keepId, dropId] = [await somebody(), await somebody()]
    good(await plan(keepId, '2026-12-07', '2026-12-09'))
    good(await plan(dropId, '2026-12-08', '2026-12-10', { codeId: codes.A3 ?? '' }))
    // A mark that is being saved for the other record meanwhile is either moved along or refused in words.
    const mark = {
      homeroomId,
      date: today,
      session: 'morning' as const,
      studentId: dropId,
      codeId: codes.P ?? '',
      minutesLate: null,
      note: null,
      expectedVersion: 0,
    }
    const [merged, marked] = await Promise.all([
      school.execute('record.merge', office, { keepId, dropId }),
      setMark(school, teacher, mark),
    ])
    good(merged)
    if (!marked.ok) expect(marked.failure.message).toMatch(/merged|not on the roll/)
    expect(
      await school.rows(
        "select 1 from attendance_mark where student_id = $1 and session_date = '2026-11-23'",
        [dropId],
      ),
    ).toEqual([])
  })

  test('leaves no two plans for the same days, so that the one that counts can be edited', async () => {
    const plans = await school.rows('select id, version from planned_absence where student_id = $1', [keepId])
    expect(plans).toHaveLength(1)
    good(
      await plan(keepId, '2026-12-07', '2026-12-09', {
        plannedId: String(plans[0]?.id),
        expectedVersion: Number(plans[0]?.version),
        note: 'Dentist',
      }),
    )
  })
  test.each([
    ['a plan', () => plan(dropId, '2026-12-14', '2026-12-15')],
    [
      'a call',
      () =>
        school.execute('attendance.noteCall', office, {
          studentId: dropId,
          date: today,
          guardianId: null,
          outcome: 'reached',
          note: 'Ill',
          callAgain: null,
          codeId: null,
        }),
    ],
    ['leaving', () => leave([dropId], '2026-12-04')],
  ])('gets nothing new: %s', async (_what, act) => {
    expect(bad(await act()).message).toMatch(/was merged into another one/)
  })
  test('of an applicant is not enrolled from a form that was open', async () => {
    const applicant = await school.row(
      'select id, legal_given_name, legal_family_name, birth_date from student where number is null limit 1',
    )
    good(await school.execute('record.merge', office, { keepId, dropId: String(applicant.id) }))
    const room = await school.row('select id, year_group_id from homeroom where id = $1', [homeroomId])
    const enrolled = await school.execute('people.enrol', office, {
      applicantId: String(applicant.id),
      givenName: String(applicant.legalGivenName),
      familyName: String(applicant.legalFamilyName),
      birthDate: String(applicant.birthDate),
      yearGroupId: String(room.yearGroupId),
      homeroomId,
      classIds: [],
      startDate: '2026-11-24',
      notADuplicate: true,
      guardian: { givenName: 'Bo', familyName: 'Lind', relation: 'father', email: 'bo@islandmail.example' },
    })
    expect(bad(enrolled).message).toContain('was merged into another one')
  })
})

describe('a new set of codes', () => {
  test('is refused where a planned absence would lose its code or come to mean that the student is here', async () => {
    good(await plan(await somebody(), '2026-12-14', '2026-12-15', { codeId: codes.E2 ?? '' }))
    const without = await codeSet(true, { name: 'December', firstDay: '2026-12-01' })
    without.codes = without.codes.filter((c) => c.code !== 'E2')
    expect(bad(await school.execute('attendance.saveCodeSet', admin, without)).message).toMatch(
      /would have no code for an absence: .+ \(E2, Mon 14 Dec 2026/,
    )
    const here = await codeSet(true, { name: 'December', firstDay: '2026-12-01' })
    here.codes = here.codes.map((c) => (c.code === 'E2' ? { ...c, meaning: 'present' as const } : c))
    expect(bad(await school.execute('attendance.saveCodeSet', admin, here)).kind).toBe('refused')
  })
  test('says how many marks lack by it what they did not need before', async () => {
    const { n } = await school.row(
      `select count(*)::int as n from attendance_mark m join attendance_code c on c.id = m.code_id
        where c.code = 'L' and m.note is null and m.session_date >= '2026-11-20'`,
    )
    expect(n).toBeGreaterThan(0)
    const set = await codeSet(true, { name: 'Notes', firstDay: '2026-11-20' })
    set.codes = set.codes.map((c) => ({ ...c, needsMinutes: false, needsNote: c.code === 'L' }))
    const done = await school.execute('attendance.saveCodeSet', admin, set)
    expect(good(done)).toMatchObject({ lackMinutes: 0, lackNotes: n })
    good(await undo(done, admin))
  })
  test('and marks that are saved at the same time go one after the other', async () => {
    await school.rows("delete from attendance_mark where session_date >= '2026-11-23'")
    const marks = (await members()).slice(10, 18).map((studentId) =>
      setMark(school, teacher, {
        homeroomId,
        date: today,
        session: 'morning',
        studentId,
        codeId: codes.P ?? '',
        minutesLate: null,
        note: null,
        expectedVersion: 0,
      }),
    )
    const saved = school.execute(
      'attendance.saveCodeSet',
      admin,
      await codeSet(true, { name: 'From Monday', firstDay: today }),
    )
    await Promise.all([saved, ...marks])
    // The rule itself is looked at when the school is closed.
    good(await saved)
  })
})

describe('what a preview and a message say', () => {
  test('holds nothing of groups for those who may not see them', async () => {
    const records: Actor = { ...(await school.actor('p.ilves')), roles: ['records'] }
    const s = await school.row(
      `select m.student_id as id, s.roll_version as v from analysis_group_member m
        join analysis_group g on g.id = m.group_id and g.name = 'Support plan'
        join student s on s.id = m.student_id and s.merged_into is null where m.period @> date '2026-11-23' limit 1`,
    )
    const input = {
      students: [{ studentId: String(s.id), expectedVersion: Number(s.v) }],
      lastDay: today,
      reason: 'Moves away',
      destination: null,
    }
    const shown = good(await previewOf('people.leave', records, input))
    expect(shown.changes.length).toBeGreaterThan(0)
    expect(JSON.stringify(shown)).not.toContain('Support plan')
    expect(JSON.stringify(good(await previewOf('people.leave', office, input)))).toContain('Support plan')
  })
})

describe('what is kept of a command', () => {
  test('holds no photo, and no hash of a password that could be guessed fast', async () => {
    const student = await school.row(
      'select id from student where number is not null and photo_id is null and merged_into is null limit 1',
    )
    const set = good(
      await school.execute('people.setPhoto', office, {
        studentId: String(student.id),
        expectedPhotoId: null,
        bytes: Buffer.alloc(40_000, 7),
      } as never),
    ) as { photoId: string }
    const { n } = await school.row(
      "select max(length(input::text)) as n from command_run where command = 'people.setPhoto'",
    )
    expect(Number(n)).toBeLessThan(1000)
    good(
      await school.execute('people.removePhoto', office, {
        studentId: String(student.id),
        expectedPhotoId: set.photoId,
      }),
    )
    await school.rows('update auth."user" set "mustChangePassword" = true where id = $1', [teacher.accountId])
    const password = 'quiet harbour lantern'
    good(await school.execute('account.setOwnPassword', teacher, { password }, { key: crypto.randomUUID() }))
    const { createHash } = await import('node:crypto')
    const { hash } = await school.row(
      "select input_hash as hash from answered_command where command = 'account.setOwnPassword'",
    )
    const guess = createHash('sha256').update('{"password"').update(JSON.stringify(password)).update('}')
    expect(hash).not.toBe(guess.digest('base64url'))
  })
})

test('a row whose key changes is found again in the history, however many change in one statement', async () => {
  const { default: pg } = await import('pg')
  const client = new pg.Client({ connectionString: school.ownerUrl })
  await client.connect()
  try {
    await client.query('begin')
    await client.query("select set_config('kedge.school', $1, true), set_config('kedge.run', $2, true)", [
      admin.schoolId,
      uuid(),
    ])
    await client.query(`update class_member set period = daterange(lower(period) + 1, upper(period))
      where lower(period) + 1 < coalesce(upper(period), 'infinity')`)
    const { rows } = await client.query(`select count(*)::int as n, count(*) filter (where
        lower((row_key ->> 'period')::daterange) = lower((before ->> 'period')::daterange) + 1
        and after ->> 'period' = row_key ->> 'period')::int as right
      from history where run_id = nullif(current_setting('kedge.run'), '')::uuid`)
    expect(rows[0].n).toBeGreaterThan(1000)
    expect(rows[0].right).toBe(rows[0].n)
  } finally {
    await client.query('rollback')
    await client.end()
  }
})
