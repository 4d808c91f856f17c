'use client'
import { Button } from '@/ui/button'
import type { Column } from './column'

export interface RowAct<T> {
  /** What the button says. */
  readonly words: (row: T) => string
  /** What is read after it, such as the name of the row. */
  readonly about: (row: T) => string
  readonly act: (row: T) => void
  /** Rows that have it; all without. */
  readonly when?: (row: T) => boolean
}

/** The last column of a list whose rows can be edited: a quiet button for each act, named for its row. */
export function editColumn<T>(...acts: readonly RowAct<T>[]): Column<T> {
  return {
    id: 'edit',
    title: 'Edit',
    quiet: true,
    align: 'right',
    cell: (row) =>
      acts
        .filter(({ when }) => !when || when(row))
        .map(({ words, about, act }) => (
          <Button key={words(row)} kind="quiet" className="-my-2" onClick={() => act(row)}>
            {words(row)}
            <span className="sr-only"> {about(row)}</span>
          </Button>
        )),
  }
}

/** A single "Edit" for each row. */
export const onlyEdit = <T,>(about: (row: T) => string, act: (row: T) => void): Column<T> =>
  editColumn({ words: () => 'Edit', about, act })
