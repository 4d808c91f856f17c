'use client'
import type { ReactNode } from 'react'
import { numberWords } from '@/core/people/student-number'
import type { Column } from '@/ui/table/column'
import Link from './link'

/**
 * The column of students' names, each a link to the record.
 * @param of whose name stands in a row
 * @param options.beside what stands after the name
 */
export const studentColumn = <R,>(
  of: (row: R) => { readonly id: string; readonly name: string },
  { title = 'Student', beside }: { title?: string; beside?: (row: R) => ReactNode } = {},
): Column<R> => ({
  id: 'name',
  title,
  heading: true,
  // A name of sixty letters without a blank breaks.
  className: 'min-w-20 wrap-anywhere',
  value: (row) => of(row).name,
  cell: (row) => (
    <>
      <Link className="link" href={`/people/${of(row).id}`}>
        {of(row).name}
      </Link>
      {beside?.(row)}
    </>
  ),
})

/** The column of students' permanent numbers, with their leading zeros in files as well. */
export const numberColumn = <R extends { readonly number: number | string | null }>(): Column<R> => ({
  id: 'number',
  title: 'Number',
  align: 'right',
  value: (row) => (row.number === null ? null : Number(row.number)),
  written: (row) => numberWords(row.number),
  cell: (row) => numberWords(row.number),
})

/** The column of students' homerooms, to narrow by; those without one are found as "no homeroom". */
export const homeroomColumn = <R extends { readonly homeroom: string | null }>(
  none: ReactNode = null,
): Column<R> => ({
  id: 'homeroom',
  title: 'Homeroom',
  className: 'whitespace-nowrap',
  value: (row) => row.homeroom,
  choices: (row) => [row.homeroom ?? 'no homeroom'],
  cell: (row) => row.homeroom ?? none,
})
