import type { ScoreEntry } from '@/core/marks/gradebook'
import type { QueryOutput } from '@/server/registry'

export type GradebookAnswer = QueryOutput<'marks.gradebook'>
export type Book = NonNullable<GradebookAnswer['book']>
export type BookAssignment = Book['assignments'][number]
/** A column beside the assignments, as the gradebook shows it: calculated, or entered by hand. */
export type ShownColumn = GradebookAnswer['columns'][number]
export type ShownCalculated = Extract<ShownColumn, { parts: unknown }>
export type ShownEntered = Extract<ShownColumn, { choices: unknown }>

/** A cell and what is entered in it. */
export interface CellChange {
  readonly assignmentId: string
  readonly studentId: string
  readonly entry: ScoreEntry | undefined
}

/** Names the record of a score by its cell. */
export const scoreRecord = 'score {assignmentId} {studentId}'
export const recordOf = (assignmentId: string, studentId: string) => `score ${assignmentId} ${studentId}`

/** The cell that a record is. */
export function cellOf(name: string): { readonly assignmentId: string; readonly studentId: string } {
  const [, assignmentId = '', studentId = ''] = name.split(' ')
  return { assignmentId, studentId }
}
