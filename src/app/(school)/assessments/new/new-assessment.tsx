'use client'
import { useRouter } from 'next/navigation'
import { useRef, useState, type FormEvent } from 'react'
import type { QueryOutput } from '@/server/registry'
import { Button } from '@/ui/button'
import { Field, Problem, TextInput } from '@/ui/field'
import { ClassTicks } from '@/screen/class-ticks'
import { DateInput } from '@/screen/date-input'
import { PageHead } from '@/screen/page-head'
import { newKey, tellServer, uploadFile, type CallFailure } from '@/screen/server'
import { useDraft } from '@/screen/use-draft'

type Form = QueryOutput<'assessment.newForm'>

/** Makes an assessment from a test one has: a PDF, how many questions, how many choices. */
export function NewAssessment({ form }: { form: Form }) {
  const router = useRouter()
  const [values, change, forget] = useDraft('assessment', {
    name: '',
    classIds: [] as string[],
    givenOn: form.today,
    questions: '10',
    choices: '4',
    points: '1',
    documentId: '',
    documentName: '',
  })
  const [failure, setFailure] = useState<CallFailure>()
  const [fileProblem, setFileProblem] = useState<string>()
  const [busy, setBusy] = useState<'file' | 'form'>()
  const key = useRef(newKey())
  const problem = (path: string) =>
    failure?.kind === 'invalid' ? failure.fields.find((f) => f.path === path)?.message : undefined
  const subject = form.classes.find((c) => values.classIds.includes(c.id))?.subjectId

  async function take(file: File | undefined) {
    if (!file) return
    setFileProblem(undefined)
    if (file.size > 25 * 1048576)
      return setFileProblem(
        `${file.name} has ${(file.size / 1048576).toFixed(1)} MiB; the most is 25 MiB. Save it with smaller pictures, or in parts.`,
      )
    setBusy('file')
    const result = await uploadFile(file)
    setBusy(undefined)
    if (!result.ok) return setFileProblem(result.failure.message)
    change({
      documentId: result.value.documentId,
      documentName: `${file.name}, ${result.value.pageCount} ${result.value.pageCount === 1 ? 'page' : 'pages'}`,
      ...(values.name ? {} : { name: file.name.replace(/\.pdf$/i, '') }),
    })
  }
  async function submit(event: FormEvent) {
    event.preventDefault()
    setBusy('form')
    const result = await tellServer(
      'assessment.create',
      {
        name: values.name,
        classIds: values.classIds,
        givenOn: values.givenOn,
        questions: Number(values.questions),
        choices: Number(values.choices),
        points: values.points,
        documentId: values.documentId || null,
      },
      key.current,
    )
    if (result.ok) {
      forget()
      return router.push(`/assessments/${result.value.assessmentId}`)
    }
    setBusy(undefined)
    key.current = newKey()
    setFailure(result.failure)
  }
  return (
    <form onSubmit={(e) => void submit(e)} noValidate className="sheet grid max-w-3xl gap-5">
      <PageHead title="New assessment" detail="from a test you have" />
      {failure && failure.kind !== 'invalid' && <Problem>{failure.message}</Problem>}
      <Field
        label="The test, as PDF"
        help="It is shown beside the key. You can also add or replace it later."
        problem={fileProblem ?? problem('documentId')}
      >
        {(f) => (
          <div
            className="flex flex-wrap items-center gap-3"
            onDragOver={(e) => e.preventDefault()}
            onDrop={(e) => {
              e.preventDefault()
              void take(e.dataTransfer.files[0])
            }}
          >
            <input
              {...f}
              type="file"
              accept="application/pdf,.pdf"
              onChange={(e) => void take(e.target.files?.[0])}
              className="file:mr-3 file:rounded-[3px] file:border file:border-line file:bg-panel file:px-3 file:py-1"
            />
            <span role="status" className="text-muted">
              {busy === 'file' ? 'Taking it in' : values.documentName}
            </span>
          </div>
        )}
      </Field>
      <Field label="Name" problem={problem('name')}>
        {(f) => (
          <TextInput
            {...f}
            className="max-w-96"
            value={values.name}
            onChange={(e) => change({ name: e.target.value })}
          />
        )}
      </Field>
      <fieldset>
        <legend className="text-[13px] font-bold">Classes that sat it</legend>
        {problem('classIds') && <Problem>{problem('classIds')}</Problem>}
        {form.classes.length === 0 && <p>You teach no class now, so there is nobody to assess.</p>}
        <div className="flex flex-wrap gap-x-6">
          <ClassTicks
            classes={form.classes}
            chosen={values.classIds}
            isOut={(c) => subject !== undefined && c.subjectId !== subject}
            onChange={(classIds) => change({ classIds })}
          />
        </div>
      </fieldset>
      <div className="grid max-w-2xl grid-cols-2 gap-4 sm:grid-cols-4">
        <Field label="Given on" problem={problem('givenOn')}>
          {(f) => <DateInput {...f} value={values.givenOn} onChange={(givenOn) => change({ givenOn })} />}
        </Field>
        <Field label="Questions" problem={problem('questions')}>
          {(f) => (
            <TextInput
              {...f}
              type="number"
              min={1}
              max={200}
              value={values.questions}
              onChange={(e) => change({ questions: e.target.value })}
            />
          )}
        </Field>
        <Field label="Choices each" help="2 to 10, A to J" problem={problem('choices')}>
          {(f) => (
            <TextInput
              {...f}
              type="number"
              min={2}
              max={10}
              value={values.choices}
              onChange={(e) => change({ choices: e.target.value })}
            />
          )}
        </Field>
        <Field label="Points each" problem={problem('points')}>
          {(f) => (
            <TextInput
              {...f}
              inputMode="decimal"
              value={values.points}
              onChange={(e) => change({ points: e.target.value })}
            />
          )}
        </Field>
      </div>
      <p>
        <Button type="submit" busy={busy === 'form'} disabled={busy === 'file'}>
          Go on to the key
        </Button>
      </p>
    </form>
  )
}
