import type { CommandInput } from '@/server/registry'
import type { CellCommand, Editing, EditingWhole, KeyOf, RecordedBy } from './use-recorded'

// What the compiler holds: key, value and what cells have in common are those of the command. Each line that must not
// compile is marked; the compiler complains of a mark without a fault.

const common = { scope: 'scores', place: { name: 'Marks', href: '/' }, empty: null } as const

test('what is edited is described as its command takes it', () => {
  const scores: Editing<'marks.setScores'> = {
    ...common,
    command: 'marks.setScores',
    record: 'score {assignmentId} {studentId}',
    input: { classId: 'c' },
  }
  const misspelt: Editing<'marks.setScores'> = {
    ...scores,
    // @ts-expect-error no part of the key has this name
    record: 'score {assignmentId} {studentIdd}',
  }
  const partly: Editing<'marks.setScores'> = {
    ...scores,
    // @ts-expect-error two students' scores of one assignment would be one record
    record: 'score {assignmentId}',
  }
  const elsewhere: Editing<'marks.setScores'> = {
    ...scores,
    // @ts-expect-error scores belong to a class
    input: { homeroomId: 'h' },
  }
  const other: Editing<'marks.setScores'> = {
    ...scores,
    // @ts-expect-error another command
    command: 'attendance.setMarks',
  }
  // @ts-expect-error this command saves no cells
  const none: CellCommand = 'people.enrol'
  expect([misspelt, partly, elsewhere, other, none]).toHaveLength(5)
})

test('keys, values and other acts are those of the commands', () => {
  const act = (recorded: RecordedBy<null, KeyOf<'attendance.setMarks'>>) => {
    recorded.begin({ studentId: 's' })
    // @ts-expect-error no part of the key has this name
    recorded.begin({ student: 's' })
    // @ts-expect-error the code is missing
    recorded.act('attendance.markRest', { homeroomId: 'h', date: 'd', session: 's' }, 'Present for the rest')
  }
  const whole: EditingWhole<'assessment.setQuestions', string> = {
    ...common,
    empty: '',
    command: 'assessment.setQuestions',
    record: 'questions',
    // @ts-expect-error a version and questions are missing
    input: () => ({ assessmentId: 'a' }),
    valueIn: (input: CommandInput<'assessment.setQuestions'>) => input.assessmentId,
  }
  expect([act, whole]).toHaveLength(2)
})
