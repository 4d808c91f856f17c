'use client'
import { useState } from 'react'
import { shortDate } from '@/core/calendar/date-words'
import { bandWords } from '@/core/marks/bands'
import { Button } from '@/ui/button'
import { DataTable } from '@/ui/table/data-table'
import { onlyEdit } from '@/ui/table/edit-column'
import { later } from '@/screen/later'
import { PageHead } from '@/screen/page-head'
import { UndoableMessage, useUndoable } from '@/screen/undoable'
import { useLive } from '@/screen/use-live'
import { ScaleBar } from './scale-bar'
import { keyOf, scalesFrom, type ScaleFrom, type Scales } from './scales'

const ScaleDialog = later(() => import('./scale-dialog').then((m) => m.ScaleDialog))

/** The scales that turn a percentage into a grade. */
export function ScalesPage({ initial }: { initial: Scales }) {
  const [now, refresh] = useLive('year.scales', {}, initial)
  const { mayChange } = now
  const scales = scalesFrom(now)
  const undoable = useUndoable(refresh)
  const [open, setOpen] = useState<'new' | string>()
  const saved = (words: string, run: string | undefined) => {
    setOpen(undefined)
    undoable.done(words, run)
    void refresh()
  }
  const edited = scales.find((s) => keyOf(s) === open)
  return (
    <div className="sheet">
      <PageHead
        title="Grading scales"
        act={mayChange && <Button onClick={() => setOpen('new')}>Add a scale</Button>}
      />
      <UndoableMessage of={undoable} />
      <DataTable
        label="Grading scales"
        rows={scales}
        rowKey={keyOf}
        empty={<p>No scales yet. Each class needs one, which turns its marks in percent into grades.</p>}
        columns={[
          {
            id: 'name',
            title: 'Scale',
            heading: true,
            cell: (s) => (
              <>
                {s.name}
                {s.startsOn && (
                  <span className="block text-[13px] font-normal">from {shortDate(s.startsOn, true)}</span>
                )}
              </>
            ),
          },
          {
            id: 'grades',
            title: 'Grades, from percent',
            className: 'w-3/5',
            cell: (s) =>
              s.bands.length === 0 ? (
                'Percent only, no grades'
              ) : (
                <>
                  <span className="sr-only">{bandWords(s.bands).join('; ')}</span>
                  <ScaleBar bands={s.bands} />
                </>
              ),
          },
          { id: 'classes', title: 'Classes', align: 'right', cell: (s) => s.classes },
          ...(mayChange
            ? [
                onlyEdit<ScaleFrom>(
                  (s) => (s.startsOn ? `${s.name} from ${shortDate(s.startsOn, true)}` : s.name),
                  (s) => setOpen(keyOf(s)),
                ),
              ]
            : []),
        ]}
      />
      {open !== undefined && (
        <ScaleDialog key={open} scale={edited} onClose={() => setOpen(undefined)} onSaved={saved} />
      )}
    </div>
  )
}
