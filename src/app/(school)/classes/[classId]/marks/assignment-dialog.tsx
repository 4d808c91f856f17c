'use client'
import { useState } from 'react'
import { useWatch } from 'react-hook-form'
import { sameName } from '@/core/same-name'
import { tagsIn } from '@/core/tags'
import { Button } from '@/ui/button'
import { Problem, Tick } from '@/ui/field'
import { ClassTicks } from '@/screen/class-ticks'
import { useDialogAct } from '@/screen/form/dialog-act'
import { DialogForm } from '@/screen/form/dialog-form'
import { FormDate, FormSelect, FormText, FormTextArea, FormTick } from '@/screen/form/fields'
import { useAtOpening } from '@/screen/form/use-opened'
import { useCommandForm, type CommandForm } from '@/screen/form/use-command-form'
import Link from '@/screen/link'
import { newKey, sendCommand } from '@/screen/server'
import { useAnswer } from '@/screen/use-live'
import type { Book, BookAssignment } from './book'

const places = [
  'name',
  'categoryId',
  'maxPoints',
  'dueOn',
  'counts',
  'extra',
  'others',
  'description',
  'tags',
  'givenOn',
  'shownFrom',
]

interface NewAssignment {
  name: string
  categoryId: string
  maxPoints: string
  dueOn: string
  counts: boolean
  extra: boolean
  others: string[]
  description: string
  tags: string
  givenOn: string
  shownFrom: string
}

/** What is sent of the fields that may stay empty. */
const described = ({ description, tags, givenOn, shownFrom }: NewAssignment) => ({
  description,
  tags: tagsIn(tags),
  givenOn: givenOn || null,
  shownFrom: shownFrom || null,
})

/** Creates an assignment, in one class or several, or edits one. */
export function AssignmentDialog({
  classId,
  termId,
  date,
  book,
  assignment,
  onClose,
}: {
  classId: string
  termId: string
  date: string
  book: Book
  assignment: BookAssignment | undefined
  /** Told whether anything changed, which assignment was saved, and what can be undone. */
  onClose: (
    saved: boolean,
    result?: { assignmentId?: string; done?: { words: string; run: string | undefined } },
  ) => void
}) {
  const opened = useAtOpening(assignment)
  const edited = opened && book.assignments.find((a) => a.id === opened.id)
  const values: NewAssignment = {
    name: edited?.name ?? '',
    categoryId: edited?.categoryId ?? book.categories[0]?.id ?? '',
    maxPoints: edited?.maxPoints ?? '10',
    dueOn: edited?.dueOn ?? date,
    counts: edited?.counts ?? true,
    extra: edited?.extra ?? false,
    others: [],
    description: edited?.description ?? '',
    tags: edited?.tags.join(', ') ?? '',
    givenOn: edited?.givenOn ?? '',
    shownFrom: edited?.shownFrom ?? '',
  }
  const shared = {
    schema: () => import('@/core/marks/inputs').then((m) => m.newAssignmentInput),
    values,
    places,
  }
  const creating = useCommandForm('marks.createAssignment', {
    ...shared,
    input: (v: NewAssignment) => ({ classId, ...v, ...described(v) }),
    onSaved: ({ assignmentId, classes }, { name }, run) =>
      onClose(true, {
        assignmentId,
        ...(classes > 1 ? { done: { words: `${name} added to ${classes} gradebooks.`, run } } : {}),
      }),
  })
  const editing = useCommandForm('marks.saveAssignment', {
    ...shared,
    edited,
    input: ({ others: _, ...v }: NewAssignment) => ({
      classId,
      assignmentId: opened?.id ?? '',
      expectedVersion: edited?.version ?? 0,
      ...v,
      ...described({ ...v, others: [] }),
    }),
    onSaved: ({ assignmentId }) => onClose(true, { assignmentId }),
  })
  const of = opened ? editing : creating
  const [asking, setAsking] = useState(false)
  const unlinking = useDialogAct(
    (key) =>
      sendCommand(
        'marks.unlinkAssessment',
        { classId, assignmentId: opened?.id ?? '', expectedVersion: edited?.version ?? 0 },
        key,
      ),
    () => onClose(true, opened ? { assignmentId: opened.id } : {}),
  )
  return (
    <DialogForm
      of={of}
      title={opened ? opened.name : 'Add assignment'}
      onClose={() => onClose(false)}
      more={
        opened &&
        !asking && (
          <span className="ml-auto flex flex-wrap gap-4">
            <Copying classId={classId} assignment={opened} onCopied={onClose} />
            <Button kind="quiet" onClick={() => setAsking(true)}>
              Delete assignment
            </Button>
          </span>
        )
      }
    >
      {opened?.assessmentId && (
        <p className="hint">
          Its scores and its maximum come from{' '}
          <Link className="link" href={`/assessments/${opened.assessmentId}/findings`}>
            the assessment
          </Link>{' '}
          and follow every change there.{' '}
          <Button kind="quiet" busy={unlinking.busy} onClick={() => void unlinking.run()}>
            Unlink, and keep the scores
          </Button>
        </p>
      )}
      {unlinking.problem && <Problem>{unlinking.problem}</Problem>}
      <FormText of={of} name="name" label="Short name" autoFocus />
      <div className="grid grid-cols-2 gap-4">
        <FormSelect of={of} name="categoryId" label="Category">
          {book.categories.map((c) => (
            <option key={c.id} value={c.id}>
              {c.name}
            </option>
          ))}
        </FormSelect>
        <FormText
          of={of}
          name="maxPoints"
          label="Out of"
          inputMode="decimal"
          readOnly={opened?.assessmentId != null}
        />
        <FormDate of={of} name="dueOn" label="Due" />
        <div className="self-end">
          <FormTick of={of} name="counts" label="Counts towards the mark" />
          <FormTick of={of} name="extra" label="Extra credit" detail="on top of what can be earned" />
        </div>
      </div>
      <div className="grid gap-4 sm:grid-cols-2">
        <FormDate
          of={of}
          name="shownFrom"
          label="Families see it from"
          help="With its scores; empty for never."
        />
        <FormDate of={of} name="givenOn" label="Given" />
      </div>
      <FormTextArea of={of} name="description" label="Description" rows={2} />
      <FormText of={of} name="tags" label="Tags, with commas between" />
      {!opened && <AlsoIn of={creating} classId={classId} termId={termId} book={book} />}
      {opened && asking && (
        <Deleting
          classId={classId}
          assignment={opened}
          scored={book.scores.filter((s) => s.assignmentId === opened.id && s.entry).length}
          onDeleted={() => onClose(true)}
        />
      )}
    </DialogForm>
  )
}

/** Another assignment like it, without or with its scores. */
function Copying({
  classId,
  assignment,
  onCopied,
}: {
  classId: string
  assignment: BookAssignment
  onCopied: Parameters<typeof AssignmentDialog>[0]['onClose']
}) {
  const [withScores, setWithScores] = useState(false)
  const copying = useDialogAct(
    (key) => sendCommand('marks.copyAssignment', { classId, assignmentId: assignment.id, withScores }, key),
    (run) => onCopied(true, { done: { words: `${assignment.name} copied.`, run } }),
  )
  return (
    <span className="flex flex-wrap items-center gap-3">
      {copying.problem && <Problem>{copying.problem}</Problem>}
      <Tick
        label="with scores"
        checked={withScores}
        onChange={(event) => setWithScores(event.target.checked)}
      />
      <Button kind="quiet" busy={copying.busy} onClick={() => void copying.run()}>
        Copy
      </Button>
    </span>
  )
}

/** The other gradebooks of the term that have a category of the same name, one tick each. */
function AlsoIn({
  of,
  classId,
  termId,
  book,
}: {
  of: CommandForm<NewAssignment>
  classId: string
  termId: string
  book: Book
}) {
  const { answer } = useAnswer('marks.settingsOffers', { classId, termId })
  const [categoryId, others] = useWatch({ control: of.form.control, name: ['categoryId', 'others'] })
  const name = book.categories.find((c) => c.id === categoryId)?.name ?? ''
  const classes = (answer?.targets ?? [])
    .filter((t) => t.categories.some((c) => sameName(c) === sameName(name)))
    .map((t) => ({ id: t.classId, name: t.name }))
  if (classes.length === 0) return null
  return (
    <fieldset>
      <legend className="text-[13px] font-bold">Also in {name} of</legend>
      {of.problem('others') && <Problem>{of.problem('others')}</Problem>}
      <div className="flex flex-wrap gap-x-6">
        <ClassTicks
          classes={classes}
          chosen={others}
          onChange={(next) => of.form.setValue('others', next, { shouldDirty: true })}
        />
      </div>
    </fieldset>
  )
}

const students = (n: number) => (n === 1 ? '1 student' : `${n} students`)

/** Says what deleting an assignment changes, and deletes it. */
function Deleting({
  classId,
  assignment,
  scored,
  onDeleted,
}: {
  classId: string
  assignment: BookAssignment
  scored: number
  onDeleted: () => void
}) {
  const [problem, setProblem] = useState<string>()
  const [busy, setBusy] = useState(false)
  const [key] = useState(newKey)
  async function remove() {
    setBusy(true)
    const { id: assignmentId, version: expectedVersion } = assignment
    const result = await sendCommand(
      'marks.removeAssignment',
      { classId, assignmentId, expectedVersion },
      key,
    )
    setBusy(false)
    if (result.ok) onDeleted()
    else setProblem(result.failure.message)
  }
  return (
    <div className="hint grid justify-items-start gap-2">
      {problem && <Problem>{problem}</Problem>}
      <p>
        {scored === 0
          ? 'It has no scores.'
          : assignment.assessmentId
            ? `The term marks of ${students(scored)} change. The answers stay in the assessment, and it can be added to the gradebook again.`
            : `The scores of ${students(scored)} are deleted with it, and their term marks change.`}
      </p>
      <Button kind="plain" busy={busy} onClick={() => void remove()}>
        Delete {assignment.name}
      </Button>
    </div>
  )
}
