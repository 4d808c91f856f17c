'use client'
import { useState } from 'react'
import { fits } from '@/core/reports/feeds'
import { Button } from '@/ui/button'
import { Problem, Select } from '@/ui/field'
import { DataTable } from '@/ui/table/data-table'
import type { Column } from '@/ui/table/column'
import { useDialogAct } from '@/screen/form/dialog-act'
import Link from '@/screen/link'
import { PageHead } from '@/screen/page-head'
import { sendCommand } from '@/screen/server'
import { UndoableMessage, useUndoable } from '@/screen/undoable'
import { useLive } from '@/screen/use-live'
import {
  alike,
  choose,
  filledBy,
  keyOf,
  proposals,
  standingOf,
  type Choices,
  type FedClass,
  type Feeds,
} from './chosen'

const lines = (n: number) => (n === 1 ? '1 line' : `${n} lines`)
const none: Choices = new Map()

/** Which column of each class's gradebook fills which line of its reports, for all classes at once. */
export function FeedsPage({ initial }: { initial: Feeds }) {
  const [server, refresh] = useLive('reports.feeds', { roundId: initial.round.id }, initial)
  const [choices, setChoices] = useState(none)
  const undoable = useUndoable(refresh)
  const open = (c: FedClass) => {
    const { unfed, twice } = standingOf(choices, c)
    return unfed.length + twice.length
  }
  // As it is saved, so that a row does not move under the hand that settles it.
  const first = (c: FedClass) => {
    const { unfed, twice } = standingOf(none, c)
    return unfed.length + twice.length > 0 ? 0 : 1
  }
  const offered = proposals(choices, server)
  const left = server.classes.reduce((sum, c) => sum + open(c), 0)
  const columns: readonly Column<FedClass>[] = [
    {
      id: 'class',
      title: 'Class',
      heading: true,
      cell: (c) => (
        <Link className="link" href={`/classes/${c.id}/marks`}>
          {c.name}
        </Link>
      ),
    },
    ...server.lines.map((line): Column<FedClass> => ({
      id: line.id,
      title: line.name,
      cell: (c) => (
        <FeedCell
          server={server}
          of={c}
          line={line}
          choices={choices}
          onChoose={(more) => setChoices(choose(choices, more))}
        />
      ),
    })),
  ]
  return (
    <div className="sheet">
      <PageHead
        title={server.round.name}
        page="Lines"
        detail={`What fills the lines of the reports, from the gradebooks of ${server.round.term}`}
      >
        <p className="mt-2">
          <Link className="link" href={`/reports/${server.round.id}`}>
            Back to the round
          </Link>
        </p>
      </PageHead>
      <div className="mb-4 flex flex-wrap items-center gap-4">
        <p role="status">
          {left === 0 ? 'Every line is filled by one column.' : `${lines(left)} still to be settled.`}
        </p>
        {offered.length > 0 && (
          <Button kind="plain" onClick={() => setChoices(choose(choices, offered))}>
            {`Take ${offered.length === 1 ? 'the proposal' : `all ${offered.length} proposals`}`}
          </Button>
        )}
      </div>
      <DataTable
        label="Lines of the reports by class"
        rows={[...server.classes].sort((a, b) => first(a) - first(b))}
        rowKey={(c) => c.id}
        columns={columns}
        empty={<p>None of your classes is in this round.</p>}
      />
      {choices.size > 0 && (
        <SaveBar
          roundId={server.round.id}
          choices={choices}
          onLeave={() => setChoices(none)}
          onSaved={(words, run) => {
            setChoices(none)
            void refresh().then(() => undoable.done(words, run))
          }}
        />
      )}
      <UndoableMessage of={undoable} />
    </div>
  )
}

/** Saves what was chosen in one act, all or nothing. */
function SaveBar({
  roundId,
  choices,
  onLeave,
  onSaved,
}: {
  roundId: string
  choices: Choices
  onLeave: () => void
  onSaved: (words: string, run: string | undefined) => void
}) {
  const saving = useDialogAct(
    (key) =>
      sendCommand(
        'reports.saveFeeds',
        {
          roundId,
          feeds: [...choices].map(([place, choice]) => {
            const [classId = '', lineId = ''] = place.split(' ')
            return { classId, lineId, ...choice }
          }),
        },
        key,
      ),
    (run) => onSaved(`${lines(choices.size)} saved.`, run),
  )
  return (
    <footer className="sticky bottom-0 mt-4 grid gap-2 border-t border-ink bg-paper py-3 no-print">
      {saving.problem && <Problem>{saving.problem}</Problem>}
      <div className="flex flex-wrap items-center gap-4">
        <Button busy={saving.busy} onClick={() => void saving.run()}>
          Save {lines(choices.size)}
        </Button>
        <Button kind="plain" onClick={onLeave}>
          Leave as it was
        </Button>
        <span className="text-muted">Nothing is saved yet.</span>
      </div>
    </footer>
  )
}

/** What fills one line of one class: chosen from the columns that can, with what is proposed, or wrong about it. */
function FeedCell({
  server,
  of,
  line,
  choices,
  onChoose,
}: {
  server: Feeds
  of: FedClass
  line: Feeds['lines'][number]
  choices: Choices
  onChoose: (more: Parameters<typeof choose>[1]) => void
}) {
  const filled = filledBy(choices, of, line.id)
  const sources = of.sources.filter((s) => fits(line, s))
  const name = of.sources.find((s) => s.columnId === filled)?.name
  const { twice } = standingOf(choices, of)
  const others = server.lines
    .filter((l) => l.id !== line.id && twice.includes(l.id) && filledBy(choices, of, l.id) === filled)
    .map((l) => l.name)
  const more = choices.has(keyOf(of.id, line.id)) ? alike(choices, server, of, line.id) : []
  if (!of.mayFeed) return <span>{name ?? <span className="text-port">nothing yet</span>}</span>
  const proposed = of.lines.find((l) => l.lineId === line.id)?.proposed
  const proposedName = of.sources.find((s) => s.columnId === proposed)?.name
  return (
    <div className="grid max-w-64 gap-1">
      {/* Rows are stacked on a phone, away from the heads of their columns. */}
      <span aria-hidden className="text-[12px] text-muted sm:hidden">
        {line.name}
      </span>
      <Select
        aria-label={`${of.name}, ${line.name}`}
        aria-invalid={filled === undefined || others.length > 0 || undefined}
        value={filled === undefined ? '' : (filled ?? 'mark')}
        onChange={(e) =>
          onChoose([{ of, lineId: line.id, columnId: e.target.value === 'mark' ? null : e.target.value }])
        }
      >
        {filled === undefined && <option value="">Choose a column</option>}
        {sources.map((s) => (
          <option key={s.columnId ?? 'mark'} value={s.columnId ?? 'mark'}>
            {s.name}
          </option>
        ))}
      </Select>
      {sources.length === 0 && (
        <span className="text-[12px] text-port">
          No column of this gradebook holds {line.kind === 'word' ? 'a word' : 'a number'}. Add one there.
        </span>
      )}
      {filled === undefined && proposedName !== undefined && (
        <Button
          kind="quiet"
          className="justify-self-start"
          onClick={() => onChoose([{ of, lineId: line.id, columnId: proposed ?? null }])}
        >
          Take {proposedName}
        </Button>
      )}
      {others.length > 0 && (
        <span className="text-[12px] text-port">Fills {others.join(' and ')} too. Choose another one.</span>
      )}
      {more.length > 0 && (
        <Button kind="quiet" className="justify-self-start" onClick={() => onChoose(more)}>
          Also for {more.map((m) => m.of.name).join(', ')}
        </Button>
      )}
    </div>
  )
}
