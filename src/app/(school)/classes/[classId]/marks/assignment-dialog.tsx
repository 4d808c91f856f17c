'use client'
import { useState } from 'react'
import { Button } from '@/ui/button'
import { Problem } from '@/ui/field'
import { useDialogAct } from '@/screen/form/dialog-act'
import { DialogForm } from '@/screen/form/dialog-form'
import { FormDate, FormSelect, FormText, FormTick } from '@/screen/form/fields'
import { useAtOpening } from '@/screen/form/use-opened'
import { useCommandForm } from '@/screen/form/use-command-form'
import Link from '@/screen/link'
import { newKey, sendCommand } from '@/screen/server'
import type { Book, BookAssignment } from './use-gradebook'

const places = ['name', 'categoryId', 'maxPoints', 'dueOn', 'counts', 'extra']

/** Creates an assignment, or edits one. */
export function AssignmentDialog({
  classId,
  date,
  book,
  assignment,
  onClose,
}: {
  classId: string
  date: string
  book: Book
  assignment: BookAssignment | undefined
  /** Told whether anything changed, and which assignment was saved. */
  onClose: (saved: boolean, assignmentId?: string) => void
}) {
  const opened = useAtOpening(assignment)
  const edited = opened && book.assignments.find((a) => a.id === opened.id)
  const values = {
    name: edited?.name ?? '',
    categoryId: edited?.categoryId ?? book.categories[0]?.id ?? '',
    maxPoints: edited?.maxPoints ?? '10',
    dueOn: edited?.dueOn ?? date,
    counts: edited?.counts ?? true,
    extra: edited?.extra ?? false,
  }
  const shared = {
    schema: () => import('@/core/marks/inputs').then((m) => m.assignmentInput),
    values,
    places,
  }
  const onSaved = ({ assignmentId }: { assignmentId: string }) => onClose(true, assignmentId)
  const creating = useCommandForm('marks.createAssignment', {
    ...shared,
    input: (v: typeof values) => ({ classId, ...v }),
    onSaved,
  })
  const editing = useCommandForm('marks.saveAssignment', {
    ...shared,
    edited,
    input: (v: typeof values) => ({
      classId,
      assignmentId: opened?.id ?? '',
      expectedVersion: edited?.version ?? 0,
      ...v,
    }),
    onSaved,
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
    () => onClose(true, opened?.id),
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
