import type { Edit } from '@/ui/saving/outbox'

type Values = Record<string, unknown>
interface CellVersion {
  readonly assignmentId: string
  readonly studentId: string
  readonly version: number
}

const sameFields = (a: Values, b: Values, fields: readonly string[]) => fields.every((f) => a[f] === b[f])

/** Fields that say two edits of one command are about the same record; its answer carries the new version. */
const oneRecord: Readonly<Record<string, readonly string[]>> = {
  'attendance.setMark': ['studentId', 'date', 'session'],
  'assessment.setAnswers': ['assessmentId', 'studentId'],
  'assessment.setQuestions': ['assessmentId'],
  'reports.saveEntry': ['roundId', 'classId', 'studentId'],
}

function rebaseCells(input: Values, written: readonly CellVersion[]): Values {
  const versions = new Map(written.map((w) => [`${w.assignmentId} ${w.studentId}`, w.version]))
  const cells = input.cells as readonly (CellVersion & { expectedVersion: number })[]
  return {
    ...input,
    cells: cells.map((c) => ({
      ...c,
      expectedVersion: versions.get(`${c.assignmentId} ${c.studentId}`) ?? c.expectedVersion,
    })),
  }
}

/** After an edit was taken, later edits of the same record expect the version it left behind. */
export function rebase(waiting: Edit, done: Edit, value: unknown): Edit {
  const input = waiting.input as Values
  const before = done.input as Values
  if (waiting.command === 'marks.setScores' && done.command === 'marks.setScores')
    return { ...waiting, input: rebaseCells(input, value as readonly CellVersion[]) }
  const fields = oneRecord[waiting.command]
  if (!fields) return waiting
  if (done.command === waiting.command && sameFields(input, before, fields))
    return { ...waiting, input: { ...input, expectedVersion: (value as { version: number }).version } }
  if (
    waiting.command === 'attendance.setMark' &&
    done.command === 'attendance.markRest' &&
    sameFields(input, before, ['date', 'session'])
  ) {
    const marked = (value as readonly { studentId: string; version: number }[]).find(
      (m) => m.studentId === input.studentId,
    )
    return marked ? { ...waiting, input: { ...input, expectedVersion: marked.version } } : waiting
  }
  return waiting
}
