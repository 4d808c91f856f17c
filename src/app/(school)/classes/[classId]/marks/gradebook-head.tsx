'use client'
import { memo } from 'react'
import { isCalculated } from '@/core/marks/columns/column'
import { shortDate } from '@/core/calendar/date-words'
import { columnWidth, gradeWidth, headHeight, markWidth, type Columns } from './use-columns'
import type { Book, ShownColumn } from './book'
import { categoryEdges } from './weights-bar'

const computed =
  'sticky z-[1] flex flex-none items-end justify-end border-l border-rule bg-shoal-light px-[8px] pb-1 text-right text-[12px] leading-[15px] font-bold'

const kindOf = (column: ShownColumn) => (isCalculated(column) ? 'calculated' : 'entered')

/** The assignments' names above their columns; selecting one opens it. */
export const GradebookHead = memo(function GradebookHead({
  book,
  columns,
  nameWidth,
  width,
  mayEdit,
  chosen,
  others,
  onOpen,
}: {
  book: Book
  others: readonly ShownColumn[]
  columns: Columns
  nameWidth: number
  width: number
  mayEdit: boolean
  /** The column of the cursor, while it is up here. */
  chosen: string | undefined
  /** Opens an assignment, or another column. */
  onOpen: (id: string) => void
}) {
  const count = book.assignments.length + others.length
  const places = new Map(book.categories.map((c, i) => [c.id, i]))
  return (
    <div
      role="row"
      aria-rowindex={1}
      style={{ width, height: headHeight }}
      className="sticky top-0 z-[2] flex border-b border-ink bg-paper"
    >
      <div
        role="columnheader"
        aria-colindex={1}
        style={{ width: nameWidth }}
        className="sticky left-0 z-[1] flex flex-none items-end bg-paper p-2 text-[12px] text-muted"
      >
        Student
      </div>
      <div className="flex-none" style={{ width: columns.before }} />
      {columns.drawn.map((c) => {
        const a = book.assignments[c]
        const column = others[c - book.assignments.length]
        if (column)
          return (
            <div
              key={column.id}
              role="columnheader"
              id={`cell-head-${c}`}
              aria-colindex={c + 2}
              aria-selected={chosen === column.id}
              style={{ width: columnWidth }}
              className={`flex flex-none items-end border-l border-rule bg-shoal-light text-[12px] ${chosen === column.id ? 'outline-[2.5px] -outline-offset-2 outline-magenta' : ''}`}
            >
              <button
                type="button"
                disabled={!mayEdit}
                tabIndex={-1}
                title={`${column.name}, ${kindOf(column)}`}
                onMouseDown={(e) => e.stopPropagation()}
                onClick={() => onOpen(column.id)}
                className="block w-full px-[6px] pt-2 pb-1 text-right leading-[15px] font-bold text-ink enabled:hover:underline"
              >
                <span className="line-clamp-3 break-words">{column.name}</span>
                <span className="block text-[11px] font-normal whitespace-nowrap text-muted">
                  {column.termId === null ? `year, ${kindOf(column)}` : kindOf(column)}
                </span>
              </button>
            </div>
          )
        if (!a) return null
        const place = places.get(a.categoryId) ?? 0
        const words = [
          a.name,
          book.categories[place]?.name,
          `due ${shortDate(a.dueOn)}`,
          a.assessmentId ? 'linked to its assessment' : undefined,
        ]
        return (
          <div
            key={a.id}
            role="columnheader"
            id={`cell-head-${c}`}
            aria-colindex={c + 2}
            aria-selected={chosen === a.id}
            style={{ width: columnWidth }}
            className={`relative flex flex-none items-end border-l border-rule text-[12px] ${chosen === a.id ? 'bg-panel outline-[2.5px] -outline-offset-2 outline-magenta' : ''}`}
          >
            <span
              aria-hidden
              className={`absolute inset-x-0 top-0 h-[4px] ${categoryEdges[place % categoryEdges.length]}`}
            />
            <button
              type="button"
              disabled={!mayEdit}
              tabIndex={-1}
              title={words.filter(Boolean).join(', ')}
              onMouseDown={(e) => e.stopPropagation()}
              onClick={() => onOpen(a.id)}
              className="block w-full px-[6px] pt-2 pb-1 text-right leading-[15px] text-ink enabled:hover:underline"
            >
              <span className={`break-words ${a.assessmentId ? 'line-clamp-2' : 'line-clamp-3'}`}>
                {a.name}
              </span>
              {a.assessmentId && <span className="block text-[11px] text-starboard">linked</span>}
              <span className="block text-[11px] whitespace-nowrap text-muted">out of {a.maxPoints}</span>
            </button>
          </div>
        )
      })}
      <div className="flex-none" style={{ width: columns.after }} />
      <div
        role="columnheader"
        id={`cell-head-${count}`}
        aria-colindex={count + 2}
        aria-selected={chosen === 'mark'}
        style={{ width: markWidth, right: gradeWidth }}
        className={`${computed} ${chosen === 'mark' ? 'outline-[2.5px] -outline-offset-2 outline-magenta' : ''}`}
      >
        Term
        <br />
        mark
      </div>
      <div
        role="columnheader"
        id={`cell-head-${count + 1}`}
        aria-colindex={count + 3}
        aria-selected={chosen === 'grade'}
        style={{ width: gradeWidth, right: 0 }}
        className={`${computed} ${chosen === 'grade' ? 'outline-[2.5px] -outline-offset-2 outline-magenta' : ''}`}
      >
        Grade
      </div>
    </div>
  )
})
