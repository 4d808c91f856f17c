'use client'
import { sessionWords } from '@/core/attendance/sessions'
import { shortDate } from '@/core/calendar/date-words'
import type { QueryOutput } from '@/server/registry'
import { Dialog } from '@/ui/dialog'
import { Problem } from '@/ui/field'
import { DataTable } from '@/ui/table/data-table'
import { useTableView } from '@/ui/table/use-table-view'
import type { Column } from '@/ui/table/column'
import Link from '@/screen/link'
import { useAnswer } from '@/screen/use-live'
import type { Narrowed } from './figure-columns'
import type { Scope } from './scope'

type RegisterSession = QueryOutput<'attendance.sessionsBehind'>['sessions'][number]

const registerOf = ({ homeroomId, classId, session, date }: RegisterSession) =>
  `${homeroomId ? `/attendance/registers/${homeroomId}` : `/classes/${classId}/register`}?session=${session}&date=${date}`

const columns: readonly Column<RegisterSession>[] = [
  {
    id: 'date',
    title: 'Session',
    value: (s) => `${s.date} ${s.session}`,
    cell: (s) => (
      <Link className="link" href={registerOf(s)}>
        {shortDate(s.date)}, {sessionWords(s.session)}
      </Link>
    ),
  },
  { id: 'name', title: 'Student', heading: true, value: (s) => s.name, cell: (s) => s.name },
  {
    id: 'code',
    title: 'Mark',
    value: (s) => s.code,
    choices: (s) => [s.code],
    cell: (s) => `${s.code} ${s.label}${s.minutesLate === null ? '' : `, ${s.minutesLate} min`}`,
  },
  { id: 'note', title: 'Note', value: (s) => s.note, cell: (s) => s.note },
  { id: 'by', title: 'Entered by', value: (s) => s.by, cell: (s) => s.by },
]

/** The sessions behind one figure: absences first, the latest first. */
export function SessionsDialog({
  scope,
  narrowed: { words, ...narrowed },
  onClose,
}: {
  scope: Scope
  narrowed: Narrowed
  onClose: () => void
}) {
  const { answer, problem } = useAnswer('attendance.sessionsBehind', { ...scope, ...narrowed })
  const view = useTableView()
  return (
    <Dialog title={`Sessions of ${words}`} onClose={onClose} wide>
      {problem && <Problem>{problem}</Problem>}
      {!answer && !problem && <p role="status">Loading the sessions</p>}
      {answer && (
        <>
          {answer.all > answer.sessions.length && (
            <p className="mb-2 text-[13px] text-muted">
              {answer.all.toLocaleString('en-GB')} sessions; these are {answer.sessions.length} of them,
              absences and lateness first.
            </p>
          )}
          <DataTable
            label="Sessions"
            rows={answer.sessions}
            columns={columns}
            rowKey={(s) => `${s.studentId} ${s.date} ${s.session}`}
            view={view}
            download={`sessions of ${words}`}
            empty={<p>No sessions.</p>}
          />
        </>
      )}
    </Dialog>
  )
}
