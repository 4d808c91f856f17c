'use client'
import { useId, useMemo, useState } from 'react'
import { shortDate } from '@/core/calendar/date-words'
import { numberWords } from '@/core/people/student-number'
import { spokenName } from '@/core/people/names'
import { PreviewDialog } from '@/screen/preview-dialog'
import { useAnswer } from '@/screen/use-live'
import { Button } from '@/ui/button'
import { Dialog } from '@/ui/dialog'
import { Field, Problem, TextInput } from '@/ui/field'
import type { Student } from './record'

const names = (s: Student) => (s.number === null ? 'never enrolled' : `no. ${numberWords(s.number)}`)
const placesOf = (s: Student) =>
  [...new Set(s.places.filter((p) => p.kind !== 'class').map((p) => p.name))].join(', ') || 'nowhere'

/** What tells two records apart, side by side. */
function Compared({
  records,
  keepId,
  onKeep,
}: {
  records: readonly Student[]
  keepId: string
  onKeep: (id: string) => void
}) {
  const group = useId()
  return (
    <fieldset className="grid gap-3 sm:grid-cols-2">
      <legend className="mb-1 text-[13px] font-bold">Which record stays?</legend>
      {records.map((s) => (
        <label
          key={s.id}
          className={`grid cursor-pointer gap-1 border p-3 ${s.id === keepId ? 'border-ink bg-shoal-light' : 'border-line'}`}
        >
          <span className="flex items-center gap-2 font-bold">
            <input
              type="radio"
              name={group}
              className="accent-ink"
              checked={s.id === keepId}
              onChange={() => onKeep(s.id)}
            />
            {spokenName(s.fields.sortName ?? '')}, {names(s)}
          </span>
          <span>
            Legal name {s.fields.legalGivenName} {s.fields.legalFamilyName}
          </span>
          <span>Born {s.fields.birthDate ? shortDate(s.fields.birthDate, true) : 'not entered'}</span>
          <span>{placesOf(s)}</span>
          <span>
            {s.guardians.length === 0
              ? 'No guardians'
              : s.guardians.map((g) => `${g.givenName} ${g.familyName}`).join(', ')}
          </span>
        </label>
      ))}
    </fieldset>
  )
}

function OtherRecord({ s, onChoose }: { s: Student; onChoose: (id: string) => void }) {
  const [text, setText] = useState(s.fields.legalFamilyName ?? '')
  const typed = text.trim()
  const { answer, asking, problem } = useAnswer('find.anything', typed ? { text: typed } : undefined, {
    after: 150,
    keep: true,
  })
  const found = answer?.filter((f) => f.kind === 'student' && f.id !== s.id) ?? []
  return (
    <div className="grid gap-3">
      <Field label="The other record" help="Name or number">
        {(field) => (
          <TextInput {...field} autoComplete="off" value={text} onChange={(e) => setText(e.target.value)} />
        )}
      </Field>
      {problem && <Problem>{problem}</Problem>}
      <ul className="grid max-h-60 gap-1 overflow-auto" aria-busy={asking} aria-label="Records found">
        {found.map((f) => (
          <li key={f.id}>
            <Button kind="quiet" onClick={() => onChoose(f.id)}>
              {f.name}
            </Button>{' '}
            <span className="text-muted">{f.detail}</span>
          </li>
        ))}
      </ul>
      {answer && !asking && found.length === 0 && (
        <p className="text-muted">No other student is called that.</p>
      )}
    </div>
  )
}

/** Puts two records of one student together: the other one is chosen, then which of them stays, then a preview. */
export function MergeDialog({
  s,
  onClose,
  onSaved,
}: {
  s: Student
  onClose: () => void
  onSaved: (words: string, run: string | undefined) => void
}) {
  const [otherId, setOtherId] = useState<string>()
  const [keepId, setKeepId] = useState<string>()
  const [ready, setReady] = useState(false)
  const { answer: other, problem } = useAnswer('people.student', otherId ? { studentId: otherId } : undefined)
  // The one that was enrolled, or enrolled first, unless somebody decides otherwise.
  const older = other && (s.number === null || (other.number !== null && other.number < s.number)) ? other : s
  const keep = keepId ?? older.id
  const input = useMemo(
    () => ({ keepId: keep, dropId: keep === s.id ? (otherId ?? '') : s.id }),
    [keep, otherId, s.id],
  )
  if (ready && other)
    return (
      <PreviewDialog
        command="record.merge"
        input={input}
        title={`Merge two records of ${spokenName(s.fields.sortName ?? '')}`}
        description="What both records have stays with the record that is merged into the other. It refers to the other one from then on, and its number is not given again."
        unchanged="Nothing would change: the record holds nothing of its own."
        act="Merge"
        onClose={onClose}
        onDone={({ stayed }, run) =>
          onSaved(
            stayed === 0
              ? 'The records were merged.'
              : `The records were merged. ${stayed === 1 ? '1 entry that both have' : `${stayed} entries that both have`} stayed with the other record.`,
            run,
          )
        }
      />
    )
  return (
    <Dialog
      title="Merge with another record"
      description="For a student who was entered twice. Everything moves to the record that stays."
      wide
      onClose={onClose}
    >
      <div className="grid gap-4">
        {problem && <Problem>{problem}</Problem>}
        {other ? (
          <Compared records={[s, other]} keepId={keep} onKeep={setKeepId} />
        ) : (
          <OtherRecord s={s} onChoose={setOtherId} />
        )}
        <p className="flex gap-3">
          <Button disabled={!other} onClick={() => setReady(true)}>
            Show what will change
          </Button>
          <Button kind="plain" onClick={onClose}>
            Cancel
          </Button>
        </p>
      </div>
    </Dialog>
  )
}
