'use client'
import { Button } from '@/ui/button'
import { Problem } from '@/ui/field'
import { DialogForm } from '@/screen/form/dialog-form'
import { FormText } from '@/screen/form/fields'
import { RemoveButton, useDialogAct } from '@/screen/form/dialog-act'
import { useCommandForm } from '@/screen/form/use-command-form'
import { tellServer } from '@/screen/server'

type Kind = 'year group' | 'homeroom' | 'subject'

/** Gives a year group, a homeroom or a subject another name, moves it up or down among its kind, or removes it. */
export function PartDialog({
  kind,
  part,
  order,
  onClose,
  onSaved,
}: {
  kind: Kind
  part: { readonly id: string; readonly name: string; readonly version: number }
  /** The ids of its kind in their order, where they have one. */
  order?: readonly string[]
  onClose: () => void
  onSaved: (words: string, run: string | undefined) => void
}) {
  const of = useCommandForm('year.renamePart', {
    schema: () => import('@/core/calendar/inputs').then((m) => m.partInput),
    values: { name: part.name },
    places: ['name'],
    input: (v: { name: string }) => ({ ...v, kind, partId: part.id, seen: part.version }),
    onSaved: (_, { name }, run) => onSaved(`${name} was saved.`, run),
  })
  const removal = useDialogAct(
    (key) => tellServer('year.removePart', { kind, partId: part.id, seen: part.version }, key),
    (run) => onSaved(`${part.name} was removed.`, run),
  )
  const at = order?.indexOf(part.id) ?? -1
  const moved = (by: number) => {
    const ids = [...(order ?? [])]
    const [own] = ids.splice(at, 1)
    if (own) ids.splice(at + by, 0, own)
    return ids
  }
  const up = useDialogAct(
    (key) => tellServer('year.orderParts', { kind: kind as 'subject', ids: moved(-1) }, key),
    (run) => onSaved(`${part.name} was moved up.`, run),
  )
  const down = useDialogAct(
    (key) => tellServer('year.orderParts', { kind: kind as 'subject', ids: moved(1) }, key),
    (run) => onSaved(`${part.name} was moved down.`, run),
  )
  const problem = removal.problem ?? up.problem ?? down.problem
  return (
    <DialogForm of={of} title={part.name} onClose={onClose} more={<RemoveButton of={removal} />}>
      {problem && <Problem>{problem}</Problem>}
      <FormText of={of} name="name" label="Name" />
      {order && (
        <p className="flex gap-3">
          <Button kind="plain" busy={up.busy} disabled={at <= 0} onClick={() => void up.run()}>
            Move up
          </Button>
          <Button
            kind="plain"
            busy={down.busy}
            disabled={at < 0 || at === order.length - 1}
            onClick={() => void down.run()}
          >
            Move down
          </Button>
        </p>
      )}
    </DialogForm>
  )
}
