'use client'
import { useWatch } from 'react-hook-form'
import { addDays } from '@/core/calendar/school-year'
import { Problem } from '@/ui/field'
import { ClassTicks } from '@/screen/class-ticks'
import { DialogForm } from '@/screen/form/dialog-form'
import { FormDate, FormText, FormTick } from '@/screen/form/fields'
import { useCommandForm } from '@/screen/form/use-command-form'
import { useGo } from '@/screen/go'
import { useAnswer } from '@/screen/use-live'
import type { QueryOutput } from '@/server/registry'
import { Dialog } from '@/ui/dialog'
import type { Key } from './use-key'

interface Values {
  readonly name: string
  readonly givenOn: string
  readonly classIds: string[]
  readonly withQuestions: boolean
}

/** Copies an assessment for another day: the same document and levels, with its questions or without. */
export function CopyDialog({ server, onClose }: { server: Key; onClose: () => void }) {
  const { answer: offered, problem } = useAnswer('assessment.newForm', {})
  if (!offered)
    return (
      <Dialog title={`Copy ${server.name}`} onClose={onClose}>
        {problem ? <Problem>{problem}</Problem> : <p role="status">Loading</p>}
      </Dialog>
    )
  return <CopyForm server={server} offered={offered} onClose={onClose} />
}

function CopyForm({
  server,
  offered,
  onClose,
}: {
  server: Key
  offered: QueryOutput<'assessment.newForm'>
  onClose: () => void
}) {
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
      title={`Copy ${server.name}`}
      description="The document, the levels and the tags come along. The copy and this one are a series, shown together by day."
      save="Copy"
      onClose={onClose}
    >
      <FormText of={of} name="name" label="Name" autoFocus />
      <FormDate of={of} name="givenOn" label="Given on" />
      <fieldset>
        <legend className="text-[13px] font-bold">Classes</legend>
        {of.problem('classIds') && <Problem>{of.problem('classIds')}</Problem>}
        {classes.length === 0 && <p>You teach no class of {server.subject} at the moment.</p>}
        <div className="flex flex-wrap gap-x-6">
          <ClassTicks
            classes={classes}
            chosen={classIds}
            isOut={() => false}
            onChange={(next) => of.form.setValue('classIds', [...next], { shouldDirty: true })}
          />
        </div>
      </fieldset>
      <FormTick
        of={of}
        name="withQuestions"
        label={`Also its ${server.questions.length === 1 ? 'question' : `${server.questions.length} questions`} with the key`}
      />
    </DialogForm>
  )
}
