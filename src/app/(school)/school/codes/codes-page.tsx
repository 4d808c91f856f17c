'use client'
import { useState } from 'react'
import { codeColumns } from '@/core/attendance/codes-csv'
import { shortDate } from '@/core/calendar/date-words'
import type { QueryOutput } from '@/server/registry'
import { Button } from '@/ui/button'
import { DataTable } from '@/ui/table/data-table'
import { useTableView } from '@/ui/table/use-table-view'
import type { Column } from '@/ui/table/column'
import { useClock } from '@/screen/clock'
import { later } from '@/screen/later'
import { PageHead } from '@/screen/page-head'
import { UndoableMessage, useUndoable } from '@/screen/undoable'
import { useLive } from '@/screen/use-live'
import type { CodeSet } from './codes'

const CodeSetForm = later(() => import('./code-set-form').then((m) => m.CodeSetForm))

export type Code = CodeSet['codes'][number]

const columns: readonly Column<Code>[] = [
  ...codeColumns.map(({ id, title, textOf }): Column<Code> => ({
    id,
    title,
    heading: id === 'code',
    value: textOf,
    cell: textOf,
  })),
  {
    id: 'marks',
    title: 'Marks',
    align: 'right',
    value: (c) => c.marks,
    cell: (c) => c.marks,
  },
]

const daysOf = ({ firstDay, lastDay }: CodeSet) =>
  `from ${shortDate(firstDay, true)}${lastDay ? ` to ${shortDate(lastDay, true)}` : ''}`

function SetTable({ set, onEdit }: { set: CodeSet; onEdit?: () => void }) {
  const view = useTableView()
  return (
    <section className="mb-8">
      <h2 className="mb-2">
        {set.name} <span className="font-normal text-muted">{daysOf(set)}</span>
      </h2>
      <DataTable
        label={set.name}
        rows={set.codes}
        rowKey={(c) => c.id}
        view={view}
        download={`attendance codes ${set.firstDay}`}
        acts={
          onEdit && (
            <Button kind="plain" onClick={onEdit}>
              Edit<span className="sr-only"> {set.name}</span>
            </Button>
          )
        }
        empty={<p>This set has no codes.</p>}
        columns={columns}
      />
    </section>
  )
}

/** The sets of attendance codes: what each code means, and from when it is used. */
export function CodesPage({ initial }: { initial: QueryOutput<'attendance.codeSets'> }) {
  const [{ sets, mayChange }, refresh] = useLive('attendance.codeSets', {}, initial)
  const undoable = useUndoable(refresh)
  const { today } = useClock()
  const [open, setOpen] = useState<'new' | string>()
  const edited = sets.find((s) => s.id === open)
  const saved = (words: string, run: string | undefined) => {
    setOpen(undefined)
    undoable.done(words, run)
    void refresh()
  }
  if (open !== undefined && (open === 'new' || edited))
    return (
      <div className="sheet">
        <PageHead title="Attendance codes" detail={edited ? edited.name : 'A new set'} />
        <CodeSetForm
          key={open}
          set={edited}
          // A new set begins as a copy of the newest.
          like={edited ?? sets[0]}
          today={today()}
          onClose={() => setOpen(undefined)}
          onSaved={saved}
        />
      </div>
    )
  return (
    <div className="sheet">
      <PageHead
        title="Attendance codes"
        act={mayChange && <Button onClick={() => setOpen('new')}>Start a new set</Button>}
      />
      <UndoableMessage of={undoable} />
      {sets.length === 0 && (
        <p>No attendance codes yet. Registers can be taken once an administrator has entered a set.</p>
      )}
      {sets.map((set) => (
        <SetTable key={set.id} set={set} onEdit={mayChange ? () => setOpen(set.id) : undefined} />
      ))}
    </div>
  )
}
