import type { Actor } from '@/server/platform/actor'
import { bad, good, openSchool, type TestSchool } from './school'

let school: TestSchool
let office: Actor
let head: Actor
let ids: Record<'ilse' | 'tern' | 'plover' | 'tern8' | 'year8' | 'science' | 'english' | 'science8', string>

beforeAll(async () => {
  school = await openSchool()
  office = await school.actor('e.leask')
  head = await school.actor('s.kirkness')
  const one = async (statement: string) => (await school.row<{ id: string }>(statement)).id
  ids = {
    ilse: await one("select id from student where sort_name = 'Okonjo-Marsh, Ilse'"),
    tern: await one("select id from homeroom where name = '7 Tern'"),
    plover: await one("select id from homeroom where name = '7 Plover'"),
    tern8: await one("select id from homeroom where name = '8 Tern'"),
    year8: await one("select id from year_group where name = 'Year 8'"),
    science: await one("select id from class where name = '7 Science A'"),
    english: await one("select id from class where name = '7 English A'"),
    science8: await one("select id from class where name = '8 Science A'"),
  }
})
afterAll(() => school.close())

const record = async (actor: Actor = office, studentId = ids.ilse) =>
  good(await school.query('people.student', actor, { studentId }))
const set = (actor: Actor, field: string, value: string | null, expectedVersion: number) =>
  school.execute('people.setStudent', actor, {
    studentId: ids.ilse,
    cells: [{ key: { field }, value, expectedVersion }],
  })
const undo = async (run: string | undefined, actor: Actor = office) =>
  school.execute('history.undo', actor, { run: run ?? '' })
const expectedVersion = async (studentId = ids.ilse) => [
  { studentId, expectedVersion: (await record(office, studentId)).rollVersion },
]
const placesOn = async (date: string, kind: string, studentId = ids.ilse) =>
  (await record(office, studentId)).places
    .filter((p) => p.kind === kind && p.from <= date && (p.until === null || p.until > date))
    .map((p) => p.name)

describe('a record edited in place', () => {
  test('a field is saved by itself, with its history; the name for lists follows until it is set by hand', async () => {
    const [saved] = good(await set(office, 'preferredName', 'Ilsabet', 0))
    expect(saved?.version).toBeGreaterThan(0)
    expect((await record()).fields).toMatchObject({
      preferredName: 'Ilsabet',
      sortName: 'Okonjo-Marsh, Ilsabet',
    })
    good(await set(office, 'sortName', 'Marsh, Ilse', (await record()).versions.sortName ?? 0))
    good(await set(office, 'preferredName', 'Ilse', saved?.version ?? 0))
    expect((await record()).fields.sortName).toBe('Marsh, Ilse')
    good(await set(office, 'sortName', 'Okonjo-Marsh, Ilse', (await record()).versions.sortName ?? 0))
    const { changes } = good(await school.query('history.ofStudent', head, { studentId: ids.ilse }))
    expect(changes.slice(0, 4).every((c) => c.actor === office.name && c.kind === 'Student record')).toBe(
      true,
    )
  })
  test('the history holds what happened to guardians, whose records are shared with siblings', async () => {
    const [guardian] = await school.rows(
      'select g.id, g.phone from guardian g join guardianship r on r.guardian_id = g.id where r.student_id = $1 order by r.contact_order limit 1',
      [ids.ilse],
    )
    const linked = good(await school.query('people.student', office, { studentId: ids.ilse })).guardians.find(
      (g) => g.id === guardian?.id,
    )
    if (!linked) throw new Error('Ilse has no guardian')
    const { givenName, familyName, relation, email, language, address, mayReceiveReports, contactOrder } =
      linked
    good(
      await school.execute('people.saveGuardian', office, {
        studentId: ids.ilse,
        guardianId: linked.id,
        expectedVersion: linked.version,
        expectedRelation: linked.relationVersion,
        givenName,
        familyName,
        relation,
        email,
        phone: '000 7777',
        language: language ?? '',
        address,
        mayReceiveReports,
        contactOrder,
      } as never),
    )
    const { changes } = good(await school.query('history.ofStudent', head, { studentId: ids.ilse }))
    expect(changes[0]).toMatchObject({
      kind: 'Guardian record',
      changes: [{ from: linked.phone, to: '000 7777' }],
    })
  })
  test('several fields are saved in one request, all or none', async () => {
    const { versions } = await record()
    const cells = (address: string, version = versions.pronouns ?? 0) => [
      { key: { field: 'pronouns' }, value: 'they/them', expectedVersion: version },
      { key: { field: 'address' }, value: address, expectedVersion: versions.address ?? 0 },
    ]
    const save = (all: ReturnType<typeof cells>) =>
      school.execute('people.setStudent', office, { studentId: ids.ilse, cells: all } as never)
    expect(bad(await save(cells('Lost', 999))).kind).toBe('conflict')
    expect((await record()).fields.address).not.toBe('Lost')
    expect(good(await save(cells('2 Slipway')))).toHaveLength(2)
    expect((await record()).fields).toMatchObject({ pronouns: 'they/them', address: '2 Slipway' })
  })
  test('two people at two fields do not meet; at one field the second sees a conflict with what is saved', async () => {
    const before = await record()
    good(await set(office, 'pronouns', 'she/her', before.versions.pronouns ?? 0))
    const [address] = good(await set(head, 'address', 'Gull House, Farrow', before.versions.address ?? 0))
    expect(bad(await set(office, 'address', 'Tern Cottage', before.versions.address ?? 0))).toMatchObject({
      kind: 'conflict',
      standing: [
        { key: { field: 'address' }, value: 'Gull House, Farrow', version: address?.version, by: head.name },
      ],
    })
    expect((await record()).fields.address).toBe('Gull House, Farrow')
    // The same value typed by both is no conflict.
    good(await set(office, 'address', 'Gull House, Farrow', before.versions.address ?? 0))
  })
  test('the same typed at once by many ends in one value and as many conflicts', async () => {
    const at = (await record()).versions.transport ?? 0
    const all = await Promise.all(
      ['ferry', 'on foot', 'bicycle', 'bus'].map((value) => set(office, 'transport', value, at)),
    )
    expect(all.filter((r) => r.ok)).toHaveLength(1)
    expect(all.filter((r) => !r.ok).every((r) => !r.ok && r.failure.kind === 'conflict')).toBe(true)
  })
  test.each([
    ['legalGivenName', '   '],
    ['legalGivenName', 'x'.repeat(300)],
    ['birthDate', '2099-01-01'],
    ['birthDate', 'yesterday'],
    ['supportNote', 'x'.repeat(1001)],
  ])('%s cannot hold %j', async (field, value) => {
    const before = await record()
    expect(bad(await set(office, field, value, before.versions[field] ?? 0)).kind).toBe('invalid')
    expect((await record()).fields).toEqual(before.fields)
  })
  test.each(['مريم الخطيب', 'İlşé ıŞIK', '👩‍🚀 Ilse', '=HYPERLINK("x")'])(
    'a name of %j is kept as it is',
    async (value) => {
      const before = await record()
      good(await set(office, 'preferredName', value, before.versions.preferredName ?? 0))
      expect((await record()).fields.preferredName).toBe(value)
    },
  )
  test('a field that does not exist is refused, and notes are not for the records staff', async () => {
    expect(bad(await set(office, 'number', '1', 0)).kind).toBe('invalid')
    const records = await school.actor('p.ilves')
    expect(bad(await set(records, 'medicalNote', 'nuts', 0)).kind).toBe('not found')
    good(await set(office, 'medicalNote', 'Allergic to nuts', 0))
    expect((await record(records)).fields.medicalNote).toBeNull()
  })
  test('a teacher who does not teach the student sees name and place, and nothing of the family', async () => {
    const { username } = await school.row(
      'select u.username from membership m join auth."user" u on u.id = m.account_id join homeroom_teacher t on t.staff_id = m.person_id join homeroom h on h.id = t.homeroom_id where h.name = \'1 Tern\'',
    )
    const s = await record(await school.actor(username))
    expect(s).toMatchObject({ guardians: [], maySeeContact: false, mayChange: false })
    expect(s.fields).toMatchObject({ address: null, birthDate: null, medicalNote: null })
    expect(s.places.length).toBeGreaterThan(0)
    expect((await record(await school.actor('r.achterberg'))).guardians.length).toBeGreaterThan(0)
    // The same holds in a register that a teacher takes for a colleague.
    const contacts = async (name: string) => {
      const register = { homeroomId: ids.tern, date: '2026-11-23', session: 'morning' as const }
      const { rows } = good(await school.query('attendance.register', await school.actor(name), register))
      return rows.find((r) => r.studentId === ids.ilse)?.guardians
    }
    const { rows: all } = good(
      await school.query('attendance.register', await school.actor('r.achterberg'), {
        homeroomId: ids.tern,
        date: '2026-11-23',
        session: 'morning',
      }),
    )
    // An applicant who is expected in the homeroom is its teacher's, too.
    expect(all.filter((r) => r.guardians === null)).toEqual([])
    expect(all.some((r) => r.expected)).toBe(true)
    expect(await contacts(username)).toBeNull()
    expect((await contacts('r.achterberg'))?.length).toBeGreaterThan(0)
    expect((await contacts('e.leask'))?.length).toBeGreaterThan(0)
  })
})

describe('moving', () => {
  test('a student changes homeroom and classes from a day on; before it everything is as it was; undo puts it back', async () => {
    const before = await record()
    const moved = await school.execute('people.place', office, {
      students: await expectedVersion(),
      from: '2026-12-01',
      homeroomId: ids.plover,
      leave: [ids.english],
    })
    good(moved)
    expect([await placesOn('2026-11-30', 'homeroom'), await placesOn('2026-12-01', 'homeroom')]).toEqual([
      ['7 Tern'],
      ['7 Plover'],
    ])
    expect(await placesOn('2026-11-30', 'class')).toContain('7 English A')
    expect(await placesOn('2026-12-01', 'class')).not.toContain('7 English A')
    const register = async (homeroomId: string, date: string) =>
      good(
        await school.query('attendance.register', office, { homeroomId, date, session: 'morning' }),
      ).rows.some((r) => r.studentId === ids.ilse)
    expect(await register(ids.tern, '2026-12-01')).toBe(false)
    expect(await register(ids.plover, '2026-12-01')).toBe(true)
    good(await undo(moved.ok ? moved.run : undefined))
    expect((await record()).places).toEqual(before.places)
  })
  test('two people at once: the second is told, and nothing of theirs is done', async () => {
    const students = await expectedVersion()
    const first = await school.execute('people.place', office, {
      students,
      from: '2026-12-01',
      homeroomId: ids.plover,
    })
    good(first)
    expect(
      bad(await school.execute('people.place', head, { students, from: '2026-12-02', leave: [ids.science] }))
        .kind,
    ).toBe('conflict')
    expect(await placesOn('2026-12-02', 'class')).toContain('7 Science A')
    good(await undo(first.ok ? first.run : undefined))
  })
  test('a homeroom of another year group, a class of another term and a day outside the year are refused by their field', async () => {
    const refusedAt = async (more: object) => {
      const failure = bad(
        await school.execute('people.place', office, {
          students: await expectedVersion(),
          from: '2026-12-01',
          ...more,
        }),
      )
      return failure.kind === 'invalid' ? failure.fields[0]?.path : failure.kind
    }
    expect(await refusedAt({ homeroomId: ids.tern8 })).toBe('homeroomId')
    expect(await refusedAt({ homeroomId: ids.plover, from: '2031-01-01' })).toBe('from')
    expect(await refusedAt({})).toBe('from')
    const spring = await school
      .row<{ id: string }>(
        "select c.id from class c where not exists (select 1 from class_term ct join term t on t.id = ct.term_id where ct.class_id = c.id and t.name = 'Autumn') limit 1",
      )
      .catch(() => undefined)
    if (spring) expect(await refusedAt({ join: [spring.id] })).toBe('join')
  })
  test('a year group takes its own homeroom along, in the middle of the year', async () => {
    const moved = await school.execute('people.place', office, {
      students: await expectedVersion(),
      from: '2026-11-20',
      yearGroupId: ids.year8,
      homeroomId: ids.tern8,
      join: [ids.science8],
      leave: [ids.science],
    })
    good(moved)
    expect(await placesOn('2026-11-20', 'year group')).toEqual(['Year 8'])
    expect(await placesOn('2026-11-19', 'year group')).toEqual(['Year 7'])
    // Back to the day: once a mark of 8 Tern's register exists it can still be undone, since marks are the student's.
    good(await undo(moved.ok ? moved.run : undefined))
    expect(await placesOn('2026-11-20', 'homeroom')).toEqual(['7 Tern'])
  })
})

describe('leaving and coming back', () => {
  test('ends everything on the last day, keeps the history, and the number stays with the student', async () => {
    const before = await record()
    const left = await school.execute('people.leave', office, {
      students: await expectedVersion(),
      lastDay: '2026-11-27',
      reason: 'Moved to Little Skarn',
      destination: null,
    })
    good(left)
    expect(await placesOn('2026-11-27', 'year group')).toEqual(['Year 7'])
    for (const kind of ['year group', 'homeroom', 'class'])
      expect(await placesOn('2026-11-28', kind)).toEqual([])
    const on = async (date: string) =>
      good(await school.query('people.list', office, { date })).some((s) => s.id === ids.ilse)
    expect([await on('2026-11-27'), await on('2026-11-28')]).toEqual([true, false])
    expect(
      bad(
        await school.execute('people.leave', office, {
          students: await expectedVersion(),
          lastDay: '2026-12-01',
          reason: 'Again',
        }),
      ).kind,
    ).toBe('invalid')
    const back = await school.execute('people.place', office, {
      students: await expectedVersion(),
      from: '2027-01-11',
      yearGroupId: (await school.row("select id from year_group where name = 'Year 7'")).id,
      homeroomId: ids.plover,
      join: [ids.science],
    })
    good(back)
    const after = await record()
    expect(after.number).toBe(before.number)
    expect(await placesOn('2027-01-11', 'homeroom')).toEqual(['7 Plover'])
    expect(after.departures).toEqual([
      { lastDay: '2026-11-27', reason: 'Moved to Little Skarn', destination: null },
    ])
    // What was built on it is undone first.
    expect(bad(await undo(left.ok ? left.run : undefined)).kind).toBe('refused')
    good(await undo(back.ok ? back.run : undefined))
    good(await undo(left.ok ? left.run : undefined))
    expect((await record()).places).toEqual(before.places)
    expect((await record()).departures).toEqual([])
  })
  test('a whole homeroom leaves in a constant number of statements', async () => {
    const { rollOf } = { rollOf: good(await school.query('people.list', office, { date: '2026-11-23' })) }
    const some = rollOf.filter((s) => s.homeroom === '8 Tern').map((s) => s.id)
    const versions = await school.rows<{ id: string; rollVersion: number }>(
      'select id, roll_version from student where id = any($1::uuid[])',
      [some],
    )
    const students = versions.map((v) => ({ studentId: v.id, expectedVersion: v.rollVersion }))
    const left = await school.execute('people.leave', office, {
      students,
      lastDay: '2026-11-30',
      reason: 'Moved',
    })
    expect(good(left)).toEqual({ students: students.length })
    good(await undo(left.ok ? left.run : undefined))
  })
})

describe('guardians', () => {
  const guardian = (over: object = {}) => ({
    studentId: ids.ilse,
    guardianId: null,
    expectedVersion: 0,
    expectedRelation: 0,
    givenName: 'Tove',
    familyName: 'Marsh',
    relation: 'aunt',
    email: 'tove.marsh@islandmail.example',
    phone: '000 7788',
    language: 'nb',
    address: 'Kelp House, Farrow',
    contactOrder: 1,
    mayReceiveReports: false,
    ...over,
  })
  test('are added at their place in the order to call, corrected, and taken off; undo puts them back', async () => {
    const before = (await record()).guardians.map((g) => g.id)
    const { guardianId } = good(await school.execute('people.saveGuardian', office, guardian()))
    expect((await record()).guardians.map((g) => g.id)).toEqual([guardianId, ...before])
    const one = (await record()).guardians[0]
    good(
      await school.execute(
        'people.saveGuardian',
        office,
        guardian({
          guardianId,
          expectedVersion: one?.version,
          expectedRelation: one?.relationVersion,
          contactOrder: before.length + 1,
        }),
      ),
    )
    const now = (await record()).guardians
    expect(now.map((g) => g.id)).toEqual([...before, guardianId])
    expect(
      bad(
        await school.execute(
          'people.saveGuardian',
          head,
          guardian({
            guardianId,
            expectedVersion: one?.version,
            expectedRelation: one?.relationVersion,
            phone: '000 9',
          }),
        ),
      ).kind,
    ).toBe('conflict')
    const removed = await school.execute('people.removeGuardian', office, {
      studentId: ids.ilse,
      guardianId,
      expectedVersion: now.at(-1)?.relationVersion ?? 0,
    })
    good(removed)
    expect((await record()).guardians.map((g) => g.id)).toEqual(before)
    good(await undo(removed.ok ? removed.run : undefined))
    expect((await record()).guardians.map((g) => g.id)).toEqual([...before, guardianId])
  })
  test('one whom the school knows is put on a sibling’s record, by address and name, and keeps one record', async () => {
    const known = (await record()).guardians.find((g) => g.email)
    const sibling = (await school.row("select id from student where sort_name = 'Abara, Tobias'"))
      .id as string
    const asked = guardian({
      studentId: sibling,
      email: known?.email,
      givenName: known?.givenName,
      familyName: known?.familyName,
      phone: '000 1234',
      address: null,
    })
    const added = await school.execute('people.saveGuardian', office, asked)
    expect(good(added)).toEqual({ guardianId: known?.id })
    expect(await school.row('select phone, address from guardian where id = $1', [known?.id])).toEqual({
      phone: '000 1234',
      address: known?.address,
    })
    expect(bad(await school.execute('people.saveGuardian', office, asked)).message).toContain(
      'is already a guardian of this student',
    )
    good(await undo(added.ok ? added.run : undefined))
    expect(await school.row('select phone from guardian where id = $1', [known?.id])).toEqual({
      phone: known?.phone,
    })
  })
  test('an address that somebody else has is refused beside the field', async () => {
    const known = (await record()).guardians.find((g) => g.email)
    expect(
      bad(await school.execute('people.saveGuardian', office, guardian({ email: known?.email }))),
    ).toMatchObject({ kind: 'invalid', fields: [{ path: 'email' }] })
  })
})
