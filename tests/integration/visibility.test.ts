import type { Actor } from '@/server/platform/actor'
import { bad, good, openSchool, type TestSchool } from './school'

/** What a teacher sees of students, as the school decides; photos; and what other pages know, in short. */

let school: TestSchool
let administrator: Actor
let office: Actor
let teacher: Actor
let taught: string
let untaught: string
const date = '2026-11-23'
beforeAll(async () => {
  school = await openSchool()
  administrator = await school.actor('m.vester')
  office = await school.actor('e.leask')
  teacher = await school.actor('r.achterberg')
  const one = async (homeroom: string) =>
    (
      await school.row<{ id: string }>(
        `select m.student_id as id from homeroom_member m join homeroom h on h.id = m.homeroom_id
         where h.name = $1 and m.period @> date '2026-11-23' order by 1 limit 1`,
        [homeroom],
      )
    ).id
  taught = await one('7 Tern')
  untaught = await one('2 Plover')
  await school.rows(
    "update student set birth_date = '2018-02-03', address = '1 Slipway' where id = any($1)",
    [[taught, untaught]],
  )
})
afterAll(() => school.close())

const record = async (actor: Actor, studentId: string) =>
  good(await school.query('people.student', actor, { studentId }))
const decide = async (teachersSee: 'places' | 'details' | 'contacts', by: Actor = administrator) => {
  const { version } = good(await school.query('year.settings', administrator, {}))
  return school.execute('year.saveSettings', by, {
    teachersSee,
    attendanceThreshold: 90,
    expectedVersion: version,
  })
}

describe('the attendance threshold', () => {
  const threshold = async () =>
    good(await school.query('attendance.figureChoices', teacher, { date: '2026-11-23' })).threshold
  const choose = async (attendanceThreshold: number) => {
    const { version, teachersSee } = good(await school.query('year.settings', administrator, {}))
    return school.execute('year.saveSettings', administrator, {
      teachersSee,
      attendanceThreshold,
      expectedVersion: version,
    })
  }
  test('is 90 per cent until an administrator chooses another, which figures begin with; undo puts it back', async () => {
    expect(await threshold()).toBe(90)
    const saved = await choose(94)
    good(saved)
    expect(await threshold()).toBe(94)
    good(await school.execute('history.undo', administrator, { run: (saved.ok && saved.run) || '' }))
    expect(await threshold()).toBe(90)
  })
  test.each([0, 101, 92.5])('is no share of %d', async (share) => {
    expect(bad(await choose(share))).toMatchObject({
      kind: 'invalid',
      fields: [{ path: 'attendanceThreshold' }],
    })
  })
})

describe('what teachers see of students they do not teach', () => {
  test('is name, year group and homeroom; of their own students the record', async () => {
    const other = await record(teacher, untaught)
    expect(other.fields).toMatchObject({ birthDate: null, address: null, supportNote: null })
    expect(other.guardians).toEqual([])
    expect([...new Set(other.places.map((p) => p.kind))].sort()).toEqual(['homeroom', 'year group'])
    const own = await record(teacher, taught)
    expect(own.fields.birthDate).toBe('2018-02-03')
    expect(own.guardians.length).toBeGreaterThan(0)
    expect(own.places.some((p) => p.kind === 'class')).toBe(true)
  })

  test('can be more: the details, and then the guardians; never the notes', async () => {
    const saved = await decide('details')
    good(saved)
    const details = await record(teacher, untaught)
    expect(details.fields).toMatchObject({ birthDate: '2018-02-03', address: '1 Slipway', supportNote: null })
    expect(details.guardians).toEqual([])
    expect(details.places.some((p) => p.kind === 'class')).toBe(true)
    const more = await decide('contacts')
    good(more)
    const contacts = await record(teacher, untaught)
    expect(contacts.guardians.length).toBeGreaterThan(0)
    expect(contacts.maySeeNotes).toBe(false)
    good(await school.execute('history.undo', administrator, { run: (more.ok && more.run) || '' }))
    expect((await record(teacher, untaught)).guardians).toEqual([])
  })

  test('is decided by an administrator, who is told when a colleague has just decided', async () => {
    const { version } = good(await school.query('year.settings', administrator, {}))
    const decisions = (['places', 'contacts'] as const).map((teachersSee) =>
      school.execute('year.saveSettings', administrator, {
        teachersSee,
        attendanceThreshold: 90,
        expectedVersion: version,
      }),
    )
    const both = await Promise.all(decisions)
    expect(both.filter((r) => r.ok)).toHaveLength(1)
    expect(both.find((r) => !r.ok)).toMatchObject({ failure: { kind: 'conflict' } })
    good(await decide('places'))
  })
})

describe('a photo', () => {
  const picture = async (colour: string) => {
    const { default: sharp } = await import('sharp')
    return sharp({ create: { width: 60, height: 60, channels: 3, background: colour } })
      .jpeg()
      .toBuffer()
  }
  const read = async (actor: Actor, documentId: string) => {
    const { openFile } = await import('@/server/front/open-file')
    return openFile(actor, documentId)
  }

  test('is added, replaced against the one in sight, and taken back; its readers are those of the details', async () => {
    const set = async (colour: string, expectedPhotoId: string | null) =>
      school.execute('people.setPhoto', office, {
        studentId: untaught,
        expectedPhotoId,
        bytes: await picture(colour),
      })
    const { photoId } = good(await set('#335577', null))
    expect((await record(office, untaught)).photoId).toBe(photoId)
    expect(bad(await set('#aa5577', null)).kind).toBe('conflict')
    const replaced = await set('#aa5577', photoId)
    const second = good(replaced).photoId
    expect((await read(office, second)).ok).toBe(true)
    expect((await record(teacher, untaught)).photoId).toBeNull()
    expect((await read(teacher, second)).ok).toBe(false)
    good(await decide('details'))
    expect((await record(teacher, untaught)).photoId).toBe(second)
    expect((await read(teacher, second)).ok).toBe(true)
    good(await school.execute('history.undo', office, { run: (replaced.ok && replaced.run) || '' }))
    expect((await record(office, untaught)).photoId).toBe(photoId)
    const removed = await school.execute('people.removePhoto', office, {
      studentId: untaught,
      expectedPhotoId: photoId,
    })
    good(removed)
    expect((await record(office, untaught)).photoId).toBeNull()
    good(await decide('places'))
  })
})

describe('a record in short', () => {
  const short = async (actor: Actor, studentId: string) =>
    good(await school.query('record.short', actor, { studentId, date }))

  test('holds what the register, the gradebooks and the findings say', async () => {
    const head = await school.actor('s.kirkness')
    const ilse = (
      await school.row<{ id: string }>("select id from student where sort_name = 'Okonjo-Marsh, Ilse'")
    ).id
    const all = await short(head, ilse)
    const homeroomId = (await school.row<{ id: string }>("select id from homeroom where name = '7 Tern'")).id
    const figures = await school.row<{ n: string }>(
      `select count(*) as n from attendance_mark m join attendance_code c on c.id = m.code_id
       where m.student_id = $1 and m.session_date <= date '2026-11-23' and c.meaning <> 'not expected'
         and m.session in ('morning', 'afternoon')`,
      [ilse],
    )
    expect(homeroomId).toBeTruthy()
    expect(all.attendance?.possible).toBe(Number(figures.n))
    expect(all.marks.map((m) => m.name)).toContain('7 Science A')
    expect(all.marks.every((m) => m.mark === undefined || Number(m.mark) <= 110)).toBe(true)
    const sheet = await school.row<{ id: string; points: string }>(
      `select r.student_id as id, r.points::text from assessment_result r join assessment a on a.id = r.assessment_id
        where a.name = 'Fair tests' order by r.student_id limit 1`,
    )
    const latest = (await short(head, sheet.id)).assessments.find((a) => a.name === 'Fair tests')
    expect(Number(latest?.points)).toBe(Number(sheet.points))
    expect(Number(latest?.most)).toBeGreaterThanOrEqual(Number(sheet.points))
  })

  test('shows each part to those only who may open its page', async () => {
    const own = await short(teacher, taught)
    expect(own.attendance).toBeDefined()
    const mine = await school.rows<{ name: string }>(
      "select c.name from class c join class_teacher t on t.class_id = c.id join staff_member s on s.id = t.staff_id where s.sort_name = 'Achterberg, Remi'",
    )
    expect(own.marks.every((m) => mine.some((c) => c.name === m.name))).toBe(true)
    expect(own.cards).toEqual([])
    expect(await short(teacher, untaught)).toMatchObject({ marks: [], assessments: [], cards: [] })
    expect((await short(teacher, untaught)).attendance).toBeUndefined()
    const records = await school.actor('p.ilves')
    expect(await short(records, taught)).toMatchObject({ marks: [], assessments: [], cards: [] })
  })
})

test('a right over an object is nobody’s where no object is named, but for those who have it over all', async () => {
  const { executeQuery } = await import('@/server/platform/run')
  const { teachesClass } = await import('@/server/school/relations')
  const { z } = await import('zod')
  const query = {
    kind: 'query',
    input: z.object({ classId: z.string().nullish() }),
    right: {
      words: 'look',
      grants: [{ roles: ['administrator'] }, { roles: ['teacher'], when: teachesClass }],
      object: 'class',
      of: ({ classId }: { classId?: string | null }) => classId,
    },
    run: () => Promise.resolve('seen'),
  } as const
  const ask = (actor: Actor, classId?: string | null) =>
    executeQuery(query as never, actor, { classId }) as Promise<Awaited<ReturnType<typeof school.query>>>
  const { id } = await school.row("select id from class where name = '7 Science A'")
  expect(good(await ask(teacher, String(id)))).toBe('seen')
  expect(bad(await ask(teacher, undefined)).kind).toBe('not found')
  expect(bad(await ask(teacher, null)).kind).toBe('not found')
  expect(good(await ask(administrator, undefined))).toBe('seen')
  expect(bad(await ask(administrator, crypto.randomUUID())).kind).toBe('not found')
})
