import type { CivilDate } from '@/core/calendar/school-year'
import { hundredths, roundHalfUp, writeUnits, type Rational } from '@/core/marks/rational'
import { keyOf, type CalculatedColumn, type Operand } from './column'

/** What a part of a formula is for one student. */
export interface PartValue {
  /** In percent; of a column that adds up or counts, its number. */
  readonly value: Rational | undefined
  /** In points, where it has points. */
  readonly points?: Rational | undefined
  /** When it was due, or began. */
  readonly on?: CivilDate | undefined
  /** False where nothing was entered and it counts as zero all the same. */
  readonly isEntered?: boolean
}

/** Looks up what a part is for one student; nothing for a part that does not exist any more. */
export type Source = (operand: Operand) => PartValue | undefined

/** One part of a formula, worked out. */
export interface Step {
  readonly operand: Operand
  /** As it is shown, rounded for reading alone; undefined where there is nothing yet. */
  readonly shown: string | undefined
  readonly weight: string
  /** Whether it entered the result: not where it is empty, or others are better or later. */
  readonly taken: boolean
}

export interface Evaluated {
  readonly exact: Rational | undefined
  readonly text: string | undefined
  readonly level: string | undefined
  readonly steps: readonly Step[]
}

const add = (a: Rational, b: Rational): Rational =>
  a.den === b.den
    ? { num: a.num + b.num, den: a.den }
    : { num: a.num * b.den + b.num * a.den, den: a.den * b.den }
const times = (a: Rational, num: bigint, den: bigint): Rational => ({ num: a.num * num, den: a.den * den })
const zero: Rational = { num: 0n, den: 1n }
const compare = (a: Rational, b: Rational) => {
  const difference = a.num * b.den - b.num * a.den
  return difference < 0n ? -1 : difference > 0n ? 1 : 0
}

/** A fraction with at most so many decimals, without needless zeros. */
export const shortText = (value: Rational, decimals = 2): string =>
  writeUnits(roundHalfUp(value, decimals), decimals)
    .replace(/(\.\d*?)0+$/, '$1')
    .replace(/\.$/, '')

interface Piece {
  readonly at: number
  readonly value: Rational
  readonly on: CivilDate
  readonly weight: bigint
}

/** The pieces that a formula takes of those that have a value. */
function takenOf({ does, take }: CalculatedColumn, pieces: readonly Piece[]): readonly Piece[] {
  if (does === 'best')
    return [...pieces].sort((a, b) => compare(b.value, a.value) || a.at - b.at).slice(0, take ?? 1)
  if (does === 'latest')
    return [...pieces].sort((a, b) => (a.on < b.on ? 1 : a.on > b.on ? -1 : b.at - a.at)).slice(0, take ?? 1)
  return does === 'mean' ? pieces.filter((p) => p.weight > 0n) : pieces
}

function meanOf(taken: readonly Piece[], isWeighted: boolean): Rational | undefined {
  const weightOf = (piece: Piece) => (isWeighted ? piece.weight : 1n)
  const weights = taken.reduce((sum, p) => sum + weightOf(p), 0n)
  if (weights === 0n) return undefined
  return times(
    taken.reduce((sum, p) => add(sum, times(p.value, weightOf(p), 1n)), zero),
    1n,
    weights,
  )
}

/**
 * Works a column out for one student, with the steps that explain it. Parts without a value are left out, and the
 * others share the whole; without any there is no value, but a count is 0.
 */
export function evaluate(column: CalculatedColumn, source: Source): Evaluated {
  const { does, decimals, levels } = column
  const values = column.parts.map(({ operand }) => {
    const found = source(operand)
    return { ...found, value: does === 'sum' ? (found?.points ?? found?.value) : found?.value }
  })
  const pieces = column.parts.flatMap((part, at): Piece[] => {
    const { value, on = '', isEntered = true } = values[at] ?? {}
    const isThere = value !== undefined && (does !== 'count' || isEntered)
    return isThere ? [{ at, value, on, weight: BigInt(hundredths(part.weight)) }] : []
  })
  const taken = takenOf(column, pieces)
  const exact =
    does === 'count'
      ? { num: BigInt(taken.length), den: 1n }
      : taken.length === 0
        ? undefined
        : does === 'sum'
          ? taken.reduce((sum, p) => add(sum, p.value), zero)
          : meanOf(taken, does === 'mean')
  const text = exact && writeUnits(roundHalfUp(exact, decimals), decimals)
  const isTaken = new Set(taken.map((p) => p.at))
  return {
    exact,
    text,
    // What is reached follows from what is shown, as a grade does.
    level: text === undefined ? undefined : levels.find((l) => Number(text) >= Number(l.from))?.name,
    steps: column.parts.map(({ operand, weight }, at) => {
      const { value } = values[at] ?? {}
      return { operand, weight, shown: value && shortText(value), taken: isTaken.has(at) }
    }),
  }
}

/**
 * Works several columns out for one student; each may read the others.
 * @throws RangeError for columns that feed each other in a circle, which are refused when they are saved
 */
export function evaluateAll(
  columns: readonly CalculatedColumn[],
  source: Source,
): ReadonlyMap<string, Evaluated> {
  const byId = new Map(columns.map((c) => [c.id, c]))
  const known = new Map<string, Evaluated>()
  const open = new Set<string>()
  function of(column: CalculatedColumn): Evaluated {
    const before = known.get(column.id)
    if (before) return before
    if (open.has(column.id)) throw new RangeError(`the column ${column.name} feeds itself`)
    open.add(column.id)
    const made = evaluate(column, (operand) => {
      if (operand.of !== 'column') return source(operand)
      const other = byId.get(operand.id)
      return other ? { value: of(other).exact } : source(operand)
    })
    open.delete(column.id)
    known.set(column.id, made)
    return made
  }
  for (const column of columns) of(column)
  return known
}

/** A source that looks parts up in a table, by `keyOf`. */
export const sourceIn =
  (values: ReadonlyMap<string, PartValue>): Source =>
  (operand) =>
    values.get(keyOf(operand))
