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

export interface EntryToCheck {
  readonly name: string
  /** What fills the lines of the report. */
  readonly values: readonly {
    readonly name: string
    /** Whether anything fills the line at all; that is for the whole class to settle. */
    readonly isFed: boolean
    readonly mark: string | undefined
    readonly grade: string | undefined
  }[]
  readonly effort: Effort | null
  readonly comment: string
}

/** What is not entered yet in a class's entries, student by student, in list order. */
export function blanksIn(
  entries: readonly EntryToCheck[],
): readonly { readonly name: string; readonly blanks: readonly string[] }[] {
  return entries
    .map(({ name, values, effort, comment }) => ({
      name,
      blanks: [
        ...values.map(
          (v) => v.isFed && v.mark === undefined && v.grade === undefined && v.name.toLowerCase(),
        ),
        effort === null && 'effort',
        comment.trim() === '' && 'comment',
      ].filter((b) => b !== false),
    }))
    .filter(({ blanks }) => blanks.length > 0)
}
