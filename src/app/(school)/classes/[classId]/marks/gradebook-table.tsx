'use client'
import {
  useLayoutEffect,
  useMemo,
  useRef,
  type ClipboardEvent,
  type KeyboardEvent,
  type MouseEvent,
  type RefObject,
} from 'react'
import type { ScoreEntries } from '@/core/marks/gradebook'
import type { Evaluated } from '@/core/marks/columns/evaluate'
import type { TermMark } from '@/core/marks/term-mark'
import { writeEntry } from '@/core/marks/typed-score'
import { GradebookHead } from './gradebook-head'
import { GradebookRow, type RowProps, type Student } from './gradebook-row'
import { useIsTouch } from '@/screen/use-media'
import { TouchField, type Touch } from './touch-field'
import { columnWidth, gradeWidth, headHeight, markWidth, touchHeight, useColumns } from './use-columns'
import { headRow } from './use-gradebook-keys'
import type { Book, ShownColumn } from './book'
import type { At } from '@/ui/grid/grid'
import type { Range } from './use-range'

interface Props {
  readonly gridRef: RefObject<HTMLDivElement | null>
  readonly book: Book
  readonly students: readonly Student[]
  readonly entriesOf: ReadonlyMap<string, ScoreEntries>
  readonly markOf: (studentId: string) => TermMark | undefined
  /** The columns beside the assignments. */
  readonly others: readonly ShownColumn[]
  readonly enteredBy: (studentId: string) => ReadonlyMap<string, string>
  readonly columnsOf: (studentId: string) => ReadonlyMap<string, Evaluated>
  readonly isLinked: RowProps['isLinked']
  readonly noted: ReadonlySet<string>
  readonly at: At
  readonly typed: string | undefined
  readonly touched: ReadonlySet<string>
  readonly mayEdit: boolean
  /** Cells that are chosen together. */
  readonly range: Range | undefined
  readonly onPressing: (withShift: boolean) => void
  readonly onChoose: RowProps['onChoose']
  readonly onKeyDown: (event: KeyboardEvent) => void
  readonly touch: Touch
  readonly onPaste: (event: ClipboardEvent) => void
  readonly onCopy: (event: ClipboardEvent) => void
  readonly onOpen: (id: string) => void
  readonly onLeave: () => void
}

const nothing: ScoreEntries = new Map()
/** What fits on a sheet of A4 under the page's head, in pixels. */
const paper = { width: 1010, height: 590 } as const
const rowHeight = 30

/** Wide enough for the longest name, within reason; a longer one is cut, with the whole as its tooltip. */
function widthOfNames(students: readonly Student[]): number {
  const longest = Math.max(0, ...students.map((s) => s.name.length))
  return Math.min(230, Math.max(110, 24 + longest * 6.9))
}

/** Students by assignments, as a grid with the focus on the whole and a cursor within. */
export function GradebookTable({
  gridRef,
  book,
  students,
  entriesOf,
  markOf,
  others,
  columnsOf,
  enteredBy,
  isLinked,
  noted,
  at,
  typed,
  touched,
  mayEdit,
  range,
  onPressing,
  onChoose,
  onKeyDown,
  touch,
  onPaste,
  onCopy,
  onOpen,
  onLeave,
}: Props) {
  const count = book.assignments.length + others.length
  const nameWidth = useMemo(() => widthOfNames(students), [students])
  const { drawn, before, after, reveal } = useColumns(gridRef, count, nameWidth)
  const columns = useMemo(() => ({ drawn, before, after }), [drawn, before, after])
  const width = nameWidth + count * columnWidth + markWidth + gradeWidth
  const typing = typed !== undefined
  const row = students.findIndex((s) => s.id === at.row)
  const found = [...book.assignments, ...others].findIndex((c) => c.id === at.column)
  const column = found >= 0 ? found : at.column === 'grade' ? count + 1 : count

  const isHead = at.row === headRow
  const isTouch = useIsTouch()
  const field = useRef<HTMLInputElement>(null)
  const student = students[row]
  const assignment = book.assignments[column]
  /** Within the touch itself, or no keyboard opens. */
  function onClick(event: MouseEvent) {
    // The field has come under the finger meanwhile, so that it is the grid that is clicked.
    if (isTouch && !(event.target as HTMLElement).closest('[role=columnheader]'))
      field.current?.focus({ preventScroll: true })
  }

  useLayoutEffect(() => {
    if (column < count) reveal(column)
    gridRef.current
      ?.querySelector(`[aria-rowindex="${row + 2}"] > [role=rowheader]`)
      ?.scrollIntoView({ block: 'nearest', inline: 'nearest' })
  }, [row, column, typing, count]) // eslint-disable-line react-hooks/exhaustive-deps -- only where the cursor is decides

  return (
    <div
      ref={gridRef}
      role="grid"
      tabIndex={0}
      aria-label="Scores"
      aria-rowcount={students.length + 1}
      aria-colcount={count + 3}
      aria-activedescendant={`cell-${isHead ? 'head' : row}-${column}`}
      data-focus-home
      aria-multiselectable
      onMouseDownCapture={(event) => onPressing(event.shiftKey)}
      onKeyDown={onKeyDown}
      onClick={onClick}
      onPaste={onPaste}
      onCopy={onCopy}
      onBlur={(e) => e.target === e.currentTarget && onLeave()}
      data-testid="grid"
      style={{
        scrollPaddingTop: headHeight,
        ['--fits' as string]: Math.min(
          1,
          paper.width / width,
          paper.height / (headHeight + rowHeight * students.length),
        ),
      }}
      className="max-h-[calc(100vh-240px)] min-h-60 max-lg:[@media(min-height:560px)]:max-h-[calc(62vh-80px)] relative overflow-auto outline-none max-sm:hidden print:max-h-none print:overflow-visible print:[zoom:var(--fits)]"
    >
      <GradebookHead
        book={book}
        columns={columns}
        nameWidth={nameWidth}
        width={width}
        mayEdit={mayEdit}
        chosen={isHead ? at.column : undefined}
        others={others}
        onOpen={onOpen}
      />
      {students.map((s, i) => (
        <GradebookRow
          key={s.id}
          index={i}
          student={s}
          assignments={book.assignments}
          columns={columns}
          nameWidth={nameWidth}
          width={width}
          entries={entriesOf.get(s.id) ?? nothing}
          mark={markOf(s.id)}
          others={others}
          values={columnsOf(s.id)}
          entered={enteredBy(s.id)}
          column={i === row ? at.column : undefined}
          typed={i === row ? typed : undefined}
          touched={touched.size > 0 ? touched : undefined}
          isLinked={isLinked}
          noted={noted.size > 0 ? noted : undefined}
          range={range?.rows.includes(s.id) ? range.columns : undefined}
          onChoose={onChoose}
        />
      ))}
      {isTouch && mayEdit && (
        <TouchField
          fieldRef={field}
          label={student && assignment ? `${student.name}, ${assignment.name}` : 'No score is selected'}
          typed={typed}
          present={student && assignment ? writeEntry(entriesOf.get(student.id)?.get(assignment.id)) : ''}
          touch={touch}
          place={{
            top: headHeight + Math.max(0, row) * touchHeight,
            left: nameWidth + column * columnWidth,
            width: assignment && student ? columnWidth : 0,
            height: touchHeight,
          }}
        />
      )}
    </div>
  )
}
