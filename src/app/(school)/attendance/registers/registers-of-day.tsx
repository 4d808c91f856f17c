'use client'
import { dayWords } from '@/core/calendar/day-words'
import type { QueryOutput } from '@/server/registry'
import { DataTable } from '@/ui/table/data-table'
import { useTableView } from '@/ui/table/use-table-view'
import type { Column } from '@/ui/table/column'
import { useClock } from '@/screen/clock'
import Link from '@/screen/link'
import { MessageAtFoot, useMessage } from '@/screen/message'
import { useLive } from '@/screen/use-live'
import { AttendanceHead } from '@/app/(school)/attendance/attendance-head'
import { RemindButton } from '@/app/(school)/attendance/remind-button'
import { RegisterState } from '@/app/(school)/attendance/register-state'

type Day = QueryOutput<'attendance.registersOfDay'>
type Register = Day['registers'][number]
type HalfDay = 'morning' | 'afternoon'

interface Acts {
  readonly date: string
  /** The half-days that have begun. */
  readonly begun: Day['begun']
  /** Reminds a teacher; missing for those who may not. */
  readonly onReminded: ((said: { words: string; wrong?: boolean }) => void) | undefined
}

/** A session's register: how far it is, since when, and a reminder for those whose it is. */
function SessionCell({ register: r, session, acts }: { register: Register; session: HalfDay; acts: Acts }) {
  const { moment } = useClock()
  const begun = r.begun[session]
  const open = r[session] < r.onRoll
  return (
    <>
      <span className="flex flex-wrap items-center gap-x-2 whitespace-nowrap">
        <Link
          className="no-underline hover:underline"
          href={`/attendance/registers/${r.id}?session=${session}&date=${acts.date}`}
        >
          <RegisterState marked={r[session]} onRoll={r.onRoll} />
          <span className="sr-only">
            , {r.name}, {session}
          </span>
        </Link>
        {open && acts.onReminded && acts.begun.includes(session) && (
          <RemindButton
            of={{ homeroomId: r.id, classId: null, date: acts.date, session }}
            words={`the ${session} register of ${r.name}`}
            reminded={r.reminded[session]}
            onDone={acts.onReminded}
          />
        )}
      </span>
      {open && begun && (
        <span className="block text-[13px] text-muted">
          started {moment(begun.at)} by {begun.by}
        </span>
      )}
    </>
  )
}

const sessionColumn = (session: HalfDay, title: string, acts: Acts): Column<Register> => ({
  id: session,
  title,
  value: (r) => (r[session] >= r.onRoll ? 1 : r[session] / r.onRoll),
  choices: (r) => [r[session] >= r.onRoll ? 'complete' : r[session] === 0 ? 'not started' : 'started'],
  cell: (r) => <SessionCell register={r} session={session} acts={acts} />,
})

const columnsOf = (
  day: Day['day'],
  session: HalfDay,
  { date, ...acts }: Acts,
): readonly Column<Register>[] => [
  {
    id: 'homeroom',
    title: 'Homeroom',
    heading: true,
    value: (r) => r.name,
    cell: (r) => (
      <>
        <Link className="link" href={`/attendance/registers/${r.id}?session=${session}&date=${date}`}>
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
    ? [
        sessionColumn('morning', 'Morning', { date, ...acts }),
        sessionColumn('afternoon', 'Afternoon', { date, ...acts }),
      ]
    : []),
]

/** Every homeroom's registers of the chosen day: which are complete and which have gaps. */
export function RegistersOfDay({ initial, date, session }: { initial: Day; date: string; session: HalfDay }) {
  const [{ day, registers, begun, mayRemind }, refresh] = useLive(
    'attendance.registersOfDay',
    { date },
    initial,
  )
  const { message, say, warn } = useMessage()
  const view = useTableView()
  const own = [...registers].sort((a, b) => Number(b.own) - Number(a.own))
  return (
    <div className="sheet">
      <AttendanceHead page="Registers" detail={dayWords(day)} />
      <MessageAtFoot {...message} onClose={() => say('')} />
      <DataTable
        label="Registers of the day"
        rows={own}
        columns={columnsOf(day, session, {
          date,
          begun,
          onReminded: mayRemind
            ? (said) => {
                if (said.wrong) warn(said.words)
                else say(said.words)
                void refresh()
              }
            : undefined,
        })}
        download={`registers ${date}`}
        rowKey={(r) => r.id}
        view={view}
        empty={<p>No students are on roll in any homeroom on this date.</p>}
      />
    </div>
  )
}
