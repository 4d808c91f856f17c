'use client'
import { comparableName, matchRank } from '@/core/people/names'
import { numberWords } from '@/core/people/student-number'
import type { QueryOutput } from '@/server/registry'
import { buttonLooks } from '@/ui/button'
import { DataTable, type Column } from '@/ui/table/data-table'
import Link from '@/screen/link'
import { PageHead } from '@/screen/page-head'
import { useSchool } from '@/screen/school-context'
import { useLive } from '@/screen/use-live'
import { useTableAddress } from '@/screen/use-table-address'

type Student = QueryOutput<'people.list'>[number]

const columns: readonly Column<Student>[] = [
  {
    id: 'name',
    title: 'Name',
    heading: true,
    value: (s) => s.name,
    cell: (s) => (
      <Link className="link text-[15px]" href={`/people/${s.id}`}>
        {s.name}
      </Link>
    ),
  },
  {
    id: 'number',
    title: 'Number',
    align: 'right',
    value: (s) => Number(s.number),
    cell: (s) => numberWords(s.number),
  },
  { id: 'group', title: 'Year group', value: (s) => s.yearGroup, cell: (s) => s.yearGroup },
  {
    id: 'homeroom',
    title: 'Homeroom',
    value: (s) => s.homeroom,
    cell: (s) => s.homeroom ?? <span className="text-port">no homeroom</span>,
  },
]

/** Whose homeroom or year group is called what was typed come first and alone; else whoever the words are about. */
function rankIn(students: readonly Student[]) {
  const places = new Set(students.flatMap((s) => [s.homeroom ?? '', s.yearGroup]).map(comparableName))
  return (s: Student, text: string): number | undefined => {
    const wanted = comparableName(text)
    const own = [s.homeroom ?? '', s.yearGroup].some((place) => comparableName(place) === wanted)
    if (places.has(wanted)) return own ? 0 : undefined
    return matchRank(
      `${s.name} ${s.preferred ?? ''} ${s.number} ${numberWords(s.number)} ${s.homeroom ?? ''} ${s.yearGroup}`,
      text,
    )
  }
}

/** Everyone on roll on the chosen date, narrowed while typing. */
export function PeopleList({ initial, date }: { initial: QueryOutput<'people.list'>; date: string }) {
  const { acts } = useSchool()
  const [students] = useLive('people.list', { date }, initial)
  const view = useTableAddress()
  const mayEnrol = acts.some((act) => act.href === '/people/enrol')
  return (
    <div className="sheet max-w-4xl">
      <PageHead
        title="Students"
        detail={`${students.length} on roll`}
        act={
          mayEnrol && (
            <Link href="/people/enrol" className={buttonLooks()}>
              Enrol a student
            </Link>
          )
        }
      />
      <DataTable
        label="Students"
        download={`students ${date}`}
        rows={students}
        columns={columns}
        rowKey={(s) => s.id}
        view={view}
        filter={{
          label: 'Name, number, year group or homeroom',
          rank: rankIn(students),
          autoFocus: true,
          none: 'No matches. Check the spelling, or choose another date on the year line.',
        }}
        empty={
          <p>
            No students are on roll on this date.{' '}
            {mayEnrol && (
              <Link className="link" href="/people/enrol">
                Enrol the first student
              </Link>
            )}
          </p>
        }
      />
    </div>
  )
}
