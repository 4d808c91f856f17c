/** The rows and columns of a grid, in order, by what they are and not by where they stand. */
export interface Shape {
  readonly rows: readonly string[]
  readonly columns: readonly string[]
  /** The column that End goes to, where it is not the last. */
  readonly end?: string
}

/** A cell: which row and which column it belongs to. */
export interface At {
  readonly row: string
  readonly column: string
}

export interface GridState {
  readonly at: At
  /** Where the cell stood when it was gone to, for when its row or column is removed. */
  readonly near: readonly [row: number, column: number]
  /** What is being typed into the cell; undefined while nothing is. */
  readonly typed: string | undefined
}

/** What a text typed so far can still become. */
export type Reading =
  /** Nothing longer begins so: it is kept at once, and the cursor goes down. */
  | { readonly kind: 'whole' }
  /** More may follow; `why` says why it cannot be kept as it is. */
  | { readonly kind: 'open'; readonly why?: string }
  /** Nothing that could be kept begins so. */
  | { readonly kind: 'impossible'; readonly why: string }

export interface GridRules {
  readonly read: (text: string, at: At) => Reading
  /** Why a cell cannot be typed into. */
  readonly locked?: (at: At) => string | undefined
  /** The characters that begin or go on with typing. */
  readonly characters: RegExp
  /** Keys with an act of their own, such as `.` or `Ctrl+z`; what is being typed is kept first. */
  readonly acts: ReadonlySet<string>
}

/** What a key asks for beyond moving the cursor. */
export type Effect =
  | { readonly kind: 'begin'; readonly at: At }
  | { readonly kind: 'cancel'; readonly at: At }
  | { readonly kind: 'clear'; readonly at: At }
  | { readonly kind: 'keep'; readonly at: At; readonly text: string }
  | { readonly kind: 'refuse'; readonly why: string }
  | { readonly kind: 'act'; readonly key: string; readonly at: At }

export interface Pressed {
  readonly state: GridState
  readonly effects: readonly Effect[]
  /** Whether the browser's own act on this key is to be left out. */
  readonly handled: boolean
}

const steps: Readonly<Record<string, readonly [rows: number, columns: number]>> = {
  ArrowDown: [1, 0],
  ArrowUp: [-1, 0],
  ArrowLeft: [0, -1],
  ArrowRight: [0, 1],
  Enter: [1, 0],
}

const endOf = ({ columns, end }: Shape) => (end ? columns.indexOf(end) : columns.length - 1)
const clamp = (n: number, count: number) => Math.min(Math.max(0, n), Math.max(0, count - 1))

/** The cell at a place, by numbers; the nearest there is. */
export function cellAt(shape: Shape, row: number, column: number): GridState {
  const near = [clamp(row, shape.rows.length), clamp(column, shape.columns.length)] as const
  return {
    at: { row: shape.rows[near[0]] ?? '', column: shape.columns[near[1]] ?? '' },
    near,
    typed: undefined,
  }
}

/** The state in a shape that may have changed: the same cell wherever it stands now, else one near where it stood. */
export function placed(state: GridState, shape: Shape): GridState {
  const row = shape.rows.indexOf(state.at.row)
  const column = shape.columns.indexOf(state.at.column)
  if (row >= 0 && column >= 0)
    return row === state.near[0] && column === state.near[1] ? state : { ...state, near: [row, column] }
  const next = cellAt(shape, row >= 0 ? row : state.near[0], column >= 0 ? column : state.near[1])
  // A grid without rows or columns has one state, not a new one at each drawing.
  const isSame =
    next.at.row === state.at.row &&
    next.at.column === state.at.column &&
    next.near[0] === state.near[0] &&
    next.near[1] === state.near[1] &&
    state.typed === undefined
  return isSame ? state : next
}

/** The cell so many rows and columns on, as far as there are any. */
export function stepped(
  { near }: GridState,
  shape: Shape,
  [rows, columns]: readonly [number, number],
): GridState {
  return cellAt(shape, near[0] + rows, near[1] + columns)
}

const stay = (state: GridState, ...effects: readonly Effect[]): Pressed => ({ state, effects, handled: true })

/** Keeps what is being typed. Undefined when it cannot be kept: then nothing else may happen. */
function settled(state: GridState, rules: GridRules): { effects: readonly Effect[] } | { why: string } {
  const { typed, at } = state
  if (typed === undefined) return { effects: [] }
  if (typed === '') return { effects: [{ kind: 'cancel', at }] }
  const reading = rules.read(typed, at)
  if (reading.kind !== 'whole' && reading.why !== undefined) return { why: reading.why }
  return { effects: [{ kind: 'keep', at, text: typed }] }
}

/** Keeps what is being typed, then goes on with `next`; or says why not and stays. */
function settledThen(state: GridState, rules: GridRules, next: (state: GridState) => Pressed): Pressed {
  const done = settled(state, rules)
  if ('why' in done) return stay(state, { kind: 'refuse', why: done.why })
  const { state: after, effects, handled } = next({ ...state, typed: undefined })
  return { state: after, effects: [...done.effects, ...effects], handled }
}

function type(state: GridState, key: string, shape: Shape, rules: GridRules): Pressed {
  const why = rules.locked?.(state.at)
  if (why !== undefined) return stay(state, { kind: 'refuse', why })
  const { at } = state
  const text = (state.typed ?? '') + key
  const begin: readonly Effect[] = state.typed === undefined ? [{ kind: 'begin', at }] : []
  const reading = rules.read(text, at)
  if (reading.kind === 'whole')
    return stay(stepped(state, shape, [1, 0]), ...begin, { kind: 'keep', at, text })
  if (reading.kind === 'open') return stay({ ...state, typed: text }, ...begin)
  // Nothing longer fits: what was typed so far is kept, and the key begins the next row's.
  const pending = state.typed ? rules.read(state.typed, at) : undefined
  const alone = rules.read(key, at)
  if (pending?.kind !== 'open' || pending.why !== undefined || alone.kind === 'impossible')
    return stay(state, { kind: 'refuse', why: reading.why })
  const down = stepped(state, shape, [1, 0])
  const kept: Effect = { kind: 'keep', at, text: state.typed ?? '' }
  if (down.at.row === at.row) return stay(down, kept)
  const next = type(down, key, shape, rules)
  return { ...next, effects: [kept, ...next.effects] }
}

/**
 * What a key does in a grid that is typed into.
 * @param key the key's name as the browser tells it; `Ctrl+` before it for a command
 */
export function press(before: GridState, key: string, shape: Shape, rules: GridRules): Pressed {
  const state = placed(before, shape)
  const step = steps[key]
  if (step) return settledThen(state, rules, (s) => stay(stepped(s, shape, step)))
  if (rules.acts.has(key)) return settledThen(state, rules, (s) => stay(s, { kind: 'act', key, at: s.at }))
  switch (key) {
    case 'Home':
    case 'End': {
      const last = key === 'End'
      // Along the row where there are several columns, else along the only one.
      return settledThen(state, rules, (s) =>
        stay(
          shape.columns.length > 1
            ? cellAt(shape, s.near[0], last ? endOf(shape) : 0)
            : cellAt(shape, last ? shape.rows.length - 1 : 0, 0),
        ),
      )
    }
    case 'Tab':
      return settledThen(state, rules, (s) => ({ state: s, effects: [], handled: false }))
    case 'Escape':
      if (state.typed === undefined) return { state, effects: [], handled: false }
      return stay({ ...state, typed: undefined }, { kind: 'cancel', at: state.at })
    case 'Backspace':
    case 'Delete': {
      if (state.typed) {
        const typed = state.typed.slice(0, -1)
        return typed === ''
          ? stay({ ...state, typed: undefined }, { kind: 'cancel', at: state.at })
          : stay({ ...state, typed })
      }
      const why = rules.locked?.(state.at)
      return stay(state, why === undefined ? { kind: 'clear', at: state.at } : { kind: 'refuse', why })
    }
  }
  if (key.length === 1 && rules.characters.test(key)) return type(state, key, shape, rules)
  return { state, effects: [], handled: false }
}

/** Goes to a cell, keeping what is being typed elsewhere; stays where that cannot be kept. */
export function choose(before: GridState, at: At, shape: Shape, rules: GridRules): Pressed {
  const state = placed(before, shape)
  if (state.at.row === at.row && state.at.column === at.column) return { state, effects: [], handled: true }
  return settledThen(state, rules, () =>
    stay(cellAt(shape, shape.rows.indexOf(at.row), shape.columns.indexOf(at.column))),
  )
}

/** Ends typing without going anywhere, as before the page is left. */
export function settle(before: GridState, shape: Shape, rules: GridRules): Pressed {
  return settledThen(placed(before, shape), rules, (s) => stay(s))
}
