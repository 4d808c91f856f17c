'use client'
import { memo } from 'react'
import type { CellEntry, ScoreEntries } from '@/core/marks/gradebook'
import { isCalculated } from '@/core/marks/columns/column'
import type { Evaluated } from '@/core/marks/columns/evaluate'
import type { TermMark } from '@/core/marks/term-mark'
import { writeEntry } from '@/core/marks/typed-score'
import { columnWidth, gradeWidth, markWidth, type Columns } from './use-columns'
import type { BookAssignment, GradebookAnswer, ShownColumn } from './book'

export type Student = GradebookAnswer['students'][number]

export interface RowProps {
  readonly index: number
  readonly student: Student
  readonly assignments: readonly BookAssignment[]
  readonly columns: Columns
  readonly nameWidth: number
  /** Of the whole row, in pixels. */
  readonly width: number
  readonly entries: ScoreEntries
  readonly mark: TermMark | undefined
  readonly others: readonly ShownColumn[]
  /** What is entered by hand, by column. */
  readonly entered: ReadonlyMap<string, string>
  readonly values: ReadonlyMap<string, Evaluated>
  /** The column of the cursor, when it is in this row. */
  readonly column: string | undefined
  readonly typed: string | undefined
  readonly touched: ReadonlySet<string> | undefined
  readonly noted: ReadonlySet<string> | undefined
  /** The columns of this row that are chosen together with others. */
  readonly range: readonly string[] | undefined
  readonly isLinked: (assignmentId: string, studentId: string) => boolean
  readonly onChoose: (studentId: string, column: string) => void
}

const cellBase =
  'flex-none overflow-hidden border-l border-rule px-[8px] text-right text-[15px] leading-[29px] whitespace-nowrap cursor-cell pointer-coarse:leading-[43px]'
const focus = 'outline-[2.5px] -outline-offset-2 outline-magenta bg-panel'
const inRange = 'bg-shoal!'
const tones: Readonly<Partial<Record<CellEntry['kind'], string>>> = {
  missing: 'hatch px-[4px]! text-[13px]! font-bold text-port',
  excused: 'px-[4px]! text-[13px]! text-muted italic',
  incomplete: 'px-[4px]! text-[13px]! font-bold text-muted italic',
  unmarked: 'px-[4px]! text-[13px]! text-muted italic',
}

function droppedIn(mark: TermMark | undefined): ReadonlySet<string> {
  return new Set(
    mark?.categories.flatMap((c) =>
      c.scores.filter((s) => s.treatment === 'dropped').map((s) => s.assignment.id),
    ),
  )
}

/** One student's scores, term mark and grade. Drawn again only when something in the row changes. */
export const GradebookRow = memo(function GradebookRow({
  index,
  student,
  assignments,
  columns,
  nameWidth,
  width,
  entries,
  mark,
  others,
  values,
  entered,
  column,
  typed,
  touched,
  noted,
  range,
  isLinked,
  onChoose,
}: RowProps) {
  const dropped = droppedIn(mark)
  /** What every cell of the grid has: its place, whether it is chosen, and how it is chosen. */
  const cellOf = (id: string, c: number) =>
    ({
      role: 'gridcell',
      id: `cell-${index}-${c}`,
      'data-at': `${index}:${c}`,
      'aria-colindex': c + 2,
      'aria-selected': column === id || range?.includes(id) === true,
      onMouseDown: () => onChoose(student.id, id),
    }) as const
  const looksOf = (id: string) => `${cellBase} ${column === id ? focus : range?.includes(id) ? inRange : ''}`
  return (
    <div
      role="row"
      aria-rowindex={index + 2}
      style={{ width }}
      className={`alone flex h-[30px] border-b border-rule pointer-coarse:h-11 ${column === undefined ? 'bg-paper' : 'bg-shoal-light'}`}
    >
      <div
        role="rowheader"
        aria-colindex={1}
        title={student.name}
        style={{ width: nameWidth }}
        className="sticky left-0 z-[1] flex-none truncate bg-inherit pr-3 pl-2 leading-[29px] font-normal pointer-coarse:leading-[43px]"
        onClick={() => onChoose(student.id, 'mark')}
      >
        {student.name}
      </div>
      <div className="flex-none" style={{ width: columns.before }} />
      {columns.drawn.map((c) => {
        const a = assignments[c]
        const own = others[c - assignments.length]
        if (own && !isCalculated(own)) {
          const chosen = column === own.id
          const text = entered.get(own.id) ?? ''
          return (
            <div
              key={own.id}
              {...cellOf(own.id, c)}
              aria-label={`${student.name}, ${own.name}: ${chosen && typed !== undefined ? typed : text || 'empty'}`}
              title={text.length > 8 ? text : undefined}
              style={{ width: columnWidth }}
              className={`${looksOf(own.id)} ${own.does === 'choice' ? 'px-[4px]! text-[13px]!' : ''}`}
            >
              {chosen && typed !== undefined ? (
                <span className="border-r-2 border-magenta">{typed}</span>
              ) : (
                text
              )}
            </div>
          )
        }
        if (own) {
          const value = values.get(own.id)
          const shown = value?.level ?? value?.text
          return (
            <div
              key={own.id}
              {...cellOf(own.id, c)}
              aria-label={`${student.name}, ${own.name}: ${shown ?? 'not calculated yet'}`}
              title={value?.level === undefined ? undefined : `${value.level}, ${value.text}`}
              style={{ width: columnWidth }}
              className={`bg-shoal-light ${looksOf(own.id)} ${value?.level === undefined ? '' : 'px-[4px]! text-[13px]!'}`}
            >
              {shown ?? '–'}
            </div>
          )
        }
        if (!a) return null
        const entry = entries.get(a.id)
        const chosen = column === a.id
        const text = chosen && typed !== undefined ? typed : writeEntry(entry)
        const early = a.dueOn < student.since && !entry
        const words = [
          `${student.name}, ${a.name}: ${text || (early ? 'not in the class then' : 'empty')}`,
          dropped.has(a.id) && 'dropped',
          isLinked(a.id, student.id) && 'from the assessment',
          noted?.has(`${a.id} ${student.id}`) && 'with a note',
        ]
        return (
          <div
            key={a.id}
            {...cellOf(a.id, c)}
            aria-label={words.filter(Boolean).join(', ')}
            style={{ width: columnWidth }}
            className={`${looksOf(a.id)} ${(entry && tones[entry.kind]) ?? ''} ${dropped.has(a.id) ? 'text-muted line-through' : ''} ${touched?.has(`${a.id} ${student.id}`) ? 'touched' : ''} ${noted?.has(`${a.id} ${student.id}`) ? 'noted' : ''}`}
          >
            {chosen && typed !== undefined ? (
              <span className="border-r-2 border-magenta no-underline">{typed}</span>
            ) : (
              text || (early ? <span className="text-muted">·</span> : '')
            )}
          </div>
        )
      })}
      <div className="flex-none" style={{ width: columns.after }} />
      {(['mark', 'grade'] as const).map((part, i) => {
        const c = assignments.length + others.length + i
        const text = mark?.[part]
        return (
          <div
            key={c}
            {...cellOf(part, c)}
            aria-label={`${student.name}, ${part === 'mark' ? 'term mark' : 'grade'}: ${text ?? 'not calculated yet'}`}
            style={i === 0 ? { width: markWidth, right: gradeWidth } : { width: gradeWidth, right: 0 }}
            className={`sticky z-[1] bg-shoal-light font-bold ${looksOf(part)}`}
          >
            {text ?? '–'}
          </div>
        )
      })}
    </div>
  )
})
