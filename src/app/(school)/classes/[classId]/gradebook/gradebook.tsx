'use client'
import { useCallback, useEffect, useMemo, useRef, useState } from 'react'
import { shortDate } from '@/core/calendar/date-words'
import type { Entries } from '@/core/marks/gradebook'
import { spokenName } from '@/core/people/names'
import { Button } from '@/ui/button'
import { PageHead } from '@/screen/page-head'
import { Told } from '@/screen/told'
import { useRested } from '@/screen/use-rested'
import { AssignmentDialog } from './assignment-dialog'
import { GradebookTable } from './gradebook-table'
import { MarksMargin } from './marks-margin'
import { ScoreConflictNotice } from './score-conflict-notice'
import { SettingsDialog } from './settings-dialog'
import { useGradebook, type BookAssignment, type GradebookAnswer } from './use-gradebook'
import { useGrid } from './use-grid'
import { rulesInWords, WeightsBar } from './weights-bar'

type Open =
  | { readonly kind: 'settings' }
  | { readonly kind: 'assignment'; readonly assignment: BookAssignment | undefined }

const nothing: Entries = new Map()

/** A class's gradebook for a term: scores entered as in a spreadsheet, term marks worked out as one types, every mark explained. */
export function GradebookPage({
  input,
  initial,
  studentId,
}: {
  input: { classId: string; date: string }
  initial: GradebookAnswer
  /** Whose row one begins in; the first without it. */
  studentId?: string
}) {
  const g = useGradebook(input, initial)
  const grid = useRef<HTMLDivElement>(null)
  const keys = useGrid(g, grid, studentId)
  const [open, setOpen] = useState<Open>()
  const { server, book } = g
  const { students } = server
  const assignments = book?.assignments ?? []
  const { student, assignment } = keys
  const entries = (student && g.entriesOf.get(student.id)) ?? nothing
  // The explanation follows when the keys rest.
  const { datesOf } = g
  const explained = useRested(
    useMemo(
      () => ({ book, student, assignment, entries, dates: datesOf(student?.id ?? '') }),
      [book, student, assignment, entries, datesOf],
    ),
  )
  const openAssignment = useCallback(
    (assignment: BookAssignment) => setOpen({ kind: 'assignment', assignment }),
    [],
  )
  /** After a dialog: back to the grid, to the assignment that was saved there. */
  async function close(saved: boolean, assignmentId?: string) {
    setOpen(undefined)
    grid.current?.focus()
    if (!saved) return
    await g.refresh()
    setArriving(assignmentId)
  }
  const [arriving, setArriving] = useState<string>()
  const arrivedAt = arriving ? assignments.findIndex((a) => a.id === arriving) : -1
  const { goTo } = keys
  useEffect(() => {
    if (arrivedAt < 0) return
    goTo(arrivedAt)
    setArriving(undefined)
  }, [arrivedAt, goTo])
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
              <ScoreConflictNotice
                key={c.editId}
                conflict={c}
                nameOf={nameOf}
                onResolve={(keep) => g.resolve(c, keep)}
              />
            ))}
            <div className="mb-1 flex flex-wrap items-center justify-between gap-3 no-print">
              <WeightsBar book={book} />
              {server.mayEdit && (
                <div className="flex gap-3">
                  <Button kind="plain" onClick={() => setOpen({ kind: 'settings' })}>
                    Weights and rules
                  </Button>
                  <Button kind="plain" onClick={() => setOpen({ kind: 'assignment', assignment: undefined })}>
                    New assignment
                  </Button>
                </div>
              )}
            </div>
            <p className="text-[12px] text-muted">{rulesInWords(book)}</p>
            <Told {...g.told} />
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
                at={keys.at}
                typed={keys.typed}
                touched={g.touched}
                mayEdit={server.mayEdit}
                onChoose={keys.onChoose}
                onKeyDown={keys.onKeyDown}
                onPaste={keys.onPaste}
                onCopy={keys.onCopy}
                onAssignment={openAssignment}
                onLeave={() => keys.keep()}
              />
            )}
          </>
        )}
        {open?.kind === 'settings' && (
          <SettingsDialog
            classId={input.classId}
            termId={server.term.id}
            book={book}
            onClose={(saved) => void close(saved)}
          />
        )}
        {open?.kind === 'assignment' && book && (
          <AssignmentDialog
            classId={input.classId}
            date={input.date}
            book={book}
            assignment={open.assignment}
            onClose={(saved, assignmentId) => void close(saved, assignmentId)}
          />
        )}
      </div>
      {explained.book && explained.student && (
        <aside aria-label="How the mark came about">
          <MarksMargin
            classId={input.classId}
            dates={explained.dates}
            book={explained.book}
            student={explained.student}
            entries={explained.entries}
            assignment={explained.assignment}
          />
        </aside>
      )}
    </div>
  )
}
