'use client'
import { useWatch } from 'react-hook-form'
import { DialogForm } from '@/screen/form/dialog-form'
import { FormDate } from '@/screen/form/fields'
import { useCommandForm } from '@/screen/form/use-command-form'
import type { QueryOutput } from '@/server/registry'
import type { ActProps } from './act-props'
import { ClassChoice } from './class-choice'
import { LoadedDialog } from './loaded-dialog'

/** Gives an assessment to further classes of one's own, on a day of their own. */
export function GiveDialog(props: ActProps) {
  const title = `Give ${props.server.name} to other classes`
  return (
    <LoadedDialog title={title} query="assessment.newForm" input={{}} onClose={() => props.onClose(false)}>
      {(offered) => <GiveForm {...props} title={title} offered={offered} />}
    </LoadedDialog>
  )
}

function GiveForm({
  server,
  title,
  offered,
  onClose,
}: ActProps & { title: string; offered: QueryOutput<'assessment.newForm'> }) {
  const given = new Set(server.classes.map((c) => c.id))
  const classes = offered.classes.filter((c) => c.subjectId === server.subjectId && !given.has(c.id))
  const of = useCommandForm('assessment.give', {
    schema: () => import('@/core/assessment/sharing-inputs').then((m) => m.giveInput),
    values: { givenOn: offered.today, classIds: [] as string[] },
    places: ['givenOn', 'classIds'],
    input: (values) => ({ assessmentId: server.id, ...values }),
    onSaved: () => onClose(true),
  })
  const classIds = useWatch({ control: of.form.control, name: 'classIds' })
  return (
    <DialogForm
      of={of}
      title={title}
      description={
        server.mayShare
          ? 'The same questions and key. Its findings show all classes together, or one by one.'
          : `The same questions and key. You see the results of your own classes; ${server.owner} sees those of all.`
      }
      save="Give"
      onClose={() => onClose(false)}
    >
      <FormDate of={of} name="givenOn" label="Given on" />
      <ClassChoice
        classes={classes}
        chosen={classIds}
        problem={of.problem('classIds')}
        none={`You teach no other class of ${server.subject} at the moment.`}
        onChange={(next) => of.form.setValue('classIds', next, { shouldDirty: true })}
      />
    </DialogForm>
  )
}
