'use client'
import { useState } from 'react'
import { Button } from '@/ui/button'
import { later } from '@/screen/later'
import Link from '@/screen/link'
import { UndoableMessage, useUndoable } from '@/screen/undoable'
import type { Findings } from './shown'

const GradebookDialog = later(() => import('./gradebook-dialog').then((m) => m.GradebookDialog))

/** In which gradebooks the result stands, and the way into the others. */
export function AddToGradebook({
  findings: f,
  linked,
  refresh,
}: {
  findings: Findings
  linked: readonly string[]
  /** Asks again which gradebooks hold it. */
  refresh: () => Promise<void>
}) {
  const [open, setOpen] = useState(false)
  const undoable = useUndoable(refresh)
  const own = f.classes.filter((c) => f.ownClassIds.includes(c.id))
  const isIn = (c: { id: string }) => linked.includes(c.id)
  return (
    <section>
      <h2 className="mb-2">Gradebook</h2>
      <ul className="mb-2 grid gap-1">
        {own.filter(isIn).map((c) => (
          <li key={c.id}>
            <span aria-hidden className="text-starboard">
              ✓{' '}
            </span>
            <strong>{c.name}</strong>: added to the gradebook; later changes follow.{' '}
            <Link className="link" href={`/classes/${c.id}/marks?date=${c.givenOn}`}>
              Open the gradebook<span className="sr-only"> of {c.name}</span>
            </Link>
          </li>
        ))}
      </ul>
      {own.some((c) => !isIn(c)) && (
        <Button kind="plain" onClick={() => setOpen(true)}>
          Add to gradebook
        </Button>
      )}
      <UndoableMessage of={undoable} />
      {open && (
        <GradebookDialog
          findings={f}
          onClose={() => setOpen(false)}
          onAdded={(words, run) => {
            void refresh().then(() => undoable.done(words, run))
          }}
        />
      )}
    </section>
  )
}
