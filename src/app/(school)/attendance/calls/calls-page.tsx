'use client'
import { useState } from 'react'
import { inCallOrder, isToCall, missedWords } from '@/core/attendance/calls'
import { languageName } from '@/core/people/languages'
import { matchRank } from '@/core/people/names'
import { Button } from '@/ui/button'
import { DataTable } from '@/ui/table/data-table'
import type { Column } from '@/ui/table/column'
import { useClock, useTimeNow } from '@/screen/clock'
import { later } from '@/screen/later'
import { homeroomColumn, studentColumn } from '@/screen/student-columns'
import { UndoableMessage, useUndoable } from '@/screen/undoable'
import { useLive } from '@/screen/use-live'
import { useTableAddress } from '@/screen/use-table-address'
import { AttendanceHead } from '@/app/(school)/attendance/attendance-head'
import type { Unexplained, CallList } from './calls'

const CallDialog = later(() => import('./call-dialog').then((m) => m.CallDialog))

function Contacts({ of }: { of: Unexplained }) {
  if (of.guardians.length === 0) return <span className="text-port">no guardian on record</span>
  return (
    <ul>
      {of.guardians.map((g, i) => (
        <li key={g.id}>
          {g.name}, {g.relation}
          {i === 0 && of.guardians.length > 1 && ' (call first)'}
          {g.language && `, speaks ${languageName(g.language)}`}
          {g.phone ? (
            <a className="link ml-2 whitespace-nowrap" href={`tel:${g.phone.replace(/\s/g, '')}`}>
              {g.phone}
            </a>
          ) : (
            <span className="text-muted"> no telephone</span>
          )}
        </li>
      ))}
    </ul>
  )
}

function Calls({ of, at }: { of: Unexplained; at: (moment: string) => string }) {
  if (of.calls.length === 0) return <span className="whitespace-nowrap text-muted">not called yet</span>
  return (
    <ul>
      {of.calls.map((c, i) => (
        <li key={c.id} className={i > 0 ? 'text-muted' : undefined}>
          {at(c.at)} {c.outcome}
          {c.guardian && `, ${c.guardian}`}
          {c.note && `: ${c.note}`}
          {i === 0 && c.callAgain && <strong>, call again at {c.callAgain}</strong>}
          <span className="text-muted"> ({c.by})</span>
        </li>
      ))}
    </ul>
  )
}

/** Who is absent without a reason yet: whom to call, what the calls brought, and the code set from there. */
export function CallsPage({ initial, date }: { initial: CallList; date: string }) {
  const [{ students, codes }, refresh] = useLive('attendance.callList', { date }, initial)
  const undoable = useUndoable(refresh)
  const view = useTableAddress()
  const { moment } = useClock()
  // As it was when the dialog opened: a colleague's reason takes the student off the list, not what is being typed.
  const [open, setOpen] = useState<Unexplained>()
  const now = useTimeNow()
  const rows = inCallOrder(students, now)
  const toCall = rows.filter((s) => isToCall(s, now)).length
  const columns: readonly Column<Unexplained>[] = [
    studentColumn((s) => ({ id: s.studentId, name: s.name }), {
      beside: (s) =>
        s.before > 0 && (
          <span className="block text-[13px] font-normal text-muted">
            {s.before === 1 ? '1 more half-day' : `${s.before} more half-days`} unexplained in 30 days
          </span>
        ),
    }),
    homeroomColumn(),
    {
      id: 'sessions',
      title: 'Absent',
      className: 'whitespace-nowrap',
      value: (s) => missedWords(s.sessions),
      cell: (s) => missedWords(s.sessions),
    },
    {
      id: 'contacts',
      title: 'Contacts, in the order to call',
      value: (s) => s.guardians.map((g) => `${g.name} ${g.phone ?? ''}`).join('; '),
      cell: (s) => <Contacts of={s} />,
    },
    {
      id: 'calls',
      title: 'Calls',
      value: (s) => s.calls.map((c) => `${moment(c.at)} ${c.outcome}`).join('; '),
      cell: (s) => <Calls of={s} at={moment} />,
    },
    {
      id: 'note',
      title: 'Note a call',
      quiet: true,
      className: 'whitespace-nowrap',
      cell: (s) => (
        <Button kind="quiet" className="-my-2" onClick={() => setOpen(s)}>
          Note a call<span className="sr-only">, {s.name}</span>
        </Button>
      ),
    },
  ]
  return (
    <div className="sheet print-wide">
      <AttendanceHead
        page="Call list"
        detail={
          students.length === 0
            ? undefined
            : `${students.length} absent without a reason yet, ${toCall} to call now`
        }
      />
      <UndoableMessage of={undoable} />
      <DataTable
        label="Absent without a reason yet"
        rows={rows}
        columns={columns}
        rowKey={(s) => s.studentId}
        view={view}
        download={`call list ${date}`}
        filter={{
          label: 'Name or homeroom',
          rank: (s, text) => matchRank(`${s.name} ${s.homeroom}`, text),
          none: 'No matches.',
        }}
        empty={
          <p>
            Nobody is absent without a reason on this day. Students whose registers say so appear here at
            once, with whom to call.
          </p>
        }
      />
      {open && (
        <CallDialog
          student={open}
          codes={codes}
          date={date}
          onClose={() => setOpen(undefined)}
          onSaved={(words, run) => {
            setOpen(undefined)
            undoable.done(words, run)
            void refresh()
          }}
        />
      )}
    </div>
  )
}
