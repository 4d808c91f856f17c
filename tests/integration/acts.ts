import type { Actor } from '@/server/platform/actor'
import type { CommandInput, CommandName } from '@/server/registry'
import { good, type TestSchool } from './school'

/** One student's answers, typed as one string in the order of the key; an empty string removes them. */
export async function typeAnswers(
  school: TestSchool,
  actor: Actor,
  {
    assessmentId,
    studentId,
    letters,
    seen,
  }: { assessmentId: string; studentId: string; letters: string; seen: number },
) {
  const { questions } = good(await school.ask('assessment.key', actor, { assessmentId }))
  const value =
    letters === ''
      ? null
      : questions.map((q, i) => ({
          questionId: q.id,
          choice: letters[i] && letters[i] !== '.' ? letters[i] : null,
        }))
  return school.tell('assessment.setAnswers', actor, {
    assessmentId,
    cells: [{ key: { studentId }, value, seen }],
  })
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
    seen: number
  },
) {
  const { homeroomId, date, session, studentId, codeId, minutesLate, note, seen } = mark
  return school.tell('attendance.setMarks', actor, {
    homeroomId,
    date,
    session,
    cells: [{ key: { studentId }, value: { codeId, minutesLate, note }, seen }],
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
    seen: number
  },
) {
  const { roundId, classId, studentId, effort, comment, seen } = entry
  return school.tell('reports.setEntries', actor, {
    roundId,
    classId,
    cells: [{ key: { studentId }, value: { effort, comment }, seen }],
  })
}

/** Moves class entries, as somebody who has just read them. */
export async function moveEntries(
  school: TestSchool,
  actor: Actor,
  act: 'handIn' | 'takeBack' | 'check' | 'sendBack',
  { remark = 'Please look again.', ...key }: { roundId: string; classId: string; remark?: string },
) {
  const { version: seen } = await school.row<{ version: number }>(
    'select version from class_entries where round_id = $1 and class_id = $2',
    [key.roundId, key.classId],
  )
  if (act === 'handIn') return school.tell('reports.handIn', actor, { ...key, seen, withBlanks: true })
  if (act === 'sendBack') return school.tell('reports.sendBack', actor, { ...key, seen, remark })
  return school.tell(`reports.${act}`, actor, { ...key, seen })
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
