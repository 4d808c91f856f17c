'use client'
import { useState } from 'react'
import { shortDate } from '@/core/calendar/date-words'
import { isAlive } from '@/core/work'
import type { QueryOutput } from '@/server/registry'
import { Button } from '@/ui/button'
import { Dialog } from '@/ui/dialog'
import { Problem } from '@/ui/field'
import { DataTable } from '@/ui/table/data-table'
import { useTableView } from '@/ui/table/use-table-view'
import type { Column } from '@/ui/table/column'
import Link from '@/screen/link'
import { PageHead } from '@/screen/page-head'
import { sendCommand } from '@/screen/server'
import { useLive } from '@/screen/use-live'
import { useWork } from '@/screen/work'
import { WorkList } from '@/screen/work-list'
import { EntriesStateMark } from '@/app/(school)/reports/entries-state'
import { MarksStateMark } from '@/app/(school)/reports/marks-state'
import { CloseMarks } from './close-marks'

type Round = QueryOutput<'reports.round'>

const order = ['sent back', 'writing', 'handed in', 'checked', 'released']

const entryColumns = (r: Round): readonly Column<Round['classes'][number]>[] => [
  {
    id: 'class',
    title: 'Class',
    heading: true,
    cell: (c) => (
      <>
        {r.mayCheck || c.own ? (
          <Link className="link" href={`/classes/${c.id}/entries/${r.id}`}>
            {c.name}
          </Link>
        ) : (
          c.name
        )}
        {c.own && <span className="text-muted">, yours</span>}
      </>
    ),
  },
  { id: 'teacher', title: 'Teacher', value: (c) => c.teachers, cell: (c) => c.teachers },
  {
    id: 'state',
    title: 'Status',
    // Unfinished first.
    value: (c) => order.indexOf(c.state),
    cell: (c) => (
      <>
        <EntriesStateMark state={c.state} />
        {c.state === 'sent back' && <span className="block text-[12px] text-muted">{c.remark}</span>}
      </>
    ),
  },
  {
    id: 'marks',
    title: 'Marks',
    value: (c) => ['open', 'confirmed', 'closed'].indexOf(c.marks),
    cell: (c) => <MarksStateMark state={c.marks} isBare />,
  },
  {
    id: 'lines',
    title: 'Lines',
    value: (c) => -c.unsettled,
    cell: (c) =>
      c.unsettled === 0 ? 'filled' : <span className="font-bold text-port">{c.unsettled} to settle</span>,
  },
  {
    id: 'comments',
    title: 'Comments',
    align: 'right',
    value: (c) => c.commented / Math.max(1, c.students),
    cell: (c) => `${c.commented} of ${c.students}`,
  },
  {
    id: 'effort',
    title: 'Effort',
    align: 'right',
    value: (c) => c.efforts / Math.max(1, c.students),
    cell: (c) => `${c.efforts} of ${c.students}`,
  },
  { id: 'last', title: 'Last changed by', className: 'text-[13px] text-muted', cell: (c) => c.changedBy },
]

/** The state of a round: each class's entries, the cards, and what can be released. */
export function RoundPage({ initial }: { initial: Round }) {
  const [r, refresh] = useLive('reports.round', { roundId: initial.id }, initial)
  const { all: work, refresh: refreshWork } = useWork()
  const earlier = work.filter((one) => one.dismissedAt !== null && !isAlive(one))
  const view = useTableView()
  const [releasing, setReleasing] = useState(false)
  const [busy, setBusy] = useState<string>()
  const [problem, setProblem] = useState<string>()
  const [unprintable, setUnprintable] = useState<string>()
  const own = r.classes.filter((c) => c.own)
  const checked = r.classes.filter((c) => c.state === 'checked')
  const open = r.classes.filter((c) => !['checked', 'released'].includes(c.state))
  const count = (state: string) => r.classes.filter((c) => c.state === state).length
  async function ask(name: string, act: () => ReturnType<typeof sendCommand>) {
    setBusy(name)
    const result = await act()
    setBusy(undefined)
    const cannotPrint =
      !result.ok && 'code' in result.failure && result.failure.code === 'reports.cannotPrint'
    setUnprintable(cannotPrint ? result.failure.message : undefined)
    if (!cannotPrint) {
      setReleasing(false)
      setProblem(result.ok ? undefined : result.failure.message)
    }
    void refreshWork()
  }
  return (
    <div className="sheet">
      <PageHead title={r.name} detail={`${r.term} term of ${r.year}, due ${shortDate(r.dueOn)}`} />
      {problem && (
        <div className="mb-3">
          <Problem>{problem}</Problem>
        </div>
      )}
      <p className="mb-4" role="status">
        {order
          .filter((s) => count(s) > 0)
          .map((s) => `${count(s)} ${s}`)
          .join(', ')}
        . {r.cardsReleased > 0 && `${r.cardsReleased} cards released to guardians.`}
      </p>
      <section className="mb-8">
        <div className="mb-1 flex flex-wrap items-center gap-x-6 gap-y-1">
          <h2>Class entries</h2>
          <Link className="link" href={`/reports/${r.id}/feeds`}>
            What fills the lines
          </Link>
          {r.mayCheck && <CloseMarks round={r} onDone={() => void refresh()} />}
        </div>
        <DataTable
          label="Class entries"
          rows={[...r.classes].sort((a, b) => Number(b.own) - Number(a.own))}
          columns={entryColumns(r)}
          rowKey={(c) => c.id}
          rowClass={(c) => (c.own ? 'bg-shoal-light' : '')}
          view={view}
          empty={<p>No classes are in this round.</p>}
        />
        {own.length === 0 && !r.mayCheck && (
          <p className="mt-2 text-muted">None of your classes is in this round.</p>
        )}
      </section>
      {r.homerooms.length > 0 && (
        <section className="mb-8">
          <h2 className="mb-1">Report cards</h2>
          <DataTable
            label="Report cards by homeroom"
            rows={r.homerooms}
            rowKey={(h) => h.id}
            empty={<p>No homerooms are in this round.</p>}
            columns={[
              { id: 'homeroom', title: 'Homeroom', heading: true, cell: (h) => h.name },
              { id: 'students', title: 'Students', align: 'right', cell: (h) => h.students },
              {
                id: 'acts',
                title: 'Acts',
                quiet: true,
                align: 'right',
                cell: (h) => (
                  <>
                    <Link className="link mr-4" href={`/reports/${r.id}/cards/${h.id}`}>
                      View cards<span className="sr-only"> of {h.name}</span>
                    </Link>
                    <Button
                      kind="plain"
                      busy={busy === h.id}
                      onClick={() =>
                        void ask(h.id, () =>
                          sendCommand('reports.askForCards', { roundId: r.id, homeroomId: h.id }),
                        )
                      }
                    >
                      Print all as one PDF<span className="sr-only">, {h.name}</span>
                    </Button>
                  </>
                ),
              },
            ]}
          />
          <p className="mt-3 flex flex-wrap gap-3">
            {r.mayPrintAll && (
              <Button
                kind="plain"
                busy={busy === 'all'}
                onClick={() =>
                  void ask('all', () =>
                    sendCommand('reports.askForCards', { roundId: r.id, homeroomId: null }),
                  )
                }
              >
                Print everyone as one PDF
              </Button>
            )}
            {r.mayCheck && (
              <Button disabled={checked.length === 0} onClick={() => setReleasing(true)}>
                Release to guardians
              </Button>
            )}
            {r.mayCheck && checked.length === 0 && (
              <span className="self-center text-muted">No class entries have been checked yet.</span>
            )}
          </p>
        </section>
      )}
      {earlier.length > 0 && (
        <section aria-labelledby="work-heading">
          <h2 id="work-heading" className="mb-1">
            Earlier prints and releases
          </h2>
          <WorkList work={earlier} />
        </section>
      )}
      {releasing && (
        <Dialog
          title="Release to guardians"
          description="Guardians who receive reports get a mail and can read the cards at once. A card cannot be withdrawn; a later release replaces it, and both versions are kept."
          onClose={() => setReleasing(false)}
        >
          <p className="mb-2">
            <strong>Included:</strong> {checked.map((c) => c.name).join(', ')}
            {r.classes.some((c) => c.state === 'released') && ', and what was released earlier'}.
          </p>
          {open.length > 0 && (
            <p className="mb-4">
              <strong>Not included, and listed on the card as still to follow:</strong>{' '}
              {open.map((c) => `${c.name} (${c.state})`).join(', ')}.
            </p>
          )}
          {unprintable && <Problem>{unprintable}</Problem>}
          <p className="mt-2 flex gap-3">
            <Button
              busy={busy === 'release'}
              onClick={() =>
                void ask('release', () =>
                  sendCommand('reports.askForRelease', {
                    roundId: r.id,
                    withoutThem: unprintable !== undefined,
                  }),
                )
              }
            >
              {unprintable ? 'Release without them' : 'Release'}
            </Button>
            <Button kind="plain" onClick={() => setReleasing(false)}>
              Cancel
            </Button>
          </p>
        </Dialog>
      )}
    </div>
  )
}
