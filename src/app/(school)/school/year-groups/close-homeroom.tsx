'use client'
import { DialogForm } from '@/screen/form/dialog-form'
import { FormDate } from '@/screen/form/fields'
import { useCommandForm } from '@/screen/form/use-command-form'
import { useAtOpening } from '@/screen/form/use-opened'
import type { Homeroom } from '@/app/(school)/school/structure/use-structure'

/** Closes a homeroom after a day, or opens it again. */
export function CloseHomeroom({
  h: live,
  date,
  onClose,
  onSaved,
}: {
  h: Homeroom
  date: string
  onClose: () => void
  onSaved: (words: string, run: string | undefined) => void
}) {
  const h = useAtOpening(live)
  const isClosed = h.lastDay !== null
  const of = useCommandForm('year.closeHomeroom', {
    schema: () => import('@/core/calendar/inputs').then((m) => m.closeHomeroomInput),
    values: { lastDay: date },
    places: ['lastDay'],
    input: (v: { lastDay: string }) => ({
      homeroomId: h.id,
      expectedVersion: h.version,
      lastDay: isClosed ? null : v.lastDay,
    }),
    onSaved: (_, __, run) => onSaved(`${h.name} ${isClosed ? 'is open again' : 'ends on that day'}.`, run),
  })
  return (
    <DialogForm
      of={of}
      title={isClosed ? `Open ${h.name} again` : `End ${h.name} on a date`}
      description={
        isClosed
          ? 'Students can be put into it again. Give it a homeroom teacher as well.'
          : 'Nobody belongs to it after its last day, and its homeroom teacher ends. Its registers and history stay.'
      }
      save={isClosed ? 'Open again' : 'End'}
      onClose={onClose}
    >
      {!isClosed && <FormDate of={of} name="lastDay" label="Last day" />}
    </DialogForm>
  )
}
