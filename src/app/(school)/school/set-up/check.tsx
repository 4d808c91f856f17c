'use client'
import { parseAsStringLiteral, useQueryStates } from 'nuqs'
import { shortDate } from '@/core/calendar/date-words'
import type { QueryOutput } from '@/server/registry'
import { DataTable } from '@/ui/table/data-table'
import Link from '@/screen/link'
import { useLive } from '@/screen/use-live'
import { Enrolments } from './enrolments'

export type CheckAnswer = QueryOutput<'setUp.check'>
type Lists = CheckAnswer['lists']
type ListName = keyof Lists

interface Found {
  readonly name: ListName
  readonly title: string
  readonly what: string
  readonly about: string
  readonly href: (id: string) => string
}

const lists: readonly Found[] = [
  {
    name: 'classesWithoutTeacher',
    title: 'Classes without a teacher',
    what: 'Class',
    about: 'Year group',
    href: (id) => `/school/classes?at=${id}`,
  },
  {
    name: 'emptyClasses',
    title: 'Classes without students',
    what: 'Class',
    about: 'Year group',
    href: (id) => `/school/classes?at=${id}`,
  },
  {
    name: 'studentsWithoutHomeroom',
    title: 'Students without a homeroom',
    what: 'Student',
    about: 'Year group',
    href: (id) => `/people/${id}`,
  },
  {
    name: 'studentsWithoutClass',
    title: 'Students without a class',
    what: 'Student',
    about: 'Year group',
    href: (id) => `/people/${id}`,
  },
  {
    name: 'wrongYearGroup',
    title: 'Students in a class of another year group',
    what: 'Student',
    about: 'Year group and class',
    href: (id) => `/people/${id}`,
  },
  {
    name: 'teachersWithoutAccount',
    title: 'Teachers without an account',
    what: 'Teacher',
    about: 'Classes',
    href: (id) => `/school/staff/${id}`,
  },
  {
    name: 'guardiansWithoutEmail',
    title: 'Guardians without an e-mail address',
    what: 'Guardian',
    about: 'Student and relation',
    href: (id) => `/people/${id}`,
  },
]
const names = lists.map((l) => l.name)

/** One list of what is to be mended, each entry a link to where that is done. */
function List({ of, rows, date }: { of: Found; rows: Lists[ListName]; date: string }) {
  return (
    <section className="mt-6">
      <h3 className="mb-1">{of.title}</h3>
      <DataTable
        label={of.title}
        download={`${of.title.toLowerCase()} ${date}`}
        rows={rows}
        rowKey={(r) => `${r.id} ${r.name}`}
        empty={<p>There are none.</p>}
        columns={[
          {
            id: 'name',
            title: of.what,
            heading: true,
            value: (r) => r.name,
            cell: (r) => (
              <Link className="link" href={of.href(r.id)}>
                {r.name}
              </Link>
            ),
          },
          { id: 'about', title: of.about, value: (r) => r.detail, cell: (r) => r.detail },
        ]}
      />
    </section>
  )
}

/** Whether the year is set up right: what is missing, and enrolments in classes by any two of their headings. */
export function Check({ initial, date }: { initial: CheckAnswer; date: string }) {
  const [{ year, counts, lists: found }] = useLive('setUp.check', { date }, initial)
  const [{ list }, set] = useQueryStates({ list: parseAsStringLiteral(names) }, { history: 'push' })
  const open = lists.find((l) => l.name === list)
  if (!year) return <p>There is nothing to check before the academic year has been created.</p>
  return (
    <section aria-labelledby="check">
      <h2 id="check" className="mb-1">
        Check of {year.name} on {shortDate(date)}
      </h2>
      <ul className="grid max-w-2xl gap-x-8 sm:grid-cols-2" aria-label="What to check">
        {lists.map((l) => {
          const n = found[l.name].length
          return (
            <li key={l.name} className="border-b border-rule">
              <button
                type="button"
                className="flex min-h-9 w-full items-center gap-3 text-left hover:bg-shoal-light disabled:hover:bg-transparent pointer-coarse:min-h-11"
                disabled={n === 0}
                aria-expanded={n === 0 ? undefined : list === l.name}
                onClick={() => void set({ list: list === l.name ? null : l.name })}
              >
                <strong className={`w-10 flex-none text-right ${n > 0 ? 'text-port' : 'text-muted'}`}>
                  {n}
                </strong>
                <span className={n > 0 ? 'link' : 'text-muted'}>{l.title}</span>
              </button>
            </li>
          )
        })}
      </ul>
      {open && found[open.name].length > 0 && <List of={open} rows={found[open.name]} date={date} />}
      <Enrolments counts={counts} date={date} />
    </section>
  )
}
