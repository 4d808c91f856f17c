'use client'
import { OrderDialog as Ordering } from '@/screen/order-dialog'
import { sendCommand } from '@/screen/server'

type Part = { readonly id: string; readonly name: string }

/** Puts year groups or subjects into another order. */
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
  const plural = kind === 'subject' ? 'subjects' : 'year groups'
  return (
    <Ordering
      title={`Order of the ${plural}`}
      description={
        kind === 'subject'
          ? 'Lists and report cards follow it.'
          : 'Youngest first: at the end of a year students move to the next one.'
      }
      items={parts}
      save={(ids, key) => sendCommand('year.orderParts', { kind, ids: [...ids] }, key)}
      onClose={onClose}
      onSaved={(run) => onSaved(`The order of the ${plural} was saved.`, run)}
    />
  )
}
