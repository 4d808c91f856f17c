'use client'
import { useState } from 'react'
import { writeCase } from '@/core/assessment/case'
import { Button } from '@/ui/button'
import { saveFile } from '@/ui/save-file'
import { Select } from '@/ui/field'
import { DataTable } from '@/ui/table/data-table'
import type { Column } from '@/ui/table/column'
import { useTableView } from '@/ui/table/use-table-view'
import { matchRank } from '@/core/people/names'
import { later } from '@/screen/later'
import { PageHead } from '@/screen/page-head'
import { useLive } from '@/screen/use-live'
import { UndoableMessage, useUndoable } from '@/screen/undoable'
import type { Set, Sets, Standard } from './sets'

const SetDialog = later(() => import('./set-dialog').then((m) => m.SetDialog))
const StandardDialog = later(() => import('./standard-dialog').then((m) => m.StandardDialog))
const ImportDialog = later(() => import('./import-dialog').then((m) => m.ImportDialog))

type Open =
  | { readonly kind: 'import' }
  | { readonly kind: 'set'; readonly set: Set | undefined }
  | { readonly kind: 'standard'; readonly standard: Standard | undefined }

/** The school's learning standards: sets as trees, read from files or typed. */
export function StandardsPage({ initial, at }: { initial: Sets; at: string | undefined }) {
  const [server, refresh] = useLive('assessment.standardSets', {}, initial)
  const undoable = useUndoable(async () => void (await refresh()))
  const [chosen, choose] = useState(at)
  const [open, setOpen] = useState<Open>()
  const set = server.sets.find((s) => s.id === chosen) ?? server.sets[0]
  const close = () => setOpen(undefined)
  const done = (words: string, run: string | undefined, setId?: string) => {
    close()
    if (setId) choose(setId)
    void refresh()
    undoable.done(words, run)
  }
  const { mayChange } = server
  return (
    <div className="sheet">
      <PageHead
        title="Learning standards"
        detail={`${server.sets.length} ${server.sets.length === 1 ? 'set' : 'sets'}`}
        act={
          mayChange && (
            <>
              <Button kind="plain" onClick={() => setOpen({ kind: 'set', set: undefined })}>
                Add a set
              </Button>
              <Button onClick={() => setOpen({ kind: 'import' })}>Read a file</Button>
            </>
          )
        }
      />
      <UndoableMessage of={undoable} />
      {set ? (
        <>
          <div className="mb-3 flex flex-wrap items-center gap-3">
            <Select
              aria-label="Set"
              className="w-auto!"
              value={set.id}
              onChange={(e) => choose(e.target.value)}
            >
              {server.sets.map((one) => (
                <option key={one.id} value={one.id}>
                  {one.name}
                </option>
              ))}
            </Select>
            <span className="text-muted">
              {set.subject ?? 'all subjects'}, {set.standards.length}{' '}
              {set.standards.length === 1 ? 'standard' : 'standards'}
            </span>
            {mayChange && (
              <Button kind="plain" onClick={() => setOpen({ kind: 'set', set })}>
                Change the set
              </Button>
            )}
            <Button
              kind="plain"
              onClick={() =>
                saveFile(
                  new Blob([writeCase(set, { creator: server.school, at: new Date().toISOString() })], {
                    type: 'application/json',
                  }),
                  `${set.name}.json`,
                )
              }
            >
              Download as CASE
            </Button>
            {mayChange && (
              <Button kind="plain" onClick={() => setOpen({ kind: 'standard', standard: undefined })}>
                Add a standard
              </Button>
            )}
          </div>
          <Tree
            set={set}
            onOpen={mayChange ? (standard) => setOpen({ kind: 'standard', standard }) : undefined}
          />
        </>
      ) : (
        <p>
          No learning standards yet. Read a framework from a file (CASE or CSV), or add a set and type a few;
          questions of assessments can then be tagged with them.
        </p>
      )}
      {open?.kind === 'import' && <ImportDialog server={server} onClose={close} onSaved={done} />}
      {open?.kind === 'set' && <SetDialog server={server} set={open.set} onClose={close} onSaved={done} />}
      {open?.kind === 'standard' && set && (
        <StandardDialog set={set} standard={open.standard} onClose={close} onSaved={done} />
      )}
    </div>
  )
}

/** A set as an indented list. */
function Tree({ set, onOpen }: { set: Set; onOpen: ((standard: Standard) => void) | undefined }) {
  const view = useTableView()
  const columns: readonly Column<Standard>[] = [
    {
      id: 'statement',
      title: 'Standard',
      heading: true,
      cell: (s) => (
        <span className="block" style={{ paddingLeft: 20 * s.depth }}>
          {onOpen ? (
            <button type="button" className="link text-left" onClick={() => onOpen(s)}>
              <Words standard={s} />
            </button>
          ) : (
            <Words standard={s} />
          )}
        </span>
      ),
    },
    { id: 'years', title: 'Years', className: 'text-muted', cell: (s) => s.years.join(', ') },
    { id: 'questions', title: 'Questions tagged', align: 'right', cell: (s) => s.questions || '' },
  ]
  return (
    <DataTable
      label={set.name}
      rows={set.standards}
      columns={columns}
      rowKey={(s) => s.id}
      view={view}
      filter={
        set.standards.length > 12
          ? {
              label: 'Code or words',
              rank: (s, text) => matchRank(`${s.code ?? ''} ${s.statement}`, text),
              none: 'No matches. Check the spelling.',
            }
          : undefined
      }
      empty={<p>This set has no standards yet. Add one, or read a file into it.</p>}
    />
  )
}

function Words({ standard: { code, statement } }: { standard: Standard }) {
  return (
    <>
      {code && <strong>{code} </strong>}
      {statement}
    </>
  )
}
