'use client'
import { Button } from '@/ui/button'
import { useDialogAct } from '@/screen/form/dialog-act'
import { useAtOpening } from '@/screen/form/use-opened'
import { OrderDialog } from '@/screen/order-dialog'
import { sendCommand } from '@/screen/server'
import type { Book } from './book'

/** Puts the assignments of a gradebook in an order by hand, or back by category and due date. */
export function OrderAssignments({
  classId,
  termId,
  book,
  onClose,
}: {
  classId: string
  termId: string
  book: Book
  onClose: (saved: boolean, done?: { words: string; run: string | undefined }) => void
}) {
  const assignments = useAtOpening(book.assignments)
  const send = (ids: readonly string[], key: string) =>
    sendCommand('marks.orderAssignments', { classId, termId, ids: [...ids] }, key)
  const byDate = useDialogAct(
    (key) => send([], key),
    (run) => onClose(true, { words: 'Assignments stand by category and due date.', run }),
  )
  return (
    <OrderDialog
      title="Order of the assignments"
      description="The order changes nothing about the marks."
      items={assignments}
      save={send}
      more={
        assignments.some((a) => a.isPlaced) && (
          <Button kind="plain" busy={byDate.busy} onClick={() => void byDate.run()}>
            Order by category and due date
          </Button>
        )
      }
      onClose={() => onClose(false)}
      onSaved={(run) => onClose(true, { words: 'The order of the assignments was saved.', run })}
    />
  )
}
