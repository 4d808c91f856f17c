import type { Actor } from '@/server/platform/actor'
import { bad, good, openSchool, type TestSchool } from './school'

let school: TestSchool
let teacher: Actor
let guardian: Actor
let classId: string
let autumn: string
let spring: { id: string; firstDay: string }
const date = '2026-11-23'

beforeAll(async () => {
  school = await openSchool()
  teacher = await school.actor('r.achterberg')
  guardian = await school.actor('hana.marsh@islandmail.example')
  classId = (await school.row("select id from class where name = '7 Science A'")).id
  autumn = (await school.row("select id from term where name = 'Autumn'")).id
  spring = await school.row("select id, first_day::text as first_day from term where name = 'Spring'")
})
afterAll(() => school.close())

const book = async (on = date) => {
  const answer = good(await school.query('marks.gradebook', teacher, { classId, date: on }))
  if (!answer.book) throw new Error('7 Science A has a gradebook')
  return { ...answer, book: answer.book }
}
const named = async (name: string, on = date) => {
  const found = (await book(on)).book.assignments.find((a) => a.name === name)
  if (!found) throw new Error(`there is no ${name}`)
  return found
}
/** Saves an assignment as it stands, with something changed. */
async function save(name: string, more: object, on = date) {
  const { id: assignmentId, version: expectedVersion, ...a } = await named(name, on)
  const { categoryId, maxPoints, dueOn, counts, extra, description, tags, givenOn, shownFrom } = a
  return school.execute('marks.saveAssignment', teacher, {
    classId,
    assignmentId,
    expectedVersion,
    name,
    categoryId,
    maxPoints,
    dueOn,
    counts,
    extra,
    description,
    tags: [...tags],
    givenOn,
    shownFrom,
    ...more,
  })
}

test('what describes an assignment is kept, and a day given after it is due is refused', async () => {
  good(
    await save('Salinity', {
      description: 'Weigh the salt that stays.',
      tags: ['salt', 'lab', 'salt'],
      givenOn: '2026-09-10',
      shownFrom: '2026-12-01',
    }),
  )
  expect(await named('Salinity')).toMatchObject({
    description: 'Weigh the salt that stays.',
    tags: ['salt', 'lab'],
    givenOn: '2026-09-10',
    shownFrom: '2026-12-01',
  })
  const { dueOn } = await named('Salinity')
  expect(bad(await save('Salinity', { givenOn: '2026-12-24', dueOn }))).toMatchObject({
    fields: [{ path: 'givenOn' }],
  })
})

test('a copy stands beside it, with its scores or without, and is undone as one', async () => {
  const original = await named('Buoyancy')
  const scoresOf = async (id: string) =>
    (await book()).book.scores
      .filter((s) => s.assignmentId === id && s.entry)
      .map((s) => [s.studentId, s.entry])
      .sort()
  for (const withScores of [false, true]) {
    const copied = (await school.execute('marks.copyAssignment', teacher, {
      classId,
      assignmentId: original.id,
      withScores,
    })) as { ok: boolean; run: string; value: { assignmentId: string } }
    expect(copied.ok).toBe(true)
    const copy = await named('Buoyancy, copy')
    expect(copy).toMatchObject({ maxPoints: original.maxPoints, dueOn: original.dueOn, shownFrom: null })
    expect(await scoresOf(copy.id)).toEqual(withScores ? await scoresOf(original.id) : [])
    good(await school.execute('history.undo', teacher, { run: copied.run }))
    expect((await book()).book.assignments.some((a) => a.name === 'Buoyancy, copy')).toBe(false)
  }
})

test('assignments stand in an order by hand, and their marks stay as they are', async () => {
  const before = await book()
  const ids = before.book.assignments.map((a) => a.id)
  const turned = [...ids].reverse()
  const order = (list: string[]) =>
    school.execute('marks.orderAssignments', teacher, { classId, termId: autumn, ids: list })
  const done = (await order(turned)) as { ok: boolean; run?: string }
  expect(done.ok).toBe(true)
  expect((await book()).book.assignments.map((a) => a.id)).toEqual(turned)
  // What comes later stands at the end, until everything is ordered again.
  expect(bad(await order(turned.slice(1))).message).toMatch(/added or deleted meanwhile/)
  good(await school.execute('history.undo', teacher, { run: done.run ?? '' }))
  expect((await book()).book.assignments.map((a) => a.id)).toEqual(ids)
  good(await order(turned))
  good(await order([]))
  expect((await book()).book.assignments.map((a) => a.id)).toEqual(ids)
})

test('with a due date in another term it moves there, into the category of the same name', async () => {
  good(await save('Week 11', { dueOn: spring.firstDay }))
  expect((await book()).book.assignments.some((a) => a.name === 'Week 11')).toBe(false)
  const there = await book(spring.firstDay)
  const moved = there.book.assignments.find((a) => a.name === 'Week 11')
  expect(there.book.categories.find((c) => c.id === moved?.categoryId)?.name).toBe('Homework')
  expect(there.book.scores.filter((s) => s.assignmentId === moved?.id).length).toBeGreaterThan(10)
  good(await save('Week 11', { dueOn: '2026-11-17' }, spring.firstDay))
  expect(bad(await save('Week 11', { dueOn: '2026-12-27' })).message).toMatch(/not in any term/)
})

test('a note to a score is kept as it is typed; two people are shown both', async () => {
  const { book: b } = await book()
  const [score] = b.scores.filter((s) => s.entry?.kind === 'points')
  if (!score) throw new Error('there are scores')
  const key = { assignmentId: score.assignmentId, studentId: score.studentId }
  const note = (value: string, expectedVersion: number) =>
    school.execute('marks.setScoreNotes', teacher, { classId, cells: [{ key, value, expectedVersion }] })
  const [first] = good(await note('Came to see me on Monday.', 0))
  expect(bad(await note('Another word.', 0))).toMatchObject({ kind: 'conflict' })
  good(await note('Came to see me on Tuesday.', first?.version ?? 0))
  expect((await book()).notes.find((n) => n.studentId === key.studentId)?.note).toBe(
    'Came to see me on Tuesday.',
  )
  const other = await school.row(
    'select id from student where id not in (select student_id from class_member where class_id = $1) limit 1',
    [classId],
  )
  expect(
    bad(
      await school.execute('marks.setScoreNotes', teacher, {
        classId,
        cells: [{ key: { ...key, studentId: other.id }, value: 'x', expectedVersion: 0 }],
      }),
    ).message,
  ).toMatch(/not in this class/)
})

test('families see what is shown by today, with the mark that follows from it alone', async () => {
  const shown = async () => good(await school.query('marks.mine', guardian, {}))
  const before = await shown()
  const child = before.children[0]
  const own = child?.classes.find((c) => c.className === '7 Science A')
  expect(child?.name).toBe('Okonjo-Marsh, Ilse')
  const { book: b } = await book()
  const visible = b.assignments.filter((a) => a.shownFrom !== null && a.shownFrom <= '2026-11-23')
  expect(own?.assignments.map((a) => a.id)).toEqual(visible.map((a) => a.id))
  expect(visible.length).toBeLessThan(b.assignments.length)
  // Nothing of a piece that is not shown, and nothing of what others wrote to a score.
  const text = JSON.stringify(before)
  expect(text).not.toContain('Salinity')
  expect(text).not.toContain('Tuesday')
  good(await save('Salinity', { shownFrom: '2026-11-23' }))
  const after = (await shown()).children[0]?.classes.find((c) => c.className === '7 Science A')
  expect(after?.assignments.map((a) => a.name)).toContain('Salinity')
  good(await save('Salinity', { shownFrom: null }))
  expect(JSON.stringify(await shown())).not.toContain('Salinity')
})
