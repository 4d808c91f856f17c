'use client'
import Link from '@/screen/link'
import { useDeferredValue, useMemo, useState } from 'react'
import { comparableName, hasWords } from '@/core/people/names'
import type { QueryOutput } from '@/server/registry'
import { TextInput } from '@/ui/field'
import { buttonLooks } from '@/ui/button'
import { PageHead } from '@/screen/page-head'
import { useSchool } from '@/screen/school-context'
import { useDateLink } from '@/screen/use-date-link'

const firstShown = 60

type Student = QueryOutput<'people.list'>[number]

/** Students of the homeroom or year group that is called what was typed; else those in whose line every word begins one. */
function narrow(students: readonly Student[], typed: string): readonly Student[] {
  const wanted = comparableName(typed)
  const placed = students.filter((s) =>
    [s.homeroom ?? '', s.yearGroup].some((place) => comparableName(place) === wanted),
  )
  if (placed.length > 0) return placed
  return students.filter((s) =>
    hasWords(
      `${s.name} ${s.preferred ?? ''} ${s.number} ${String(s.number).padStart(4, '0')} ${s.homeroom ?? ''} ${s.yearGroup}`,
      typed,
    ),
  )
}

/** Everyone on roll on the date one works in, narrowed while typing. */
export function PeopleList({ students }: { students: QueryOutput<'people.list'> }) {
  const { acts } = useSchool()
  const dated = useDateLink()
  const [text, setText] = useState('')
  const [all, setAll] = useState(false)
  const wanted = useDeferredValue(text)
  const found = useMemo(() => narrow(students, wanted), [students, wanted])
  const shown = all ? found : found.slice(0, firstShown)
  const mayEnrol = acts.some((act) => act.href === '/people/enrol')
  return (
    <div className="sheet max-w-4xl">
      <PageHead title="People" detail={`${students.length} students on roll`} />
      {students.length === 0 ? (
        <p>
          Nobody is on roll on this date.{' '}
          {mayEnrol && (
            <Link className="link" href={dated('/people/enrol')}>
              Enrol the first student
            </Link>
          )}
        </p>
      ) : (
        <>
          <div className="mb-3 flex flex-wrap gap-3 no-print">
            <TextInput
              aria-label="Narrow by name, number, year group or homeroom"
              placeholder="Name, number, year group or homeroom"
              value={text}
              onChange={(e) => setText(e.target.value)}
              className="max-w-96"
              autoFocus
            />
            {mayEnrol && (
              <Link href={dated('/people/enrol')} className={buttonLooks()}>
                Enrol a student
              </Link>
            )}
          </div>
          <table className="rows">
            <thead>
              <tr>
                <th scope="col">Name</th>
                <th scope="col" className="text-right">
                  Number
                </th>
                <th scope="col">Year group</th>
                <th scope="col">Homeroom</th>
              </tr>
            </thead>
            <tbody>
              {shown.map((s) => (
                <tr key={s.id}>
                  <th scope="row" className="text-[15px]">
                    <Link className="link" href={dated(`/people/${s.id}`)}>
                      {s.name}
                    </Link>
                  </th>
                  <td className="text-right">{String(s.number).padStart(4, '0')}</td>
                  <td>{s.yearGroup}</td>
                  <td>{s.homeroom ?? <span className="text-port">no homeroom</span>}</td>
                </tr>
              ))}
            </tbody>
          </table>
          <p role="status" className="mt-3 text-muted">
            {found.length === 0
              ? 'Nobody on roll matches. Check the spelling, or look under another date.'
              : shown.length < found.length
                ? `${shown.length} of ${found.length} shown. `
                : `${found.length} shown.`}
            {shown.length < found.length && (
              <button type="button" className="link" onClick={() => setAll(true)}>
                Show all
              </button>
            )}
          </p>
        </>
      )}
    </div>
  )
}
