'use client'
import type { AttendanceFigures } from '@/core/attendance/figures'
import type { QueryOutput } from '@/server/registry'
import type { Column } from '@/ui/table/column'

export type Answer = QueryOutput<'attendance.figures'>
export type Figures = Extract<Answer, { hidden: false }>
export type StudentFigures = Figures['students'][number]

/** What a number is of, beside the page's scope. */
export interface Narrowed {
  readonly words: string
  readonly studentId?: string
  readonly homeroomId?: string
  readonly weekday?: number
  readonly session?: string
  readonly week?: string
}
export type Open = (narrowed: Narrowed) => void

/** A percentage that opens into its sessions. */
export function Percent({ figures, of, onOpen }: { figures: AttendanceFigures; of: Narrowed; onOpen: Open }) {
  if (figures.percentPresent === undefined) return <span className="text-muted">none</span>
  return (
    <button type="button" className="link" onClick={() => onOpen(of)}>
      {figures.percentPresent}%<span className="sr-only"> of {of.words}, show the sessions</span>
    </button>
  )
}

/** The columns that every table of figures has. */
export const figureColumns = <R extends { readonly figures: AttendanceFigures }>(
  of: (row: R) => Narrowed,
  onOpen: Open,
): readonly Column<R>[] => [
  {
    id: 'percent',
    title: 'Present',
    align: 'right',
    value: (r) => Number(r.figures.percentPresent ?? -1),
    cell: (r) => <Percent figures={r.figures} of={of(r)} onOpen={onOpen} />,
  },
  ...(
    [
      ['possible', 'Possible'],
      ['late', 'Late'],
      ['withReason', 'With reason'],
      ['withoutReason', 'No reason yet'],
    ] as const
  ).map(([id, title]): Column<R> => ({
    id,
    title,
    align: 'right',
    value: (r) => r.figures[id],
    cell: (r) => r.figures[id],
  })),
]
