'use client'
import { useState } from 'react'
import { shortDate } from '@/core/calendar/date-words'
import { matchRank } from '@/core/people/names'
import { Button } from '@/ui/button'
import { DataTable } from '@/ui/table/data-table'
import type { Column } from '@/ui/table/column'
import { onlyEdit } from '@/ui/table/edit-column'
import { later } from '@/screen/later'
import { homeroomColumn, studentColumn } from '@/screen/student-columns'
import { UndoableMessage, useUndoable } from '@/screen/undoable'
import { useLive } from '@/screen/use-live'
import { useTableAddress } from '@/screen/use-table-address'
import type { Reported } from './planned'
import { AttendanceHead } from '@/app/(school)/attendance/attendance-head'
import type { Absence, Planned } from './planned'

const DeclineDialog = later(() => import('./decline-dialog').then((m) => m.DeclineDialog))
const PlannedDialog = later(() => import('./planned-dialog').then((m) => m.PlannedDialog))

/** What of its days an absence covers. */
const plannedWords = ({ sessions, firstPeriod, lastPeriod }: Absence) =>
  sessions !== 'lessons'
    ? sessions
    : firstPeriod === lastPeriod
      ? `period ${firstPeriod}`
      : `periods ${firstPeriod} to ${lastPeriod}`

const columns: readonly Column<Absence>[] = [
  studentColumn((a) => ({ id: a.studentId, name: a.name })),
  homeroomColumn(),
  {
    id: 'from',
    title: 'First day',
    className: 'whitespace-nowrap',
    value: (a) => a.firstDay,
    cell: (a) => shortDate(a.firstDay),
  },
  {
    id: 'to',
    title: 'Last day',
    className: 'whitespace-nowrap',
    value: (a) => a.lastDay,
    cell: (a) => shortDate(a.lastDay),
  },
  {
    id: 'sessions',
    title: 'Sessions',
    className: 'whitespace-nowrap',
    value: (a) => plannedWords(a),
    cell: (a) => plannedWords(a),
  },
  {
    id: 'code',
    title: 'Code',
    value: (a) => a.code,
    choices: (a) => [a.code],
    cell: (a) => `${a.code} ${a.label}`,
  },
  { id: 'note', title: 'Note', value: (a) => a.note, cell: (a) => a.note },
  { id: 'by', title: 'Entered by', value: (a) => a.enteredBy, cell: (a) => a.enteredBy },
]

const reportedColumns = (
  onConfirm: (id: string) => void,
  onDecline: (reported: Reported) => void,
): readonly Column<Reported>[] => [
  { id: 'student', title: 'Student', heading: true, cell: (r) => r.student },
  { id: 'homeroom', title: 'Homeroom', cell: (r) => r.homeroom },
  {
    id: 'days',
    title: 'Days',
    cell: (r) =>
      `${shortDate(r.firstDay)}${r.lastDay === r.firstDay ? '' : ` to ${shortDate(r.lastDay)}`}, ${r.sessions}`,
  },
  { id: 'reason', title: 'Reason', cell: (r) => r.reason },
  { id: 'by', title: 'Reported by', cell: (r) => r.guardian },
  {
    id: 'acts',
    title: 'Answer',
    quiet: true,
    className: 'whitespace-nowrap text-right',
    cell: (r) => (
      <span className="flex justify-end gap-3">
        <Button kind="plain" onClick={() => onConfirm(r.id)}>
          Confirm<span className="sr-only"> the absence of {r.student}</span>
        </Button>
        <Button kind="quiet" onClick={() => onDecline(r)}>
          Decline<span className="sr-only"> the absence of {r.student}</span>
        </Button>
      </span>
    ),
  },
]

/** Absences that are known beforehand, from the chosen date on. Registers show them before they are taken. */
export function PlannedPage({ initial, date }: { initial: Planned; date: string }) {
  const [{ absences, reported, codes }, refresh] = useLive('attendance.planned', { date }, initial)
  const undoable = useUndoable(refresh)
  const view = useTableAddress()
  const [open, setOpen] = useState<'new' | string>()
  const [declining, setDeclining] = useState<Reported>()
  const edited = absences.find((a) => a.id === open)
  const report = reported.find((r) => r.id === open)
  const saved = (words: string, run: string | undefined) => {
    setOpen(undefined)
    setDeclining(undefined)
    undoable.done(words, run)
    void refresh()
  }
  return (
    <div className="sheet print-wide">
      <AttendanceHead
        page="Planned absence"
        act={<Button onClick={() => setOpen('new')}>Add a planned absence</Button>}
      />
      <UndoableMessage of={undoable} />
      {reported.length > 0 && (
        <section className="mb-8" aria-labelledby="reported">
          <h2 id="reported" className="mb-2">
            Reported by guardians
          </h2>
          <DataTable
            label="Reported by guardians"
            rows={reported}
            columns={reportedColumns(setOpen, setDeclining)}
            rowKey={(r) => r.id}
            empty={null}
          />
        </section>
      )}
      <DataTable
        label="Planned absences"
        rows={absences}
        columns={[
          ...columns,
          onlyEdit<Absence>(
            (a) => `the absence of ${a.name}`,
            (a) => setOpen(a.id),
          ),
        ]}
        rowKey={(a) => a.id}
        view={view}
        download={`planned absence from ${date}`}
        filter={{
          label: 'Name or homeroom',
          rank: (a, text) => matchRank(`${a.name} ${a.homeroom ?? ''}`, text),
          none: 'No matches.',
        }}
        empty={
          <p>
            No absences are planned from this date on. Leave, appointments and illness that is reported ahead
            stand here; registers show them before they are taken.
          </p>
        }
      />
      {open !== undefined && (open === 'new' || edited || report) && (
        <PlannedDialog
          key={open}
          edited={edited}
          reported={report}
          codes={codes}
          date={date}
          onClose={() => setOpen(undefined)}
          onSaved={saved}
        />
      )}
      {declining && (
        <DeclineDialog
          key={declining.id}
          reported={declining}
          onClose={() => setDeclining(undefined)}
          onSaved={saved}
        />
      )}
    </div>
  )
}
