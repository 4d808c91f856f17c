'use client'
import { DialogForm } from '@/screen/form/dialog-form'
import { FormSelect } from '@/screen/form/fields'
import { useAtOpening } from '@/screen/form/use-opened'
import { useCommandForm } from '@/screen/form/use-command-form'
import type { QueryOutput } from '@/server/registry'
import type { ActProps } from './act-props'
import { LoadedDialog } from './loaded-dialog'

/** Hands an assessment over to a colleague, who owns it from then on. */
export function HandOverDialog(props: ActProps) {
  const title = `Hand over ${props.server.name}`
  return (
    <LoadedDialog
      title={title}
      query="assessment.handingOver"
      input={{ assessmentId: props.server.id }}
      onClose={() => props.onClose(false)}
    >
      {(offered) => <HandOverForm {...props} title={title} offered={offered} />}
    </LoadedDialog>
  )
}

function HandOverForm({
  server,
  title,
  offered,
  onClose,
}: ActProps & { title: string; offered: QueryOutput<'assessment.handingOver'> }) {
  const version = useAtOpening(server.version)
  const of = useCommandForm('assessment.handOver', {
    schema: () => import('@/core/assessment/sharing-inputs').then((m) => m.handOverInput),
    values: { staffId: '' },
    places: ['staffId'],
    input: (values) => ({ assessmentId: server.id, expectedVersion: version, ...values }),
    onSaved: () => onClose(true),
  })
  return (
    <DialogForm
      of={of}
      title={title}
      description={`It belongs to ${server.owner}. The colleague can change it, enter answers and share it; what it was shared with stays as it is.`}
      save="Hand over"
      onClose={() => onClose(false)}
    >
      <FormSelect of={of} name="staffId" label="Colleague">
        <option value="">Choose</option>
        {offered.colleagues.map((c) => (
          <option key={c.id} value={c.id}>
            {c.name}
          </option>
        ))}
      </FormSelect>
    </DialogForm>
  )
}
