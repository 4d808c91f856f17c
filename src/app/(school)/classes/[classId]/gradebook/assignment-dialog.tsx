'use client'
import { DateInput } from '@/screen/date-input'
import Link from '@/screen/link'
import { useRef, useState, type FormEvent } from 'react'
import { Button } from '@/ui/button'
import { Dialog } from '@/ui/dialog'
import { Field, Problem, Select, TextInput, Tick } from '@/ui/field'
import { newKey, tellServer, type CallFailure, type CallResult } from '@/screen/server'
import type { Book, BookAssignment } from './use-gradebook'

/** Makes an assignment, or changes one. */
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
  const [values, setValues] = useState({
    name: assignment?.name ?? '',
    categoryId: assignment?.categoryId ?? book.categories[0]?.id ?? '',
    maxPoints: assignment?.maxPoints ?? '10',
    dueOn: assignment?.dueOn ?? date,
    counts: assignment?.counts ?? true,
  })
  // The version this dialog was opened with, whatever the page shows by now.
  const [seen] = useState(assignment?.version ?? 0)
  const [failure, setFailure] = useState<CallFailure>()
  const [busy, setBusy] = useState(false)
  const [sure, setSure] = useState(false)
  const key = useRef(newKey())
  const scored = assignment
    ? book.scores.filter((s) => s.assignmentId === assignment.id && s.entry).length
    : 0
  const problem = (path: string) =>
    failure?.kind === 'invalid' ? failure.fields.find((f) => f.path === path)?.message : undefined
  async function run<T>(act: () => Promise<CallResult<T>>, done: (value: T) => void) {
    setBusy(true)
    const result = await act()
    setBusy(false)
    if (result.ok) return done(result.value)
    key.current = newKey()
    setFailure(result.failure)
  }
  function submit(event: FormEvent) {
    event.preventDefault()
    void run(
      () =>
        assignment
          ? tellServer(
              'marks.saveAssignment',
              { classId, assignmentId: assignment.id, seen, ...values },
              key.current,
            )
          : tellServer('marks.createAssignment', { classId, ...values }, key.current),
      (saved) => onClose(true, saved.assignmentId),
    )
  }
  return (
    <Dialog title={assignment ? assignment.name : 'New assignment'} onClose={() => onClose(false)}>
      <form onSubmit={submit} className="grid gap-4" noValidate>
        {failure && failure.kind !== 'invalid' && <Problem>{failure.message}</Problem>}
        {assignment?.assessmentId && (
          <p className="hint">
            Its scores and its maximum come from{' '}
            <Link className="link" href={`/assessments/${assignment.assessmentId}/findings`}>
              the assessment
            </Link>{' '}
            and follow every change there.
          </p>
        )}
        <Field label="Short name" problem={problem('name')}>
          {(f) => (
            <TextInput
              {...f}
              autoFocus
              value={values.name}
              onChange={(e) => setValues({ ...values, name: e.target.value })}
            />
          )}
        </Field>
        <div className="grid grid-cols-2 gap-4">
          <Field label="Category" problem={problem('categoryId')}>
            {(f) => (
              <Select
                {...f}
                value={values.categoryId}
                onChange={(e) => setValues({ ...values, categoryId: e.target.value })}
              >
                {book.categories.map((c) => (
                  <option key={c.id} value={c.id}>
                    {c.name}
                  </option>
                ))}
              </Select>
            )}
          </Field>
          <Field label="Out of" problem={problem('maxPoints')}>
            {(f) => (
              <TextInput
                {...f}
                inputMode="decimal"
                disabled={assignment?.assessmentId != null}
                value={values.maxPoints}
                onChange={(e) => setValues({ ...values, maxPoints: e.target.value })}
              />
            )}
          </Field>
          <Field label="Due" problem={problem('dueOn')}>
            {(f) => (
              <DateInput {...f} value={values.dueOn} onChange={(dueOn) => setValues({ ...values, dueOn })} />
            )}
          </Field>
          <div className="self-end">
            <Tick
              label="Counts towards the mark"
              checked={values.counts}
              onChange={(e) => setValues({ ...values, counts: e.target.checked })}
            />
          </div>
        </div>
        <p className="flex flex-wrap gap-3">
          <Button type="submit" busy={busy}>
            Save
          </Button>
          <Button kind="plain" onClick={() => onClose(false)}>
            Give up
          </Button>
          {assignment && !sure && (
            <Button kind="quiet" className="ml-auto" onClick={() => setSure(true)}>
              Take out of the gradebook
            </Button>
          )}
        </p>
        {assignment && sure && (
          <div className="hint grid gap-2">
            <p>
              {scored === 0
                ? 'It holds no scores.'
                : assignment.assessmentId
                  ? `${scored} students' marks change. The answers stay in the assessment, and it can be linked again.`
                  : `${scored} scores go with it and ${scored} students' marks change. The history keeps them, but this cannot be undone here.`}
            </p>
            <Button
              kind="plain"
              busy={busy}
              onClick={() =>
                void run(
                  () =>
                    tellServer(
                      'marks.removeAssignment',
                      { classId, assignmentId: assignment.id, seen },
                      key.current,
                    ),
                  () => onClose(true),
                )
              }
            >
              Take out {assignment.name}
            </Button>
          </div>
        )}
      </form>
    </Dialog>
  )
}
