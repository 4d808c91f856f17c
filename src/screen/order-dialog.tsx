'use client'
import { useState, type ReactNode } from 'react'
import { Button } from '@/ui/button'
import { Dialog } from '@/ui/dialog'
import { Problem } from '@/ui/field'
import { SortableList } from '@/ui/sortable-list'
import { useDialogAct } from './form/dialog-act'
import { Discard } from './form/dialog-form'
import { useClosing } from './form/use-closing'
import type { CallResult } from './server'

interface Item {
  readonly id: string
  readonly name: string
}

/** Puts things into another order, by dragging or with the arrow keys. */
export function OrderDialog({
  title,
  description,
  items,
  save,
  more,
  onClose,
  onSaved,
}: {
  title: string
  description: string
  items: readonly Item[]
  save: (ids: readonly string[], key: string) => Promise<CallResult<unknown>>
  /** Another act beside saving the order. */
  more?: ReactNode
  onClose: () => void
  onSaved: (run: string | undefined) => void
}) {
  const [order, setOrder] = useState(items)
  const saving = useDialogAct(
    (key) =>
      save(
        order.map((p) => p.id),
        key,
      ),
    onSaved,
  )
  const isSame = order.every((p, i) => p.id === items[i]?.id)
  const closing = useClosing({ isTyped: !isSame, busy: saving.busy, onClose })
  return (
    <Dialog title={title} description={description} onClose={closing.close}>
      {saving.problem && <Problem>{saving.problem}</Problem>}
      <SortableList label={title} items={order} onChange={setOrder} />
      {closing.asks ? (
        <Discard onDiscard={onClose} onGoOn={closing.goOn} />
      ) : (
        <p className="mt-4 flex flex-wrap gap-3">
          <Button busy={saving.busy} disabled={isSame} onClick={() => void saving.run()}>
            Save
          </Button>
          <Button kind="plain" onClick={closing.close}>
            Cancel
          </Button>
          {more}
        </p>
      )}
    </Dialog>
  )
}
