'use client'
import { memo, type ClipboardEvent, type KeyboardEvent, type RefObject } from 'react'
import { shortDate } from '@/core/calendar/date-words'
import type { Entries } from '@/core/marks/gradebook'
import type { TermMark } from '@/core/marks/term-mark'
import { writeEntry } from '@/core/marks/typed-score'
import type { Book, BookAssignment, GradebookAnswer } from './use-gradebook'
import { categoryEdges } from './weights-bar'

export interface At {
  readonly row: number
  readonly column: number
}
type Student = GradebookAnswer['students'][number]

interface RowProps {
  readonly index: number
  readonly student: Student
  readonly assignments: readonly BookAssignment[]
  readonly entries: Entries
  readonly mark: TermMark | undefined
  /** The chosen column, when this is the chosen row. */
  readonly column: number | undefined
  readonly typed: string | undefined
  readonly touched: ReadonlySet<string> | undefined
  readonly isLinked: (assignmentId: string, studentId: string) => boolean
  readonly onChoose: (row: number, column: number) => void
}

function droppedIn(mark: TermMark | undefined): ReadonlySet<string> {
  return new Set(
    mark?.categories.flatMap((c) =>
      c.scores.filter((s) => s.treatment === 'dropped').map((s) => s.assignment.id),
    ),
  )
}

const cellBase =
  'h-[29px] border-b border-l border-rule px-[9px] text-right whitespace-nowrap cursor-cell pointer-coarse:h-11'
const focus = 'outline-[2.5px] -outline-offset-2 outline-magenta bg-panel'

const Row = memo(function Row({
  index,
  student,
  assignments,
  entries,
  mark,
  column,
  typed,
  touched,
  isLinked,
  onChoose,
}: RowProps) {
  const dropped = droppedIn(mark)
  return (
    <tr role="row" aria-rowindex={index + 2} className={column !== undefined ? 'bg-shoal-light' : ''}>
      <th
        role="rowheader"
        scope="row"
        className={`sticky left-0 z-[1] border-b border-rule pr-3 pl-2 text-left align-middle text-[14px] whitespace-nowrap text-ink ${column !== undefined ? 'bg-shoal-light' : 'bg-paper'}`}
        onClick={() => onChoose(index, assignments.length)}
      >
        {student.name}
      </th>
      {assignments.map((a, c) => {
        const entry = entries.get(a.id)
        const text = writeEntry(entry)
        const chosen = column === c
        const before = a.dueOn < student.since && !entry
        const wasTouched = touched?.has(`${a.id} ${student.id}`)
        return (
          <td
            key={a.id}
            role="gridcell"
            id={`cell-${index}-${c}`}
            data-at={`${index}:${c}`}
            aria-colindex={c + 2}
            aria-selected={chosen}
            aria-label={`${student.name}, ${a.name}: ${chosen && typed !== undefined ? typed : text || (before ? 'not a member then' : 'empty')}${dropped.has(a.id) ? ', dropped' : ''}${isLinked(a.id, student.id) ? ', from the assessment' : ''}`}
            onMouseDown={() => onChoose(index, c)}
            className={`${cellBase} ${chosen ? focus : ''} ${entry?.kind === 'missing' ? 'hatch font-bold text-port' : entry?.kind === 'excused' ? 'text-muted italic' : ''} ${dropped.has(a.id) ? 'text-muted line-through' : ''} ${wasTouched ? 'touched' : ''} text-[15px]`}
          >
            {chosen && typed !== undefined ? (
              <span className="border-r-2 border-magenta no-underline">{typed}</span>
            ) : (
              text || (before ? <span className="text-muted">·</span> : '')
            )}
          </td>
        )
      })}
      {[mark?.mark, mark?.grade].map((text, i) => {
        const c = assignments.length + i
        return (
          <td
            key={c}
            role="gridcell"
            id={`cell-${index}-${c}`}
            data-at={`${index}:${c}`}
            aria-colindex={c + 2}
            aria-selected={column === c}
            aria-label={`${student.name}, ${i === 0 ? 'term mark' : 'grade'}: ${text ?? 'none yet'}`}
            onMouseDown={() => onChoose(index, c)}
            className={`${cellBase} sticky z-[1] bg-shoal-light text-[15px] font-bold ${i === 0 ? 'right-[64px] w-[60px] min-w-[60px]' : 'right-0 w-[64px] min-w-[64px]'} ${column === c ? focus : ''}`}
          >
            {text ?? '–'}
          </td>
        )
      })}
    </tr>
  )
})

interface Props {
  readonly gridRef: RefObject<HTMLDivElement | null>
  readonly book: Book
  readonly students: readonly Student[]
  readonly entriesOf: ReadonlyMap<string, Entries>
  readonly markOf: (studentId: string) => TermMark | undefined
  readonly isLinked: RowProps['isLinked']
  readonly at: At
  readonly typed: string | undefined
  readonly touched: ReadonlySet<string>
  readonly mayEdit: boolean
  readonly onChoose: RowProps['onChoose']
  readonly onKeyDown: (event: KeyboardEvent) => void
  readonly onPaste: (event: ClipboardEvent) => void
  readonly onCopy: (event: ClipboardEvent) => void
  readonly onAssignment: (assignment: BookAssignment) => void
  readonly onLeave: () => void
}

const nothing: Entries = new Map()

/** Students by assignments, as a grid that is driven from one focused element. */
export function GradebookTable({
  gridRef,
  book,
  students,
  entriesOf,
  markOf,
  isLinked,
  at,
  typed,
  touched,
  mayEdit,
  onChoose,
  onKeyDown,
  onPaste,
  onCopy,
  onAssignment,
  onLeave,
}: Props) {
  const edge = new Map(book.categories.map((c, i) => [c.id, categoryEdges[i % categoryEdges.length]]))
  const nameOf = new Map(book.categories.map((c) => [c.id, c.name]))
  return (
    <div
      ref={gridRef}
      role="grid"
      tabIndex={0}
      aria-label="Scores"
      aria-rowcount={students.length + 1}
      aria-colcount={book.assignments.length + 3}
      aria-activedescendant={`cell-${at.row}-${at.column}`}
      onKeyDown={onKeyDown}
      onPaste={onPaste}
      onCopy={onCopy}
      onBlur={(e) => e.target === e.currentTarget && onLeave()}
      data-testid="grid"
      className="max-h-[calc(100vh-215px)] min-h-60 overflow-auto outline-none"
    >
      <table role="presentation" className="border-separate border-spacing-0">
        <thead role="rowgroup">
          <tr role="row" aria-rowindex={1}>
            <th
              role="columnheader"
              scope="col"
              className="sticky top-0 left-0 z-[3] border-b border-ink bg-paper p-2 pt-0"
            >
              Student
            </th>
            {book.assignments.map((a) => (
              <th
                key={a.id}
                role="columnheader"
                scope="col"
                className="sticky top-0 z-[2] h-[74px] max-w-[86px] min-w-[62px] border-b border-l border-b-ink border-l-rule bg-paper p-0 text-right align-bottom"
              >
                <span aria-hidden className={`absolute inset-x-0 top-0 h-[4px] ${edge.get(a.categoryId)}`} />
                <button
                  type="button"
                  disabled={!mayEdit}
                  tabIndex={-1}
                  title={`${a.name}, ${nameOf.get(a.categoryId)}, due ${shortDate(a.dueOn)}${a.assessmentId ? ', linked to its assessment' : ''}`}
                  onMouseDown={(e) => {
                    e.stopPropagation()
                  }}
                  onClick={() => onAssignment(a)}
                  className="block w-full px-2 pt-2 pb-1 text-right leading-[15px] text-ink enabled:hover:underline"
                >
                  {a.name}
                  {a.assessmentId && <span className="block text-[11px] text-starboard">linked</span>}
                  <span className="block text-[11px] whitespace-nowrap text-muted">out of {a.maxPoints}</span>
                </button>
              </th>
            ))}
            <th
              role="columnheader"
              scope="col"
              className="sticky top-0 right-[64px] z-[3] border-b border-l border-b-ink border-l-rule bg-shoal-light px-2 pb-1 text-right font-bold text-ink"
            >
              Term
              <br />
              mark
            </th>
            <th
              role="columnheader"
              scope="col"
              className="sticky top-0 right-0 z-[3] border-b border-l border-b-ink border-l-rule bg-shoal-light px-2 pb-1 text-right font-bold text-ink"
            >
              Grade
            </th>
          </tr>
        </thead>
        <tbody role="rowgroup">
          {students.map((s, i) => (
            <Row
              key={s.id}
              index={i}
              student={s}
              assignments={book.assignments}
              entries={entriesOf.get(s.id) ?? nothing}
              mark={markOf(s.id)}
              column={i === at.row ? at.column : undefined}
              typed={i === at.row ? typed : undefined}
              touched={touched.size > 0 ? touched : undefined}
              isLinked={isLinked}
              onChoose={onChoose}
            />
          ))}
        </tbody>
      </table>
    </div>
  )
}
