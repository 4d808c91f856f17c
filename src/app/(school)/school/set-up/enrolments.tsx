'use client'
import { parseAsArrayOf, parseAsString, parseAsStringLiteral, useQueryStates } from 'nuqs'
import { useEffect, useMemo, useRef, type ReactNode } from 'react'
import { countedBy, crossed, type ClassCount, type CountedBy } from '@/core/calendar/set-up-check'
import { Button } from '@/ui/button'
import { Field, Problem, Select } from '@/ui/field'
import { DataTable } from '@/ui/table/data-table'
import { useTableView } from '@/ui/table/use-table-view'
import type { Column } from '@/ui/table/column'
import Link from '@/screen/link'
import { useAnswer } from '@/screen/use-live'

interface Line {
  readonly title: string
  readonly cells: readonly (number | undefined)[]
  readonly total: number
  readonly sum?: boolean
}

const sentence = (by: CountedBy) => by[0]?.toUpperCase() + by.slice(1)

/** One heading and the title chosen under it. */
type Chosen = readonly [by: CountedBy, title: string]

const asText = (chosen: readonly Chosen[]) => chosen.map(([by, title]) => `${by}:${title}`)
const asChosen = (texts: readonly string[]): readonly Chosen[] =>
  texts.flatMap((text) => {
    const [kind, title] = text.split(/:(.*)/)
    const by = countedBy.find((name) => name === kind)
    return by && title ? [[by, title] as const] : []
  })

/** The students behind a number of the table, each with class and term. */
function Behind({ chosen, date, onClose }: { chosen: readonly Chosen[]; date: string; onClose: () => void }) {
  const title = chosen.map(([, name]) => name).join(', ')
  const { answer, problem } = useAnswer('setUp.enrolledIn', {
    date,
    chosen: chosen.map(([by, name]) => ({ by, title: name })),
  })
  const view = useTableView()
  const section = useRef<HTMLElement>(null)
  useEffect(() => {
    section.current?.scrollIntoView({ block: 'nearest' })
    section.current?.focus({ preventScroll: true })
  }, [title])
  return (
    <section ref={section} tabIndex={-1} className="mt-6 outline-none" aria-labelledby="behind">
      <h3 id="behind" className="mb-2 flex flex-wrap items-center gap-3">
        {title}: {answer ? `${answer.length} enrolments` : 'enrolments'}
        <Button kind="quiet" onClick={onClose}>
          Close
        </Button>
      </h3>
      {problem && <Problem>{problem}</Problem>}
      {answer && (
        <DataTable
          label={`Enrolments: ${title}`}
          download={`enrolments ${title} ${date}`}
          rows={answer}
          rowKey={(r) => `${r.studentId} ${r.classId} ${r.term}`}
          view={view}
          empty={<p>No students.</p>}
          columns={[
            {
              id: 'student',
              title: 'Student',
              heading: true,
              value: (r) => r.student,
              cell: (r) => (
                <Link className="link" href={`/people/${r.studentId}`}>
                  {r.student}
                </Link>
              ),
            },
            {
              id: 'class',
              title: 'Class',
              value: (r) => r.class,
              cell: (r) => (
                <Link className="link" href={`/classes/${r.classId}/students`}>
                  {r.class}
                </Link>
              ),
            },
            { id: 'term', title: 'Term', value: (r) => r.term, cell: (r) => r.term },
          ]}
        />
      )}
    </section>
  )
}

/** A number or title of the table that opens what is behind it. */
function Number({ of, onOpen, children }: { of: string; onOpen: () => void; children: ReactNode }) {
  return (
    <button
      type="button"
      className="link min-h-6 min-w-6 text-left text-inherit"
      aria-label={of}
      onClick={onOpen}
    >
      {children}
    </button>
  )
}

/** Enrolments in classes by two headings that can be exchanged; copied into a spreadsheet or downloaded as it stands. */
export function Enrolments({ counts, date }: { counts: readonly ClassCount[]; date: string }) {
  const by = parseAsStringLiteral(countedBy)
  const [{ down, across, of }, set] = useQueryStates(
    {
      down: by.withDefault('subject'),
      across: by.withDefault('year group'),
      of: parseAsArrayOf(parseAsString).withDefault([]),
    },
    { history: 'replace' },
  )
  const chosen = useMemo(() => asChosen(of), [of])
  const open = (...next: readonly Chosen[]) => void set({ of: asText(next) })
  const table = useMemo(() => crossed(counts, down, across), [counts, down, across])
  const lines: readonly Line[] = [
    ...table.rows.map((title, i) => ({
      title,
      cells: table.cells[i] ?? [],
      total: table.rowTotals[i] ?? 0,
    })),
    { title: 'All', cells: table.columnTotals, total: table.total, sum: true },
  ]
  const columns: readonly Column<Line>[] = [
    {
      id: 'title',
      title: sentence(down),
      heading: true,
      value: (l) => l.title,
      cell: (l) =>
        l.sum ? (
          l.title
        ) : (
          <Number of={l.title} onOpen={() => open([down, l.title])}>
            {l.title}
          </Number>
        ),
    },
    ...table.columns.map((title, i): Column<Line> => ({
      id: `c${i}`,
      title,
      align: 'right',
      value: (l) => l.cells[i],
      cell: (l) =>
        l.cells[i] === undefined ? undefined : (
          <Number
            of={`${l.cells[i].toLocaleString('en-GB')}, ${l.sum ? title : `${l.title}, ${title}`}`}
            onOpen={() => (l.sum ? open([across, title]) : open([down, l.title], [across, title]))}
          >
            {l.cells[i]?.toLocaleString('en-GB')}
          </Number>
        ),
    })),
    {
      id: 'all',
      title: 'All',
      align: 'right',
      value: (l) => l.total,
      cell: (l) => <strong>{l.total.toLocaleString('en-GB')}</strong>,
    },
  ]
  return (
    <section className="mt-8">
      <h2 className="mb-1">Enrolments in classes</h2>
      <p className="mb-3 text-muted">
        A student counts once in each class and term. A class with two teachers counts with both, and once in
        the totals.
      </p>
      <div className="mb-3 flex flex-wrap items-end gap-3 no-print">
        {(['down', 'across'] as const).map((which) => (
          <Field key={which} label={which === 'down' ? 'Rows' : 'Columns'}>
            {(field) => (
              <Select
                {...field}
                value={which === 'down' ? down : across}
                onChange={(e) => void set({ [which]: e.target.value as CountedBy, of: null })}
              >
                {countedBy.map((name) => (
                  <option key={name} value={name}>
                    {sentence(name)}
                  </option>
                ))}
              </Select>
            )}
          </Field>
        ))}
        <Button kind="plain" onClick={() => void set({ down: across, across: down, of: null })}>
          Swap rows and columns
        </Button>
      </div>
      <div className="overflow-x-auto" tabIndex={0} role="region" aria-label="Enrolments in classes, table">
        <DataTable
          label="Enrolments in classes"
          download={`enrolments by ${down} and ${across} ${date}`}
          rows={lines}
          rowKey={(l) => (l.sum ? 'all' : `row ${l.title}`)}
          rowClass={(l) => (l.sum ? 'font-bold' : '')}
          columns={columns}
          empty={<p>No classes yet.</p>}
        />
      </div>
      {chosen.length > 0 && <Behind chosen={chosen} date={date} onClose={() => void set({ of: null })} />}
    </section>
  )
}
