import { usualSettings } from '@/core/marks/usual-settings'
import { sql } from 'kysely'
import { z } from 'zod'
import type { Actor } from '@/server/platform/actor'
import { answersIn, moveEntries, setEntry, setMark, typeAnswers, withKey } from './acts'
import { bad, good, openSchool, type TestSchool } from './school'

/** Several people at once, slow answers, and what changed in between. */

let school: TestSchool
let teacher: Actor, head: Actor, office: Actor, admin: Actor
let classId: string, roundId: string
const date = '2026-11-23'
const letters = 'CBDAACDBBA'
beforeAll(async () => {
  school = await openSchool()
  ;[teacher, head, office, admin] = (await Promise.all(
    ['r.achterberg', 's.kirkness', 'e.leask', 'm.vester'].map((name) => school.actor(name)),
  )) as [Actor, Actor, Actor, Actor]
  classId = (await school.row("select id from class where name = '7 Science A'")).id
  roundId = (await school.row('select id from report_round')).id
})
afterAll(() => school.close())

async function book(actor = teacher) {
  const answer = good(await school.query('marks.gradebook', actor, { classId, date }))
  if (!answer.book) throw new Error('7 Science A has a gradebook')
  return { ...answer, book: answer.book }
}
const keyOf = async (assessmentId: string) =>
  good(await school.query('assessment.key', teacher, { assessmentId }))
async function makeAssessment(name: string) {
  const made = good(
    await school.execute('assessment.create', teacher, {
      name,
      classIds: [classId],
      givenOn: date,
      questions: 10,
      choices: 4,
      points: '1',
    }),
  )
  const key = await keyOf(made.assessmentId)
  good(
    await school.execute('assessment.setQuestions', teacher, {
      ...made,
      expectedVersion: key.version,
      questions: withKey(key.questions, letters),
    }),
  )
  return made.assessmentId
}
const findings = async (assessmentId: string) =>
  good(await school.query('assessment.findings', teacher, { assessmentId }))

test('a query is one moment: what changes between two of its statements is not seen by the second', async () => {
  const { defineQuery } = await import('@/server/platform/define')
  const { onlyRoles } = await import('@/server/platform/rights')
  const { executeQuery } = await import('@/server/platform/run')
  const { id } = await school.row('select id from student limit 1')
  const twice = defineQuery({
    input: z.object({}),
    right: onlyRoles('look twice', 'teacher'),
    run: async ({ db }) => {
      const look = async () =>
        (await sql<{ name: string }>`select preferred_name as name from student where id = ${id}`.execute(db))
          .rows[0]?.name
      const first = await look()
      await school.rows("update student set preferred_name = 'Changed' where id = $1", [id])
      return [first, await look()]
    },
  })
  const [first, second] = good(await executeQuery(twice, teacher, {}))
  expect(second).toBe(first)
  expect(second).not.toBe('Changed')
})

test('answers follow their questions: a key reordered in between changes no score, another key is a conflict', async () => {
  const assessmentId = await makeAssessment('Order')
  const { students } = await book()
  const studentId = students[3]?.id ?? ''
  const typed = answersIn(letters, (await keyOf(assessmentId)).questions)
  const key = await keyOf(assessmentId)
  const [first, ...rest] = key.questions
  good(
    await school.execute('assessment.setQuestions', teacher, {
      assessmentId,
      expectedVersion: key.version,
      questions: [...rest, ...(first ? [first] : [])],
    }),
  )
  const send = (value: typeof typed) =>
    school.execute('assessment.setAnswers', teacher, {
      assessmentId,
      cells: [{ key: { studentId }, value, expectedVersion: 0 }],
    })
  good(await send(typed))
  expect((await findings(assessmentId)).results.find((r) => r.studentId === studentId)?.points).toBe('10')
  const other = students[4]?.id ?? ''
  const fewer = await keyOf(assessmentId)
  good(
    await school.execute('assessment.setQuestions', teacher, {
      assessmentId,
      expectedVersion: fewer.version,
      questions: fewer.questions.slice(1),
    }),
  )
  expect(
    bad(
      await school.execute('assessment.setAnswers', teacher, {
        assessmentId,
        cells: [{ key: { studentId: other }, value: typed, expectedVersion: 0 }],
      }),
    ).kind,
  ).toBe('conflict')
})

test('a student who left the class and came back is in the findings once', async () => {
  const assessmentId = await makeAssessment('Moved')
  const { students } = await book()
  const studentId = students[1]?.id ?? ''
  good(await typeAnswers(school, teacher, { assessmentId, studentId, letters, expectedVersion: 0 }))
  await school.rows(
    "update class_member set period = daterange(lower(period), '2026-11-24') where class_id = $1 and student_id = $2",
    [classId, studentId],
  )
  await school.rows(
    "insert into class_member (school_id, class_id, student_id, period) values ($3, $1, $2, daterange('2026-11-26', null))",
    [classId, studentId, teacher.schoolId],
  )
  const found = await findings(assessmentId)
  expect(found.summary.assessed).toBe(1)
  expect(found.students.filter((s) => s.id === studentId)).toHaveLength(1)
  await school.rows(
    "delete from class_member where class_id = $1 and student_id = $2 and lower(period) = '2026-11-26'",
    [classId, studentId],
  )
  await school.rows(
    'update class_member set period = daterange(lower(period), null) where class_id = $1 and student_id = $2',
    [classId, studentId],
  )
})

test('the same child is enrolled once, however many enrol it at the same time', async () => {
  const homeroom = await school.row("select id, year_group_id from homeroom where name = '7 Tern'")
  const enrol = (actor: Actor, n: number) =>
    school.execute('people.enrol', actor, {
      givenName: `Twin${n}`,
      familyName: 'Double',
      birthDate: '2015-03-04',
      yearGroupId: homeroom.yearGroupId,
      homeroomId: homeroom.id,
      classIds: [],
      startDate: '2026-11-24',
      guardian: { givenName: 'Ada', familyName: 'Double', relation: 'mother' },
    })
  for (let n = 0; n < 6; n++) {
    const both = await Promise.all([enrol(office, n), enrol(admin, n)])
    expect(both.filter((r) => r.ok)).toHaveLength(1)
    expect(both.flatMap((r) => (r.ok ? [] : [r.failure]))).toMatchObject([{ code: 'people.duplicate' }])
  }
})

test('a key sent again with other contents is refused, and nothing of it is kept', async () => {
  const key = crypto.randomUUID()
  const { yearId } = await school.row<{ yearId: string }>('select id as year_id from academic_year')
  const add = (name: string) =>
    school.execute('year.addYearGroups', admin, { yearId, names: [name], homerooms: [] }, { key })
  good(await add('Year 21'))
  good(await add('Year 21'))
  expect(bad(await add('Year 22'))).toMatchObject({ kind: 'refused', code: 'platform.keyReused' })
  expect(await school.rows("select 1 from year_group where name = 'Year 22'")).toEqual([])
})

describe('what somebody has open is not changed behind their back', () => {
  test('an assignment, settings, thresholds and the document each expect the version seen', async () => {
    const { book: b, term } = await book()
    const asked = {
      classId,
      name: 'Tide log',
      categoryId: b.categories[1]?.id ?? '',
      maxPoints: '20',
      dueOn: date,
      counts: true,
    }
    const { assignmentId } = good(await school.execute('marks.createAssignment', teacher, asked))
    const expectedVersion = (await book()).book.assignments.find((a) => a.id === assignmentId)?.version ?? 0
    good(
      await school.execute('marks.saveAssignment', teacher, {
        ...asked,
        assignmentId,
        expectedVersion,
        maxPoints: '40',
      }),
    )
    const stale = { ...asked, assignmentId, expectedVersion, name: 'Tide log 1' }
    expect(bad(await school.execute('marks.saveAssignment', teacher, stale)).kind).toBe('conflict')
    expect(
      bad(await school.execute('marks.removeAssignment', teacher, { classId, assignmentId, expectedVersion }))
        .kind,
    ).toBe('conflict')
    expect(await school.row('select name, max_points from assignment where id = $1', [assignmentId])).toEqual(
      {
        name: 'Tide log',
        maxPoints: '40.00',
      },
    )
    const settings = {
      termId: term.id,
      targets: [{ classId, expectedVersion: b.version + 1 }],
      ...usualSettings,
      categories: [...usualSettings.categories],
    }
    expect(bad(await school.execute('marks.saveSettings', teacher, settings)).kind).toBe('conflict')

    const assessmentId = await makeAssessment('Versions')
    const { version } = await keyOf(assessmentId)
    const levels = {
      assessmentId,
      expectedVersion: version,
      levels: [
        { name: 'secure', from: { percent: '90' } },
        { name: 'not yet', from: null },
      ],
      standards: [],
    }
    good(await school.execute('assessment.setLevels', teacher, levels))
    expect(bad(await school.execute('assessment.setLevels', teacher, levels)).kind).toBe('conflict')
    const document = good(
      await school.execute('files.upload', teacher, {
        name: 'a.pdf',
        bytes: Buffer.from('%PDF-'),
        mediaType: 'application/pdf',
        pageCount: 1,
      }),
    )
    const attach = { assessmentId, documentIds: [document.documentId], expectedVersion: version }
    expect(bad(await school.execute('assessment.setDocument', teacher, attach)).kind).toBe('conflict')
  })

  test('entries taken back and written anew are not approved by a head who read the old ones', async () => {
    const { id, username } = await school.row(
      `select e.class_id as id, u.username from class_entries e join class_teacher t on t.class_id = e.class_id
        join membership m on m.person_id = t.staff_id join auth."user" u on u.id = m.account_id where e.state = 'writing' and e.class_id <> $1 limit 1`,
      [classId],
    )
    const writer = await school.actor(username)
    const key = { roundId, classId: id as string }
    good(await moveEntries(school, writer, 'handIn', key))
    const read = good(await school.query('reports.classEntries', head, key))
    good(await moveEntries(school, writer, 'takeBack', key))
    const [row] = good(await school.query('reports.classEntries', writer, key)).rows
    good(
      await setEntry(school, writer, {
        ...key,
        studentId: row?.studentId ?? '',
        effort: 'low',
        comment: 'never read by the head',
        expectedVersion: row?.version ?? 0,
      }),
    )
    good(await moveEntries(school, writer, 'handIn', key))
    expect(
      bad(await school.execute('reports.check', head, { ...key, expectedVersion: read.version })).kind,
    ).toBe('conflict')
    expect(
      bad(
        await school.execute('reports.sendBack', head, {
          ...key,
          expectedVersion: read.version,
          remark: 'x',
        }),
      ).kind,
    ).toBe('conflict')
  })
})

test('a maximum lowered beside a score never ends below it, and no other class’s score is given away', async () => {
  const { book: b, students } = await book()
  const asked = {
    classId,
    name: 'Race',
    categoryId: b.categories[1]?.id ?? '',
    maxPoints: '40',
    dueOn: date,
    counts: true,
  }
  const { assignmentId } = good(await school.execute('marks.createAssignment', teacher, asked))
  const studentId = students[5]?.id ?? ''
  for (let n = 0; n < 12; n++) {
    await school.rows('delete from score where assignment_id = $1', [assignmentId])
    await school.rows('update assignment set max_points = 40 where id = $1', [assignmentId])
    const expectedVersion = (await school.row('select version from assignment where id = $1', [assignmentId]))
      .version
    const [lowered, entered] = await Promise.all([
      school.execute('marks.saveAssignment', teacher, {
        ...asked,
        assignmentId,
        expectedVersion,
        maxPoints: '10',
      }),
      school.execute('marks.setScores', teacher, {
        classId,
        cells: [
          { key: { assignmentId, studentId }, value: { kind: 'points', points: '35' }, expectedVersion: 0 },
        ],
      }),
    ])
    expect([lowered.ok, entered.ok].sort()).toEqual([false, true])
  }
  const foreign = await school.row(
    "select a.id from assignment a join class c on c.id = a.class_id join score s on s.assignment_id = a.id where c.name = '9 English A' and s.points > 5 limit 1",
  )
  expect(
    bad(
      await school.execute('marks.saveAssignment', teacher, {
        ...asked,
        assignmentId: foreign.id,
        expectedVersion: 1,
        maxPoints: '1',
      }),
    ),
  ).toMatchObject({ code: 'marks.assignmentGone' })
})

test('work due on the last day of term counts the same in the gradebook and on the card', async () => {
  const last = (await school.row("select last_day from term where name = 'Autumn'")).lastDay
  const { termMark } = await import('@/core/marks/term-mark')
  const { book: b, students } = await book()
  const rules = { ...b.rules, emptyCounts: 'zero after due' as const }
  const [a] = b.assignments
  if (!a) throw new Error('there are assignments')
  const two = { ...b, rules, assignments: [a, { ...a, id: 'last', dueOn: last }] }
  const entries = new Map([[a.id, { kind: 'points' as const, points: a.maxPoints }]])
  const since = students[0]?.since ?? ''
  expect(termMark(two, entries, { on: '2026-12-21', since }).mark).toBe('50.0')
  // Whoever joined after the work was due owes none of it.
  expect(termMark(two, entries, { on: '2026-12-21', since: '2026-12-20' }).mark).toBe('100.0')
})

test('a mark that was empty at hand-in stays empty, also for whoever joins later', async () => {
  const { students } = await book()
  const studentId = students[0]?.id ?? ''
  for (const statement of [
    'delete from score s using assignment a where a.id = s.assignment_id and a.class_id = $1 and s.student_id = $2',
    'delete from response_points x using assignment a where a.assessment_id = x.assessment_id and a.class_id = $1 and x.student_id = $2',
    'delete from response x using assignment a where a.assessment_id = x.assessment_id and a.class_id = $1 and x.student_id = $2',
    "update attempt x set state = 'taken back' from assignment a where a.assessment_id = x.assessment_id and a.class_id = $1 and x.student_id = $2",
  ])
    await school.rows(statement, [classId, studentId])
  good(await moveEntries(school, teacher, 'handIn', { roundId, classId }))
  good(await moveEntries(school, head, 'check', { roundId, classId }))
  const assignment = (await book()).book.assignments.find((a) => a.assessmentId === null)
  good(
    await school.execute('marks.setScores', teacher, {
      classId,
      cells: [
        {
          key: { assignmentId: assignment?.id ?? '', studentId },
          value: { kind: 'points', points: '1' },
          expectedVersion: 0,
        },
      ],
    }),
  )
  const rowOf = async () =>
    good(await school.query('reports.classEntries', head, { roundId, classId })).rows.find(
      (r) => r.studentId === studentId,
    )
  expect((await rowOf())?.values[0]).toMatchObject({
    mark: undefined,
    grade: undefined,
    now: expect.any(String),
  })
  await school.rows('delete from report_entry where class_id = $1 and student_id = $2', [classId, studentId])
  expect((await rowOf())?.values[0]?.mark).toBeUndefined()
  const card = good(await school.query('reports.cardToRelease', head, { roundId, studentId }))
  expect(card?.lines.find((l) => l.className === '7 Science A')?.mark).toBeUndefined()
})

test('a page follows what its answer rests on, and a mark wakes only those who look after that register', async () => {
  const { topicsOfAll } = await import('@/server/platform/run')
  const { queries } = await import('@/server/registry')
  const { homeroomTopic, registersTopic } = await import('@/server/school/topics')
  const { gradebookTopic } = await import('@/server/marks')
  const { classAssessmentsTopic } = await import('@/server/assessment')
  const of = async (name: string, actor: Actor, input: object) => {
    const query = queries.get(name)
    if (!query) throw new Error(`${name} is not registered`)
    return good(await topicsOfAll([{ query, input }], actor))[0] ?? []
  }
  const entries = await of('reports.classEntries', teacher, { roundId, classId })
  expect(entries).toEqual(expect.arrayContaining([gradebookTopic(classId), classAssessmentsTopic(classId)]))
  const tern = (await school.row("select id from homeroom where name = '7 Tern'")).id
  const own = await of('shell.frame', teacher, {})
  expect(own).toContain(homeroomTopic(tern))
  expect(own).not.toContain(registersTopic())
  expect(own.filter((topic) => topic.startsWith('homeroom:'))).toHaveLength(1)
  expect(await of('shell.frame', office, {})).toContain(registersTopic())
})

test('two releases at once: one runs, the other says so', async () => {
  const both = await Promise.all([1, 2].map(() => school.execute('reports.askForRelease', head, { roundId })))
  expect(both.filter((r) => r.ok)).toHaveLength(1)
  expect(both.flatMap((r) => (r.ok ? [] : [r.failure]))).toMatchObject([
    { kind: 'refused', code: 'work.alreadyRunning' },
  ])
})

test('a student expected in one homeroom and enrolled in another is complete where they are on roll', async () => {
  const rooms = await school.rows(
    "select h.id, h.name, h.year_group_id from homeroom h join year_group g on g.id = h.year_group_id where g.name = 'Year 7' order by h.name",
  )
  const [a, b] = rooms
  const studentId = '00000000-0000-7000-8000-0000000000e1'
  await school.rows(
    "insert into student (school_id, id, legal_given_name, legal_family_name, sort_name, birth_date, accepted_for, expected_in, expected_from) values ($1, $2, 'Exp', 'Ected', 'Ected, Exp', '2014-05-05', $3, $4, $5)",
    [teacher.schoolId, studentId, a?.yearGroupId, a?.id, date],
  )
  const present = (await school.row("select id from attendance_code where code = 'P'")).id
  const at = { date, session: 'morning' as const }
  good(
    await setMark(school, teacher, {
      homeroomId: a?.id,
      ...at,
      studentId,
      codeId: present,
      minutesLate: null,
      note: '',
      expectedVersion: 0,
    }),
  )
  good(
    await school.execute('people.enrol', office, {
      applicantId: studentId,
      givenName: 'Exp',
      familyName: 'Ected',
      birthDate: '2014-05-05',
      yearGroupId: b?.yearGroupId,
      homeroomId: b?.id,
      classIds: [],
      startDate: date,
      guardian: { givenName: 'Eva', familyName: 'Ected', relation: 'mother' },
    }),
  )
  good(await school.execute('attendance.markRest', teacher, { homeroomId: b?.id, ...at, codeId: present }))
  const { registers } = good(await school.query('attendance.registersOfDay', office, { date }))
  const register = registers.find((r) => r.id === b?.id)
  expect(register?.morning).toBe(register?.onRoll)
})

test('a colleague’s head who teaches a class enters its scores', async () => {
  await school.rows(
    "insert into class_teacher (school_id, class_id, staff_id, period) values ($1, $2, $3, '[2026-09-01,)')",
    [head.schoolId, classId, head.staffId],
  )
  const opened = await book(head)
  expect(opened.mayEdit).toBe(true)
  const assignment = opened.book.assignments.find((a) => a.assessmentId === null)
  const studentId = opened.students[2]?.id ?? ''
  const expectedVersion =
    opened.book.scores.find((s) => s.assignmentId === assignment?.id && s.studentId === studentId)?.version ??
    0
  good(
    await school.execute('marks.setScores', head, {
      classId,
      cells: [
        {
          key: { assignmentId: assignment?.id ?? '', studentId },
          value: { kind: 'missing' },
          expectedVersion,
        },
      ],
    }),
  )
})
