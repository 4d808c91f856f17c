import type { Actor } from '@/server/platform/actor'
import type { CommandInput, CommandName, QueryOutput } from '@/server/registry'
import { readAnswers, readKeys } from '@/core/assessment/typed'
import { good, type TestSchool } from './school'

/** One student's answers, typed as one string in the order of the key; an empty string removes them. */
export async function typeAnswers(
  school: TestSchool,
  actor: Actor,
  {
    assessmentId,
    studentId,
    letters,
    expectedVersion,
  }: { assessmentId: string; studentId: string; letters: string; expectedVersion: number },
) {
  const { questions } = good(await school.query('assessment.key', actor, { assessmentId }))
  return school.execute('assessment.setAnswers', actor, {
    assessmentId,
    cells: [{ key: { studentId }, value: answersIn(letters, questions), expectedVersion }],
  })
}

type Given = CommandInput<'assessment.setAnswers'>['cells'][number]['value']

/** What a typed line says to each question; letters that are no choice are sent as they are. */
export function answersIn(line: string, questions: QueryOutput<'assessment.key'>['questions']): Given {
  if (line === '') return null
  const read = readAnswers(line, questions)
  return questions.map((q, i) => ({
    questionId: q.id,
    value: (read.entries[i]?.value ??
      (q.kind === 'one choice' && /[A-Z]/.test(line[i] ?? '')
        ? line[i]
        : null)) as NonNullable<Given>[number]['value'],
    points: read.entries[i]?.points ?? null,
  }))
}

type Link = CommandInput<'marks.linkAssessment'>

/** Shows an assessment in the gradebook of one class; answers its first assignment there. */
export async function linkTo(
  school: TestSchool,
  actor: Actor,
  { assessmentId, classId, categoryId, assignment, ...more }: Omit<Link, 'targets'> & Link['targets'][number],
) {
  const result = await school.execute('marks.linkAssessment', actor, {
    assessmentId,
    targets: [
      { classId, ...(categoryId === undefined ? {} : { categoryId }), ...(assignment ? { assignment } : {}) },
    ],
    ...more,
  })
  if (!result.ok) return result
  return { ...result, value: { assignmentId: result.value.assignments[0]?.assignmentId ?? '' } }
}

/** The questions of an assessment with other keys, typed as a line. */
export function withKey(
  questions: QueryOutput<'assessment.key'>['questions'],
  line: string,
): CommandInput<'assessment.setQuestions'>['questions'] {
  const { entries } = readKeys(line, questions)
  return questions.map(
    (q, i) =>
      ({
        ...q,
        content: entries[i] ?? q.content,
      }) as CommandInput<'assessment.setQuestions'>['questions'][number],
  )
}

/** One student's mark in a register. */
export function setMark(
  school: TestSchool,
  actor: Actor,
  mark: {
    homeroomId: string
    date: string
    session: 'morning' | 'afternoon'
    studentId: string
    codeId: string | null
    minutesLate: number | null
    note: string | null
    expectedVersion: number
  },
) {
  const { homeroomId, date, session, studentId, codeId, minutesLate, note, expectedVersion } = mark
  return school.execute('attendance.setMarks', actor, {
    homeroomId,
    date,
    session,
    cells: [{ key: { studentId }, value: { codeId, minutesLate, note }, expectedVersion }],
  })
}

/** One student's report entry. */
export function setEntry(
  school: TestSchool,
  actor: Actor,
  entry: {
    roundId: string
    classId: string
    studentId: string
    effort: 'excellent' | 'good' | 'uneven' | 'low' | null
    comment: string
    expectedVersion: number
  },
) {
  const { roundId, classId, studentId, effort, comment, expectedVersion } = entry
  return school.execute('reports.setEntries', actor, {
    roundId,
    classId,
    cells: [{ key: { studentId }, value: { effort, comment }, expectedVersion }],
  })
}

/** Moves class entries, as somebody who has just read them. */
export async function moveEntries(
  school: TestSchool,
  actor: Actor,
  act: 'handIn' | 'takeBack' | 'check' | 'sendBack',
  { remark = 'Please look again.', ...key }: { roundId: string; classId: string; remark?: string },
) {
  const { version: expectedVersion } = await school.row<{ version: number }>(
    'select version from class_entries where round_id = $1 and class_id = $2',
    [key.roundId, key.classId],
  )
  if (act === 'handIn')
    return school.execute('reports.handIn', actor, { ...key, expectedVersion, withBlanks: true })
  if (act === 'sendBack')
    return school.execute('reports.sendBack', actor, { ...key, expectedVersion, remark })
  return school.execute(`reports.${act}`, actor, { ...key, expectedVersion })
}

/** What a command would change, before it is done. */
export async function previewOf<N extends CommandName>(name: N, actor: Actor, input: CommandInput<N>) {
  const [{ preview }, { describeRun }, { commands }] = await Promise.all([
    import('@/server/platform/run'),
    import('@/server/front/describe'),
    import('@/server/registry'),
  ])
  return preview(commands.get(name) as never, actor, input, describeRun)
}
