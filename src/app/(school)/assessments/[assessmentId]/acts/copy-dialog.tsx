'use client'
import { useWatch } from 'react-hook-form'
import { addDays } from '@/core/calendar/school-year'
import { DialogForm } from '@/screen/form/dialog-form'
import { FormDate, FormText, FormTick } from '@/screen/form/fields'
import { useCommandForm } from '@/screen/form/use-command-form'
import { useGo } from '@/screen/go'
import type { QueryOutput } from '@/server/registry'
import type { ActProps } from './act-props'
import { ClassChoice } from './class-choice'
import { LoadedDialog } from './loaded-dialog'

interface Values {
  readonly name: string
  readonly givenOn: string
  readonly classIds: string[]
  readonly withQuestions: boolean
}

/** Copies an assessment for another day: the same document and levels, with its questions or without. */
export function CopyDialog(props: ActProps) {
  const title = `Copy ${props.server.name}`
  return (
    <LoadedDialog title={title} query="assessment.newForm" input={{}} onClose={() => props.onClose(false)}>
      {(offered) => <CopyForm {...props} title={title} offered={offered} />}
    </LoadedDialog>
  )
}

function CopyForm({
  server,
  title,
  offered,
  onClose,
}: ActProps & { title: string; offered: QueryOutput<'assessment.newForm'> }) {
  const go = useGo()
  const classes = offered.classes.filter((c) => c.subjectId === server.subjectId)
  const before = new Set(server.classes.map((c) => c.id))
  const same = classes.filter((c) => before.has(c.id)).map((c) => c.id)
  const of = useCommandForm('assessment.copy', {
    schema: () => import('@/core/assessment/inputs').then((m) => m.copyInput),
    values: {
      name: server.name,
      givenOn: addDays(offered.today, 1),
      classIds: same.length > 0 ? same : classes.slice(0, 1).map((c) => c.id),
      withQuestions: true,
    } as Values,
    places: ['name', 'givenOn', 'classIds', 'withQuestions'],
    input: (values: Values) => ({ assessmentId: server.id, ...values }),
    onSaved: ({ assessmentId }) => go.push(`/assessments/${assessmentId}`),
  })
  const classIds = useWatch({ control: of.form.control, name: 'classIds' })
  return (
    <DialogForm
      of={of}
      title={title}
      description={
        server.mayShare
          ? 'The document, the levels and the tags come along. The copy and this one are a series, shown together by day.'
          : 'The document, the levels and the tags come along. The copy is yours.'
      }
      save="Copy"
      onClose={() => onClose(false)}
    >
      <FormText of={of} name="name" label="Name" autoFocus />
      <FormDate of={of} name="givenOn" label="Given on" />
      <ClassChoice
        classes={classes}
        chosen={classIds}
        problem={of.problem('classIds')}
        none={`You teach no class of ${server.subject} at the moment.`}
        onChange={(next) => of.form.setValue('classIds', next, { shouldDirty: true })}
      />
      <FormTick
        of={of}
        name="withQuestions"
        label={`Also its ${server.questions.length === 1 ? 'question' : `${server.questions.length} questions`} with the key`}
      />
    </DialogForm>
  )
}
