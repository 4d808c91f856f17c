import { randomUUID } from 'node:crypto'
import { writeAnswers } from '@/core/assessment/typed'
import type { Actor } from '@/server/platform/actor'
import type { CommandInput } from '@/server/registry'
import { bad, good, openSchool, type TestSchool } from './school'
import type { ScoreEntry } from '@/core/marks/gradebook'
import { settingsOf, type GradebookSettings } from '@/core/marks/settings'
import { termMark } from '@/core/marks/term-mark'
import { linkTo, typeAnswers, withKey } from './acts'

let school: TestSchool
let teacher: Actor
let classId: string
const date = '2026-11-23'
beforeAll(async () => {
  school = await openSchool()
  teacher = await school.actor('r.achterberg')
  classId = (await school.row("select id from class where name = '7 Science A'")).id
})
afterAll(() => school.close())

const book = async () => {
  const answer = good(await school.query('marks.gradebook', teacher, { classId, date }))
  if (!answer.book) throw new Error('7 Science A has a gradebook')
  return { ...answer, book: answer.book }
}
const scores = (
  cells: { assignmentId: string; studentId: string; points: string | null; expectedVersion?: number }[],
  actor = teacher,
) =>
  school.execute('marks.setScores', actor, {
    classId,
    cells: cells.map((c) => ({
      key: { assignmentId: c.assignmentId, studentId: c.studentId },
      value: c.points === null ? null : { kind: 'points' as const, points: c.points },
      expectedVersion: c.expectedVersion ?? 0,
    })),
  })

async function makeAssessment(name = 'Heat and ice') {
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
  const key = good(await school.query('assessment.key', teacher, made))
  const letters = 'CBDAACDBBA'
  good(
    await school.execute('assessment.setQuestions', teacher, {
      ...made,
      expectedVersion: key.version,
      questions: withKey(key.questions, letters).map((q, i) => ({
        ...q,
        standardIds: key.knownStandards.slice(i % 3, (i % 3) + 1).map((t) => t.id),
      })),
    }),
  )
  return made.assessmentId
}

/** What is saved of a student's answers, as it is typed; empty where there is nothing. */
async function lineOf(assessmentId: string, studentId: string): Promise<string> {
  const { rows, questions } = good(await school.query('assessment.answers', teacher, { assessmentId }))
  const answers = rows.find((r) => r.studentId === studentId)?.answers
  return answers
    ? writeAnswers(
        questions,
        answers.map(({ value, points }) => (value === null ? undefined : { value, points })),
      )
    : ''
}

describe('scores', () => {
  test('a column is set at once, and stands with its versions', async () => {
    const { book: b, students } = await book()
    const assignment = b.assignments[0]
    const versions = new Map(
      b.scores.filter((s) => s.assignmentId === assignment?.id).map((s) => [s.studentId, s.version]),
    )
    const written = good(
      await scores(
        students.map((s) => ({
          assignmentId: assignment?.id ?? '',
          studentId: s.id,
          points: '31.5',
          expectedVersion: versions.get(s.id) ?? 0,
        })),
      ),
    )
    expect(written).toHaveLength(students.length)
    const after = (await book()).book.scores.filter(
      (s) => s.assignmentId === assignment?.id && students.some((x) => x.id === s.studentId),
    )
    expect(after.every((s) => s.entry?.kind === 'points' && s.entry.points === '31.5')).toBe(true)
  })
  test('two people at once: one cell in conflict stops the whole, and says what stands', async () => {
    const { book: b, students } = await book()
    const [assignment, [first, second]] = [b.assignments[1]?.id ?? '', students]
    const version = (id: string | undefined) =>
      b.scores.find((s) => s.assignmentId === assignment && s.studentId === id)?.version ?? 0
    good(
      await scores([
        {
          assignmentId: assignment,
          studentId: first?.id ?? '',
          points: '3',
          expectedVersion: version(first?.id),
        },
      ]),
    )
    const lost = bad(
      await scores([
        {
          assignmentId: assignment,
          studentId: first?.id ?? '',
          points: '9',
          expectedVersion: version(first?.id),
        },
        {
          assignmentId: assignment,
          studentId: second?.id ?? '',
          points: '9',
          expectedVersion: version(second?.id),
        },
      ]),
    )
    expect(lost).toMatchObject({
      kind: 'conflict',
      standing: [{ key: { studentId: first?.id }, value: { kind: 'points', points: '3' } }],
    })
    const stands = (await book()).book.scores.find(
      (s) => s.assignmentId === assignment && s.studentId === second?.id,
    )
    expect(stands?.version ?? 0).toBe(version(second?.id))
  })
  test.each([
    ['over the maximum', '9999', /over the maximum/],
    ['not a number', 'ten', /must be a number/],
    ['below zero', '-1', /must be a number/],
    ['three decimals', '1.234', /at most two decimals/],
  ])('%s is refused', async (_what, points, message) => {
    const { book: b, students } = await book()
    expect(
      bad(
        await scores([
          {
            assignmentId: b.assignments[0]?.id ?? '',
            studentId: students[0]?.id ?? '',
            points,
            expectedVersion: 1,
          },
        ]),
      ).message,
    ).toMatch(message)
  })
  test('of a cell that is sent twice the last word counts', async () => {
    const { students, book: b } = await book()
    const assignmentId = b.assignments.find((a) => a.assessmentId === null)?.id ?? ''
    const cell = { assignmentId, studentId: students.at(-1)?.id ?? '' }
    const expectedVersion =
      b.scores.find((s) => s.assignmentId === assignmentId && s.studentId === cell.studentId)?.version ?? 0
    const written = good(
      await scores([
        { ...cell, points: '1', expectedVersion },
        { ...cell, points: '2', expectedVersion },
      ]),
    )
    expect(written).toHaveLength(1)
    const { points } = await school.row(
      'select points from score where assignment_id = $1 and student_id = $2',
      [cell.assignmentId, cell.studentId],
    )
    expect(Number(points)).toBe(2)
    good(await scores([{ ...cell, points: '3', expectedVersion: written[0]?.version ?? 0 }]))
  })
  test('somebody of another class, or an assignment of another gradebook, is refused', async () => {
    const { book: b } = await book()
    const stranger = await school.row(
      "select m.student_id as id from class_member m join class c on c.id = m.class_id where c.name = '9 English A' limit 1",
    )
    expect(
      bad(await scores([{ assignmentId: b.assignments[0]?.id ?? '', studentId: stranger.id, points: '1' }]))
        .message,
    ).toContain('not in this class')
    const other = await school.row(
      "select a.id from assignment a join class c on c.id = a.class_id where c.name = '9 English A' limit 1",
    )
    expect(
      bad(await scores([{ assignmentId: other.id, studentId: stranger.id, points: '1' }])).message,
    ).toContain('no longer in the gradebook')
  })
  test('every change of a score is in its history', async () => {
    const { book: b, students } = await book()
    const [assignmentId, studentId] = [b.assignments[0]?.id ?? '', students[0]?.id ?? '']
    const version =
      b.scores.find((s) => s.assignmentId === assignmentId && s.studentId === studentId)?.version ?? 0
    good(await scores([{ assignmentId, studentId, points: '12', expectedVersion: version }]))
    const [latest] = good(
      await school.query('marks.scoreHistory', teacher, { classId, assignmentId, studentId }),
    )
    expect(latest).toMatchObject({
      actor: 'Remi Achterberg',
      operation: 'update',
      before: { points: 31.5 },
      after: { points: 12 },
    })
  })
})

describe('an assessment in the gradebook', () => {
  test('is linked: the score follows a changed answer, visibly, and is not typed over', async () => {
    const assessmentId = await makeAssessment()
    const { students, book: b } = await book()
    const studentId = students[0]?.id ?? ''
    const [typed] = good(
      await typeAnswers(school, teacher, {
        assessmentId,
        studentId,
        letters: 'CBDAACDBBB',
        expectedVersion: 0,
      }),
    )
    const { assignmentId } = good(
      await linkTo(school, teacher, {
        classId,
        assessmentId,
        categoryId: b.categories[0]?.id ?? '',
      }),
    )
    const cell = async () =>
      (await book()).book.scores.find((s) => s.assignmentId === assignmentId && s.studentId === studentId)
    expect(await cell()).toMatchObject({ linked: true, entry: { kind: 'points', points: '9' } })
    good(
      await typeAnswers(school, teacher, {
        assessmentId,
        studentId,
        letters: 'CBDAACDBBA',
        expectedVersion: typed?.version ?? 0,
      }),
    )
    expect(await cell()).toMatchObject({ entry: { kind: 'points', points: '10' } })
    expect(
      bad(await scores([{ assignmentId, studentId, points: '3', expectedVersion: 0 }])).message,
    ).toContain('takes its scores from the assessment')
    expect(
      bad(
        await linkTo(school, teacher, {
          classId,
          assessmentId,
          categoryId: b.categories[0]?.id ?? '',
        }),
      ).message,
    ).toContain('already in the gradebook')
    const history = good(
      await school.query('marks.scoreHistory', teacher, { classId, assignmentId, studentId }),
    )
    expect(
      history.some((h) => h.question === 10 && h.before?.answer === 'B' && h.after?.answer === 'A'),
    ).toBe(true)
  })
  test('a changed key changes every score, and the maximum follows the points', async () => {
    const assessmentId = await makeAssessment('Currents II')
    const { students, book: b } = await book()
    for (const s of students.slice(0, 3))
      good(
        await typeAnswers(school, teacher, {
          assessmentId,
          studentId: s.id,
          letters: 'CBDAACDBBA',
          expectedVersion: 0,
        }),
      )
    const { assignmentId } = good(
      await linkTo(school, teacher, {
        classId,
        assessmentId,
        categoryId: b.categories[0]?.id ?? '',
      }),
    )
    const key = good(await school.query('assessment.key', teacher, { assessmentId }))
    good(
      await school.execute('assessment.setQuestions', teacher, {
        assessmentId,
        expectedVersion: key.version,
        questions: withKey(key.questions, 'DBDAACDBBA').map((q, i) => ({
          ...q,
          points: i === 1 ? '3' : q.points,
        })),
      }),
    )
    const after = (await book()).book
    expect(after.assignments.find((a) => a.id === assignmentId)?.maxPoints).toBe('12')
    expect(after.scores.filter((s) => s.assignmentId === assignmentId).map((s) => s.entry)).toEqual(
      Array(3).fill({ kind: 'points', points: '11' }),
    )
  })
  test('answers to other questions and letters that are no choice are refused, nothing kept', async () => {
    const assessmentId = await makeAssessment('Salt')
    const studentId = (await book()).students[1]?.id ?? ''
    const give = (letters: string, expectedVersion = 0) =>
      typeAnswers(school, teacher, { assessmentId, studentId, letters, expectedVersion })
    expect(bad(await give('CBDAACDBBE')).message).toContain('Question 10: E is not one of its choices')
    const { questions } = good(await school.query('assessment.key', teacher, { assessmentId }))
    const some = questions.slice(0, 4).map((q) => ({ questionId: q.id, value: 'A', points: null }))
    expect(
      bad(
        await school.execute('assessment.setAnswers', teacher, {
          assessmentId,
          cells: [{ key: { studentId }, value: some, expectedVersion: 0 }],
        }),
      ).kind,
    ).toBe('conflict')
    expect(
      good(await school.query('assessment.answers', teacher, { assessmentId })).rows.every(
        (r) => r.answers === null,
      ),
    ).toBe(true)
    good(await give('CBDAACDBB.'))
    expect(bad(await give('AAAAAAAAAA')).kind).toBe('conflict')
    expect(await lineOf(assessmentId, studentId)).toBe('CBDAACDBB.')
  })
  test('answers are taken away again, as if the student had not been there, and can be put back', async () => {
    const assessmentId = await makeAssessment('Absent after all')
    const { students, book: b } = await book()
    const studentId = students[3]?.id ?? ''
    const give = (letters: string, expectedVersion: number) =>
      typeAnswers(school, teacher, { assessmentId, studentId, letters, expectedVersion })
    expect(bad(await give('', 0)).message).toContain('no answers that could be removed')
    const [first] = good(await give('CBDAACDBBA', 0))
    const { assignmentId } = good(
      await linkTo(school, teacher, {
        classId,
        assessmentId,
        categoryId: b.categories[0]?.id ?? '',
      }),
    )
    const cell = async () =>
      (await book()).book.scores.find((s) => s.assignmentId === assignmentId && s.studentId === studentId)
    const stands = async () => {
      const { missing, summary } = good(await school.query('assessment.findings', teacher, { assessmentId }))
      return {
        letters: await lineOf(assessmentId, studentId),
        missing: missing.includes(studentId),
        assessed: summary.assessed,
      }
    }
    expect(await stands()).toEqual({ letters: 'CBDAACDBBA', missing: false, assessed: 1 })
    const [gone] = good(await give('', first?.version ?? 0))
    expect(await stands()).toEqual({ letters: '', missing: true, assessed: 0 })
    expect(await cell()).toBeUndefined()
    expect(
      await school.rows('select * from response where assessment_id = $1 and student_id = $2', [
        assessmentId,
        studentId,
      ]),
    ).toEqual([])
    // Whoever still saw the answers is told that they are gone.
    expect(bad(await give('AAAAAAAAAA', first?.version ?? 0))).toMatchObject({
      kind: 'conflict',
      standing: [{ key: { studentId }, value: null, version: gone?.version }],
    })
    // Meanwhile the gradebook takes a standing of its own for this student.
    good(
      await school.execute('marks.setScores', teacher, {
        classId,
        cells: [{ key: { assignmentId, studentId }, value: { kind: 'excused' }, expectedVersion: 0 }],
      }),
    )
    expect(await cell()).toMatchObject({ linked: false, entry: { kind: 'excused' } })
    good(await give('CBDAACDBB.', gone?.version ?? 0))
    expect(await stands()).toEqual({ letters: 'CBDAACDBB.', missing: false, assessed: 1 })
    expect(await cell()).toMatchObject({ linked: true, entry: { kind: 'points', points: '9' } })
  })
  test('a sheet that was emptied is due again', async () => {
    const assessmentId = await makeAssessment('Tides, once more')
    const studentId = (await book()).students[3]?.id ?? ''
    const due = async () =>
      good(await school.query('today.due', teacher, { date })).items.find(
        (i) => i.what === 'Tides, once more, answers',
      )?.detail
    const all = await due()
    const [typed] = good(
      await typeAnswers(school, teacher, {
        assessmentId,
        studentId,
        letters: 'CBDAACDBBA',
        expectedVersion: 0,
      }),
    )
    expect(await due()).not.toBe(all)
    good(
      await typeAnswers(school, teacher, {
        assessmentId,
        studentId,
        letters: '',
        expectedVersion: typed?.version ?? 0,
      }),
    )
    expect(await due()).toBe(all)
  })
  test('a file that somebody else has uploaded is not attached', async () => {
    const assessmentId = await makeAssessment('Tides, with a file')
    const { documentId } = await school.row(
      `insert into document (school_id, id, name, media_type, size, sha256, created_by)
       select school_id, gen_random_uuid(), 'Another test', media_type, size, sha256, 'somebody else' from document limit 1
       returning id as document_id`,
    )
    const { version } = await school.row('select version from assessment where id = $1', [assessmentId])
    const attached = await school.execute('assessment.setDocument', teacher, {
      assessmentId,
      documentIds: [documentId as string],
      expectedVersion: version,
    })
    expect(bad(attached).kind).toBe('invalid')
  })
  test('questions that stay keep their answers when one is added, moved or taken out', async () => {
    const assessmentId = await makeAssessment('Order')
    const studentId = (await book()).students[0]?.id ?? ''
    good(
      await typeAnswers(school, teacher, {
        assessmentId,
        studentId,
        letters: 'CBDAACDBBA',
        expectedVersion: 0,
      }),
    )
    const key = good(await school.query('assessment.key', teacher, { assessmentId }))
    const kept = [key.questions[9], key.questions[0]].flatMap((q) => q ?? [])
    good(
      await school.execute('assessment.setQuestions', teacher, {
        assessmentId,
        expectedVersion: key.version,
        questions: [
          ...kept,
          {
            id: randomUUID(),
            kind: 'one choice',
            content: { choices: ['A', 'B', 'C', 'D', 'E'], right: 'A' },
            points: '2',
            counts: 'keyed',
            standardIds: [],
            page: null,
          },
        ],
      }),
    )
    expect(await lineOf(assessmentId, studentId)).toBe('AC.')
    expect(
      bad(
        await school.execute('assessment.setQuestions', teacher, {
          assessmentId,
          expectedVersion: key.version,
          questions: kept,
        }),
      ).kind,
    ).toBe('conflict')
  })
  test('the findings of the demo’s own assessment hold together', async () => {
    const { id } = await school.row("select id from assessment where name = 'Fair tests'")
    const f = good(await school.query('assessment.findings', teacher, { assessmentId: id }))
    expect(f.results.length + f.missing.length).toBe(f.students.length)
    expect(f.missing.length).toBeGreaterThan(0)
    expect(f.summary.mean).toBeGreaterThan(6)
    expect(f.summary.mean).toBeLessThan(15)
    // What the findings score is what the gradebook shows.
    const eight = await school.row("select id from class where name = '8 Science A'")
    const eightBook = good(await school.query('marks.gradebook', teacher, { classId: eight.id, date })).book
    const linked = eightBook?.assignments.find((a) => a.assessmentId === id)
    for (const r of f.results)
      expect(
        eightBook?.scores.find((s) => s.assignmentId === linked?.id && s.studentId === r.studentId)?.entry,
      ).toEqual({ kind: 'points', points: r.points })
  })
})

describe('settings and assignments', () => {
  test('weights that do not make 100 are kept, and two people do not overwrite each other', async () => {
    const { book: b, term } = await book()
    const asked = {
      termId: term.id,
      targets: [{ classId, expectedVersion: b.version }],
      ...settingsOf(b),
      categories: settingsOf(b).categories.map((c, i) => ({ ...c, weight: i === 0 ? '50' : c.weight })),
    }
    good(await school.execute('marks.saveSettings', teacher, asked))
    expect(bad(await school.execute('marks.saveSettings', teacher, asked)).kind).toBe('conflict')
    expect((await book()).book.categories[0]?.weight).toBe('50')
  })
  test('a category that holds assignments stays; an empty name is pointed out', async () => {
    const { book: b, term } = await book()
    const save = (categories: readonly GradebookSettings['categories'][number][]) =>
      school.execute('marks.saveSettings', teacher, {
        termId: term.id,
        targets: [{ classId, expectedVersion: b.version }],
        ...settingsOf(b),
        categories: [...categories],
      })
    const own = settingsOf(b).categories
    const [first] = own
    if (!first) throw new Error('there are categories')
    expect(bad(await save(own.slice(1))).message).toContain('still holds assignments')
    expect(bad(await save([{ ...first, name: '' }])).message).toContain('Enter the name of each category')
    expect(bad(await save([{ ...first, weight: 'all' }])).message).toContain('must be a number')
    expect(bad(await save([first, { ...first, name: ` ${first.name.toUpperCase()} ` }])).message).toContain(
      'in the list twice',
    )
    // Under another name it stays what it is, with its assignments.
    good(await save(own.map((c, i) => (i === 0 ? { ...c, was: c.name, name: 'Examinations' } : c))))
    const after = (await book()).book
    expect(after.categories[0]).toMatchObject({ id: b.categories[0]?.id, name: 'Examinations' })
  })
  test('one act sets several gradebooks, all or none; the preview says whose marks change, and undo brings them back', async () => {
    const { book: b, term } = await book()
    const { targets, sources } = good(
      await school.query('marks.settingsOffers', teacher, { classId, termId: term.id }),
    )
    const others = targets.filter((t) => t.version > 0)
    expect(others.length).toBeGreaterThan(1)
    expect(sources.every((s) => s.settings.categories.length > 0)).toBe(true)
    const settings = {
      ...settingsOf(b),
      late: { percent: '10', of: 'points scored' as const },
      categories: settingsOf(b).categories.map((c, i) => ({
        ...c,
        ...(i === 0 ? { was: c.name, name: 'Unit tests' } : {}),
        weight: String([20, 30, 50][i]),
      })),
    }
    // Each has its own names; categories that hold assignments elsewhere cannot be left out.
    const alike = others.filter((t) =>
      t.categories.every((name) => settings.categories.some((c) => c.name === name)),
    )
    const all = [{ classId, version: b.version }, ...alike]
    const asked = (last = 0) => ({
      termId: term.id,
      targets: all.map((t, i) => ({
        classId: t.classId,
        expectedVersion: t.version + (i === all.length - 1 ? last : 0),
      })),
      ...settings,
    })
    expect(all.length).toBeGreaterThan(1)
    const marks = async () => {
      const shown = good(await school.query('marks.settingsPreview', teacher, asked()))
      return new Map(shown.map((c) => [c.classId, c.changes]))
    }
    const before = await marks()
    expect(before.get(classId)?.length).toBeGreaterThan(0)
    expect(bad(await school.execute('marks.saveSettings', teacher, asked(1))).kind).toBe('conflict')
    expect((await book()).book.version).toBe(b.version)
    const saved = await school.execute('marks.saveSettings', teacher, asked())
    good(saved)
    // What was shown is what came about.
    const now = (await book()).book
    expect(now.rules.late).toEqual({ percent: '10', of: 'points scored' })
    for (const { studentId, after } of before.get(classId) ?? []) {
      const since = (await book()).students.find((s) => s.id === studentId)?.since ?? ''
      const entries = new Map(
        now.scores.flatMap((s) =>
          s.studentId === studentId && s.entry ? [[s.assignmentId, s.entry] as const] : [],
        ),
      )
      expect(termMark(now, entries, { on: date, since }).mark ?? null).toBe(after)
    }
    const { id } = await school.row<{ id: string }>(
      "select id from command_run where command = 'marks.saveSettings' order by at desc limit 1",
    )
    good(await school.execute('history.undo', teacher, { run: id }))
    expect((await book()).book.rules).toEqual(b.rules)
    expect((await book()).book.categories).toEqual(b.categories)
  })
  test('rules copied from a colleague bring the columns, but not what reads single pieces; once, and undone together', async () => {
    const { book: b, term } = await book()
    const { sources } = good(
      await school.query('marks.settingsOffers', teacher, { classId, termId: term.id }),
    )
    const from = sources.find((s) => s.classId !== classId && s.termId === term.id)
    if (!from) throw new Error('another gradebook is offered')
    const column = (own: Partial<CommandInput<'marks.saveColumn'>>) =>
      ({
        classId: from.classId,
        columnId: null,
        expectedVersion: 0,
        termId: from.termId,
        others: [],
        ...own,
      }) as CommandInput<'marks.saveColumn'>
    const [category] = await school.rows<{ id: string; name: string }>(
      'select id, name from category where class_id = $1 and term_id = $2 order by position limit 1',
      [from.classId, from.termId],
    )
    const [piece] = await school.rows<{ id: string }>(
      'select id from assignment where class_id = $1 and term_id = $2 limit 1',
      [from.classId, from.termId],
    )
    const formula = (name: string, operand: { of: string; id: string }) =>
      column({
        name,
        does: 'mean',
        take: null,
        decimals: 1,
        parts: [{ operand, weight: '1' }],
        levels: [{ name: 'Secure', from: '60' }],
      } as Partial<CommandInput<'marks.saveColumn'>>)
    const { columnId } = good(
      await school.execute(
        'marks.saveColumn',
        teacher,
        formula('Practical', { of: 'category', id: category?.id ?? '' }),
      ),
    )
    good(
      await school.execute(
        'marks.saveColumn',
        teacher,
        formula('Reads practical', { of: 'column', id: columnId }),
      ),
    )
    good(
      await school.execute(
        'marks.saveColumn',
        teacher,
        formula('One piece', { of: 'assignment', id: piece?.id ?? '' }),
      ),
    )
    const own = () =>
      school.rows(
        `select m.name, l.name as level, k.name as category, r.name as reads from mark_column m
         left join mark_column_level l on l.column_id = m.id left join mark_column_part p on p.column_id = m.id
         left join category k on k.id = p.category_id and k.class_id = m.class_id
         left join mark_column r on r.id = p.part_column_id and r.class_id = m.class_id
         where m.class_id = $1 and m.name in ('Practical', 'Reads practical', 'One piece') order by m.name`,
        [classId],
      )
    const offered = good(
      await school.query('marks.settingsOffers', teacher, { classId, termId: term.id }),
    ).sources.find((s) => s.classId === from.classId && s.termId === from.termId)
    expect(offered?.columns).toEqual(expect.arrayContaining(['Practical', 'Reads practical', 'One piece']))
    const saved = await school.execute('marks.saveSettings', teacher, {
      termId: term.id,
      targets: [{ classId, expectedVersion: b.version }],
      ...(offered?.settings ?? settingsOf(b)),
      categories: settingsOf(b).categories.map((c, i) =>
        i === 0 ? { ...c, was: c.name, name: category?.name ?? '' } : c,
      ),
      columnsFrom: { classId: from.classId, termId: from.termId },
    })
    expect(good(saved).left).toContain('One piece')
    expect(await own()).toEqual([
      { name: 'Practical', level: 'Secure', category: category?.name, reads: null },
      { name: 'Reads practical', level: 'Secure', category: null, reads: 'Practical' },
    ])
    good(await school.execute('history.undo', teacher, { run: saved.ok ? (saved.run ?? '') : '' }))
    expect(await own()).toEqual([])
  })
  test('late, incomplete and extra credit are saved and counted', async () => {
    const { book: b, students } = await book()
    const studentId = students[0]?.id ?? ''
    const { assignmentId } = good(
      await school.execute('marks.createAssignment', teacher, {
        classId,
        name: 'On top',
        categoryId: b.categories[0]?.id ?? '',
        maxPoints: '20',
        dueOn: date,
        counts: true,
        extra: true,
      }),
    )
    const stands = async () =>
      (await book()).book.scores.find((s) => s.assignmentId === assignmentId && s.studentId === studentId)
    const put = async (value: ScoreEntry) =>
      good(
        await school.execute('marks.setScores', teacher, {
          classId,
          cells: [
            { key: { assignmentId, studentId }, value, expectedVersion: (await stands())?.version ?? 0 },
          ],
        }),
      )
    for (const value of [
      { kind: 'points', points: '8', late: true },
      { kind: 'incomplete' },
      { kind: 'points', points: '8' },
    ] satisfies ScoreEntry[]) {
      await put(value)
      expect((await stands())?.entry).toEqual(value)
    }
    expect((await book()).book.assignments.find((a) => a.id === assignmentId)?.extra).toBe(true)
    const history = good(
      await school.query('marks.scoreHistory', teacher, { classId, assignmentId, studentId }),
    )
    expect(history.map((h) => h.after)).toContainEqual({ points: 8, late: true })
  })
  test('an assignment is made, its maximum cannot fall below a score, its date must lie in a term', async () => {
    const { book: b, students } = await book()
    const asked = {
      classId,
      name: 'Tide log',
      categoryId: b.categories[1]?.id ?? '',
      maxPoints: '20',
      dueOn: date,
      counts: true,
    }
    const { assignmentId } = good(await school.execute('marks.createAssignment', teacher, asked))
    const expectedVersion = (await school.row('select version from assignment where id = $1', [assignmentId]))
      .version
    good(await scores([{ assignmentId, studentId: students[0]?.id ?? '', points: '18' }]))
    expect(
      bad(
        await school.execute('marks.saveAssignment', teacher, {
          ...asked,
          assignmentId,
          expectedVersion,
          maxPoints: '15',
        }),
      ).message,
    ).toMatch(/has 18 here/)
    expect(
      bad(await school.execute('marks.createAssignment', teacher, { ...asked, dueOn: '2026-12-25' })).message,
    ).toContain('not in any term')
    expect(
      bad(await school.execute('marks.createAssignment', teacher, { ...asked, maxPoints: '0' })).message,
    ).toContain('above zero')
    const removed = await school.execute('marks.removeAssignment', teacher, {
      classId,
      assignmentId,
      expectedVersion,
    })
    good(removed)
    expect((await book()).book.assignments.some((a) => a.id === assignmentId)).toBe(false)
    const kept = await school.row(
      "select count(*)::int as n from history where table_name = 'score' and operation = 'delete' and row_key ->> 'assignment_id' = $1",
      [assignmentId],
    )
    expect(kept.n).toBe(1)
    // Undone from the history, the assignment is back with its scores, under a version nobody holds.
    good(await school.execute('history.undo', teacher, { run: (removed.ok && removed.run) || '' }))
    const back = (await book()).book
    expect(back.assignments.find((a) => a.id === assignmentId)).toMatchObject({
      name: 'Tide log',
      maxPoints: '20',
    })
    expect(back.assignments.find((a) => a.id === assignmentId)?.version).toBeGreaterThan(expectedVersion)
    expect(back.scores.filter((s) => s.assignmentId === assignmentId).map((s) => s.entry)).toEqual([
      { kind: 'points', points: '18' },
    ])
  })
})

test('an assignment for several classes goes into the category of the same name, in all of them or in none', async () => {
  const { book: b, term } = await book()
  const { targets } = good(await school.query('marks.settingsOffers', teacher, { classId, termId: term.id }))
  const category = b.categories.find((c) => targets.some((t) => t.categories.includes(c.name)))
  const [alike] = targets.filter((t) => t.categories.includes(category?.name ?? ''))
  const asked = {
    classId,
    name: 'For both',
    categoryId: category?.id ?? '',
    maxPoints: '10',
    dueOn: date,
    counts: true,
  }
  const made = () => school.rows("select class_id, category_id from assignment where name = 'For both'")
  const foreign = await school.row<{ id: string }>(
    'select id from class where not exists (select 1 from class_teacher t where t.class_id = class.id and t.staff_id = $1) limit 1',
    [teacher.staffId],
  )
  const create = (...others: string[]) =>
    school.execute('marks.createAssignment', teacher, { ...asked, others })
  expect(bad(await create(alike?.classId ?? '', foreign.id)).kind).toBe('not found')
  await school.rows("update category set name = 'Elsewhere' where class_id = $1 and name = $2", [
    alike?.classId,
    category?.name,
  ])
  expect(bad(await create(alike?.classId ?? '')).message).toContain(`has no category ${category?.name}`)
  expect(await made()).toEqual([])
  await school.rows("update category set name = $2 where class_id = $1 and name = 'Elsewhere'", [
    alike?.classId,
    category?.name,
  ])
  expect(good(await create(alike?.classId ?? '', classId)).classes).toBe(2)
  expect((await made()).length).toBe(2)
})

describe('calculated columns', () => {
  const offered = async () => {
    const answer = good(await school.query('marks.gradebook', teacher, { classId, date }))
    if (!answer.book) throw new Error('there is a gradebook')
    return { ...answer, book: answer.book }
  }
  type Calculated = Extract<CommandInput<'marks.saveColumn'>, { parts: unknown }>
  const save = async (own: Partial<Calculated>) => {
    const { term, columns } = await offered()
    const version = columns.find((c) => c.id === own.columnId)?.version ?? 0
    return school.execute('marks.saveColumn', teacher, {
      classId,
      columnId: null,
      expectedVersion: version,
      termId: term.id,
      name: 'Column',
      does: 'mean',
      take: null,
      decimals: 1,
      parts: [{ operand: { of: 'marks', termId: term.id, periodId: null }, weight: '1' }],
      levels: [],
      ...own,
    })
  }
  const reads = (...ids: string[]): Calculated['parts'] =>
    ids.map((id) => ({ operand: { of: 'column', id }, weight: '1' }))

  test('read each other, and a circle through others is refused with its names', async () => {
    const { columnId: a } = good(await save({ name: 'First' }))
    const { columnId: b } = good(await save({ name: 'Second', parts: reads(a) }))
    const { columnId: c } = good(await save({ name: 'Third', parts: reads(b) }))
    expect(bad(await save({ columnId: a, name: 'First', parts: reads(c) })).message).toContain(
      'First reads Third reads Second reads First',
    )
    expect(bad(await save({ columnId: a, name: 'First', parts: reads(a) })).message).toContain(
      'feed themselves',
    )
    // Two at once, each of which would be right without the other.
    const [one, two] = await Promise.all([
      save({ columnId: a, name: 'First', parts: reads(b) }),
      save({ columnId: b, name: 'Second', parts: reads(a) }),
    ])
    expect([one.ok, two.ok].filter(Boolean).length).toBeLessThan(2)
    const { columns } = await offered()
    const remove = (columnId: string) =>
      school.execute('marks.removeColumn', teacher, {
        classId,
        columnId,
        expectedVersion: columns.find((x) => x.id === columnId)?.version ?? 0,
      })
    expect(bad(await remove(b)).message).toContain('Second is part of the calculated column Third')
    good(await remove(c))
    const { id } = await school.row<{ id: string }>(
      "select id from command_run where command = 'marks.removeColumn' order by at desc limit 1",
    )
    good(await school.execute('history.undo', teacher, { run: id }))
    expect((await offered()).columns.find((x) => x.id === c)).toMatchObject({
      name: 'Third',
      parts: reads(b),
    })
  })
  test('a year mark reads the terms, exactly, and the other term as its gradebook stands', async () => {
    const { terms, term, students } = await offered()
    const other = terms.find((t) => t.id !== term.id)
    if (!other) throw new Error('the class has several terms')
    good(
      await save({
        name: 'Year',
        termId: null,
        parts: terms.map((t, i) => ({
          operand: { of: 'marks', termId: t.id, periodId: null },
          weight: String(i + 1),
        })),
      }),
    )
    // Seen from the other term, this one is elsewhere.
    const there = good(await school.query('marks.gradebook', teacher, { classId, date: other.firstDay }))
    expect(there.columns.map((c) => c.name)).toContain('Year')
    expect(there.columns.map((c) => c.name)).not.toContain('Column')
    const { book, scores } = { ...(await offered()), scores: (await offered()).book.scores }
    const [student] = students
    const entries = new Map(
      scores.flatMap((s) =>
        s.studentId === student?.id && s.entry ? [[s.assignmentId, s.entry] as const] : [],
      ),
    )
    const { exact } = termMark(book, entries, { on: date, since: student?.since ?? '' })
    const found = there.elsewhere.find((m) => m.studentId === student?.id)
    expect(BigInt(found?.num ?? 0) * (exact?.den ?? 0n)).toBe((exact?.num ?? 1n) * BigInt(found?.den ?? 1))
  })
  test('what a column reads stays: an assignment and a category are not taken away under it', async () => {
    const { book, term } = await offered()
    const [category] = book.categories
    const { assignmentId } = good(
      await school.execute('marks.createAssignment', teacher, {
        classId,
        name: 'Read',
        categoryId: category?.id ?? '',
        maxPoints: '10',
        dueOn: date,
        counts: true,
      }),
    )
    good(
      await save({
        name: 'Reads one',
        parts: [{ operand: { of: 'assignment', id: assignmentId }, weight: '1' }],
      }),
    )
    expect(
      bad(
        await school.execute('marks.removeAssignment', teacher, {
          classId,
          assignmentId,
          expectedVersion:
            (await offered()).book.assignments.find((a) => a.id === assignmentId)?.version ?? 0,
        }),
      ).message,
    ).toContain('Read is part of the calculated column Reads one')
    for (const parts of [
      [{ operand: { of: 'assignment' as const, id: term.id }, weight: '1' }],
      [{ operand: { of: 'marks' as const, termId: term.id, periodId: term.id }, weight: '1' }],
    ])
      expect(bad(await save({ parts })).message).toContain('no longer in the gradebook')
    // The whole year has no assignments of a term.
    expect(
      bad(
        await save({
          termId: null,
          parts: [{ operand: { of: 'assignment', id: assignmentId }, weight: '1' }],
        }),
      ).kind,
    ).toBe('invalid')
    expect(bad(await save({ does: 'best', take: null })).kind).toBe('invalid')
    expect(
      bad(
        await save({
          levels: [
            { name: 'low', from: '10' },
            { name: 'high', from: '50' },
          ],
        }),
      ).message,
    ).toContain('below the one above')
  })
})
