'use client'
import { useEffect, useState } from 'react'
import { useWatch } from 'react-hook-form'
import { limits } from '@/core/limits'
import type { QueryOutput } from '@/server/registry'
import { Button } from '@/ui/button'
import { Field, Problem } from '@/ui/field'
import { ClassTicks } from '@/screen/class-ticks'
import { FormDate, FormProblems, FormText } from '@/screen/form/fields'
import { useGo } from '@/screen/go'
import { useCommandForm } from '@/screen/form/use-command-form'
import { PageHead } from '@/screen/page-head'
import { testFileTypes, uploadTest, wordsOfUpload } from '@/screen/upload-test'
import { useDraft } from '@/screen/use-draft'

type Form = QueryOutput<'assessment.newForm'>

interface Values {
  name: string
  classIds: string[]
  givenOn: string
  questions: number
  choices: number
  points: string
  documentIds: string[]
  documentName: string
}

const places = ['name', 'classIds', 'givenOn', 'questions', 'choices', 'points', 'documentIds']

/** Creates an assessment from an existing test: its file, how many questions, how many choices. */
export function NewAssessment({ form: offered }: { form: Form }) {
  const go = useGo()
  const [draft, keepDraft] = useDraft<Values>('assessment')
  const [fileProblem, setFileProblem] = useState<string>()
  const [uploading, setUploading] = useState<string>()
  const of = useCommandForm('assessment.create', {
    schema: () => import('@/core/assessment/inputs').then((m) => m.assessmentInput),
    values: {
      name: '',
      classIds: [],
      givenOn: offered.today,
      questions: 10,
      choices: 4,
      points: '1',
      documentIds: [],
      documentName: '',
    } as Values,
    places,
    input: ({ documentName: _, ...values }: Values) => values,
    onSaved: ({ assessmentId }) => {
      keepDraft(undefined)
      go.push(`/assessments/${assessmentId}`)
    },
  })
  const { form, problem } = of
  useEffect(() => {
    if (draft) form.reset(draft)
  }, [draft, form])
  useEffect(() => {
    const { unsubscribe } = form.watch((values) => keepDraft(values as Values))
    return unsubscribe
  }, [form, keepDraft])
  const [classIds, documentName] = useWatch({ control: form.control, name: ['classIds', 'documentName'] })
  const subject = offered.classes.find((c) => classIds.includes(c.id))?.subjectId

  async function upload(chosen: readonly File[]) {
    if (chosen.length === 0) return
    setFileProblem(undefined)
    setUploading('Uploading')
    const sent = await uploadTest(chosen, (done, all) =>
      setUploading(all === 1 ? 'Uploading' : `Uploading ${done + 1} of ${all}`),
    )
    setUploading(undefined)
    if (!sent.ok) return setFileProblem(sent.problem)
    form.setValue(
      'documentIds',
      sent.files.map((f) => f.documentId),
    )
    form.setValue('documentName', wordsOfUpload(sent.files))
    if (!form.getValues('name'))
      form.setValue('name', (sent.files[0]?.name ?? '').replace(/\.(pdf|docx|png|jpe?g)$/i, ''))
  }
  return (
    <form
      method="post"
      onSubmit={of.submit}
      noValidate
      className="sheet reading grid grid-cols-[minmax(0,1fr)] gap-5"
    >
      <PageHead title="Create an assessment" detail="from an existing test" />
      <FormProblems of={of} />
      <Field
        label="The test: a PDF, a word-processor file (DOCX), or pictures of its pages"
        help="It is shown beside the answer key. You can also add or replace it later."
        problem={fileProblem ?? problem('documentIds')}
      >
        {(field) => (
          <div
            className="flex flex-wrap items-center gap-3"
            onDragOver={(e) => e.preventDefault()}
            onDrop={(e) => {
              e.preventDefault()
              void upload([...e.dataTransfer.files])
            }}
          >
            <input
              {...field}
              type="file"
              multiple
              accept={testFileTypes}
              onChange={(e) => void upload([...(e.target.files ?? [])])}
              className="max-w-full file:mr-3 file:rounded-[3px] file:border file:border-line file:bg-panel file:px-3 file:py-1"
            />
            <span role="status" className="text-muted">
              {uploading ?? documentName}
            </span>
          </div>
        )}
      </Field>
      <FormText of={of} name="name" label="Name" className="max-w-96" />
      <fieldset>
        <legend className="text-[13px] font-bold">Classes</legend>
        {problem('classIds') && <Problem>{problem('classIds')}</Problem>}
        {offered.classes.length === 0 && <p>You teach no class at the moment.</p>}
        <div className="flex flex-wrap gap-x-6">
          <ClassTicks
            classes={offered.classes}
            chosen={classIds}
            isOut={(c) => subject !== undefined && c.subjectId !== subject}
            onChange={(next) => form.setValue('classIds', next)}
          />
        </div>
      </fieldset>
      <div className="grid max-w-2xl grid-cols-2 gap-4 sm:grid-cols-[190px_1fr_1fr_1fr]">
        <FormDate of={of} name="givenOn" label="Given on" />
        <FormText of={of} name="questions" label="Questions" number min={1} max={limits.questions} />
        <FormText
          of={of}
          name="choices"
          label="Choices each"
          help="2 to 10, A to J"
          number
          min={2}
          max={10}
        />
        <FormText of={of} name="points" label="Points each" inputMode="decimal" />
      </div>
      <p>
        <Button type="submit" busy={of.busy} disabled={uploading !== undefined}>
          Continue to the answer key
        </Button>
      </p>
    </form>
  )
}
