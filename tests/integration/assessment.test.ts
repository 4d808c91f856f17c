import { randomUUID } from 'node:crypto'
import sharp from 'sharp'
import { boxBetween } from '@/core/assessment/box'
import { testTypes } from '@/formats/kind-of-file'
import { runJob } from '@/worker/run-job'
import { docx, paragraph } from '../files/docx'
import type { Actor } from '@/server/platform/actor'
import type { CommandInput } from '@/server/registry'
import { newQuestion, type Keyed } from '@/core/assessment/kinds'
import { answersIn, linkTo, typeAnswers, withKey } from './acts'
import { bad, good, openSchool, type TestSchool } from './school'

// Keys with versions, attempts with responses, points by their source, levels, and what is read of them.

let school: TestSchool
let teacher: Actor
let classId: string
let students: readonly string[]

type Question = CommandInput<'assessment.setQuestions'>['questions'][number]

beforeAll(async () => {
  school = await openSchool()
  teacher = await school.actor('r.achterberg')
  classId = (await school.row<{ id: string }>("select id from class where name = '8 Science A'")).id
  students = (
    await school.rows<{ id: string }>(
      "select student_id as id from class_member where class_id = $1 and period @> date '2026-11-20' order by 1",
      [classId],
    )
  ).map((row) => row.id)
})
afterAll(() => school.close())

const key = async (assessmentId: string) =>
  good(await school.query('assessment.key', teacher, { assessmentId }))
const findings = async (assessmentId: string) =>
  good(await school.query('assessment.findings', teacher, { assessmentId }))

const all: readonly (Keyed & { readonly points: string })[] = [
  { kind: 'one choice', content: { choices: ['A', 'B', 'C'], right: 'B' }, points: '1' },
  {
    kind: 'several choices',
    content: { choices: ['A', 'B', 'C', 'D'], right: ['A', 'C'], rule: 'each right less each wrong' },
    points: '1',
  },
  { kind: 'true or false', content: { right: true }, points: '1' },
  {
    kind: 'number',
    content: { right: '3.5', tolerance: '0.1', toleranceIn: 'units', unit: 'm' },
    points: '2',
  },
  {
    kind: 'short text',
    content: { accepted: ['ice'], matters: { case: false, accents: false, spaces: false } },
    points: '1',
  },
  { kind: 'written', content: {}, points: '4' },
]
const made = ({ points, ...keyed }: (typeof all)[number]): Question => ({
  id: randomUUID(),
  ...keyed,
  points,
  counts: 'keyed',
  standardIds: [],
  page: null,
})

/** An assessment of the class with some questions. */
async function make(name: string, questions: readonly Question[] = all.map(made)) {
  const { assessmentId } = good(
    await school.execute('assessment.create', teacher, {
      name,
      classIds: [classId],
      givenOn: '2026-11-20',
      questions: 1,
      choices: 4,
      points: '1',
    }),
  )
  await set(assessmentId, () => questions)
  return assessmentId
}
type Asked = Awaited<ReturnType<typeof key>>['questions']
async function send(assessmentId: string, next: (now: Asked) => readonly Question[]) {
  const { questions, version } = await key(assessmentId)
  return school.execute('assessment.setQuestions', teacher, {
    assessmentId,
    expectedVersion: version,
    questions: [...next(questions)],
  })
}
const set = async (assessmentId: string, next: (now: Asked) => readonly Question[]) =>
  good(await send(assessmentId, next))
const type = (assessmentId: string, student: number, letters: string, expectedVersion = 0) =>
  typeAnswers(school, teacher, { assessmentId, studentId: students[student] ?? '', letters, expectedVersion })
const pointsOf = async (assessmentId: string, student: number) =>
  (await findings(assessmentId)).results.find((r) => r.studentId === students[student])
const keyRows = (assessmentId: string) =>
  school.rows<{ from: number; until: number | null }>(
    'select from_version as from, until_version as until from question_key where assessment_id = $1 order by 1, 2',
    [assessmentId],
  )

test('answers of all kinds are typed in one line, scored by the key or by hand, and final once all are marked', async () => {
  const assessmentId = await make('All kinds')
  const [first] = good(await type(assessmentId, 0, 'B A+B T 3,5 "ICE" ?'))
  // B, half less half of A+C, true, 3.5 m, ice: 1 + 0 + 1 + 2 + 1.
  expect(await pointsOf(assessmentId, 0)).toMatchObject({ points: '5', unmarked: 1 })
  good(await type(assessmentId, 0, 'B A T 3,5 "ICE" 2,5', first?.version))
  expect(await pointsOf(assessmentId, 0)).toMatchObject({ points: '8', unmarked: 0, level: 0 })
  expect(bad(await type(assessmentId, 1, 'B A T 3.5 "ice" 2', 7)).kind).toBe('conflict')
  const { questions } = await key(assessmentId)
  const typed = answersIn('B A T 3.5 "ice" 2', questions) ?? []
  const sent = (change: object, at: number) =>
    school.execute('assessment.setAnswers', teacher, {
      assessmentId,
      cells: [
        {
          key: { studentId: students[1] ?? '' },
          value: typed.map((a, i) => (i === at ? { ...a, ...change } : a)),
          expectedVersion: 0,
        },
      ],
    })
  expect(bad(await sent({ points: '9' }, 5)).message).toContain('9 is more than its 4 points')
  expect(bad(await sent({ points: '1' }, 0)).message).toContain('is scored with its key')
  expect(bad(await sent({ value: ['A', 'G'] }, 1)).message).toContain('G is not one of its choices')
  expect(bad(await sent({ value: 'true' }, 2)).message).toContain('not an answer')
  expect(bad(await sent({ value: 'x'.repeat(10_000) }, 4)).message).toContain('at most 200 characters')
  expect(await pointsOf(assessmentId, 1)).toBeUndefined()
})

test('a linked total counts in the gradebook only once it is final', async () => {
  const assessmentId = await make('Linked and written')
  const book = async () =>
    good(await school.query('marks.gradebook', teacher, { classId, date: '2026-11-23' })).book
  const { assignmentId } = good(
    await linkTo(school, teacher, {
      classId,
      assessmentId,
      categoryId: (await book())?.categories[0]?.id ?? '',
    }),
  )
  const cell = async () =>
    (await book())?.scores.find((s) => s.assignmentId === assignmentId && s.studentId === students[0])?.entry
  const [first] = good(await type(assessmentId, 0, 'B A+C T 3.5 "ice" ?'))
  expect(await cell()).toEqual({ kind: 'unmarked' })
  good(await type(assessmentId, 0, 'B A+C T 3.5 "ice" 3', first?.version))
  expect(await cell()).toEqual({ kind: 'points', points: '9' })
  // What was typed as points is in the history of the score.
  const history = good(
    await school.query('marks.scoreHistory', teacher, {
      classId,
      assignmentId,
      studentId: students[0] ?? '',
    }),
  )
  expect(history[0]).toMatchObject({ question: 6, after: { points: 3 } })
})

test('unlinked, an assignment keeps the scores that are final as its own; undo links it again', async () => {
  const assessmentId = await make('Unlinked')
  const book = async () =>
    good(await school.query('marks.gradebook', teacher, { classId, date: '2026-11-23' })).book
  const { assignmentId } = good(
    await linkTo(school, teacher, {
      classId,
      assessmentId,
      categoryId: (await book())?.categories[0]?.id ?? '',
    }),
  )
  const [first] = good(await type(assessmentId, 0, 'B A+C T 3.5 "ice" 3'))
  good(await type(assessmentId, 1, 'B A+C T 3.5 "ice" ?'))
  const stands = async () => {
    const b = await book()
    const scores = b?.scores.filter((s) => s.assignmentId === assignmentId)
    return students.slice(0, 2).map((id) => scores?.find((s) => s.studentId === id)?.entry)
  }
  const version = (await book())?.assignments.find((a) => a.id === assignmentId)?.version ?? 0
  const unlink = () =>
    school.execute('marks.unlinkAssessment', teacher, { classId, assignmentId, expectedVersion: version })
  good(await unlink())
  expect(await stands()).toEqual([{ kind: 'points', points: '9' }, undefined])
  good(await type(assessmentId, 0, 'A A+C T 3.5 "ice" 3', first?.version))
  expect(await stands()).toEqual([{ kind: 'points', points: '9' }, undefined])
  expect((await book())?.assignments.find((a) => a.id === assignmentId)).toMatchObject({
    assessmentId: null,
    maxPoints: '10',
  })
  expect(bad(await unlink()).message).toContain('not linked')
  const { id } = await school.row<{ id: string }>(
    "select id from command_run where command = 'marks.unlinkAssessment' order by at desc limit 1",
  )
  good(await school.execute('history.undo', teacher, { run: id }))
  expect(await stands()).toEqual([{ kind: 'points', points: '8' }, { kind: 'unmarked' }])
})

test('a key makes no versions while it is being typed; once something was scored it is followed by another', async () => {
  const assessmentId = await make('Versions', [made(all[0] ?? never()), made(all[2] ?? never())])
  await set(assessmentId, (now) => withKey(now, 'AF'))
  expect(await keyRows(assessmentId)).toEqual([
    { from: 1, until: null },
    { from: 1, until: null },
  ])
  good(await type(assessmentId, 0, 'BT'))
  good(await type(assessmentId, 1, 'AT'))
  expect((await findings(assessmentId)).results.map((r) => r.points).sort()).toEqual(['0', '1'])
  await set(assessmentId, (now) => withKey(now, 'BF'))
  expect(await pointsOf(assessmentId, 0)).toMatchObject({ points: '1' })
  expect(await pointsOf(assessmentId, 1)).toMatchObject({ points: '0' })
  expect(await keyRows(assessmentId)).toEqual([
    { from: 1, until: 2 },
    { from: 1, until: null },
    { from: 2, until: null },
  ])
  // What was scored says with which version; only what changed was scored again.
  expect(
    await school.rows(
      `select q.position, p.key_version as version from response_points p join question q on q.id = p.question_id
        where p.assessment_id = $1 group by 1, 2 order by 1`,
      [assessmentId],
    ),
  ).toEqual([
    { position: 1, version: 2 },
    { position: 2, version: 1 },
  ])
  // Nobody changes a key that something was scored with, past all commands.
  await expect(
    school.rows('update question_key set points = 3 where assessment_id = $1 and until_version is null', [
      assessmentId,
    ]),
  ).rejects.toThrow('is kept')
  await expect(
    school.rows('delete from question_key where assessment_id = $1 and until_version is null', [
      assessmentId,
    ]),
  ).rejects.toThrow(/violates foreign key/)
  // The same again changes nothing.
  await set(assessmentId, (now) => now)
  expect(await keyRows(assessmentId)).toHaveLength(3)
})

test('a question with answers is retired, not deleted, and comes back with them', async () => {
  const assessmentId = await make('Retired')
  const before = await key(assessmentId)
  good(await type(assessmentId, 0, 'B A+C T 3.5 "ice" 1'))
  await set(assessmentId, (now) => now.slice(1))
  expect(await pointsOf(assessmentId, 0)).toMatchObject({ points: '6' })
  expect(
    await school.rows('select position from question where assessment_id = $1 and id = $2', [
      assessmentId,
      before.questions[0]?.id,
    ]),
  ).toEqual([{ position: null }])
  // Typed meanwhile, without it.
  good(await type(assessmentId, 1, 'A+C T 3.5 "ice" 1'))
  await set(assessmentId, (now) => [...before.questions.slice(0, 1), ...now])
  expect(await pointsOf(assessmentId, 0)).toMatchObject({ points: '7' })
  expect(await pointsOf(assessmentId, 1)).toMatchObject({ points: '6' })
})

test('a question with answers keeps its kind, and the choices that were chosen', async () => {
  const assessmentId = await make('Kinds stay')
  good(await type(assessmentId, 0, 'C A+D T 3.5 "ice" 1'))
  const changed = (at: number, keyed: Keyed) =>
    send(assessmentId, (now) => now.map((q, i) => (i === at ? { ...q, ...keyed } : q) as Question))
  expect(bad(await changed(0, newQuestion('number', 4))).message).toContain(
    'Question 1 has answers, so its kind stays',
  )
  expect(
    bad(await changed(0, { kind: 'one choice', content: { choices: ['A', 'B'], right: 'A' } })).message,
  ).toContain('C is not one of its choices')
  good(await changed(2, { kind: 'true or false', content: { right: null } }))
  expect(await pointsOf(assessmentId, 0)).toMatchObject({ unmarked: 1 })
})

test('a question is dropped for all, or given to all, whoever left it out', async () => {
  const assessmentId = await make('Dropped', [made(all[0] ?? never()), made(all[3] ?? never())])
  good(await type(assessmentId, 0, 'B 9'))
  good(await type(assessmentId, 1, 'A .'))
  const counts = (at: number, how: Question['counts']) =>
    set(assessmentId, (now) => now.map((q, i) => (i === at ? { ...q, counts: how } : q)))
  await counts(1, 'dropped')
  expect(await pointsOf(assessmentId, 0)).toMatchObject({ points: '1', percent: 100 })
  await counts(1, 'given')
  expect(await pointsOf(assessmentId, 0)).toMatchObject({ points: '3' })
  expect(await pointsOf(assessmentId, 1)).toMatchObject({ points: '2' })
  const stored = await school.rows(
    'select points::text, unmarked from assessment_result where assessment_id = $1 order by 1',
    [assessmentId],
  )
  expect(stored).toEqual([
    { points: '2.00', unmarked: 0 },
    { points: '3.00', unmarked: 0 },
  ])
  await counts(1, 'keyed')
  expect(await pointsOf(assessmentId, 1)).toMatchObject({ points: '0' })
})

test('of several attempts the latest counts, or the best, or the mean of all', async () => {
  const assessmentId = await make('Twice', [made(all[0] ?? never()), made(all[2] ?? never())])
  good(await type(assessmentId, 0, 'BT'))
  for (const statement of [
    "insert into attempt (school_id, assessment_id, student_id, number, state, changed_by) select school_id, id, $2, 2, 'handed in', 'x' from assessment where id = $1",
    `insert into response (school_id, assessment_id, student_id, attempt, question_id, value)
      select school_id, assessment_id, student_id, 2, question_id, value from response where assessment_id = $1 and student_id = $2 and value = '"B"'`,
    `insert into response_points (school_id, assessment_id, student_id, attempt, question_id, source, points, key_version)
      select p.school_id, p.assessment_id, p.student_id, 2, p.question_id, p.source, p.points, p.key_version
      from response_points p join response r on r.assessment_id = p.assessment_id and r.question_id = p.question_id and r.attempt = 2
      where p.assessment_id = $1 and p.student_id = $2 and p.attempt = 1`,
  ])
    await school.rows(statement, [assessmentId, students[0]])
  const counting = async (rule: string) => {
    await school.rows('update assessment set attempts_count = $2 where id = $1', [assessmentId, rule])
    return (
      await school.row<{ points: string }>(
        'select points::text from assessment_result where assessment_id = $1',
        [assessmentId],
      )
    ).points
  }
  expect([await counting('latest'), await counting('best'), await counting('mean')]).toEqual([
    '1.00',
    '2.00',
    '1.50',
  ])
})

test('a removed question comes back by undo, also after others were answered; a key scored anew since stays', async () => {
  const assessmentId = await make('Undo', [made(all[0] ?? never()), made(all[2] ?? never())])
  good(await type(assessmentId, 0, 'BT'))
  const run = async () =>
    (
      await school.row<{ id: string }>(
        "select id from command_run where command = 'assessment.setQuestions' order by at desc limit 1",
      )
    ).id
  const undo = async (runId: string) => school.execute('history.undo', teacher, { run: runId })
  await set(assessmentId, (now) => now.slice(1))
  const removed = await run()
  good(await type(assessmentId, 1, 'F'))
  good(await undo(removed))
  expect((await key(assessmentId)).questions).toHaveLength(2)
  expect(await pointsOf(assessmentId, 0)).toMatchObject({ points: '2' })
  await set(assessmentId, (now) => withKey(now, 'CT'))
  const changed = await run()
  good(await type(assessmentId, 2, 'CT'))
  expect(bad(await undo(changed)).message).toContain('cannot be undone. Nothing was changed.')
  expect(await pointsOf(assessmentId, 2)).toMatchObject({ points: '2' })
})

test('what was done in tables that are gone by now is not undone in part', async () => {
  const assessmentId = await make('Older')
  await set(assessmentId, (now) => now.slice(1))
  const { id } = await school.row<{ id: string }>(
    "select id from command_run where command = 'assessment.setQuestions' order by at desc limit 1",
  )
  await school.rows(
    "update history set table_name = 'answer_sheet' where run_id = $1 and table_name = 'question'",
    [id],
  )
  const refused = bad(await school.execute('history.undo', teacher, { run: id }))
  expect(refused.message).toContain('can no longer be undone')
  expect((await key(assessmentId)).questions).toHaveLength(5)
  await school.rows(
    "update history set table_name = 'question' where run_id = $1 and table_name = 'answer_sheet'",
    [id],
  )
})

test('levels have an order, none above what can be had; a standard may begin elsewhere', async () => {
  const { knownStandards } = await key(await make('Tags'))
  const standard = knownStandards.find((t) => t.code === 'SCI.8.01')?.id ?? ''
  const assessmentId = await make(
    'Levels',
    all.map((q, i) => ({ ...made(q), standardIds: i < 2 ? [standard] : [] })),
  )
  const levels = async (
    list: CommandInput<'assessment.setLevels'>['levels'],
    standards: CommandInput<'assessment.setLevels'>['standards'] = [],
  ) =>
    school.execute('assessment.setLevels', teacher, {
      assessmentId,
      expectedVersion: (await key(assessmentId)).version,
      levels: list,
      standards,
    })
  const lowest = { name: 'not yet', from: null }
  expect(bad(await levels([{ name: 'secure', from: { points: '10.5' } }, lowest])).message).toContain(
    'there are only 10',
  )
  expect(
    bad(
      await levels([
        { name: 'secure', from: { percent: '60' } },
        { name: 'nearly', from: { points: '6' } },
        lowest,
      ]),
    ).message,
  ).toContain('nearly must begin below secure')
  expect(bad(await levels([{ name: 'secure', from: { percent: '101' } }, lowest])).kind).toBe('invalid')
  expect(bad(await levels([lowest, lowest])).kind).toBe('invalid')
  good(
    await levels(
      [{ name: 'deep', from: { percent: '90' } }, { name: 'shallow', from: { points: '5' } }, lowest],
      [{ standardId: standard, from: [{ points: '2' }, { points: '1' }] }],
    ),
  )
  good(await type(assessmentId, 0, 'B . T 3.5 "ice" 4'))
  const found = await findings(assessmentId)
  expect(found.levels.map((l) => l.name)).toEqual(['deep', 'shallow', 'not yet'])
  expect(found.byLevel.map((s) => s.length)).toEqual([1, 0, 0])
  expect(found.byStandard[0]?.byLevel.map((s) => s.length)).toEqual([0, 1, 0])
  expect(
    bad(
      await levels(
        [{ name: 'x', from: { percent: '50' } }, lowest],
        [{ standardId: randomUUID(), from: [{ points: '1' }] }],
      ),
    ).message,
  ).toContain('no question any more')
})

test('a copy takes levels, tags and questions along; copies of copies are one series by day', async () => {
  const { knownStandards } = await key(await make('Tags of a copy'))
  const standard = knownStandards.find((t) => t.code === 'SCI.8.01')?.id ?? ''
  const first = await make(
    'Daily',
    all.map((q) => ({ ...made(q), standardIds: [standard], page: 2 })),
  )
  good(await type(first, 0, 'B A+C T 3.5 "ice" 4'))
  const copy = (assessmentId: string, more: Partial<CommandInput<'assessment.copy'>> = {}) =>
    school.execute('assessment.copy', teacher, {
      assessmentId,
      name: 'Daily again',
      classIds: [classId],
      givenOn: '2026-11-24',
      withQuestions: true,
      ...more,
    })
  const second = good(await copy(first)).assessmentId
  const plain = async (assessmentId: string) =>
    (await key(assessmentId)).questions.map(({ kind, content, points, standardIds, page }) => ({
      kind,
      content,
      points,
      standardIds,
      page,
    }))
  expect(await plain(second)).toEqual(await plain(first))
  expect((await key(second)).sheets).toBe(0)
  const third = good(await copy(second, { givenOn: '2026-11-25', withQuestions: false })).assessmentId
  expect(await plain(third)).toHaveLength(1)
  const { assessments } = good(await school.query('assessment.series', teacher, { assessmentId: third }))
  expect(assessments.map((a) => [a.givenOn, a.assessed, a.mean])).toEqual([
    ['2026-11-20', 1, '100.0'],
    ['2026-11-24', 0, null],
    ['2026-11-25', 0, null],
  ])
  // What is changed in one stays out of the others.
  await set(second, (now) => now.slice(0, 2))
  expect(await plain(first)).toHaveLength(all.length)
  const biology = await school.row<{ id: string }>("select id from class where name = '10 Biology A'")
  expect(bad(await copy(first, { classIds: [biology.id] })).message).toContain('of another subject')
  const english = await school.row<{ id: string }>("select id from class where name = '7 English A'")
  expect(bad(await copy(first, { classIds: [english.id] })).message).toContain('You do not teach')
})

test('a standard cannot stand under itself', async () => {
  const { id, parentId } = await school.row<{ id: string; parentId: string }>(
    'select id, parent_id from standard where parent_id is not null limit 1',
  )
  const { brokenRules } = await import('./school')
  await school.rows('update standard set parent_id = $1 where id = $2', [id, parentId])
  expect(await brokenRules(school)).toContainEqual(
    expect.stringContaining('No learning standard stands under itself'),
  )
  await school.rows('update standard set parent_id = null where id = $1', [parentId])
})

test('points that are not what the key gives are found', async () => {
  const assessmentId = await make('Found', [made(all[0] ?? never())])
  good(await type(assessmentId, 0, 'B'))
  const { brokenRules } = await import('./school')
  await school.rows('update response_points set points = 0 where assessment_id = $1', [assessmentId])
  expect(await brokenRules(school)).toEqual([
    'Points that a key gave are what it gives for the answer: Found, question 1',
  ])
  await school.rows('update response_points set points = 1 where assessment_id = $1', [assessmentId])
})

const never = (): never => {
  throw new Error('it is there')
}

const listOf = async (actor: Actor) =>
  good(await school.query('assessment.list', actor, { date: '2026-11-23' })).assessments

test('what is shared is read, given, seen and edited only as far as it was said', async () => {
  const biology = await school.row<{ id: string; classId: string; username: string }>(
    `select t.staff_id as id, c.id as "classId", u.username from class c
      join course k on k.id = c.course_id join subject s on s.id = k.subject_id
      join class_teacher t on t.class_id = c.id and t.period @> date '2026-11-20'
      join membership m on m.person_id = t.staff_id and m.role = 'teacher' join auth."user" u on u.id = m.account_id
      where s.name = 'Science' and c.name like '8 %' and c.name <> '8 Science A'
        and t.staff_id <> (select owner_id from assessment where name = 'Fair tests') limit 1`,
  )
  const colleague = await school.actor(biology.username)
  const assessmentId = await make('Shared', all.map(made))
  const one = { assessmentId }
  const sees = async () => (await listOf(colleague)).some((a) => a.id === assessmentId)
  const version = async () => (await key(assessmentId)).version
  const share = async (may: { maySeeResults: boolean; mayGive: boolean; mayEdit: boolean } | undefined) =>
    good(
      await school.execute('assessment.setShares', teacher, {
        ...one,
        expectedVersion: await version(),
        shares: may ? [{ with: 'colleague', of: biology.id, ...may }] : [],
      }),
    )
  expect(await sees()).toBe(false)
  // A course is no colleague.
  const course = await school.row<{ id: string }>('select id from course limit 1')
  const wrong = {
    with: 'colleague',
    of: course.id,
    maySeeResults: true,
    mayGive: true,
    mayEdit: true,
  } as const
  const refused = await school.execute('assessment.setShares', teacher, {
    ...one,
    expectedVersion: await version(),
    shares: [wrong],
  })
  expect(bad(refused).message).toContain('no longer at the school')
  await share({ maySeeResults: false, mayGive: false, mayEdit: false })
  expect(await sees()).toBe(true)
  expect(good(await school.query('assessment.key', colleague, one))).toMatchObject({
    mine: false,
    mayEdit: false,
    mayGive: false,
    maySeeResults: false,
  })
  expect((await school.query('assessment.findings', colleague, one)).ok).toBe(false)
  const give = () =>
    school.execute('assessment.give', colleague, {
      ...one,
      classIds: [biology.classId],
      givenOn: '2026-11-20',
    })
  expect((await give()).ok).toBe(false)
  await share({ maySeeResults: false, mayGive: true, mayEdit: false })
  good(await give())
  expect(bad(await give()).message).toContain('was given to')
  // The colleague sees and enters the answers of the own class alone; the owner sees those of both.
  good(await type(assessmentId, 0, 'B A+C T 3.5 "ice" 4'))
  const theirs = good(await school.query('assessment.answers', colleague, one))
  expect(theirs.rows.map((r) => r.mayEnter)).toContain(true)
  expect(theirs.rows.some((r) => r.studentId === students[0])).toBe(false)
  expect(theirs.classes.map((c) => c.id)).toEqual([biology.classId])
  expect(good(await school.query('assessment.findings', colleague, one)).summary.assessed).toBe(0)
  expect((await findings(assessmentId)).summary.assessed).toBe(1)
  const mine = good(await school.query('assessment.answers', teacher, one)).rows
  expect(mine.length).toBeGreaterThan(theirs.rows.length)
  const foreign = await school.execute('assessment.setAnswers', colleague, {
    ...one,
    cells: [{ key: { studentId: students[0] ?? '' }, value: null, expectedVersion: 1 }],
  })
  expect(bad(foreign).message).toContain('of a colleague')
  // What was given stays with whoever gave it, also when it is shared no more.
  await share(undefined)
  expect(await sees()).toBe(true)
  expect((await school.query('assessment.series', colleague, one)).ok).toBe(false)
  // Also when somebody else teaches the class by now.
  await school.rows(
    "update class_teacher set period = daterange(lower(period), date '2026-11-21') where class_id = $1 and staff_id = $2",
    [biology.classId, biology.id],
  )
  expect(await sees()).toBe(true)
  expect(good(await school.query('assessment.answers', colleague, one)).rows).toHaveLength(theirs.rows.length)
})

describe('a document', () => {
  const upload = async (name: string, mediaType: keyof typeof testTypes, bytes: Buffer) =>
    good(
      await school.execute('files.upload', teacher, {
        name,
        bytes,
        mediaType: testTypes[mediaType],
        pageCount: mediaType === 'pdf' ? 1 : null,
      }),
    ).documentId
  const photo = (width: number, height: number, orientation = 1) =>
    sharp({ create: { width, height, channels: 3, background: '#eef5f8' } })
      .withMetadata({ orientation })
      .jpeg()
      .toBuffer()
  const attach = async (assessmentId: string, documentIds: string[]) =>
    school.execute('assessment.setDocument', teacher, {
      assessmentId,
      documentIds,
      expectedVersion: (await key(assessmentId)).version,
    })
  const work = async (assessmentId: string) => {
    const [jobId = ''] = (await key(assessmentId)).sources.flatMap((s) => s.jobId ?? [])
    await runJob({ schoolId: teacher.schoolId, id: jobId }, { last: true })
    return school.row<{ state: string; message: string }>('select state, message from job where id = $1', [
      jobId,
    ])
  }

  test('is made of pictures in their order, upright; the originals stay', async () => {
    const assessmentId = await make('From pictures')
    const ids = [
      await upload('page 1.jpg', 'jpeg', await photo(60, 90)),
      // Taken sideways: it is shown upright.
      await upload('page 2.jpg', 'jpeg', await photo(90, 60, 6)),
    ]
    good(await attach(assessmentId, ids))
    expect((await key(assessmentId)).documentId).toBeNull()
    expect(await work(assessmentId)).toMatchObject({ state: 'done', message: '2 pages' })
    const made = await key(assessmentId)
    expect(made).toMatchObject({ pageCount: 2, document: 'page 1.jpg' })
    expect(made.sources.map((s) => [s.id, s.jobId])).toEqual(ids.map((one) => [one, null]))
    // Whatever the worker does twice is there once.
    await school.rows("update job set state = 'waiting' where title = 'Document of From pictures'")
    const [again] = await school.rows<{ id: string }>(
      "select id from job where title = 'Document of From pictures'",
    )
    await runJob({ schoolId: teacher.schoolId, id: again?.id ?? '' }, { last: true })
    expect((await key(assessmentId)).documentId).toBe(made.documentId)
    const copied = good(
      await school.execute('assessment.copy', teacher, {
        assessmentId,
        name: 'Copy from pictures',
        classIds: [classId],
        givenOn: '2026-11-21',
        withQuestions: true,
      }),
    )
    expect(await key(copied.assessmentId)).toMatchObject({ documentId: made.documentId, sources: [{}, {}] })
  })

  test('is made of a word-processor file, and says what was left out', async () => {
    const assessmentId = await make('From a text')
    const bytes = docx(`${paragraph('What melts?', { list: 1 })}<w:p><m:oMath><m:r/></m:oMath></w:p>`)
    good(await attach(assessmentId, [await upload('Ice.docx', 'docx', Buffer.from(bytes))]))
    const copied = good(
      await school.execute('assessment.copy', teacher, {
        assessmentId,
        name: 'Copied meanwhile',
        classIds: [classId],
        givenOn: '2026-11-21',
        withQuestions: false,
      }),
    )
    expect((await work(assessmentId)).message).toContain('1 page, without its formulas')
    expect(await key(assessmentId)).toMatchObject({ document: 'Ice.docx', pageCount: 1 })
    // A copy that was made before the document was, gets its own.
    expect((await key(copied.assessmentId)).documentId).toBeNull()
    expect((await work(copied.assessmentId)).state).toBe('done')
    expect(await key(copied.assessmentId)).toMatchObject({ document: 'Ice.docx' })
  })

  test('that was replaced while it was made, is not made; what cannot be joined is refused', async () => {
    const assessmentId = await make('Replaced')
    const picture = await upload('a.jpg', 'jpeg', await photo(20, 20))
    good(await attach(assessmentId, [picture]))
    const [jobId = ''] = (await key(assessmentId)).sources.flatMap((s) => s.jobId ?? [])
    const pdf = await upload('b.pdf', 'pdf', Buffer.from('%PDF-'))
    good(await attach(assessmentId, [pdf]))
    await runJob({ schoolId: teacher.schoolId, id: jobId }, { last: true })
    expect(await key(assessmentId)).toMatchObject({ documentId: pdf, sources: [] })
    expect(bad(await attach(assessmentId, [pdf, picture])).message).toContain('cannot be joined')
    const damaged = await upload('c.jpg', 'jpeg', (await photo(300, 300)).subarray(0, 200))
    good(await attach(assessmentId, [damaged]))
    expect(await work(assessmentId)).toMatchObject({
      state: 'failed',
      message: expect.stringContaining('c.jpg cannot be read') as string,
    })
    expect((await key(assessmentId)).documentId).toBe(pdf)
  })
})

test('places and rationales are kept exactly; another page alone is another place', async () => {
  const box = boxBetween({ x: 0.04, y: 1 / 3 }, { x: 0.9612345, y: 0.7 })
  const [first, second] = all.map(made)
  const assessmentId = await make('Places', [
    { ...(first as Question), page: 2, box, rationale: 'Ice floats', choiceRationales: { A: 'sinks' } },
    { ...(second as Question), page: 1 },
  ])
  const { questions } = await key(assessmentId)
  expect(questions[0]).toMatchObject({
    page: 2,
    box,
    rationale: 'Ice floats',
    choiceRationales: { A: 'sinks' },
  })
  expect(questions[1]).toMatchObject({ page: 1, box: null, rationale: null })
  // A page that knows nothing of places and rationales leaves them alone.
  await set(assessmentId, (now) =>
    now.map(
      ({ id, kind, content, points, counts, standardIds, page }) =>
        ({ id, kind, content, points, counts, standardIds, page }) as Question,
    ),
  )
  expect((await key(assessmentId)).questions).toEqual(questions)
  // What the server said can be sent back as it is.
  await set(assessmentId, (now) => now)
  expect((await key(assessmentId)).questions).toEqual(questions)
  expect(
    bad(await send(assessmentId, (now) => now.map((q) => ({ ...q, box: { ...box, x: 0.5 } })))).message,
  ).toBeTruthy()
  const { assessmentId: copied } = good(
    await school.execute('assessment.copy', teacher, {
      assessmentId,
      name: 'Places copied',
      classIds: [classId],
      givenOn: '2026-11-21',
      withQuestions: true,
    }),
  )
  expect((await key(copied)).questions[0]).toMatchObject({ page: 2, box, rationale: 'Ice floats' })
})

test('a gradebook shows one score for each standard, scaled, and in an assignment that is there', async () => {
  const { knownStandards } = await key(await make('Standards'))
  const [a = '', b = ''] = knownStandards.filter((s) => s.code !== null).map((s) => s.id)
  const questions = () => all.map((q, i) => ({ ...made(q), standardIds: i < 2 ? [a, b] : i < 4 ? [b] : [] }))
  const assessmentId = await make('By standard', questions())
  const book = async () =>
    good(await school.query('marks.gradebook', teacher, { classId, date: '2026-11-23' })).book
  const categoryId = (await book())?.categories[0]?.id ?? ''
  const link = (more: object) => linkTo(school, teacher, { classId, assessmentId, ...more })
  good(await link({ categoryId, byStandard: true }))
  expect(bad(await link({ categoryId, byStandard: true })).message).toContain('already in the gradebook')
  good(await link({ categoryId, maxPoints: '20' }))
  good(await type(assessmentId, 0, 'B A T 3.5 "ice" 4'))
  const shown = async () => {
    const now = await book()
    const own = now?.assignments.filter((x) => x.assessmentId === assessmentId) ?? []
    return own
      .map((x) => {
        const score = now?.scores.find((s) => s.assignmentId === x.id && s.studentId === students[0])
        return `${x.name}: ${score?.entry?.kind === 'points' ? score.entry.points : '–'} of ${x.maxPoints}`
      })
      .sort()
  }
  const codes = [a, b].map((one) => knownStandards.find((s) => s.id === one)?.code)
  // B is right (1) and A alone is half of A+C (0.5); T and 3.5 are right (3). In all 9.5 of 10, scaled to 19 of 20.
  expect(await shown()).toEqual(
    [
      `By standard ${codes[0]}: 1.5 of 2`,
      `By standard ${codes[1]}: 4.5 of 5`,
      'By standard: 19 of 20',
    ].sort(),
  )
  const free = good(
    await school.execute('marks.createAssignment', teacher, {
      classId,
      categoryId,
      name: 'Harbour test',
      maxPoints: '30',
      dueOn: '2026-11-20',
      counts: true,
    }),
  )
  const other = await make('Into one', questions())
  const version = async () =>
    (await book())?.assignments.find((x) => x.id === free.assignmentId)?.version ?? 0
  const into = async (assessment: string) =>
    linkTo(school, teacher, {
      classId,
      assessmentId: assessment,
      assignment: { id: free.assignmentId, expectedVersion: await version() },
    })
  good(await into(other))
  expect((await book())?.assignments.find((x) => x.id === free.assignmentId)).toMatchObject({
    assessmentId: other,
    maxPoints: '10',
  })
  expect(bad(await into(other)).message).toContain('linked with an assessment already')
})

test('the gradebooks of several classes take a result all together or not at all', async () => {
  const { classes } = good(await school.query('assessment.newForm', teacher, {}))
  const own = classes.filter((c) => c.subjectId === classes.find((x) => x.id === classId)?.subjectId)
  const other = own.find((c) => c.id !== classId)?.id ?? ''
  const { assessmentId } = good(
    await school.execute('assessment.create', teacher, {
      name: 'Both classes',
      classIds: [classId, other],
      givenOn: '2026-11-20',
      questions: 4,
      choices: 4,
      points: '1',
    }),
  )
  await set(assessmentId, () => [made(all[0] ?? never())])
  const offered = good(await school.query('marks.linkTargets', teacher, { assessmentId }))
  expect(offered.map((c) => c.classId).sort()).toEqual([classId, other].sort())
  const into = (id: string) => ({
    classId: id,
    categoryId: offered.find((c) => c.classId === id)?.categories[0]?.id ?? '',
  })
  const links = async () =>
    (await school.rows('select class_id from assignment where assessment_id = $1', [assessmentId])).length
  const foreign = await school.row<{ id: string }>(
    'select id from class where not exists (select 1 from class_teacher t where t.class_id = class.id and t.staff_id = $1) limit 1',
    [teacher.staffId],
  )
  const link = (...targets: { classId: string; categoryId: string }[]) =>
    school.execute('marks.linkAssessment', teacher, { assessmentId, targets })
  expect(bad(await link(into(classId), { ...into(other), classId: foreign.id })).kind).toBe('not found')
  expect(
    bad(await link(into(classId), { classId: other, categoryId: into(classId).categoryId })),
  ).toMatchObject({ kind: 'invalid', message: expect.stringContaining('not in the gradebook') as string })
  expect(bad(await link(into(classId), into(classId))).kind).toBe('invalid')
  expect(await links()).toBe(0)
  good(await link(into(classId)))
  expect(bad(await link(into(classId), into(other))).message).toContain('already in the gradebook of')
  expect(await links()).toBe(1)
  good(await link(into(other)))
  expect(await links()).toBe(2)
  expect(await school.query('marks.linkTargets', teacher, { assessmentId })).toMatchObject({
    value: [{ isLinked: true }, { isLinked: true }],
  })
})
