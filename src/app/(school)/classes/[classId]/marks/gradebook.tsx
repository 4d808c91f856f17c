'use client'
import { useCallback, useEffect, useMemo, useRef, useState } from 'react'
import { shortDate } from '@/core/calendar/date-words'
import type { ScoreEntries } from '@/core/marks/gradebook'
import { writeEntry } from '@/core/marks/typed-score'
import { isCalculated } from '@/core/marks/columns/column'
import { spokenName } from '@/core/people/names'
import { Button } from '@/ui/button'
import { later } from '@/screen/later'
import { classPages } from '@/screen/class-pages'
import { ConflictNotice, NoticesInView, NotSavedNotice } from '@/screen/conflict-notice'
import { useKeys, type KeyGroup } from '@/screen/keys'
import { Margin, useMargin } from '@/screen/margin'
import { Message, useMessage } from '@/screen/message'
import { PageHead } from '@/screen/page-head'
import { useSchool } from '@/screen/school-context'
import { contested } from '@/screen/use-recorded'
import { UndoableMessage, useUndoable } from '@/screen/undoable'
import { useNarrow } from '@/screen/use-media'
import { useRested } from '@/screen/use-rested'
import { ColumnMargin } from './column-margin'
import { FindStudent } from './find-student'
import { GradebookTable } from './gradebook-table'
import { MarksMargin } from './marks-margin'
import { MarksStateLine } from './marks-state'
import { cellOf, type BookAssignment, type GradebookAnswer, type ShownColumn } from './book'
import { useGradebook } from './use-gradebook'
import { TouchKeys } from './touch-field'
import { useGradebookKeys } from './use-gradebook-keys'
import { rulesInWords, WeightsBar } from './weights-bar'

const AssignmentDialog = later(() => import('./assignment-dialog').then((m) => m.AssignmentDialog))
const ColumnDialog = later(() => import('./column-dialog').then((m) => m.ColumnDialog))
const OrderAssignments = later(() => import('./order-assignments').then((m) => m.OrderAssignments))
const WhatIf = later(() => import('./what-if').then((m) => m.WhatIf))
const MarksByColumn = later(() => import('./marks-by-column').then((m) => m.MarksByColumn))
const SettingsDialog = later(() => import('./settings-dialog').then((m) => m.SettingsDialog))

type Open =
  | { readonly kind: 'settings' }
  | { readonly kind: 'order' }
  | { readonly kind: 'assignment'; readonly assignment: BookAssignment | undefined }
  | { readonly kind: 'column'; readonly column: ShownColumn | undefined }

const nothing: ScoreEntries = new Map()
const keyHelp: KeyGroup = {
  title: 'Marks',
  keys: [
    ['↑ ↓ ← →', 'Move between cells'],
    ['digits', 'Enter a score; Enter keeps it and goes down'],
    ['8 l', '8 points, late; l alone makes a score late, or in time again'],
    ['m, e, i', 'Missing, excused, incomplete'],
    ['Backspace', 'Empty the cell'],
    ['Ctrl D', 'Fill the empty cells below with this score'],
    ['Shift ↑ ↓ ← →', 'Choose several cells'],
    ['Ctrl D, Ctrl R', 'In several cells: fill down, fill right'],
    ['Ctrl Enter', 'In several cells: what is typed into each of them'],
    ['Ctrl C, Ctrl V', 'Copy, or paste from a spreadsheet, also with names in front'],
    ['Ctrl Z, Ctrl Y', 'Undo, redo'],
    ['Escape', 'Cancel what is being typed'],
    ['letters', 'In a column entered by hand: the beginning of a choice'],
    ['/', 'Find a student by name or number'],
    ['F2', 'Go to the note of this score; Escape goes back'],
    ['↑ to the head, Enter', 'Open the assignment or column'],
  ],
}

/** A class's gradebook for a term: scores entered as in a spreadsheet, term marks calculated during typing, every mark explained. */
export function GradebookPage({
  input,
  initial,
  studentId,
}: {
  input: { classId: string; date: string }
  initial: GradebookAnswer
  /** Whose row the cursor begins in; the first without it. */
  studentId?: string
}) {
  const g = useGradebook(input, initial)
  const grid = useRef<HTMLDivElement>(null)
  const messages = useMessage()
  const undoable = useUndoable(g.refresh)
  const margin = useMargin()
  const isNarrow = useNarrow()
  const [open, setOpen] = useState<Open>()
  const [isTrying, setTrying] = useState(false)
  const { server, book } = g
  const openColumn = useCallback(
    (id: string) => {
      const assignment = server.book?.assignments.find((a) => a.id === id)
      const column = server.columns.find((c) => c.id === id)
      setOpen(assignment ? { kind: 'assignment', assignment } : { kind: 'column', column })
    },
    [server],
  )
  const keys = useGradebookKeys(g, grid, messages, openColumn, studentId)
  const place = useSchool()
  const { students, columns } = server
  const assignments = book?.assignments ?? []
  const { student, assignment, column } = keys
  const entries = (student && g.entriesOf.get(student.id)) ?? nothing
  useKeys(keyHelp)
  useEffect(() => grid.current?.focus({ preventScroll: true }), [])
  // The explanation follows when the keys rest.
  const { datesOf } = g
  const explained = useRested(
    useMemo(
      () => ({ book, student, assignment, column, entries, dates: datesOf(student?.id ?? '') }),
      [book, student, assignment, column, entries, datesOf],
    ),
  )
  const shownValue =
    explained.column && explained.student
      ? g.columnsOf(explained.student.id).get(explained.column.id)
      : undefined
  /** After a dialog: to the assignment that was saved there. */
  async function close(
    saved: boolean,
    { assignmentId, done }: { assignmentId?: string; done?: { words: string; run: string | undefined } } = {},
  ) {
    setOpen(undefined)
    if (!saved) return
    await g.refresh()
    setArriving(assignmentId)
    if (done) undoable.done(done.words, done.run)
  }
  const [arriving, setArriving] = useState<string>()
  const arrived = arriving !== undefined && assignments.some((a) => a.id === arriving)
  const { goTo, at } = keys
  useEffect(() => {
    if (!arrived || !arriving) return
    goTo({ row: at.row, column: arriving })
    grid.current?.focus()
    setArriving(undefined)
  }, [arrived, arriving, goTo, at.row])
  const nameOf = (record: string) => {
    const cell = cellOf(record)
    return `${spokenName(students.find((s) => s.id === cell.studentId)?.name ?? '')}, ${assignments.find((a) => a.id === cell.assignmentId)?.name ?? ''}`
  }
  if (isTrying && book)
    return (
      <WhatIf
        classId={input.classId}
        g={g}
        onClose={() => {
          setTrying(false)
          // When the grid is there again.
          setTimeout(() => grid.current?.focus({ preventScroll: true }), 50)
        }}
      />
    )
  return (
    <div className="leaf print-wide">
      <div className="sheet">
        <PageHead
          title={server.class.name}
          page="Marks"
          pages={classPages(place, input.classId)}
          detail={`${server.term.name} term, ${students.length} students`}
          saves={server.mayEdit}
          act={
            book &&
            server.mayEdit && (
              <>
                <Button kind="plain" onClick={() => setOpen({ kind: 'settings' })}>
                  Weights and rules
                </Button>
                <Button kind="plain" onClick={() => setOpen({ kind: 'column', column: undefined })}>
                  Add column
                </Button>
                <Button onClick={() => setOpen({ kind: 'assignment', assignment: undefined })}>
                  Add assignment
                </Button>
              </>
            )
          }
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
            <NoticesInView>
              {[g.entered, g.notes].flatMap((other) =>
                other.rejectedEdits.map((rejected) => (
                  <NotSavedNotice
                    key={rejected.edit.id}
                    label={rejected.edit.label}
                    message={rejected.message}
                    onResolve={(keep) => other.resolve(rejected, keep)}
                  />
                )),
              )}
              {g.rejectedEdits.map((rejected) =>
                rejected.reason === 'conflict' ? (
                  <ScoreConflict key={rejected.edit.id} g={g} rejected={rejected} nameOf={nameOf} />
                ) : (
                  <NotSavedNotice
                    key={rejected.edit.id}
                    label={rejected.edit.label}
                    message={rejected.message}
                    onResolve={(keep) => g.resolve(rejected, keep)}
                  />
                ),
              )}
            </NoticesInView>
            <div className="mb-1 no-print">
              <WeightsBar book={book} />
            </div>
            <p className="text-[12px] text-muted">{rulesInWords(book)}</p>
            <MarksStateLine
              classId={input.classId}
              gradebook={server}
              refresh={g.refresh}
              onChanged={() => grid.current?.focus({ preventScroll: true })}
            >
              {!isNarrow && students.length > 0 && assignments.length > 0 && (
                <FindStudent
                  students={students}
                  onFound={(row) => {
                    keys.onPressing(false)
                    goTo({ row, column: at.column })
                  }}
                  onDone={() => grid.current?.focus({ preventScroll: true })}
                />
              )}
              {!isNarrow && students.length > 0 && assignments.length > 0 && (
                <Button kind="quiet" className="no-print" onClick={() => setTrying(true)}>
                  What if
                </Button>
              )}
              {server.mayEdit && assignments.length > 1 && (
                <Button kind="quiet" className="no-print" onClick={() => setOpen({ kind: 'order' })}>
                  Order of assignments
                </Button>
              )}
            </MarksStateLine>
            <Message {...messages.message} />
            {server.mayEdit && assignments.length > 0 && !isNarrow && (
              <TouchKeys
                onPress={keys.onPress}
                range={keys.range}
                typed={keys.typed}
                onFill={keys.onFill}
                reaches={keys.reaches}
                onReaching={keys.onReaching}
              />
            )}
            {students.length === 0 ? (
              <p>
                No students are in this class on {shortDate(input.date, true)}. The office enrols students
                into classes.
              </p>
            ) : assignments.length === 0 ? (
              <p>
                No assignments yet.{' '}
                {server.mayEdit &&
                  'Create the first with Add assignment, or add the result of an assessment from its findings.'}
              </p>
            ) : isNarrow ? (
              <MarksByColumn g={g} assignments={assignments} />
            ) : (
              <GradebookTable
                gridRef={grid}
                book={book}
                students={students}
                entriesOf={g.entriesOf}
                markOf={g.markOf}
                others={columns}
                columnsOf={g.columnsOf}
                enteredBy={g.entered.enteredBy}
                isLinked={g.isLinked}
                noted={g.notes.noted}
                at={keys.at}
                range={keys.range}
                onPressing={keys.onPressing}
                typed={keys.typed}
                touched={g.touched}
                mayEdit={server.mayEdit}
                onChoose={keys.onChoose}
                onKeyDown={keys.onKeyDown}
                touch={keys.touch}
                onPaste={keys.onPaste}
                onCopy={keys.onCopy}
                onOpen={openColumn}
                onLeave={keys.end}
              />
            )}
          </>
        )}
        <UndoableMessage of={undoable} />
        {open?.kind === 'settings' && (
          <SettingsDialog
            classId={input.classId}
            termId={server.term.id}
            book={book}
            onClose={(saved, done) => void close(saved, { done })}
          />
        )}
        {open?.kind === 'order' && book && (
          <OrderAssignments
            classId={input.classId}
            termId={server.term.id}
            book={book}
            onClose={(saved, done) => void close(saved, { done })}
          />
        )}
        {open?.kind === 'column' && book && (
          <ColumnDialog
            classId={input.classId}
            gradebook={server}
            column={open.column}
            onClose={(saved, done) => void close(saved, { done })}
          />
        )}
        {open?.kind === 'assignment' && book && (
          <AssignmentDialog
            classId={input.classId}
            termId={server.term.id}
            date={input.date}
            book={book}
            assignment={open.assignment}
            onClose={(saved, result) => void close(saved, result)}
          />
        )}
      </div>
      {explained.book && explained.student && (
        <Margin label="How the mark is worked out" opens="How it is worked out" of={margin}>
          {explained.column && isCalculated(explained.column) && shownValue && (
            <ColumnMargin
              gradebook={server}
              column={explained.column}
              value={shownValue}
              student={explained.student}
            />
          )}
          <MarksMargin
            classId={input.classId}
            dates={explained.dates}
            book={explained.book}
            student={explained.student}
            entries={explained.entries}
            assignment={explained.assignment}
            notes={g.notes}
            mayEdit={server.mayEdit}
          />
        </Margin>
      )}
    </div>
  )
}

/** Scores that someone else changed in the meantime: whose is kept. */
function ScoreConflict({
  g,
  rejected,
  nameOf,
}: {
  g: ReturnType<typeof useGradebook>
  rejected: ReturnType<typeof useGradebook>['rejectedEdits'][number]
  nameOf: (record: string) => string
}) {
  const cells = contested(g.recorded, rejected, null)
  const [only] = cells.length === 1 ? cells : []
  const words = (entry: (typeof cells)[number]['mine']) => writeEntry(entry ?? undefined) || 'empty'
  return (
    <ConflictNotice
      theirs={only && words(only.theirs)}
      mine={only && words(only.mine)}
      onResolve={(keep) => g.resolve(rejected, keep)}
    >
      {cells.map((c) => (
        <span key={c.record} className="block">
          <strong>{nameOf(c.record)}</strong>: {c.by} entered <strong>{words(c.theirs)}</strong> while you
          were entering <strong>{words(c.mine)}</strong>. {words(c.theirs)} has been kept.
        </span>
      ))}
    </ConflictNotice>
  )
}
