import { previewOf } from './acts'
import type { Actor } from '@/server/platform/actor'
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
afterAll(() => school.close({ meddled: true }))

const calendar = async (on = date) => good(await school.query('year.calendar', administrator, { date: on }))
const termOf = async (name: string, on = date) => {
  const term = (await calendar(on)).terms.find((t) => t.name === name)
  if (!term) throw new Error(`no term ${name}`)
  return term
}
const planFrom = async (termId: string) => good(await school.query('carry.plan', administrator, { termId }))
const undo = (run: string | undefined) => school.execute('history.undo', administrator, { run: run ?? '' })
const counts = () =>
  school.row(`select (select count(*)::int from class) as classes, (select count(*)::int from class_term) as terms,
    (select count(*)::int from class_teacher) as teachers, (select count(*)::int from class_member) as members,
    (select count(*)::int from gradebook) as gradebooks, (select count(*)::int from category) as categories,
    (select count(*)::int from mark_column) as columns, (select count(*)::int from mark_column_level) as levels`)

async function asked(names: readonly string[], withStudents = false) {
  const { from, to, classes } = await planFrom((await termOf('Summer')).id)
  return {
    fromTermId: from.id,
    toTermId: to?.id ?? '',
    classIds: classes.filter((c) => names.length === 0 || names.includes(c.name)).map((c) => c.classId),
    withStudents,
  }
}

describe('carrying classes into the next year', () => {
  test('takes teachers, scale, categories and rules along, no students; twice makes nothing twice; undo takes it back', async () => {
    const before = await counts()
    const input = await asked([])
    const done = await school.execute('carry.forward', administrator, input)
    expect(good(done)).toEqual({ carried: input.classIds.length, existed: 0 })
    const after = await counts()
    expect(after).toMatchObject({
      classes: before.classes + input.classIds.length,
      terms: before.terms + input.classIds.length,
      members: before.members,
    })
    const made = await school.row(
      `select c.name, c.scale_id, c.course_id, lower(t.period)::text as "from", f.sort_name as teacher,
        (select string_agg(k.name || ' ' || k.weight, ', ' order by k.position) from category k where k.class_id = c.id) as categories
       from class c join academic_year y on y.id = c.year_id and y.name = '2027/28'
       join class_teacher t on t.class_id = c.id join staff_member f on f.id = t.staff_id where c.name = '7 Science A'`,
    )
    expect(made).toMatchObject({ from: '2027-09-01', teacher: 'Achterberg, Remi' })
    const old = await school.row(
      `select c.scale_id, c.course_id, (select string_agg(k.name || ' ' || k.weight, ', ' order by k.position)
        from category k join term t on t.id = k.term_id and t.name = 'Summer' where k.class_id = c.id) as categories
       from class c join academic_year y on y.id = c.year_id and y.name = '2026/27' where c.name = '7 Science A'`,
    )
    expect(made).toMatchObject(old)
    const targets = (year: string) =>
      school.rows(
        `select c.name as class, m.name, m.does, (select string_agg(l.name, ', ' order by l.position) from mark_column_level l where l.column_id = m.id) as choices
         from mark_column m join class c on c.id = m.class_id join academic_year y on y.id = c.year_id and y.name = $1
         where m.term_id is null and m.does in ('choice', 'number') order by c.name, m.name`,
        [year],
      )
    expect(await targets('2027/28')).toEqual(await targets('2026/27'))

    expect(good(await school.execute('carry.forward', other, input))).toEqual({
      carried: 0,
      existed: input.classIds.length,
    })
    expect(await counts()).toEqual(after)
    expect((await planFrom(input.fromTermId)).classes.every((c) => c.state === 'exists')).toBe(true)

    good(await undo(done.ok ? done.run : undefined))
    expect(await counts()).toEqual(before)
  })
  test('a dry run says exactly what is added, and changes nothing', async () => {
    const before = await counts()
    const preview = good(await previewOf('carry.forward', administrator, await asked(['7 Science A'])))
    expect(preview.counts.map((c) => [c.kind, c.operation, c.rows])).toContainEqual(['Class', 'insert', 1])
    expect(preview.counts.every((c) => c.operation === 'insert')).toBe(true)
    expect(await counts()).toEqual(before)
  })
  test('students come along if they are asked for and enrolled by then', async () => {
    const input = await asked(['7 Science A'], true)
    const size = (await planFrom(input.fromTermId)).classes.find((c) => c.name === '7 Science A')?.students
    const done = await school.execute('carry.forward', administrator, input)
    good(done)
    const { there } =
      await school.row(`select count(*)::int as there from class_member m join class c on c.id = m.class_id
      join academic_year y on y.id = c.year_id where y.name = '2027/28' and c.name = '7 Science A'`)
    expect(there).toBe(size)
    good(await undo(done.ok ? done.run : undefined))
  })
  test('a name that another course has is not carried, and nor is a teacher who has gone', async () => {
    const next = await calendar('2027-10-01')
    const art = await school.row("select c.course_id, c.scale_id from class c where c.name = '8 Art A'")
    await school.rows(
      `insert into class (school_id, id, year_id, course_id, scale_id, name)
       select school_id, gen_random_uuid(), id, $2, $3, '7 Science A' from academic_year where id = $1`,
      [next.year?.id, art.courseId, art.scaleId],
    )
    const gone = await school.row(
      `select f.id, f.sort_name from class_teacher t join class c on c.id = t.class_id and c.name = '7 English A'
       join staff_member f on f.id = t.staff_id limit 1`,
    )
    await school.rows('update membership set active = false where person_id = $1', [gone.id])
    const input = await asked(['7 Science A', '7 English A'])
    const { classes } = await planFrom(input.fromTermId)
    const plan = (name: string) => classes.find((c) => c.name === name)
    expect(plan('7 Science A')?.state).toBe('name taken')
    expect(plan('7 English A')).toMatchObject({ state: 'new class', left: [gone.sortName], teachers: [] })
    const done = await school.execute('carry.forward', administrator, input)
    expect(good(done)).toEqual({ carried: 1, existed: 0 })
    expect(
      await school.rows(
        `select 1 from class_teacher t join class c on c.id = t.class_id join academic_year y on y.id = c.year_id
         where y.name = '2027/28' and c.name = '7 English A'`,
      ),
    ).toEqual([])
    good(await undo(done.ok ? done.run : undefined))
    await school.rows('update membership set active = true where person_id = $1', [gone.id])
    await school.rows("delete from class where name = '7 Science A' and year_id = $1", [next.year?.id])
  })
  test('undo stops once something rests on it', async () => {
    const done = await school.execute('carry.forward', administrator, await asked(['7 Science A']))
    const { id } = await school.row(`select c.id from class c join academic_year y on y.id = c.year_id
      where y.name = '2027/28' and c.name = '7 Science A'`)
    await school.rows(
      `insert into assignment (school_id, id, class_id, term_id, category_id, name, max_points, due_on)
       select school_id, gen_random_uuid(), class_id, term_id, id, 'Quiz', 10, '2027-10-01' from category where class_id = $1 limit 1`,
      [id],
    )
    const refused = await undo(done.ok ? done.run : undefined)
    expect(bad(refused).kind).toBe('refused')
    expect(await school.rows('select 1 from class where id = $1', [id])).toHaveLength(1)
    await school.rows('delete from assignment where class_id = $1', [id])
    good(await undo(done.ok ? done.run : undefined))
  })
  test('two people at once make each class once', async () => {
    const input = await asked(['7 Science A', '7 Science B'])
    const both = await Promise.all(
      [administrator, other].map((actor) => school.execute('carry.forward', actor, input)),
    )
    expect(both.map((r) => good(r).carried).sort()).toEqual([0, 2])
    for (const r of both) if (r.ok && r.value.carried > 0) good(await undo(r.run))
  })
  test('a term is never skipped: the next one is the one that was shown, or nothing happens', async () => {
    const input = await asked(['7 Science A'])
    const spring = await termOf('Spring', '2028-02-01')
    expect(
      bad(await school.execute('carry.forward', administrator, { ...input, toTermId: spring.id })),
    ).toMatchObject({
      kind: 'refused',
      code: 'carry.notNextTerm',
    })
    const last = await planFrom(spring.id)
    expect(last.to).toBeNull()
  })
})

describe('carrying within a year', () => {
  test('adds the term; without students their last day is the day before', async () => {
    const [autumn, spring] = [await termOf('Autumn'), await termOf('Spring')]
    const { id } = await school.row("select id from class where name = '7 Science A'")
    await school.rows('delete from category where class_id = $1 and term_id = $2', [id, spring.id])
    await school.rows('delete from gradebook where class_id = $1 and term_id = $2', [id, spring.id])
    await school.rows('delete from class_term where class_id = $1 and term_id = $2', [id, spring.id])
    const plan = await planFrom(autumn.id)
    expect(plan.classes.find((c) => c.classId === id)?.state).toBe('new term')
    const input = { fromTermId: autumn.id, toTermId: spring.id, classIds: [id], withStudents: false }
    const size = async (on: string) =>
      (
        await school.row(
          'select count(*)::int as n from class_member where class_id = $1 and period @> $2::date',
          [id, on],
        )
      ).n
    const before = await size('2027-01-05')
    const done = await school.execute('carry.forward', administrator, input)
    good(done)
    expect(await size('2027-01-04')).toBe(before)
    expect(await size('2027-01-05')).toBe(0)
    good(await undo(done.ok ? done.run : undefined))
    expect(await size('2027-01-05')).toBe(before)
    good(await school.execute('carry.forward', administrator, { ...input, withStudents: true }))
    expect(await size('2027-01-05')).toBe(before)
    expect((await planFrom(autumn.id)).classes.find((c) => c.classId === id)?.state).toBe('exists')
  })
})

describe('terms after the year was created', () => {
  const save = async (name: string, over: object, actor = administrator) => {
    const { year } = await calendar()
    const term = await termOf(name)
    const { id: termId, version: expectedVersion, firstDay, lastDay } = term
    return school.execute('year.saveTerm', actor, {
      termId,
      expectedVersion,
      yearId: year?.id ?? '',
      name,
      firstDay,
      lastDay,
      ...over,
    })
  }
  test('move within the year, with undo; overlaps and other years are refused beside the field', async () => {
    const moved = await save('Autumn', { lastDay: '2026-12-11' })
    good(moved)
    expect((await termOf('Autumn')).lastDay).toBe('2026-12-11')
    good(await undo(moved.ok ? moved.run : undefined))
    expect((await termOf('Autumn')).lastDay).toBe('2026-12-18')
    expect(bad(await save('Autumn', { lastDay: '2027-01-05' }))).toMatchObject({
      fields: [{ path: 'firstDay' }],
    })
    expect(bad(await save('Summer', { lastDay: '2028-01-05' }))).toMatchObject({
      fields: [{ path: 'lastDay' }],
    })
    expect(bad(await save('Autumn', { name: 'spring' }))).toMatchObject({ fields: [{ path: 'name' }] })
    expect(bad(await save('Autumn', { name: ' ' }))).toMatchObject({ kind: 'invalid' })
  })
  test('of two who move a term at once, the second is told', async () => {
    const { version } = await termOf('Autumn')
    good(await save('Autumn', { lastDay: '2026-12-17' }))
    expect(bad(await save('Autumn', { lastDay: '2026-12-16', expectedVersion: version }, other)).kind).toBe(
      'conflict',
    )
    expect((await termOf('Autumn')).lastDay).toBe('2026-12-17')
    good(await save('Autumn', { lastDay: '2026-12-18' }))
  })
  test('a term with classes cannot be removed; one without can, and comes back by undo', async () => {
    const autumn = await termOf('Autumn')
    const remove = (t: { id: string; version: number }) =>
      school.execute('year.removeTerm', administrator, { termId: t.id, expectedVersion: t.version })
    expect(bad(await remove(autumn))).toMatchObject({ code: 'year.termHasClasses' })
    const empty = await termOf('Spring', '2028-02-01')
    const removed = await remove(empty)
    good(removed)
    expect((await calendar('2027-10-01')).terms).toHaveLength(1)
    expect(bad(await remove((await calendar('2027-10-01')).terms[0] ?? autumn))).toMatchObject({
      code: 'year.lastTerm',
    })
    good(await undo(removed.ok ? removed.run : undefined))
  })
  test('classes of closed terms leave teachers’ lists and stay on the administrator’s', async () => {
    const teacher = await school.actor('r.achterberg')
    const { id } = await school.row("select id from class where name = '7 Science A'")
    await school.rows(
      "delete from category where class_id = $1 and term_id in (select id from term where name <> 'Autumn')",
      [id],
    )
    await school.rows(
      "delete from gradebook where class_id = $1 and term_id in (select id from term where name <> 'Autumn')",
      [id],
    )
    await school.rows(
      "delete from class_term where class_id = $1 and term_id in (select id from term where name <> 'Autumn')",
      [id],
    )
    const own = async () =>
      good(await school.query('shell.frame', teacher, { date })).classes.map((c) => c.name)
    const listed = async (actor: Actor) =>
      good(await school.query('marks.classes', actor, { date })).map((c) => c.name)
    expect(await own()).toContain('7 Science A')
    const autumn = await termOf('Autumn')
    const closed = await school.execute('year.setTermOpen', administrator, {
      termId: autumn.id,
      expectedVersion: autumn.version,
      open: false,
    })
    good(closed)
    expect(await own()).not.toContain('7 Science A')
    expect(await listed(teacher)).not.toContain('7 Science A')
    expect(await listed(administrator)).toContain('7 Science A')
    expect(await own()).toContain('8 Science A')
    good(await undo(closed.ok ? closed.run : undefined))
    expect(await own()).toContain('7 Science A')
  })
  test('the year’s days hold its terms, and its working week stays once a register was taken', async () => {
    const { year, years } = await calendar()
    const version = async () => (await calendar()).years.find((y) => y.id === year?.id)?.version ?? 0
    const saveYear = async (over: object) =>
      school.execute('year.saveYear', administrator, {
        yearId: year?.id ?? '',
        expectedVersion: await version(),
        name: year?.name ?? '',
        firstDay: year?.firstDay ?? '',
        lastDay: year?.lastDay ?? '',
        weekdays: [...(year?.weekdays ?? [])],
        ...over,
      })
    expect(bad(await saveYear({ weekdays: [1, 2, 3, 4, 6] }))).toMatchObject({
      fields: [{ path: 'weekdays' }],
    })
    expect(bad(await saveYear({ lastDay: '2027-06-01' }))).toMatchObject({ fields: [{ path: 'lastDay' }] })
    expect(bad(await saveYear({ lastDay: '2027-09-05' }))).toMatchObject({ fields: [{ path: 'firstDay' }] })
    good(await saveYear({ lastDay: '2027-07-30' }))
    expect((await calendar()).year?.lastDay).toBe('2027-07-30')
    expect(years).toHaveLength(3)
  })
})

test('the set-up check finds a class without a teacher, one without students and a student without a class', async () => {
  const check = async () => good(await school.query('setUp.check', administrator, { date }))
  const before = (await check()).lists
  const { id } = await school.row("select id from class where name = '8 Art A'")
  const student = await school.row("select id from student where sort_name like 'Okonjo-Marsh%'")
  await school.rows('delete from class_teacher where class_id = $1', [id])
  await school.rows('delete from class_member where class_id = $1 or student_id = $2', [id, student.id])
  const { lists, counts } = await check()
  const names = (l: readonly { name: string }[]) => l.map((x) => x.name)
  expect(names(lists.classesWithoutTeacher).sort()).toEqual(
    [...names(before.classesWithoutTeacher), '8 Art A'].sort(),
  )
  expect(names(lists.emptyClasses)).toContain('8 Art A')
  expect(names(lists.studentsWithoutClass)).toContain('Okonjo-Marsh, Ilse')
  expect(counts.find((c) => c.class === '8 Art A' && c.term === 'Autumn')).toMatchObject({
    teacher: '',
    students: 0,
  })
})

test('the students behind a number of the crossed table are as many as it says', async () => {
  const { crossed } = await import('@/core/calendar/set-up-check')
  const { counts } = good(await school.query('setUp.check', administrator, { date }))
  const behind = async (
    chosen: readonly { by: 'subject' | 'year group' | 'teacher' | 'term'; title: string }[],
  ) => good(await school.query('setUp.enrolledIn', administrator, { date, chosen: [...chosen] }))
  const pairs = [
    ['subject', 'year group'],
    ['teacher', 'term'],
  ] as const
  for (const [down, across] of pairs) {
    const table = crossed(counts, down, across)
    for (const row of [0, table.rows.length - 1]) {
      const title = table.rows[row] ?? ''
      expect(await behind([{ by: down, title }])).toHaveLength(table.rowTotals[row] ?? -1)
      const column = table.cells[row]?.findIndex((n) => n !== undefined) ?? 0
      const both = [
        { by: down, title },
        { by: across, title: table.columns[column] ?? '' },
      ]
      expect(await behind(both)).toHaveLength(table.cells[row]?.[column] ?? -1)
    }
  }
})
