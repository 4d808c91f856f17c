'use client'
import Link from '@/screen/link'
import { useState } from 'react'
import { shortDate } from '@/core/calendar/date-words'
import type { QueryOutput } from '@/server/registry'
import { Button } from '@/ui/button'
import { Dialog } from '@/ui/dialog'
import { Problem } from '@/ui/field'
import { PageHead } from '@/screen/page-head'
import { tellServer } from '@/screen/server'
import { useLive } from '@/screen/use-live'
import { EntriesStateMark } from '../entries-state'
import { WorkList } from './work-list'

type Round = QueryOutput<'reports.round'>

const order = ['sent back', 'writing', 'handed in', 'checked', 'released']

/** How a round stands: each class's entries, the cards, and what may be released. */
export function RoundPage({ initial, work }: { initial: Round; work: QueryOutput<'work.list'> }) {
  const [r] = useLive('reports.round', { roundId: initial.id }, initial)
  const [jobs, refreshJobs] = useLive('work.list', {}, work)
  const [byState, setByState] = useState(false)
  const [releasing, setReleasing] = useState(false)
  const [busy, setBusy] = useState<string>()
  const [problem, setProblem] = useState<string>()
  const [unprintable, setUnprintable] = useState<string>()
  const classes = byState
    ? [...r.classes].sort((a, b) => order.indexOf(a.state) - order.indexOf(b.state))
    : r.classes
  const own = r.classes.filter((c) => c.own)
  const checked = r.classes.filter((c) => c.state === 'checked')
  const open = r.classes.filter((c) => !['checked', 'released'].includes(c.state))
  const count = (state: string) => r.classes.filter((c) => c.state === state).length
  async function ask(name: string, act: () => ReturnType<typeof tellServer>) {
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
    void refreshJobs()
  }
  return (
    <div className="sheet max-w-5xl">
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
        . {r.cardsReleased > 0 && `${r.cardsReleased} cards are with the guardians.`}
      </p>
      <section className="mb-8">
        <div className="mb-1 flex items-baseline gap-4">
          <h2>Class entries</h2>
          <button type="button" className="link text-[13px]" onClick={() => setByState(!byState)}>
            {byState ? 'In order of subject' : 'Unfinished first'}
          </button>
        </div>
        <table className="rows">
          <thead>
            <tr>
              <th scope="col">Class</th>
              <th scope="col">Teacher</th>
              <th scope="col">How it stands</th>
              <th scope="col" className="text-right">
                Comments
              </th>
              <th scope="col" className="text-right">
                Effort
              </th>
              <th scope="col">Last</th>
            </tr>
          </thead>
          <tbody>
            {[...classes]
              .sort((a, b) => Number(b.own) - Number(a.own))
              .map((c) => (
                <tr key={c.id} className={c.own ? 'bg-shoal-light' : ''}>
                  <th scope="row">
                    {r.mayCheck || c.own ? (
                      <Link className="link" href={`/reports/${r.id}/classes/${c.id}`}>
                        {c.name}
                      </Link>
                    ) : (
                      c.name
                    )}
                    {c.own && <span className="text-muted">, mine</span>}
                  </th>
                  <td>{c.teachers}</td>
                  <td>
                    <EntriesStateMark state={c.state} />
                    {c.state === 'sent back' && (
                      <span className="block text-[12px] text-muted">{c.remark}</span>
                    )}
                  </td>
                  <td className="text-right">
                    {c.commented} of {c.students}
                  </td>
                  <td className="text-right">
                    {c.efforts} of {c.students}
                  </td>
                  <td className="text-[13px] text-muted">{c.changedBy}</td>
                </tr>
              ))}
          </tbody>
        </table>
        {own.length === 0 && !r.mayCheck && (
          <p className="mt-2 text-muted">None of your classes is in this round.</p>
        )}
      </section>
      {r.homerooms.length > 0 && (
        <section className="mb-8">
          <h2 className="mb-1">Cards</h2>
          <table className="rows">
            <thead>
              <tr>
                <th scope="col">Homeroom</th>
                <th scope="col" className="text-right">
                  Students
                </th>
                <th scope="col">
                  <span className="sr-only">Acts</span>
                </th>
              </tr>
            </thead>
            <tbody>
              {r.homerooms.map((h) => (
                <tr key={h.id}>
                  <th scope="row">{h.name}</th>
                  <td className="text-right">{h.students}</td>
                  <td className="text-right">
                    <Link className="link mr-4" href={`/reports/${r.id}/cards/${h.id}`}>
                      Look at single cards<span className="sr-only"> of {h.name}</span>
                    </Link>
                    <Button
                      kind="plain"
                      busy={busy === h.id}
                      onClick={() =>
                        void ask(h.id, () =>
                          tellServer('reports.askForCards', { roundId: r.id, homeroomId: h.id }),
                        )
                      }
                    >
                      Print all as one PDF<span className="sr-only">, {h.name}</span>
                    </Button>
                  </td>
                </tr>
              ))}
            </tbody>
          </table>
          <p className="mt-3 flex flex-wrap gap-3">
            {r.mayPrintAll && (
              <Button
                kind="plain"
                busy={busy === 'all'}
                onClick={() =>
                  void ask('all', () =>
                    tellServer('reports.askForCards', { roundId: r.id, homeroomId: null }),
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
              <span className="self-center text-muted">Nothing is checked and waiting for release.</span>
            )}
          </p>
        </section>
      )}
      <WorkList jobs={jobs} refresh={refreshJobs} />
      {releasing && (
        <Dialog
          title="Release to guardians"
          description="Guardians who receive reports get a mail and can read the cards at once. A released card stays; a later release replaces it and both are kept."
          onClose={() => setReleasing(false)}
        >
          <p className="mb-2">
            <strong>On the cards:</strong> {checked.map((c) => c.name).join(', ')}
            {r.classes.some((c) => c.state === 'released') && ', and what was released before'}.
          </p>
          {open.length > 0 && (
            <p className="mb-4">
              <strong>Left out and named as still to follow:</strong>{' '}
              {open.map((c) => `${c.name} (${c.state})`).join(', ')}.
            </p>
          )}
          {unprintable && <Problem>{unprintable}</Problem>}
          <p className="mt-2 flex gap-3">
            <Button
              busy={busy === 'release'}
              onClick={() =>
                void ask('release', () =>
                  tellServer('reports.askForRelease', {
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
