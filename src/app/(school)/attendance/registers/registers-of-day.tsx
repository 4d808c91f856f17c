'use client'
import { dayWords } from '@/core/calendar/day-words'
import type { QueryOutput } from '@/server/registry'
import { DataTable, useTableView, type Column } from '@/ui/table/data-table'
import Link from '@/screen/link'
import { useLive } from '@/screen/use-live'
import { AttendanceHead } from '@/app/(school)/attendance/attendance-head'
import { RegisterState } from '@/app/(school)/attendance/register-state'

type Day = QueryOutput<'attendance.registersOfDay'>
type Register = Day['registers'][number]
type Session = 'morning' | 'afternoon'

const sessionColumn = (session: Session, title: string): Column<Register> => ({
  id: session,
  title,
  value: (r) => (r[session] >= r.onRoll ? 1 : r[session] / r.onRoll),
  cell: (r) => (
    <Link className="no-underline hover:underline" href={`/attendance/registers/${r.id}?session=${session}`}>
      <RegisterState marked={r[session]} onRoll={r.onRoll} />
      <span className="sr-only">, {r.name}</span>
    </Link>
  ),
})

const columnsOf = (day: Day['day'], session: Session): readonly Column<Register>[] => [
  {
    id: 'homeroom',
    title: 'Homeroom',
    heading: true,
    value: (r) => r.name,
    cell: (r) => (
      <>
        <Link className="link" href={`/attendance/registers/${r.id}?session=${session}`}>
          {r.name}
        </Link>
        {r.own && <span className="text-muted">, yours</span>}
      </>
    ),
  },
  {
    id: 'teacher',
    title: 'Homeroom teacher',
    value: (r) => r.teacher,
    cell: (r) => r.teacher ?? <span className="text-port">no teacher</span>,
  },
  { id: 'roll', title: 'On roll', align: 'right', value: (r) => r.onRoll, cell: (r) => r.onRoll },
  ...(day?.kind === 'school day'
    ? [sessionColumn('morning', 'Morning'), sessionColumn('afternoon', 'Afternoon')]
    : []),
]

/** Every homeroom's registers of the chosen day: which are complete and which have gaps. */
export function RegistersOfDay({ initial, date, session }: { initial: Day; date: string; session: Session }) {
  const [{ day, registers }] = useLive('attendance.registersOfDay', { date }, initial)
  const view = useTableView()
  const own = [...registers].sort((a, b) => Number(b.own) - Number(a.own))
  return (
    <div className="sheet max-w-5xl">
      <AttendanceHead page="Registers" detail={dayWords(day)} />
      <DataTable
        label="Registers of the day"
        rows={own}
        columns={columnsOf(day, session)}
        rowKey={(r) => r.id}
        view={view}
        empty={<p>No students are on roll in any homeroom on this date.</p>}
      />
    </div>
  )
}
