export const efforts = ['excellent', 'good', 'uneven', 'low'] as const
export type Effort = (typeof efforts)[number]

/** What a teacher writes for one student. */
export interface WrittenEntry {
  readonly effort: Effort | null
  readonly comment: string
}

/** An entry in which nothing has been entered. */
export const noEntry: WrittenEntry = { effort: null, comment: '' }

/** The state of class entries. */
export type EntriesState = 'writing' | 'handed in' | 'sent back' | 'checked' | 'released'

export type EntriesAct = 'hand in' | 'take back' | 'check' | 'send back' | 'release'

/** From which states an act is possible, and where it leads. Anything else is refused. */
export const entriesActs: Readonly<
  Record<EntriesAct, { readonly from: readonly EntriesState[]; readonly to: EntriesState }>
> = {
  'hand in': { from: ['writing', 'sent back'], to: 'handed in' },
  'take back': { from: ['handed in'], to: 'writing' },
  check: { from: ['handed in'], to: 'checked' },
  'send back': { from: ['handed in', 'checked', 'released'], to: 'sent back' },
  release: { from: ['checked'], to: 'released' },
}

/** Whether the teacher may still write. */
export function isWritable(state: EntriesState): boolean {
  return state === 'writing' || state === 'sent back'
}

/**
 * Whether the marks are the ones that were handed in, with a mark that was empty then staying empty, also for students
 * who joined since; before that they follow the gradebook.
 */
export function marksAreHeld(state: EntriesState): boolean {
  return !isWritable(state)
}

export interface EntryToCheck {
  readonly name: string
  readonly mark: string | undefined
  readonly effort: Effort | null
  readonly comment: string
}

/** What is not entered yet in a class's entries, student by student, in list order. */
export function blanksIn(
  entries: readonly EntryToCheck[],
): readonly { readonly name: string; readonly blanks: readonly string[] }[] {
  return entries
    .map(({ name, mark, effort, comment }) => ({
      name,
      blanks: [
        mark === undefined && 'mark',
        effort === null && 'effort',
        comment.trim() === '' && 'comment',
      ].filter((b) => b !== false),
    }))
    .filter(({ blanks }) => blanks.length > 0)
}
