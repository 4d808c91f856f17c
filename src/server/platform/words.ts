import type { Right } from './rights'

/** How rows of one table read in a history or a preview. */
export interface TableWords {
  readonly kind: string
  /** Which one it is: the class, the session, the assignment. */
  readonly which?: (values: Values, nameOf: NameOf) => string
  /** Columns worth showing, and what they are called. Others are the machine's own. */
  readonly columns: Readonly<Record<string, string>>
  /** SQL over the table's columns that names a row to people, for other rows that point at it. */
  readonly name?: string
  /** Who reads about its rows in a preview; everyone who may do the act without it. */
  readonly right?: Right<unknown>
}

export type Values = Readonly<Record<string, unknown>>
export type NameOf = ReadonlyMap<string, string>

export const textOf = (value: unknown): string => (typeof value === 'string' ? value : '')

/** Names a row by the record one of its columns points at. */
export const named =
  (...columns: readonly string[]) =>
  (values: Values, nameOf: NameOf): string =>
    columns
      .map((column) => nameOf.get(textOf(values[column])) ?? '')
      .filter(Boolean)
      .join(', ')
