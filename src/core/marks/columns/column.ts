/** What a calculated column does with its parts. */
export const doings = ['mean', 'sum', 'best', 'latest', 'count'] as const
export type Doing = (typeof doings)[number]

/** Whether a formula takes only so many of its parts. */
export const takes = (does: Doing): boolean => does === 'best' || does === 'latest'

/** What a calculated column can read: one thing each. */
export type Operand =
  | { readonly of: 'assignment'; readonly id: string }
  | { readonly of: 'category'; readonly id: string }
  /** The mark of a term, or of one of its marking periods. */
  | { readonly of: 'marks'; readonly termId: string; readonly periodId: string | null }
  | { readonly of: 'column'; readonly id: string }

export interface Part {
  readonly operand: Operand
  /** A decimal; only a mean looks at it. */
  readonly weight: string
}

/** A name for what a value reaches. */
export interface AttainmentLevel {
  readonly name: string
  /** The lowest value that has it, a decimal. */
  readonly from: string
}

/** A column that nobody types: worked out from scores, categories, marks and other columns. */
export interface CalculatedColumn {
  readonly id: string
  readonly name: string
  /** The term whose gradebook shows it; null for all terms of the year. */
  readonly termId: string | null
  readonly does: Doing
  /** How many the best and the latest take; null elsewhere. */
  readonly take: number | null
  readonly parts: readonly Part[]
  /** Decimals of what is shown, rounded once, half up. */
  readonly decimals: number
  /** The highest first; none where the number stands for itself. */
  readonly levels: readonly AttainmentLevel[]
}

/** What a column that is entered by hand holds: one of several choices, or a number. */
export const enterings = ['choice', 'number'] as const
export type Entering = (typeof enterings)[number]

/** One of the choices of a column that is entered by hand. */
export interface Choice {
  readonly name: string
  /** What it counts as in a formula, a decimal; null where it counts as nothing. */
  readonly value: string | null
}

/** A column that is entered by hand beside the scores, such as effort or a target. */
export interface EnteredColumn {
  readonly id: string
  readonly name: string
  readonly termId: string | null
  readonly does: Entering
  /** In their order; none for a number. */
  readonly choices: readonly Choice[]
}

/** A column beside the assignments. */
export type Column = CalculatedColumn | EnteredColumn

export const isCalculated = <C extends Column>(column: C): column is Extract<C, { does: Doing }> =>
  column.does !== 'choice' && column.does !== 'number'

/** The same text for the same thing, to look it up by. */
export const keyOf = (operand: Operand): string =>
  operand.of === 'marks' ? `marks ${operand.termId} ${operand.periodId ?? ''}` : `${operand.of} ${operand.id}`

type Read = Pick<CalculatedColumn, 'id' | 'parts'>

/**
 * A circle of columns that feed each other, from a column back to itself; undefined where there is none. A column that
 * is not in the list reads nothing.
 */
export function circleIn(columns: readonly Read[]): readonly string[] | undefined {
  const byId = new Map(columns.map((c) => [c.id, c]))
  const done = new Set<string>()
  function walk(id: string, path: readonly string[]): readonly string[] | undefined {
    const at = path.indexOf(id)
    if (at >= 0) return [...path.slice(at), id]
    if (done.has(id)) return undefined
    for (const { operand } of byId.get(id)?.parts ?? []) {
      const circle = operand.of === 'column' ? walk(operand.id, [...path, id]) : undefined
      if (circle) return circle
    }
    done.add(id)
    return undefined
  }
  for (const { id } of columns) {
    const circle = walk(id, [])
    if (circle) return circle
  }
  return undefined
}

/** Names in a list: `Week 3, Week 5 and Week 7`. */
function listed(names: readonly string[]): string {
  return names.length < 2 ? names.join('') : `${names.slice(0, -1).join(', ')} and ${names.at(-1)}`
}

/**
 * A formula as a sentence: `Mean of Autumn (40), Spring (30) and Summer (30), rounded to 1 decimal.`
 * @param nameOf what a part is called
 */
export function inWords(
  { does, take, parts, decimals, levels }: Omit<CalculatedColumn, 'id' | 'name' | 'termId'>,
  nameOf: (operand: Operand) => string,
): string {
  const alike = new Set(parts.map((p) => Number(p.weight))).size < 2
  const names = listed(
    parts.map(({ operand, weight }) =>
      does === 'mean' && !alike ? `${nameOf(operand)} (${weight})` : nameOf(operand),
    ),
  )
  const what = {
    mean: alike ? `Mean of ${names}` : `Weighted mean of ${names}`,
    sum: `Sum of ${names}`,
    best: `Mean of the best ${take ?? 1} of ${names}`,
    latest: `Mean of the latest ${take ?? 1} of ${names}`,
    count: `How many of ${names} have a score`,
  }[does]
  const rounded =
    does === 'count' ? '' : `, rounded to ${decimals === 1 ? '1 decimal' : `${decimals} decimals`}`
  const shown = levels.length > 0 ? ` Shown as ${listed(levels.map((l) => `${l.name} from ${l.from}`))}.` : ''
  return `${what}${rounded}.${shown}`
}
