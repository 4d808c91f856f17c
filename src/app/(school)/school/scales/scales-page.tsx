'use client'
import { useState } from 'react'
import { bandWords } from '@/core/marks/bands'
import { Button } from '@/ui/button'
import { DataTable } from '@/ui/table/data-table'
import { onlyEdit } from '@/ui/table/edit-column'
import { later } from '@/screen/later'
import { PageHead } from '@/screen/page-head'
import { UndoableMessage, useUndoable } from '@/screen/undoable'
import { useLive } from '@/screen/use-live'
import { ScaleBar } from './scale-bar'
import type { Scale, Scales } from './scales'

const ScaleDialog = later(() => import('./scale-dialog').then((m) => m.ScaleDialog))

/** The scales that turn a percentage into a grade. */
export function ScalesPage({ initial }: { initial: Scales }) {
  const [{ scales, mayChange }, refresh] = useLive('year.scales', {}, initial)
  const undoable = useUndoable(refresh)
  const [open, setOpen] = useState<'new' | string>()
  const saved = (words: string, run: string | undefined) => {
    setOpen(undefined)
    undoable.done(words, run)
    void refresh()
  }
  const edited = scales.find((s) => s.id === open)
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
        rowKey={(s) => s.id}
        empty={<p>No scales yet. Each class needs one, which turns its marks in percent into grades.</p>}
        columns={[
          { id: 'name', title: 'Scale', heading: true, cell: (s) => s.name },
          {
            id: 'grades',
            title: 'Grades, from percent',
            className: 'w-3/5',
            cell: (s) => (
              <>
                <span className="sr-only">{bandWords(s.bands).join('; ')}</span>
                <ScaleBar bands={s.bands} />
              </>
            ),
          },
          { id: 'classes', title: 'Classes', align: 'right', cell: (s) => s.classes },
          ...(mayChange
            ? [
                onlyEdit<Scale>(
                  (s) => s.name,
                  (s) => setOpen(s.id),
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
