import type { Actor } from '@/server/platform/actor'
import type { CommandInput } from '@/server/registry'
import { bad, good, openSchool, type TestSchool } from './school'

let school: TestSchool
let administrator: Actor
let other: Actor
const date = '2026-11-23'
beforeAll(async () => {
  school = await openSchool()
  administrator = await school.actor('m.vester')
  other = { ...administrator, name: 'Tala Farouk' }
})
afterAll(() => school.close())

const structure = async (on = date) =>
  good(await school.query('year.classesAndParts', administrator, { date: on }))
const undo = (run: string | undefined) => school.execute('history.undo', administrator, { run: run ?? '' })

type ClassInput = CommandInput<'setUp.saveClass'>
async function newClass(over: Partial<ClassInput> = {}): Promise<ClassInput> {
  const s = await structure()
  const year7 = s.yearGroups.find((g) => g.name === 'Year 7')
  return {
    classId: null,
    expectedVersion: 0,
    yearId: s.year?.id ?? '',
    name: '7 Rowing',
    subjectId: s.subjects.find((x) => x.name === 'Movement')?.id ?? '',
    yearGroupId: year7?.id ?? '',
    scaleId: s.scales[0]?.id ?? '',
    termIds: s.year?.terms.map((t) => t.id) ?? [],
    staffIds: [s.staff[0]?.id ?? ''],
    homeroomIds: s.homerooms.filter((h) => h.name === '7 Tern').map((h) => h.id),
    from: date,
    ...over,
  }
}

describe('classes', () => {
  test('a new class takes the students of its homerooms from a day on; undo takes it all back', async () => {
    const made = await school.execute('setUp.saveClass', administrator, await newClass())
    const { students } = good(made)
    const rowing = (await structure()).classes.find((c) => c.name === '7 Rowing')
    expect(rowing).toMatchObject({ subject: 'Movement', yearGroup: 'Year 7', students })
    expect(students).toBe((await structure()).homerooms.find((h) => h.name === '7 Tern')?.students)
    expect((await structure('2026-11-22')).classes.find((c) => c.name === '7 Rowing')).toMatchObject({
      students: 0,
      staffIds: [],
    })
    good(await undo(made.ok ? made.run : undefined))
    expect((await structure()).classes.some((c) => c.name === '7 Rowing')).toBe(false)
  })
  test('teachers change from a day on; before it the old one teaches, and who goes on is not interrupted', async () => {
    const s = await structure()
    const [a = '', b = '', c = ''] = s.staff.map((x) => x.id)
    const asked = await newClass({ name: '7 Paddling', staffIds: [a, b] })
    const { classId } = good(await school.execute('setUp.saveClass', administrator, asked))
    const now = async () => (await structure()).classes.find((x) => x.id === classId)
    const version = (await now())?.version ?? 0
    const change = { ...asked, classId, expectedVersion: version, staffIds: [b, c], from: '2026-12-01' }
    good(await school.execute('setUp.saveClass', administrator, change))
    const on = async (day: string) =>
      [...((await structure(day)).classes.find((x) => x.id === classId)?.staffIds ?? [])].sort()
    expect(await on('2026-11-30')).toEqual([a, b].sort())
    expect(await on('2026-12-01')).toEqual([b, c].sort())
    expect(bad(await school.execute('setUp.saveClass', other, { ...change, name: '7 Ropes' })).kind).toBe(
      'conflict',
    )
    expect((await now())?.name).toBe('7 Paddling')
  })
  test.each<[string, Partial<ClassInput>]>([
    ['name', { name: '7 Science A' }],
    ['name', { name: '  ' }],
    ['name', { name: 'x'.repeat(300) }],
    ['termIds', { termIds: [] }],
    ['from', { from: '2031-01-01' }],
    ['subjectId', { subjectId: '' }],
  ])('what is wrong with %s is said beside it', async (path, over) => {
    expect(bad(await school.execute('setUp.saveClass', administrator, await newClass(over)))).toMatchObject({
      kind: 'invalid',
      fields: [{ path }],
    })
  })
  test('parts of another school or year are refused, and a term that holds marks stays', async () => {
    expect(
      bad(
        await school.execute(
          'setUp.saveClass',
          administrator,
          await newClass({ staffIds: [crypto.randomUUID()] }),
        ),
      ),
    ).toMatchObject({ code: 'year.partGone' })
    const s = await structure()
    const science = s.classes.find((c) => c.name === '7 Science A')
    const autumn = s.year?.terms[0]?.id
    expect(
      bad(
        await school.execute('setUp.saveClass', administrator, {
          ...(await newClass()),
          classId: science?.id,
          expectedVersion: science?.version ?? 0,
          name: '7 Science A',
          subjectId: science?.subjectId ?? '',
          staffIds: [...(science?.staffIds ?? [])],
          homeroomIds: [...(science?.homeroomIds ?? [])],
          termIds: s.year?.terms.map((t) => t.id).filter((id) => id !== autumn) ?? [],
        }),
      ),
    ).toMatchObject({ kind: 'invalid', fields: [{ path: 'termIds' }] })
  })
  test('two who add the same class at once make one', async () => {
    const asked = await newClass({ name: '7 Signals' })
    const both = await Promise.all([1, 2].map(() => school.execute('setUp.saveClass', administrator, asked)))
    expect(both.filter((r) => r.ok)).toHaveLength(1)
  })
})

test('subjects are added after those there are; one that exists is refused whatever its case', async () => {
  good(await school.execute('year.addSubjects', administrator, { names: ['Drama', 'Navigation theory'] }))
  expect((await structure()).subjects.slice(-2).map((s) => s.name)).toEqual(['Drama', 'Navigation theory'])
  expect(
    bad(await school.execute('year.addSubjects', administrator, { names: ['Latin', 'drama'] })),
  ).toMatchObject({
    kind: 'invalid',
    fields: [{ path: 'names' }],
  })
  expect((await structure()).subjects.some((s) => s.name === 'Latin')).toBe(false)
})

test('a homeroom gets another teacher from a day on, whose register it is from then', async () => {
  const s = await structure()
  const tern = s.homerooms.find((h) => h.name === '7 Tern')
  const [next = ''] = s.staff.map((x) => x.id).filter((id) => !tern?.staffIds.includes(id))
  const changed = await school.execute('year.saveHomeroom', administrator, {
    homeroomId: tern?.id ?? '',
    expectedVersion: tern?.version ?? 0,
    roomId: null,
    staffIds: [next],
    from: '2026-11-30',
  })
  good(changed)
  const on = async (day: string) => (await structure(day)).homerooms.find((h) => h.id === tern?.id)?.staffIds
  expect(await on('2026-11-29')).toEqual(tern?.staffIds)
  expect(await on('2026-11-30')).toEqual([next])
  good(await undo(changed.ok ? changed.run : undefined))
  expect(await on('2026-11-30')).toEqual(tern?.staffIds)
})

describe('a homeroom is closed after a day', () => {
  const homeroom = async (name: string, on = date) => {
    const h = (await structure(on)).homerooms.find((x) => x.name === name)
    return { id: h?.id ?? '', version: h?.version ?? 0, lastDay: h?.lastDay, staffIds: h?.staffIds }
  }
  const close = async (name: string, lastDay: string | null) => {
    const h = await homeroom(name)
    return school.execute('year.closeHomeroom', administrator, {
      homeroomId: h.id,
      expectedVersion: h.version,
      lastDay,
    })
  }

  test('only once nobody belongs to it later, and within its year', async () => {
    expect(bad(await close('7 Tern', '2027-01-29'))).toMatchObject({
      fields: [{ path: 'lastDay', message: expect.stringContaining('belong to 7 Tern after') }],
    })
    expect(bad(await close('7 Tern', '2029-01-29'))).toMatchObject({ fields: [{ path: 'lastDay' }] })
  })

  test('then nobody is put into it, its teacher ends, and it can be opened again', async () => {
    const tern = await homeroom('7 Tern')
    const plover = (await structure()).homerooms.find((h) => h.name === '7 Plover')
    const all = good(await school.query('people.list', administrator, { date, homeroomId: tern.id }))
    const students = all.map((s) => ({ studentId: s.id, expectedVersion: s.rollVersion }))
    const place = (from: string, homeroomId: string, of: typeof students) =>
      school.execute('people.place', administrator, { students: of, from, homeroomId })
    good(await place('2027-02-01', plover?.id ?? '', students))
    const closed = await close('7 Tern', '2027-01-31')
    good(closed)
    expect((await homeroom('7 Tern', '2027-01-31')).staffIds).toEqual(tern.staffIds)
    expect((await homeroom('7 Tern', '2027-02-01')).staffIds).toEqual([])
    const one = good(
      await school.query('people.student', administrator, { studentId: students[0]?.studentId ?? '' }),
    )
    expect(
      bad(await place('2027-03-01', tern.id, [{ studentId: one.id, expectedVersion: one.rollVersion }])),
    ).toMatchObject({ fields: [{ path: 'homeroomId' }] })
    const offered = good(await school.query('people.enrolForm', administrator, { startDate: date }))
    expect(offered.homerooms.some((h) => h.id === tern.id)).toBe(false)
    good(await undo(closed.ok ? closed.run : undefined))
    expect((await homeroom('7 Tern', '2027-02-01')).staffIds).toEqual(tern.staffIds)
    good(await place('2027-03-01', tern.id, [{ studentId: one.id, expectedVersion: one.rollVersion }]))
  })

  test('closing while somebody is being put into it: one of the two is refused', async () => {
    const closing = (await structure()).homerooms.find((h) => h.name === '8 Plover')
    const inIt = good(
      await school.query('people.list', administrator, { date: '2027-02-01', homeroomId: closing?.id ?? '' }),
    )
    const stays = (await structure()).homerooms.find((h) => h.name === '8 Tern')
    good(
      await school.execute('people.place', administrator, {
        students: inIt.map((s) => ({ studentId: s.id, expectedVersion: s.rollVersion })),
        from: '2027-03-01',
        homeroomId: stays?.id ?? '',
      }),
    )
    const mover = good(
      await school.query('people.list', administrator, { date, homeroomId: stays?.id ?? '' }),
    )[0]
    const both = await Promise.all([
      close('8 Plover', '2027-02-28'),
      school.execute('people.place', other, {
        students: [{ studentId: mover?.id ?? '', expectedVersion: mover?.rollVersion ?? 0 }],
        from: '2027-03-08',
        homeroomId: closing?.id ?? '',
      }),
    ])
    expect(both.filter((r) => r.ok)).toHaveLength(1)
  })
})

describe('rooms', () => {
  test('stand beside classes and homerooms; one in use stays', async () => {
    good(await school.execute('year.addRooms', administrator, { names: ['Laboratory', 'Attic'] }))
    expect(bad(await school.execute('year.addRooms', administrator, { names: ['attic'] }))).toMatchObject({
      fields: [{ path: 'names' }],
    })
    const { rooms, homerooms } = await structure()
    const [attic, laboratory] = ['Attic', 'Laboratory'].map((name) => rooms.find((r) => r.name === name))
    good(
      await school.execute(
        'setUp.saveClass',
        administrator,
        await newClass({ name: '7 Skiff', roomId: laboratory?.id }),
      ),
    )
    expect((await structure()).classes.find((c) => c.name === '7 Skiff')?.roomId).toBe(laboratory?.id)
    const nine = homerooms.find((h) => h.name === '9 Tern')
    const save = (roomId: string | null) =>
      school.execute('year.saveHomeroom', administrator, {
        homeroomId: nine?.id ?? '',
        expectedVersion: nine?.version ?? 0,
        roomId,
        staffIds: [...(nine?.staffIds ?? [])],
        from: date,
      })
    expect(bad(await save(nine?.id ?? ''))).toMatchObject({ code: 'year.roomGone' })
    good(await save(attic?.id ?? ''))
    for (const room of [laboratory, attic])
      expect(
        bad(
          await school.execute('year.removePart', administrator, {
            kind: 'room',
            partId: room?.id ?? '',
            expectedVersion: room?.version ?? 0,
          }),
        ),
      ).toMatchObject({ code: 'year.partInUse' })
  })
})

describe('periods within a term', () => {
  const calendar = async () => good(await school.query('year.calendar', administrator, { date }))
  const autumn = async () => {
    const term = (await calendar()).terms.find((t) => t.name === 'Autumn')
    if (!term) throw new Error('the demo has an autumn term')
    return term
  }
  const save = async (over: Partial<CommandInput<'year.savePeriod'>>, by: Actor = administrator) =>
    school.execute('year.savePeriod', by, {
      periodId: null,
      expectedVersion: 0,
      termId: (await autumn()).id,
      kind: 'exams',
      name: 'Resits',
      firstDay: '2026-12-14',
      lastDay: '2026-12-15',
      ...over,
    })

  test('lie in their term and do not overlap others of their kind; of another kind they may', async () => {
    expect(bad(await save({ lastDay: '2026-12-23' }))).toMatchObject({ fields: [{ path: 'lastDay' }] })
    expect(bad(await save({ firstDay: '2026-12-10' }))).toMatchObject({ fields: [{ path: 'firstDay' }] })
    expect(bad(await save({ lastDay: '2026-12-11' }))).toMatchObject({ fields: [{ path: 'lastDay' }] })
    const saved = await save({})
    good(saved)
    expect((await calendar()).periods.map((p) => p.name)).toContain('Resits')
    good(await undo(saved.ok ? saved.run : undefined))
    expect((await calendar()).periods.map((p) => p.name)).not.toContain('Resits')
  })

  test('go along with the edge of their term, and else keep it from moving past them', async () => {
    const move = async (lastDay: string) => {
      const term = await autumn()
      return school.execute('year.saveTerm', administrator, {
        termId: term.id,
        expectedVersion: term.version,
        yearId: (await calendar()).year?.id ?? '',
        name: term.name,
        firstDay: term.firstDay,
        lastDay,
      })
    }
    const lastOf = async (name: string) => (await calendar()).periods.find((p) => p.name === name)?.lastDay
    const moved = await move('2026-12-16')
    good(moved)
    expect([await lastOf('Second half'), await lastOf('Exams')]).toEqual(['2026-12-16', '2026-12-11'])
    expect(bad(await move('2026-12-09'))).toMatchObject({
      fields: [{ path: 'lastDay', message: expect.stringContaining('cuts off Exams') }],
    })
    expect(bad(await move('2026-10-28'))).toMatchObject({
      fields: [{ path: 'lastDay', message: expect.stringContaining('leaves out Second half') }],
    })
    good(await undo(moved.ok ? moved.run : undefined))
    expect(await lastOf('Second half')).toBe('2026-12-18')
  })

  test('two who add one at once make one; a colleague’s change is not overwritten', async () => {
    const both = await Promise.all([save({}), save({ name: 'Mocks' }, other)])
    expect(both.filter((r) => r.ok)).toHaveLength(1)
    const made = (await calendar()).periods.find((p) => p.firstDay === '2026-12-14')
    const again = { periodId: made?.id, expectedVersion: made?.version ?? 0 }
    good(await save({ ...again, name: 'Resits and mocks' }))
    expect(bad(await save({ ...again, name: 'Mocks' }, other)).kind).toBe('conflict')
    const now = (await calendar()).periods.find((p) => p.id === made?.id)
    good(
      await school.execute('year.removePeriod', administrator, {
        periodId: now?.id ?? '',
        expectedVersion: now?.version ?? 0,
      }),
    )
  })
})

describe('grading scales', () => {
  const scales = async () => good(await school.query('year.scales', administrator, {})).scales
  const bands = [
    { grade: 'Secure', fromPercent: '75' },
    { grade: 'Nearly', fromPercent: '50.5' },
    { grade: 'Not yet', fromPercent: '0' },
  ]

  test('are made, changed grade by grade, and removed while no class uses them', async () => {
    const { scaleId } = good(
      await school.execute('year.saveScale', administrator, {
        scaleId: null,
        expectedVersion: 0,
        name: 'Three levels',
        startsOn: null,
        bands,
      }),
    )
    const own = async () => (await scales()).find((s) => s.id === scaleId)
    expect(await own()).toMatchObject({
      name: 'Three levels',
      changes: [{ startsOn: null, bands }],
      classes: 0,
    })
    const moved = [...bands.slice(0, 1), { grade: 'Nearly', fromPercent: '75.5' }, ...bands.slice(2)]
    const changed = await school.execute('year.saveScale', administrator, {
      scaleId,
      expectedVersion: (await own())?.version ?? 0,
      name: 'Three levels',
      startsOn: null,
      bands: [{ grade: 'Secure', fromPercent: '80' }, ...moved.slice(1)],
    })
    good(changed)
    expect((await own())?.changes[0]?.bands.map((b) => b.fromPercent)).toEqual(['80', '75.5', '0'])
    good(await undo(changed.ok ? changed.run : undefined))
    expect((await own())?.changes).toEqual([{ startsOn: null, bands }])
    good(
      await school.execute('year.removeScale', administrator, {
        scaleId,
        expectedVersion: (await own())?.version ?? 0,
      }),
    )
    expect(await own()).toBeUndefined()
  })

  test('a colleague’s change is not overwritten, and one that classes use stays', async () => {
    const [used] = (await scales()).filter((s) => s.classes > 0)
    const save = (by: Actor) =>
      school.execute('year.saveScale', by, {
        scaleId: used?.id,
        expectedVersion: used?.version ?? 0,
        name: used?.name ?? '',
        startsOn: null,
        bands:
          used?.changes[0]?.bands.map((b) =>
            b.fromPercent === '0' ? b : { ...b, fromPercent: String(Number(b.fromPercent) - 1) },
          ) ?? [],
      })
    good(await save(administrator))
    expect(bad(await save(other)).kind).toBe('conflict')
    const now = (await scales()).find((s) => s.id === used?.id)
    expect(
      bad(
        await school.execute('year.removeScale', administrator, {
          scaleId: now?.id ?? '',
          expectedVersion: now?.version ?? 0,
        }),
      ),
    ).toMatchObject({ code: 'year.partInUse' })
  })
})

test('a scale that changes on a day keeps its grades for the terms before it, and is taken back by undo', async () => {
  const list = async () => good(await school.query('year.scales', administrator, {})).scales
  const [scale] = (await list()).filter((s) => s.name === 'A to E')
  if (!scale) throw new Error('the demo school has the scale A to E')
  const now = { scaleId: scale.id, expectedVersion: scale.version, name: scale.name }
  const dayOf = async (termId: string) =>
    (await school.rows('select kedge_scale_day($1, $2)::text as day', [scale.id, termId]))[0]?.day
  const [autumn, spring] = await school.rows<{ id: string; firstDay: string }>(
    "select id, first_day from term where last_day > '2026-11-23' order by first_day limit 2",
  )
  if (!autumn || !spring) throw new Error('two terms lie ahead')
  const changed = await school.execute('year.saveScale', administrator, {
    ...now,
    startsOn: spring.firstDay,
    bands: [],
  })
  good(changed)
  expect((await list()).find((s) => s.id === scale.id)?.changes).toEqual([
    ...scale.changes,
    { startsOn: spring.firstDay, bands: [] },
  ])
  expect([await dayOf(autumn.id), await dayOf(spring.id)]).toEqual(['-infinity', spring.firstDay])
  good(await undo(changed.ok ? changed.run : undefined))
  expect(await dayOf(spring.id)).toBe('-infinity')
  expect(
    bad(
      await school.execute('year.saveScale', administrator, {
        ...now,
        scaleId: null,
        expectedVersion: 0,
        name: 'New',
        startsOn: spring.firstDay,
        bands: [],
      }),
    ),
  ).toMatchObject({ kind: 'invalid' })
})

test('a further year stands beside the others; a date in it shows it', async () => {
  const next = {
    name: '2028/29',
    firstDay: '2028-09-01',
    lastDay: '2029-07-13',
    weekdays: [1, 2, 3, 4, 5],
    terms: [{ name: 'Autumn', firstDay: '2028-09-01', lastDay: '2028-12-15' }],
  }
  const both = await Promise.all([1, 2].map(() => school.execute('year.create', administrator, next)))
  expect(both.filter((r) => r.ok)).toHaveLength(1)
  const expectedVersion = good(await school.query('year.calendar', administrator, { date: '2028-10-02' }))
  expect(expectedVersion.year?.name).toBe('2028/29')
  expect(expectedVersion.years.map((y) => y.name)).toEqual(['2025/26', '2026/27', '2027/28', '2028/29'])
  expect(expectedVersion.years.map((y) => y.by)).toEqual([null, null, 'Mara Vester', administrator.name])
  expect((await structure('2028-10-02')).classes).toEqual([])
  expect((await structure()).classes.length).toBeGreaterThan(100)
})

describe('days without school', () => {
  const calendar = async () => good(await school.query('year.calendar', administrator, { date }))
  const closure = async (over: object = {}) => ({
    closureId: null,
    expectedVersion: 0,
    yearId: (await calendar()).year?.id ?? '',
    kind: 'staff day' as const,
    name: 'Training',
    firstDay: '2026-11-26',
    lastDay: '2026-11-26',
    ...over,
  })
  const kindOf = async (day: string) =>
    good(await school.query('attendance.registersOfDay', administrator, { date: day })).day?.kind
  test('are added while the year runs, and no register is asked for; undo makes them school days again', async () => {
    expect(await kindOf('2026-11-26')).toBe('school day')
    const added = await school.execute('year.saveClosure', administrator, await closure())
    good(added)
    expect((await calendar()).closures.map((c) => c.name)).toContain('Training')
    expect(await kindOf('2026-11-26')).toBe('closed')
    good(await undo(added.ok ? added.run : undefined))
    expect(await kindOf('2026-11-26')).toBe('school day')
  })
  test('what they touch is told first, and registers that were taken stay', async () => {
    const touched = good(
      await school.query('setUp.touchedBy', administrator, { firstDay: '2026-11-16', lastDay: '2026-11-20' }),
    )
    expect(touched.registers).toBeGreaterThan(100)
    const marks = async () =>
      (await school.row("select count(*)::int as n from attendance_mark where session_date = '2026-11-20'")).n
    const before = await marks()
    const added = await school.execute(
      'year.saveClosure',
      administrator,
      await closure({ firstDay: '2026-11-20', lastDay: '2026-11-20' }),
    )
    good(added)
    expect(await marks()).toBe(before)
    good(await undo(added.ok ? added.run : undefined))
  })
  test('move and go, each with the version that was seen', async () => {
    const { closureId } = good(await school.execute('year.saveClosure', administrator, await closure()))
    const { version = 0 } = (await calendar()).closures.find((c) => c.id === closureId) ?? {}
    const moved = await closure({
      closureId,
      expectedVersion: version,
      firstDay: '2026-11-27',
      lastDay: '2026-11-27',
    })
    good(await school.execute('year.saveClosure', administrator, moved))
    expect(bad(await school.execute('year.saveClosure', other, { ...moved, name: 'Other' })).kind).toBe(
      'conflict',
    )
    expect(
      bad(await school.execute('year.removeClosure', other, { closureId, expectedVersion: version })).kind,
    ).toBe('conflict')
    const now = (await calendar()).closures.find((c) => c.id === closureId)
    good(
      await school.execute('year.removeClosure', administrator, {
        closureId,
        expectedVersion: now?.version ?? 0,
      }),
    )
    expect((await calendar()).closures.some((c) => c.id === closureId)).toBe(false)
  })
  test('cannot overlap, also not when two add them at once, nor lie outside the year or end before they begin', async () => {
    const both = await Promise.all(
      ['A', 'B'].map(async (name) =>
        school.execute(
          'year.saveClosure',
          administrator,
          await closure({ name, firstDay: '2027-02-01', lastDay: '2027-02-02' }),
        ),
      ),
    )
    expect(both.filter((r) => r.ok)).toHaveLength(1)
    const pathOf = async (over: object) => {
      const failure = bad(await school.execute('year.saveClosure', administrator, await closure(over)))
      return failure.kind === 'invalid' ? failure.fields[0]?.path : failure.kind
    }
    expect(await pathOf({ firstDay: '2027-02-02', lastDay: '2027-02-03' })).toBe('firstDay')
    expect(await pathOf({ firstDay: '2030-01-01', lastDay: '2030-01-02' })).toBe('firstDay')
    expect(await pathOf({ firstDay: '2026-11-27', lastDay: '2026-11-26' })).toBe('lastDay')
  })
})

describe('names and order of parts', () => {
  const part = async (kind: 'yearGroups' | 'homerooms' | 'subjects', name: string) => {
    const found = (await structure())[kind].find((x) => x.name === name)
    if (!found) throw new Error(`no ${name}`)
    return { partId: found.id, expectedVersion: found.version }
  }
  test('a homeroom, a year group and a subject get other names, with undo; a second person is told', async () => {
    const tern = await part('homerooms', '7 Tern')
    const renamed = await school.execute('year.renamePart', administrator, {
      kind: 'homeroom',
      ...tern,
      name: '7 Gannet',
    })
    good(renamed)
    expect((await structure()).homerooms.some((h) => h.name === '7 Gannet')).toBe(true)
    expect(
      bad(await school.execute('year.renamePart', other, { kind: 'homeroom', ...tern, name: '7 Auk' })).kind,
    ).toBe('conflict')
    good(await undo(renamed.ok ? renamed.run : undefined))
    const music = await part('subjects', 'Music')
    expect(
      bad(await school.execute('year.renamePart', administrator, { kind: 'subject', ...music, name: 'art' })),
    ).toMatchObject({ fields: [{ path: 'name' }] })
    good(
      await school.execute('year.renamePart', administrator, {
        kind: 'subject',
        ...music,
        name: 'Music and sound',
      }),
    )
    good(
      await school.execute('year.renamePart', administrator, {
        kind: 'year group',
        ...(await part('yearGroups', 'Year 12')),
        name: 'Leavers',
      }),
    )
    expect((await structure()).yearGroups.at(-1)?.name).toBe('Leavers')
  })
  test('what has a history stays; what nothing rests on is removed and comes back by undo', async () => {
    for (const [kind, list, name] of [
      ['homeroom', 'homerooms', '7 Tern'],
      ['year group', 'yearGroups', 'Year 7'],
      ['subject', 'subjects', 'Science'],
    ] as const)
      expect(
        bad(await school.execute('year.removePart', administrator, { kind, ...(await part(list, name)) })),
      ).toMatchObject({ code: 'year.partInUse' })
    good(await school.execute('year.addSubjects', administrator, { names: ['Sailing'] }))
    const removed = await school.execute('year.removePart', administrator, {
      kind: 'subject',
      ...(await part('subjects', 'Sailing')),
    })
    good(removed)
    expect((await structure()).subjects.some((x) => x.name === 'Sailing')).toBe(false)
    good(await undo(removed.ok ? removed.run : undefined))
    expect((await structure()).subjects.some((x) => x.name === 'Sailing')).toBe(true)
  })
  test('the whole order is sent; when something was added meanwhile nothing moves', async () => {
    const before = (await structure()).yearGroups.map((g) => g.id)
    const turned = [...before].reverse()
    const done = await school.execute('year.orderParts', administrator, { kind: 'year group', ids: turned })
    good(done)
    expect((await structure()).yearGroups.map((g) => g.id)).toEqual(turned)
    good(await undo(done.ok ? done.run : undefined))
    expect((await structure()).yearGroups.map((g) => g.id)).toEqual(before)
    expect(
      bad(await school.execute('year.orderParts', other, { kind: 'year group', ids: before.slice(1) })),
    ).toMatchObject({ code: 'year.orderGone' })
  })
})
