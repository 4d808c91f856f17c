import type { Actor } from '@/server/platform/actor'
import { bad, good, openSchool, type TestSchool } from './school'
import { moveEntries } from './acts'

let school: TestSchool
let teacher: Actor
let head: Actor
let office: Actor
let classId: string
let termId: string
const date = '2026-11-23'
const term = () => ({ termId, periodId: null as string | null })

beforeAll(async () => {
  school = await openSchool()
  teacher = await school.actor('r.achterberg')
  head = await school.actor('s.kirkness')
  office = await school.actor('e.leask')
  classId = (await school.row("select id from class where name = '8 Science A'")).id
  termId = (await school.row("select id from term where name = 'Autumn'")).id
})
afterAll(() => school.close())

const gradebook = async () => good(await school.query('marks.gradebook', teacher, { classId, date }))
const ownPeriod = async (period = term()) => {
  const found = (await gradebook()).periods.find(
    (p) => p.termId === period.termId && p.periodId === period.periodId,
  )
  if (!found) throw new Error('the class has marks for this part of the year')
  return found
}
const asked = async (period = term()) => ({
  classId,
  period,
  expectedVersion: (await ownPeriod(period)).version,
})
const confirm = async (period = term()) =>
  school.execute('marks.confirmMarks', teacher, { ...(await asked(period)), withBlanks: true })
const takeBack = async (period = term()) =>
  school.execute('marks.takeBackMarks', teacher, await asked(period))
const close = async (period = term()) =>
  school.execute('marks.closeMarks', head, {
    period,
    targets: [{ classId, expectedVersion: (await ownPeriod(period)).version }],
  })
const reopen = async (period = term()) =>
  school.execute('marks.reopenMarks', office, {
    ...(await asked(period)),
    reason: 'One test was marked anew.',
  })

/** A cell of the class's gradebook with points, and a way to write it. */
async function someScore() {
  const { book } = await gradebook()
  const score = book?.scores.find((s) => s.entry?.kind === 'points' && !s.linked)
  if (!score) throw new Error('the demo has scores')
  const { assignmentId, studentId } = score
  return {
    assignmentId,
    studentId,
    set: async (points: string) => {
      const { version } = await school.row(
        'select version from score where assignment_id = $1 and student_id = $2',
        [assignmentId, studentId],
      )
      return school.execute('marks.setScores', teacher, {
        classId,
        cells: [
          { key: { assignmentId, studentId }, value: { kind: 'points', points }, expectedVersion: version },
        ],
      })
    },
  }
}

test('confirmed marks are held with their explanation, and what changes later is shown beside them', async () => {
  good(await confirm())
  const before = await gradebook()
  const heldNow = () =>
    school.rows(
      'select h.source from held_mark h join class_marks m on m.id = h.marks_id where m.class_id = $1 and m.term_id = $2',
      [classId, termId],
    )
  const held = (await heldNow()).filter((h) => h.source === 'mark')
  expect(held).toHaveLength(before.students.length)
  const cell = await someScore()
  good(await cell.set('1'))
  const { students } = good(await school.query('marks.periodMarks', teacher, { classId, period: term() }))
  const changed = students.filter((s) => s.values[0]?.held?.mark !== s.values[0]?.now.mark)
  expect(changed.map((s) => s.studentId)).toEqual([cell.studentId])
  const kept = good(
    await school.query('marks.heldMark', teacher, { classId, period: term(), studentId: cell.studentId }),
  )
  const own = kept.find((k) => k.source === 'mark')
  expect(own?.explanation).toMatchObject({ kind: 'mark', version: 1, mark: { mark: own?.mark } })
  // A calculated column is explained in names.
  const column = before.columns.find((c) => c.name === 'Best three weeks')
  expect(kept.find((k) => k.source === column?.id)?.explanation).toMatchObject({
    kind: 'column',
    sentence: expect.stringContaining('Mean of the best 3 of Week 3'),
  })
  // Confirmed once more they are as they are now.
  good(await confirm())
  expect(
    good(await school.query('marks.periodMarks', teacher, { classId, period: term() })).students.flatMap(
      (s) => s.values.filter((v) => v.held?.mark !== v.now.mark),
    ),
  ).toEqual([])
  good(await takeBack())
  expect(await heldNow()).toEqual([])
})

test('marks move along their path only, and of two people the second is told', async () => {
  expect(bad(await close()).message).toMatch(/open by now/)
  expect(bad(await takeBack()).message).toMatch(/open by now/)
  const seen = await asked()
  good(await confirm())
  const late = bad(await school.execute('marks.confirmMarks', teacher, { ...seen, withBlanks: true }))
  expect(late).toMatchObject({ kind: 'conflict', message: expect.stringContaining('Remi Achterberg') })
  good(await close())
  expect(bad(await takeBack()).message).toMatch(/closed by now/)
  expect(
    bad(await school.execute('marks.reopenMarks', head, { ...(await asked()), reason: ' ' })).message,
  ).toMatch(/reason/)
  good(await reopen())
  expect(await ownPeriod()).toMatchObject({
    state: 'confirmed',
    reason: 'One test was marked anew.',
    changedBy: 'Ewan Leask',
  })
  good(await takeBack())
})

test('nothing that closed marks rest on can be changed, and the refusal says who closed them', async () => {
  const cell = await someScore()
  const first = await gradebook()
  const made = (await school.execute('marks.createAssignment', teacher, {
    classId,
    name: 'Early idea',
    categoryId: first.book?.categories[0]?.id ?? '',
    maxPoints: '10',
    dueOn: date,
    counts: false,
    extra: false,
    others: [],
  })) as { run?: string }
  good(await confirm())
  const { book, columns, term: shown } = await gradebook()
  if (!book) throw new Error('there is a gradebook')
  good(await close())
  const told = /The marks of 8 Science A for Autumn were closed by Sunniva Kirkness/
  expect(bad(await cell.set('5')).message).toMatch(told)
  const assignment = book.assignments.find((a) => a.id === cell.assignmentId)
  if (!assignment) throw new Error('the cell has an assignment')
  const { version, ...rest } = assignment
  const save = (more: object) =>
    school.execute('marks.saveAssignment', teacher, {
      classId,
      assignmentId: assignment.id,
      expectedVersion: version,
      name: rest.name,
      categoryId: rest.categoryId,
      maxPoints: rest.maxPoints,
      dueOn: rest.dueOn,
      counts: rest.counts,
      extra: rest.extra,
      ...more,
    })
  expect(bad(await save({ counts: false })).message).toMatch(told)
  expect(
    bad(
      await school.execute('marks.removeAssignment', teacher, {
        classId,
        assignmentId: assignment.id,
        expectedVersion: version,
      }),
    ).message,
  ).toMatch(told)
  expect(
    bad(
      await school.execute('marks.createAssignment', teacher, {
        classId,
        name: 'Late idea',
        categoryId: rest.categoryId,
        maxPoints: '10',
        dueOn: date,
        counts: true,
        extra: false,
        others: [],
      }),
    ).message,
  ).toMatch(told)
  const { rules, categories } = book
  expect(
    bad(
      await school.execute('marks.saveSettings', teacher, {
        termId: shown.id,
        targets: [{ classId, expectedVersion: book.version }],
        method: rules.method,
        decimals: rules.decimals,
        emptyCounts: rules.emptyCounts,
        missingCounts: 'nothing',
        incompleteCounts: rules.incompleteCounts,
        late: rules.late,
        most: rules.most,
        categories: categories.map(({ name, weight, within, dropLowest }) => ({
          name,
          weight,
          within,
          dropLowest,
        })),
      }),
    ).message,
  ).toMatch(told)
  const best = columns.find((c) => c.name === 'Best three weeks')
  expect(
    bad(
      await school.execute('marks.removeColumn', teacher, {
        classId,
        columnId: columns.find((c) => c.name === 'Weeks level')?.id ?? '',
        expectedVersion: columns.find((c) => c.name === 'Weeks level')?.version ?? 0,
      }),
    ).message,
  ).toMatch(/was confirmed|were confirmed|closed by/)
  expect(best).toBeDefined()
  // What only describes an assignment is no mark.
  good(await save({ name: `${rest.name}, again` }))
  good(
    await save({
      name: rest.name,
      expectedVersion: (await school.row('select version from assignment where id = $1', [assignment.id]))
        .version,
    }),
  )
  // Nor does an undo get past it.
  expect(bad(await school.execute('history.undo', teacher, { run: made.run ?? '' })).message).toMatch(told)
  // Another term is open all the while.
  const spring = (await school.row(
    "select id, first_day::text as first_day from term where name = 'Spring'",
  )) as {
    id: string
    firstDay: string
  }
  const later = good(await school.query('marks.gradebook', teacher, { classId, date: spring.firstDay }))
  good(
    await school.execute('marks.createAssignment', teacher, {
      classId,
      name: 'Spring start',
      categoryId: later.book?.categories[0]?.id ?? '',
      maxPoints: '10',
      dueOn: spring.firstDay,
      counts: true,
      extra: false,
      others: [],
    }),
  )
  good(await reopen())
  good(await cell.set('5'))
  good(await takeBack())
})

test('a score typed at the moment of closing is either before it or refused', async () => {
  const cell = await someScore()
  good(await confirm())
  const [closed, ...typed] = await Promise.all([close(), cell.set('6'), cell.set('6')])
  good(closed)
  for (const result of typed)
    if (!result.ok) expect(result.failure.message).toMatch(/closed by|while you were editing/)
  good(await reopen())
  good(await takeBack())
})

test('a marking period locks its own weeks; the whole year holds what the whole year has', async () => {
  const half = (await gradebook()).periods.find((p) => p.periodId !== null && p.termId === termId)
  if (!half) throw new Error('Autumn has marking periods')
  const period = { termId, periodId: half.periodId }
  good(await confirm(period))
  good(await close(period))
  const { book } = await gradebook()
  const span = (await school.row(
    'select first_day::text as first_day, last_day::text as last_day from term_period where id = $1',
    [half.periodId],
  )) as { firstDay: string; lastDay: string }
  const writable = async (inside: boolean) => {
    const score = book?.scores.find((s) => {
      const due = book.assignments.find((a) => a.id === s.assignmentId)?.dueOn ?? ''
      return (
        s.entry?.kind === 'points' && !s.linked && (span.firstDay <= due && due <= span.lastDay) === inside
      )
    })
    if (!score) return undefined
    const { version } = await school.row(
      'select version from score where assignment_id = $1 and student_id = $2',
      [score.assignmentId, score.studentId],
    )
    return school.execute('marks.setScores', teacher, {
      classId,
      cells: [
        {
          key: { assignmentId: score.assignmentId, studentId: score.studentId },
          value: { kind: 'points', points: '2' },
          expectedVersion: version,
        },
      ],
    })
  }
  const inside = await writable(true)
  if (inside) expect(bad(inside).message).toContain(half.name.split(', ').at(-1) ?? '')
  const outside = await writable(false)
  if (outside) good(outside)
  expect([inside, outside].filter(Boolean).length).toBeGreaterThan(0)
  good(await reopen(period))
  good(await takeBack(period))
  // The year has a column of its own, and no mark beside it.
  const year = { termId: null as unknown as string, periodId: null }
  good(await confirm(year))
  const kept = await school.rows(
    'select h.source from held_mark h join class_marks m on m.id = h.marks_id where m.class_id = $1 and m.term_id is null group by h.source',
    [classId],
  )
  const yearColumn = (await gradebook()).columns.find((c) => c.termId === null)
  expect(kept.map((k) => k.source)).toEqual([yearColumn?.id])
  good(await takeBack(year))
})

test('students without a mark are named before marks are confirmed', async () => {
  const spring = await school.row("select id from term where name = 'Spring'")
  const period = { termId: spring.id as string, periodId: null }
  const ask = async (withBlanks: boolean) =>
    school.execute('marks.confirmMarks', teacher, { ...(await asked(period)), withBlanks })
  expect(bad(await ask(false)).message).toMatch(/have no mark yet/)
  good(await ask(true))
  good(await takeBack(period))
})

describe('report entries and the marks they show', () => {
  let roundId: string
  const english = async () =>
    (await school.row("select id from class where name = '7 English A'")).id as string
  const science = async () =>
    (await school.row("select id from class where name = '7 Science A'")).id as string
  const stateOf = async (id: string) =>
    (
      await school.rows(
        'select state from class_marks where class_id = $1 and term_id = $2 and period_id is null',
        [id, termId],
      )
    )[0]?.state ?? 'open'
  beforeAll(async () => {
    roundId = (await school.row('select id from report_round')).id
  })

  test('handing in confirms the marks, taking back lets them go, and checked entries keep them', async () => {
    const id = await science()
    good(await moveEntries(school, teacher, 'handIn', { roundId, classId: id }))
    expect([await stateOf(id)]).toEqual(['confirmed'])
    const marksOf = async () => ({
      classId: id,
      period: term(),
      expectedVersion: (await school.row('select version from class_marks where class_id = $1', [id]))
        .version as number,
    })
    // Not from under the entries that show them.
    expect(bad(await school.execute('marks.takeBackMarks', teacher, await marksOf())).message).toMatch(
      /report entries of 7 Science A for Autumn report, Year 7 are handed in.*Take them back first/,
    )
    good(await moveEntries(school, teacher, 'takeBack', { roundId, classId: id }))
    expect(await stateOf(id)).toBe('open')
    good(await moveEntries(school, teacher, 'handIn', { roundId, classId: id }))
    good(await moveEntries(school, head, 'check', { roundId, classId: id }))
    // What was checked does not change with a second confirming; where nothing has changed it may be said again.
    const score = await school.row(
      'select s.assignment_id, s.student_id, s.version from score s join assignment a on a.id = s.assignment_id where a.class_id = $1 and s.points > 5 and a.assessment_id is null order by a.due_on, s.student_id limit 1',
      [id],
    )
    good(
      await school.execute('marks.setScores', teacher, {
        classId: id,
        cells: [
          {
            key: { assignmentId: score.assignmentId, studentId: score.studentId },
            value: { kind: 'points', points: '1' },
            expectedVersion: score.version,
          },
        ],
      }),
    )
    expect(
      bad(await school.execute('marks.confirmMarks', teacher, { ...(await marksOf()), withBlanks: true }))
        .message,
    ).toMatch(/are checked.*Ask the head/)
    good(await moveEntries(school, head, 'sendBack', { roundId, classId: id }))
    expect(await stateOf(id)).toBe('open')
  })

  test('closed marks stay closed when entries go back to be written', async () => {
    const id = await english()
    const { version } = await school.row('select version from class_marks where class_id = $1', [id])
    good(
      await school.execute('marks.closeMarks', head, {
        period: term(),
        targets: [{ classId: id, expectedVersion: version }],
      }),
    )
    good(await moveEntries(school, head, 'sendBack', { roundId, classId: id }))
    expect(await stateOf(id)).toBe('closed')
    const entries = good(await school.query('reports.classEntries', head, { roundId, classId: id }))
    expect(entries.marks.state).toBe('closed')
    expect(entries.rows.filter((r) => r.values[0]?.mark !== undefined).length).toBeGreaterThan(10)
  })
})

describe('what fills the lines of reports', () => {
  let roundId: string
  const feeds = async (actor = head) => good(await school.query('reports.feeds', actor, { roundId }))
  beforeAll(async () => {
    roundId = (await school.row('select id from report_round')).id
  })

  test('is proposed by name for all classes, saved in one act, and undone in one', async () => {
    const before = await feeds()
    const open = before.classes.flatMap((c) =>
      c.lines.flatMap((l) =>
        l.columnId === undefined && l.proposed !== undefined
          ? [{ classId: c.id, lineId: l.lineId, columnId: l.proposed, expectedVersion: l.version }]
          : [],
      ),
    )
    expect(open).toHaveLength(3)
    const { run, ok } = (await school.execute('reports.saveFeeds', head, { roundId, feeds: open })) as {
      ok: boolean
      run?: string
    }
    expect(ok).toBe(true)
    expect((await feeds()).classes.every((c) => c.lines.every((l) => l.columnId !== undefined))).toBe(true)
    // The same over what somebody else has settled meanwhile.
    expect(bad(await school.execute('reports.saveFeeds', head, { roundId, feeds: open })).kind).toBe(
      'conflict',
    )
    const science = before.classes.find((c) => c.name === '7 Science A')
    const target = before.lines.find((l) => l.name === 'Target')
    const [row] = good(
      await school.query('reports.classEntries', teacher, { roundId, classId: science?.id ?? '' }),
    ).rows.filter((r) => r.values.some((v) => v.lineId === target?.id && v.grade !== undefined))
    const card = good(
      await school.query('reports.cardPreview', head, {
        roundId,
        homeroomId: (await school.row("select id from homeroom where name = '7 Tern'")).id,
        studentId: row?.studentId ?? '',
      }),
    )
    expect(card[0]?.lines.find((l) => l.className === '7 Science A')?.more).toEqual([
      { name: 'Target', value: row?.values.find((v) => v.lineId === target?.id)?.grade },
    ])
    good(await school.execute('history.undo', head, { run: run ?? '' }))
    expect(
      (await feeds()).classes.flatMap((c) => c.lines.filter((l) => l.columnId === undefined)),
    ).toHaveLength(3)
  })

  test('teachers settle their own classes alone; wrong columns are refused', async () => {
    const own = await feeds(teacher)
    expect(own.classes.map((c) => c.name)).toEqual(['7 Science A'])
    const all = await feeds()
    const [mark, target] = all.lines
    const other = all.classes.find((c) => c.name === '7 Science B')
    const science = all.classes.find((c) => c.name === '7 Science A')
    const put = (
      classId: string | undefined,
      lineId: string | undefined,
      columnId: string | null,
      actor = head,
    ) =>
      school.execute('reports.saveFeeds', actor, {
        roundId,
        feeds: [{ classId: classId ?? '', lineId: lineId ?? '', columnId, expectedVersion: 0 }],
      })
    expect(bad(await put(other?.id, mark?.id, null, teacher)).kind).toBe('not found')
    // A word cannot be filled by a number, nor by a column of another class.
    expect(bad(await put(science?.id, target?.id, null)).message).toMatch(
      /Term mark does not hold what Target needs/,
    )
    const foreign = other?.sources.find((s) => s.name === 'Target')?.columnId ?? ''
    expect(bad(await put(science?.id, target?.id, foreign)).message).toMatch(/no longer in the gradebook/)
    // A column that fills a line stays.
    const column = (await school.row('select version from mark_column where id = $1', [foreign])) as {
      version: number
    }
    const owner = await school.row(
      'select u.username from class_teacher t join membership m on m.person_id = t.staff_id join auth."user" u on u.id = m.account_id where t.class_id = $1 limit 1',
      [other?.id],
    )
    const colleague = await school.actor(owner.username)
    const gone = await school.execute('marks.removeColumn', colleague, {
      classId: other?.id ?? '',
      columnId: foreign,
      expectedVersion: column.version,
    })
    expect(bad(gone).message).toMatch(/fills a line of a report|were confirmed/)
  })
})

test('an entry of a column by hand is one of its choices; what is renamed takes its entries along', async () => {
  const id = (await school.row("select id from class where name = '7 Science A'")).id as string
  const answer = good(await school.query('marks.gradebook', teacher, { classId: id, date }))
  const target = answer.columns.find((c) => c.name === 'Target')
  if (!target || target.does !== 'choice') throw new Error('Target is entered by hand')
  const [entry] = answer.entries.filter((e) => e.columnId === target.id && e.value === 'B')
  if (!entry) throw new Error('somebody aims at a B')
  const put = (value: string | null, expectedVersion = entry.version) =>
    school.execute('marks.setColumnEntries', teacher, {
      classId: id,
      cells: [{ key: { columnId: target.id, studentId: entry.studentId }, value, expectedVersion }],
    })
  expect(bad(await put('Z')).message).toMatch(/Z cannot be entered in Target/)
  const save = (choices: { name: string; value: string | null; was: string | null }[]) =>
    school.execute('marks.saveColumn', teacher, {
      classId: id,
      columnId: target.id,
      expectedVersion: target.version,
      termId: null,
      name: 'Target',
      does: 'choice',
      choices,
    })
  const all = target.choices.map((c) => ({ ...c, was: c.name }))
  expect(bad(await save(all.filter((c) => c.name !== 'B'))).message).toMatch(/B is entered for \d+ students/)
  good(await save(all.map((c) => (c.name === 'B' ? { ...c, name: 'Good' } : c))))
  const after = good(await school.query('marks.gradebook', teacher, { classId: id, date }))
  expect(after.entries.find((e) => e.columnId === target.id && e.studentId === entry.studentId)?.value).toBe(
    'Good',
  )
})

test('a new column is added to several classes at once, with the categories of the same names; all or none', async () => {
  const answer = good(await school.query('marks.gradebook', teacher, { classId, date }))
  const other = (await school.row("select id from class where name = '10 Biology A'")).id as string
  const foreign = (await school.row("select id from class where name = '7 English A'")).id as string
  const homework = answer.book?.categories.find((c) => c.name === 'Homework')
  const add = (more: object, others = [other]) =>
    school.execute('marks.saveColumn', teacher, {
      classId,
      columnId: null,
      expectedVersion: 0,
      termId,
      name: 'Work at home',
      does: 'mean',
      take: null,
      decimals: 1,
      parts: [{ operand: { of: 'category', id: homework?.id ?? '' }, weight: '1' }],
      levels: [],
      others,
      ...more,
    })
  const made = () =>
    school.rows(
      `select c.name, k.name as category from mark_column m join class c on c.id = m.class_id
       join mark_column_part p on p.column_id = m.id join category k on k.id = p.category_id and k.class_id = m.class_id
       where m.name = 'Work at home' order by c.name`,
    )
  const done = (await add({})) as { ok: boolean; run?: string; value: { classes: number } }
  expect(done.value.classes).toBe(2)
  expect(await made()).toEqual([
    { name: '8 Science A', category: 'Homework' },
    { name: '10 Biology A', category: 'Homework' },
  ])
  good(await school.execute('history.undo', teacher, { run: done.run ?? '' }))
  expect(await made()).toEqual([])
  // Not what only one class has, and not in a class of somebody else.
  const [assignment] = answer.book?.assignments ?? []
  expect(
    bad(await add({ parts: [{ operand: { of: 'assignment', id: assignment?.id ?? '' }, weight: '1' }] })),
  ).toMatchObject({ fields: [{ path: 'others' }] })
  expect(bad(await add({}, [foreign])).kind).toBe('not found')
  expect(await made()).toEqual([])
})
