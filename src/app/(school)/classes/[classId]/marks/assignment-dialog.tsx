'use client'
import { useState } from 'react'
import { useWatch } from 'react-hook-form'
import { sameName } from '@/core/same-name'
import { Button } from '@/ui/button'
import { Problem } from '@/ui/field'
import { ClassTicks } from '@/screen/class-ticks'
import { useDialogAct } from '@/screen/form/dialog-act'
import { DialogForm } from '@/screen/form/dialog-form'
import { FormDate, FormSelect, FormText, FormTick } from '@/screen/form/fields'
import { useAtOpening } from '@/screen/form/use-opened'
import { useCommandForm, type CommandForm } from '@/screen/form/use-command-form'
import Link from '@/screen/link'
import { newKey, sendCommand } from '@/screen/server'
import { useAnswer } from '@/screen/use-live'
import type { Book, BookAssignment } from './use-gradebook'

const places = ['name', 'categoryId', 'maxPoints', 'dueOn', 'counts', 'extra', 'others']

interface NewAssignment {
  name: string
  categoryId: string
  maxPoints: string
  dueOn: string
  counts: boolean
  extra: boolean
  others: string[]
}

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
  }
  const shared = {
    schema: () => import('@/core/marks/inputs').then((m) => m.newAssignmentInput),
    values,
    places,
  }
  const creating = useCommandForm('marks.createAssignment', {
    ...shared,
    input: (v: NewAssignment) => ({ classId, ...v }),
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
          <Button kind="quiet" className="ml-auto" onClick={() => setAsking(true)}>
            Delete assignment
          </Button>
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
