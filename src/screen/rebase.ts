import type { Edit } from '@/ui/saving/outbox'

type Values = Readonly<Record<string, unknown>>

interface Cell {
  readonly key: unknown
  readonly seen: number
}

/** Commands that write many cells at once, and the command whose waiting cells then build on the new versions. */
const bulk: Readonly<Record<string, string>> = {
  'attendance.markRest': 'attendance.setMarks',
  'reports.fillBlank': 'reports.setEntries',
}

/** Commands that change one record as a whole, and the field that names it. */
const whole: Readonly<Record<string, string>> = { 'assessment.setQuestions': 'assessmentId' }

const same = (a: unknown, b: unknown) => JSON.stringify(a) === JSON.stringify(b)

/** Whether two inputs are about the same register, class or assessment. */
function sameScope(waiting: Values, done: Values): boolean {
  return Object.entries(waiting).every(
    ([name, value]) => name === 'cells' || !(name in done) || same(value, done[name]),
  )
}

/** After an edit was taken, later edits of the same cells start from the version it left behind. */
export function rebase(waiting: Edit, done: Edit, answer: unknown): Edit {
  const input = waiting.input as Values
  const before = done.input as Values
  const record = whole[waiting.command]
  if (record !== undefined && done.command === waiting.command && input[record] === before[record])
    return { ...waiting, input: { ...input, seen: (answer as { version: number }).version } }
  const cells = input.cells as readonly Cell[] | undefined
  const writesThem = done.command === waiting.command || bulk[done.command] === waiting.command
  if (!cells || !writesThem || !sameScope(input, before)) return waiting
  const written = new Map(
    (answer as readonly { key: unknown; version: number }[]).map((w) => [JSON.stringify(w.key), w.version]),
  )
  if (!cells.some((cell) => written.has(JSON.stringify(cell.key)))) return waiting
  return {
    ...waiting,
    input: {
      ...input,
      cells: cells.map((cell) => ({ ...cell, seen: written.get(JSON.stringify(cell.key)) ?? cell.seen })),
    },
  }
}
