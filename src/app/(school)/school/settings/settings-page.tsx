'use client'
import { useId, useRef, useState } from 'react'
import type { TeachersSee } from '@/core/people/visibility'
import type { QueryOutput } from '@/server/registry'
import { Button } from '@/ui/button'
import { Field, Problem, TextInput } from '@/ui/field'
import { PageHead } from '@/screen/page-head'
import { newKey, sendCommand } from '@/screen/server'
import { UndoableMessage, useUndoable } from '@/screen/undoable'
import { later } from '@/screen/later'
import { useLive } from '@/screen/use-live'

const SchoolDialog = later(() => import('./school-dialog').then((m) => m.SchoolDialog))

const levels: readonly { readonly level: TeachersSee; readonly what: string; readonly detail: string }[] = [
  { level: 'places', what: 'Name, year group and homeroom', detail: 'nothing else of the record' },
  {
    level: 'details',
    what: 'The record without guardians',
    detail: 'also photo, birth date, address, transport and classes',
  },
  {
    level: 'contacts',
    what: 'The record with guardians',
    detail: 'also who the guardians are and how to reach them',
  },
]

/** What the school decides for everyone. A choice holds once it is saved: it opens records to people. */
export function SettingsPage({ initial }: { initial: QueryOutput<'year.settings'> }) {
  const [s, refresh] = useLive('year.settings', {}, initial)
  const undoable = useUndoable(refresh)
  const group = useId()
  const [busy, setBusy] = useState(false)
  const [editing, setEditing] = useState(false)
  const [problem, setProblem] = useState<string>()
  const [chosen, setChosen] = useState<TeachersSee>()
  const [typed, setTyped] = useState<string>()
  // What was in sight when the first of both was changed.
  const [begun, setBegun] = useState<typeof s>()
  const contested =
    begun && (begun.teachersSee !== s.teachersSee || begun.attendanceThreshold !== s.attendanceThreshold)
  function settle(whose: 'mine' | 'theirs') {
    setBegun(whose === 'mine' ? s : undefined)
    if (whose === 'mine') return
    setChosen(undefined)
    setTyped(undefined)
  }
  const teachersSee = chosen ?? s.teachersSee
  const threshold = typed ?? String(s.attendanceThreshold)
  const wrong = /^([1-9][0-9]?|100)$/.test(threshold.trim())
    ? undefined
    : 'Enter a whole number from 1 to 100.'
  const same = teachersSee === s.teachersSee && threshold.trim() === String(s.attendanceThreshold)
  // The same settings are sent again with the same key, so that a lost answer is no conflict with oneself.
  const sent = useRef({ text: '', key: '' })
  async function save() {
    setBusy(true)
    setProblem(undefined)
    const input = { teachersSee, attendanceThreshold: Number(threshold), expectedVersion: s.version }
    const text = JSON.stringify(input)
    if (sent.current.text !== text) sent.current = { text, key: newKey() }
    const result = await sendCommand('year.saveSettings', input, sent.current.key)
    setBusy(false)
    if (result.ok) {
      setChosen(undefined)
      setTyped(undefined)
      setBegun(undefined)
      undoable.done('The settings were saved.', result.run)
    } else setProblem(result.failure.message)
    await refresh()
  }
  return (
    <div className="sheet reading">
      <PageHead
        title="Settings"
        act={
          s.mayChange && (
            <Button kind="plain" onClick={() => setEditing(true)}>
              Name, address and time zone
            </Button>
          )
        }
      />
      {problem ? <Problem>{problem}</Problem> : <UndoableMessage of={undoable} />}
      <dl className="mb-2 grid max-w-2xl grid-cols-[auto_1fr] gap-x-6 gap-y-1">
        <dt className="text-muted">School</dt>
        <dd>{s.school.name}</dd>
        <dt className="text-muted">Address</dt>
        <dd>{s.school.address ?? 'not entered'}</dd>
        <dt className="text-muted">Time zone</dt>
        <dd>{s.school.timeZone}</dd>
      </dl>
      <fieldset className="mt-4 grid max-w-2xl gap-2" aria-busy={busy}>
        <legend className="mb-2 text-[16px] font-bold">
          What teachers see of students they do not teach
        </legend>
        <p className="mb-1 text-muted">
          Administrators, head and office see every record; support and medical notes stay with them and the
          student’s own teachers, whatever is chosen here.
        </p>
        {levels.map(({ level, what, detail }) => (
          <label key={level} className="flex min-h-9 items-baseline gap-3">
            <input
              type="radio"
              name={group}
              className="size-4 translate-y-[2px] accent-ink"
              checked={teachersSee === level}
              disabled={!s.mayChange}
              onChange={() => {
                setBegun(begun ?? s)
                setChosen(level)
              }}
            />
            <span>
              <strong>{what}</strong>
              <span className="text-muted">, {detail}</span>
            </span>
          </label>
        ))}
      </fieldset>
      <section className="mt-7 grid max-w-2xl gap-2">
        <h2 className="text-[16px] font-bold">Attendance threshold</h2>
        <p className="mb-1 text-muted">
          Students who were present in a smaller share of their sessions are pointed out under Attendance,
          Figures. Anybody can look at another share there.
        </p>
        <div className="w-40">
          <Field label="Per cent present" problem={wrong}>
            {(field) => (
              <TextInput
                {...field}
                inputMode="numeric"
                maxLength={3}
                value={threshold}
                readOnly={!s.mayChange}
                onChange={(e) => {
                  setBegun(begun ?? s)
                  setTyped(e.target.value)
                }}
              />
            )}
          </Field>
        </div>
      </section>
      {contested && (
        <div
          className="hint mt-4 flex max-w-2xl flex-wrap items-center gap-3"
          role="status"
          data-theirs="settings"
        >
          <span className="flex-1 basis-60">
            Changed by someone else since you began:{' '}
            <strong>
              {levels.find((l) => l.level === s.teachersSee)?.what}, {s.attendanceThreshold} per cent
            </strong>
          </span>
          <Button kind="plain" onClick={() => settle('theirs')}>
            Use theirs
          </Button>
          <Button kind="plain" onClick={() => settle('mine')}>
            Keep mine
          </Button>
        </div>
      )}
      {s.mayChange && (
        <p className="mt-4">
          <Button
            busy={busy}
            disabled={same || contested === true || wrong !== undefined}
            onClick={() => void save()}
          >
            Save
          </Button>
        </p>
      )}
      {editing && (
        <SchoolDialog
          school={s.school}
          onClose={() => setEditing(false)}
          onSaved={(words) => {
            setEditing(false)
            undoable.done(words, undefined)
            void refresh()
          }}
        />
      )}
      {!s.mayChange && <p className="mt-3 text-muted">An administrator can change this.</p>}
    </div>
  )
}
