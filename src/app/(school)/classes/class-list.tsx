'use client'
import { shortDate } from '@/core/calendar/date-words'
import { matchRank } from '@/core/people/names'
import { hasSome, teachesOnly } from '@/core/people/roles'
import type { QueryOutput } from '@/server/registry'
import { DataTable } from '@/ui/table/data-table'
import type { Column } from '@/ui/table/column'
import Link from '@/screen/link'
import { PageHead } from '@/screen/page-head'
import { useSchool } from '@/screen/school-context'
import { useLive } from '@/screen/use-live'
import { useTableAddress } from '@/screen/use-table-address'

type Class = QueryOutput<'marks.classes'>[number]

/** @param seesStudents whether the person sees who is in any class */
const columns = (seesStudents: boolean): readonly Column<Class>[] => [
  {
    id: 'class',
    title: 'Class',
    heading: true,
    value: (c) => c.name,
    cell: (c) => (
      <>
        {c.mayOpen || seesStudents ? (
          <Link className="link" href={`/classes/${c.id}/${c.mayOpen ? 'marks' : 'students'}`}>
            {c.name}
          </Link>
        ) : (
          c.name
        )}
        {c.own && <span className="text-muted">, yours</span>}
      </>
    ),
  },
  {
    id: 'subject',
    title: 'Subject',
    value: (c) => c.subject,
    choices: (c) => [c.subject],
    cell: (c) => c.subject,
  },
  {
    id: 'teacher',
    title: 'Teacher',
    value: (c) => c.teachers,
    cell: (c) => c.teachers ?? <span className="text-port">no teacher</span>,
  },
  { id: 'students', title: 'Students', align: 'right', value: (c) => c.students, cell: (c) => c.students },
]

/** The classes of the chosen date, each with its marks. */
export function ClassList({ initial, date }: { initial: Class[]; date: string }) {
  const { actor } = useSchool()
  const [classes] = useLive('marks.classes', { date }, initial)
  // Those who only teach have a short list; everyone else looks for any class.
  const ownOnly = teachesOnly(actor.roles)
  const rows = ownOnly ? classes.filter((c) => c.own) : classes
  const view = useTableAddress()
  return (
    <div className="sheet">
      <PageHead
        title="Classes"
        detail={`${rows.length} ${ownOnly ? 'of yours' : 'in this academic year'}, on ${shortDate(date)}`}
      />
      <DataTable
        label="Classes"
        download={`classes ${date}`}
        rows={rows}
        columns={columns(hasSome(actor.roles, 'administrator', 'head', 'office', 'records'))}
        rowKey={(c) => c.id}
        view={view}
        filter={
          rows.length > 12
            ? {
                label: 'Class, subject or teacher',
                rank: (c, text) => matchRank(`${c.name} ${c.subject} ${c.teachers ?? ''}`, text),
                none: 'No matches. Check the spelling.',
              }
            : undefined
        }
        empty={
          classes.length === 0 ? (
            <p>There are no classes in this academic year yet.</p>
          ) : (
            <p>You teach no class on this date. Choose another date on the year line.</p>
          )
        }
      />
    </div>
  )
}
