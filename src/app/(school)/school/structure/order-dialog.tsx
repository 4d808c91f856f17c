'use client'
import { useState } from 'react'
import { useDialogAct } from '@/screen/form/dialog-act'
import { Discard } from '@/screen/form/dialog-form'
import { useClosing } from '@/screen/form/use-closing'
import { sendCommand } from '@/screen/server'
import { Button } from '@/ui/button'
import { Dialog } from '@/ui/dialog'
import { Problem } from '@/ui/field'
import { SortableList } from '@/ui/sortable-list'

type Part = { readonly id: string; readonly name: string }

/** Puts year groups or subjects into another order, by dragging or with the arrow keys. */
export function OrderDialog({
  kind,
  parts,
  onClose,
  onSaved,
}: {
  kind: 'year group' | 'subject'
  parts: readonly Part[]
  onClose: () => void
  onSaved: (words: string, run: string | undefined) => void
}) {
  const [order, setOrder] = useState(parts)
  const plural = kind === 'subject' ? 'subjects' : 'year groups'
  const save = useDialogAct(
    (key) => sendCommand('year.orderParts', { kind, ids: order.map((p) => p.id) }, key),
    (run) => onSaved(`The order of the ${plural} was saved.`, run),
  )
  const isSame = order.every((p, i) => p.id === parts[i]?.id)
  const closing = useClosing({ isTyped: !isSame, busy: save.busy, onClose })
  return (
    <Dialog
      title={`Order of the ${plural}`}
      description={
        kind === 'subject'
          ? 'Lists and report cards follow it.'
          : 'Youngest first: at the end of a year students move to the next one.'
      }
      onClose={closing.close}
    >
      {save.problem && <Problem>{save.problem}</Problem>}
      <SortableList label={`Order of the ${plural}`} items={order} onChange={setOrder} />
      {closing.asks ? (
        <Discard onDiscard={onClose} onGoOn={closing.goOn} />
      ) : (
        <p className="mt-4 flex gap-3">
          <Button busy={save.busy} disabled={isSame} onClick={() => void save.run()}>
            Save
          </Button>
          <Button kind="plain" onClick={closing.close}>
            Cancel
          </Button>
        </p>
      )}
    </Dialog>
  )
}
