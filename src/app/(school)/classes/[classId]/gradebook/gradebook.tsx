'use client'
import {
  useCallback,
  useEffect,
  useLayoutEffect,
  useRef,
  useState,
  type ClipboardEvent,
  type KeyboardEvent,
} from 'react'
import { shortDate } from '@/core/calendar/date-words'
import { readPastedColumn } from '@/core/marks/pasted-column'
import { readTypedScore, writeEntry } from '@/core/marks/typed-score'
import { spokenName } from '@/core/people/names'
import { Button } from '@/ui/button'
import { PageHead } from '../../../../shared/page-head'
import { AssignmentDialog } from './assignment-dialog'
import { GradebookTable, type At } from './gradebook-table'
import { MarksMargin } from './marks-margin'
import { SettingsDialog } from './settings-dialog'
import { useGradebook, type BookAssignment, type GradebookAnswer } from './use-gradebook'
import { WeightsBar } from './weights-bar'

type Open =
  | { readonly kind: 'settings' }
  | { readonly kind: 'assignment'; readonly assignment: BookAssignment | undefined }

/** A class's gradebook for a term: scores entered as in a spreadsheet, term marks worked out as one types, every mark explained. */
export function GradebookPage({
  input,
  initial,
}: {
  input: { classId: string; date: string }
  initial: GradebookAnswer
}) {
  const g = useGradebook(input, initial)
  const { server, book } = g
  const [at, setAt] = useState<At>({ row: 0, column: 0 })
  const [typed, setTyped] = useState<string>()
  const [open, setOpen] = useState<Open>()
  const grid = useRef<HTMLDivElement>(null)
  const { students } = server
  const assignments = book?.assignments ?? []
  const student = students[at.row]
  const assignment = assignments[at.column]

  useLayoutEffect(() => {
    const cell = grid.current?.querySelector<HTMLElement>(`[data-at="${at.row}:${at.column}"]`)
    cell?.scrollIntoView({ block: 'nearest', inline: 'nearest' })
  }, [at])
  useEffect(() => grid.current?.focus({ preventScroll: true }), [])

  function move(row: number, column: number) {
    setTyped(undefined)
    setAt({
      row: Math.min(students.length - 1, Math.max(0, row)),
      column: Math.min(assignments.length + 1, Math.max(0, column)),
    })
  }
  const say = (text: string, wrong = false) => g.setTold({ text, wrong })

  /** Keeps what is being typed; answers false when it cannot be a score, which then stays to be mended. */
  function keep(text: string | undefined = typed): boolean {
    if (text === undefined || !assignment || !student) return true
    const read = readTypedScore(text, assignment.maxPoints)
    if (!read.ok) {
      say(`${spokenName(student.name)}, ${assignment.name}: ${read.problem}`, true)
      return false
    }
    setTyped(undefined)
    say('')
    g.change(
      [{ assignmentId: assignment.id, studentId: student.id, entry: read.entry }],
      `${student.name}, ${assignment.name}: ${writeEntry(read.entry) || 'empty'}`,
    )
    return true
  }
  const editable =
    assignment !== undefined &&
    student !== undefined &&
    server.mayEdit &&
    !g.isLinked(assignment.id, student.id)

  function fillDown() {
    if (!editable) return
    if (!keep()) return
    const entry = typed === undefined ? g.entryAt(assignment.id, student.id) : undefined
    const from =
      typed === undefined
        ? entry
        : readTypedScore(typed, assignment.maxPoints).ok
          ? (readTypedScore(typed, assignment.maxPoints) as { entry: typeof entry }).entry
          : undefined
    if (!from) return say('There is nothing in this cell to fill down.', true)
    const below = students.slice(at.row + 1).filter((s) => g.entryAt(assignment.id, s.id) === undefined)
    const n = g.change(
      below.map((s) => ({ assignmentId: assignment.id, studentId: s.id, entry: from })),
      `${assignment.name}, ${below.length} cells filled down`,
    )
    say(
      n === 0
        ? 'No empty cells below.'
        : `${writeEntry(from)} filled into ${n} empty cells below. Ctrl Z takes it back.`,
    )
  }

  function onKeyDown(event: KeyboardEvent) {
    if (event.target !== grid.current) return
    const command = event.ctrlKey || event.metaKey
    const key = event.key.length === 1 ? event.key.toLowerCase() : event.key
    if (command && key === 'z') {
      event.preventDefault()
      const back = g.undo()
      if (back)
        move(
          students.findIndex((s) => s.id === back.studentId),
          assignments.findIndex((a) => a.id === back.assignmentId),
        )
      return
    }
    if (command && key === 'd') {
      event.preventDefault()
      return fillDown()
    }
    if (command || event.altKey) return
    const steps: Readonly<Record<string, readonly [number, number]>> = {
      ArrowDown: [1, 0],
      ArrowUp: [-1, 0],
      ArrowLeft: [0, -1],
      ArrowRight: [0, 1],
      Enter: [1, 0],
    }
    const step = steps[event.key]
    if (step) {
      event.preventDefault()
      if (keep()) move(at.row + step[0], at.column + step[1])
    } else if (event.key === 'Home' || event.key === 'End') {
      event.preventDefault()
      if (keep()) move(at.row, event.key === 'Home' ? 0 : assignments.length)
    } else if (event.key === 'Tab') {
      if (!keep()) event.preventDefault()
    } else if (event.key === 'Escape') {
      setTyped(undefined)
      say('')
    } else if (event.key === 'Backspace' || event.key === 'Delete') {
      event.preventDefault()
      if (typed) setTyped(typed.slice(0, -1))
      else if (editable) keep('')
    } else if (/^[\d.,a-z-]$/i.test(event.key)) {
      event.preventDefault()
      if (!editable)
        return say(
          assignment
            ? server.mayEdit
              ? `${assignment.name} takes its scores from the assessment. Change the answer there and the score follows.`
              : 'Only the class’s teachers change scores.'
            : 'Marks are worked out; choose a score to change.',
          true,
        )
      setTyped((typed ?? '') + event.key)
    }
  }
  function onPaste(event: ClipboardEvent) {
    event.preventDefault()
    if (!editable) return
    const rows = students.slice(at.row)
    const read = readPastedColumn(
      event.clipboardData.getData('text/plain'),
      rows.map((s) => spokenName(s.name)),
      assignment.maxPoints,
    )
    if (!read.ok) return say(read.problems.join(' '), true)
    const n = g.change(
      rows.map((s, i) => ({ assignmentId: assignment.id, studentId: s.id, entry: read.entries[i] })),
      `${assignment.name}, ${rows.length} cells pasted`,
    )
    say(`${n} cells pasted into ${assignment.name}. Ctrl Z takes it back.`)
  }
  function onCopy(event: ClipboardEvent) {
    event.preventDefault()
    const column = students.map((s) => {
      const mark = g.markOf(s.id)
      return assignment
        ? writeEntry(g.entryAt(assignment.id, s.id))
        : ((at.column === assignments.length ? mark?.mark : mark?.grade) ?? '')
    })
    event.clipboardData.setData('text/plain', column.join('\n'))
    say(`The column was copied, ${column.length} cells.`)
  }
  const latest = useRef({ keep, move })
  useLayoutEffect(() => {
    latest.current = { keep, move }
  })
  const onChoose = useCallback((row: number, column: number) => {
    if (latest.current.keep()) latest.current.move(row, column)
  }, [])

  const nameOf = (cell: { assignmentId: string; studentId: string }) =>
    `${spokenName(students.find((s) => s.id === cell.studentId)?.name ?? '')}, ${assignments.find((a) => a.id === cell.assignmentId)?.name ?? ''}`
  return (
    <div className="leaf">
      <div className="sheet">
        <PageHead
          title={`${server.class.name}, marks`}
          detail={`${server.term.name} term, ${students.length} students`}
          saves={server.mayEdit}
        />
        {!book ? (
          <div className="grid max-w-xl justify-items-start gap-3">
            <p>This class has no gradebook for the {server.term.name} term yet.</p>
            {server.mayEdit && (
              <Button onClick={() => setOpen({ kind: 'settings' })}>Set up categories and weights</Button>
            )}
          </div>
        ) : (
          <>
            {g.conflicts.map((c) => (
              <div
                key={c.refused.edit.id}
                role="alert"
                className="hint mb-3 flex flex-wrap items-center gap-3"
              >
                <span>
                  {c.mine.length === 1 && c.mine[0] ? (
                    <>
                      <strong>{nameOf(c.mine[0])}</strong>: you typed{' '}
                      <strong>{writeEntry(c.mine[0].entry) || 'nothing'}</strong>.{' '}
                    </>
                  ) : null}
                  {c.refused.message} What stands now is{' '}
                  {(c.refused.current as readonly { points: string | null; standing: string | null }[])
                    .map((x) => x.standing ?? (x.points === null ? 'empty' : String(Number(x.points))))
                    .join(', ')}
                  .
                </span>
                <Button kind="plain" onClick={() => g.resolve(c, 'theirs')}>
                  Keep what stands
                </Button>
                <Button kind="plain" onClick={() => g.resolve(c, 'mine')}>
                  Put mine
                </Button>
              </div>
            ))}
            <div className="mb-2 flex flex-wrap items-center gap-3 no-print">
              <WeightsBar book={book} />
              {server.mayEdit && (
                <>
                  <Button kind="plain" onClick={() => setOpen({ kind: 'settings' })}>
                    Weights and rules
                  </Button>
                  <Button kind="plain" onClick={() => setOpen({ kind: 'assignment', assignment: undefined })}>
                    New assignment
                  </Button>
                </>
              )}
            </div>
            <p
              role={g.told.wrong ? 'alert' : 'status'}
              className={`min-h-5 text-[13px] ${g.told.wrong ? 'text-port' : 'text-muted'}`}
              data-testid="told"
            >
              {g.told.wrong && <span aria-hidden>▲ </span>}
              {g.told.text}
            </p>
            {students.length === 0 ? (
              <p>
                Nobody is in this class on {shortDate(input.date, true)}. The office enrols students into
                classes.
              </p>
            ) : assignments.length === 0 ? (
              <p>
                No assignments yet.{' '}
                {server.mayEdit &&
                  'Make the first one with New assignment, or put an assessment’s result here from its findings.'}
              </p>
            ) : (
              <GradebookTable
                gridRef={grid}
                book={book}
                students={students}
                entriesOf={g.entriesOf}
                markOf={g.markOf}
                isLinked={g.isLinked}
                at={at}
                typed={typed}
                touched={g.touched}
                mayEdit={server.mayEdit}
                onChoose={onChoose}
                onKeyDown={onKeyDown}
                onPaste={onPaste}
                onCopy={onCopy}
                onAssignment={(assignment) => setOpen({ kind: 'assignment', assignment })}
                onLeave={() => keep()}
              />
            )}
          </>
        )}
        {open?.kind === 'settings' && (
          <SettingsDialog
            classId={input.classId}
            termId={server.term.id}
            book={book}
            onClose={(saved) => {
              setOpen(undefined)
              if (saved) void g.refresh()
              grid.current?.focus()
            }}
          />
        )}
        {open?.kind === 'assignment' && book && (
          <AssignmentDialog
            classId={input.classId}
            date={input.date}
            book={book}
            assignment={open.assignment}
            onClose={(saved) => {
              setOpen(undefined)
              if (saved) void g.refresh()
              grid.current?.focus()
            }}
          />
        )}
      </div>
      {book && student && (
        <aside aria-label="How the mark came about">
          <MarksMargin
            classId={input.classId}
            date={input.date}
            book={book}
            student={student}
            entries={g.entriesOf.get(student.id) ?? new Map()}
            assignment={assignment}
          />
        </aside>
      )}
    </div>
  )
}
