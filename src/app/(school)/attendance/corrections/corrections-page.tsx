'use client'
import { useState } from 'react'
import { matchRank } from '@/core/people/names'
import { numberWords } from '@/core/people/student-number'
import type { QueryOutput } from '@/server/registry'
import { Button } from '@/ui/button'
import { DataTable } from '@/ui/table/data-table'
import type { Column } from '@/ui/table/column'
import { ChosenBar } from '@/screen/chosen-bar'
import { later } from '@/screen/later'
import { homeroomColumn, studentColumn } from '@/screen/student-columns'
import { UndoableMessage, useUndoable } from '@/screen/undoable'
import { useLive } from '@/screen/use-live'
import { useTableAddress } from '@/screen/use-table-address'
import { AttendanceHead } from '@/app/(school)/attendance/attendance-head'
import { KeptRegisters } from './kept-registers'
import type { Student, Correctable } from './corrections'

const CorrectDialog = later(() => import('./correct-dialog').then((m) => m.CorrectDialog))

const markColumn = (session: 'morning' | 'afternoon', title: string): Column<Student> => ({
  id: session,
  title,
  value: (s) => s[session] ?? '',
  choices: (s) => [s[session] ?? 'no mark'],
  cell: (s) => s[session] ?? <span className="text-muted">no mark</span>,
})

const columns: readonly Column<Student>[] = [
  studentColumn((s) => s, { title: 'Name' }),
  {
    id: 'group',
    title: 'Year group',
    value: (s) => s.yearGroup,
    choices: (s) => [s.yearGroup],
    cell: (s) => s.yearGroup,
  },
  homeroomColumn(),
  {
    id: 'transport',
    title: 'Transport',
    value: (s) => s.transport,
    choices: (s) => (s.transport ? [s.transport] : []),
    cell: (s) => s.transport,
  },
  {
    id: 'groups',
    title: 'Groups',
    value: (s) => s.groups.join('; '),
    choices: (s) => s.groups,
    cell: (s) => s.groups.join('; '),
  },
  markColumn('morning', 'Morning'),
  markColumn('afternoon', 'Afternoon'),
]

/** Marks of many students or many sessions are entered or changed in one act, after a preview. */
export function CorrectionsPage({
  initial,
  kept,
  date,
}: {
  initial: Correctable
  kept: QueryOutput<'attendance.keptMarks'>
  date: string
}) {
  const [{ students, codes }, refresh] = useLive('attendance.correctable', { date }, initial)
  const undoable = useUndoable(refresh)
  const view = useTableAddress()
  const [keys, setKeys] = useState<ReadonlySet<string>>(new Set())
  const [open, setOpen] = useState(false)
  const chosen = students.filter((s) => keys.has(s.id))
  const howMany = chosen.length === 1 ? '1 student' : `${chosen.length} students`
  return (
    <div className="sheet">
      <AttendanceHead
        page="Corrections"
        act={
          <Button disabled={chosen.length === 0} onClick={() => setOpen(true)}>
            Enter marks
          </Button>
        }
      />
      <p className="mb-3 text-muted">
        Narrow the list, choose the students, then enter their marks for one or many sessions.
      </p>
      {chosen.length > 0 ? (
        <ChosenBar words={howMany} onNone={() => setKeys(new Set())} />
      ) : (
        <UndoableMessage of={undoable} />
      )}
      <DataTable
        label="Students in homerooms"
        ticked={{ keys, onChange: setKeys, nameOf: (s) => `Choose ${s.name}` }}
        rows={students}
        columns={columns}
        rowKey={(s) => s.id}
        view={view}
        filter={{
          label: 'Name, number, homeroom or transport',
          rank: (s, text) =>
            matchRank(
              `${s.name} ${s.number} ${numberWords(s.number)} ${s.homeroom} ${s.yearGroup} ${s.transport ?? ''}`,
              text,
            ),
          autoFocus: true,
          none: 'No matches. Check the spelling, or choose another date on the year line.',
        }}
        empty={<p>No students are in a homeroom on this date.</p>}
      />
      <KeptRegisters initial={kept} />
      {open && (
        <CorrectDialog
          students={chosen}
          codes={codes}
          date={date}
          onClose={() => setOpen(false)}
          onDone={(words, run) => {
            setOpen(false)
            setKeys(new Set())
            undoable.done(words, run)
            void refresh()
          }}
        />
      )}
    </div>
  )
}
