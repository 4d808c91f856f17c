'use client'
import { useId, useRef, useState } from 'react'
import { limits } from '@/core/limits'
import { spokenName } from '@/core/people/names'
import { TextArea } from '@/ui/field'
import { useBeforeLeaving } from '@/screen/saving'
import type { Notes } from './use-notes'

const typingPause = 600

/** A note to one score, saved as it is typed; keyed by its cell. */
export function ScoreNote({
  notes,
  assignment,
  student,
  mayEdit,
}: {
  notes: Notes
  assignment: { id: string; name: string }
  student: { id: string; name: string }
  mayEdit: boolean
}) {
  const id = useId()
  const saved = notes.noteOf(assignment.id, student.id)
  const [typed, setTyped] = useState<string>()
  // What is typed and not sent yet, for whoever sends it later.
  const unsent = useRef<string>(undefined)
  const timer = useRef<ReturnType<typeof setTimeout>>(undefined)
  const shown = typed ?? saved
  function save() {
    clearTimeout(timer.current)
    const note = unsent.current
    unsent.current = undefined
    if (note === undefined) return
    notes.save(assignment.id, student.id, note, `${student.name}, ${assignment.name}: note`)
  }
  function leave() {
    save()
    setTyped(undefined)
  }
  useBeforeLeaving(save)
  if (!mayEdit && saved === '') return null
  return (
    <section className="mt-3 grid gap-1 text-[13px]">
      <label htmlFor={id} className="border-b border-ink pb-1 font-bold">
        Note to {spokenName(student.name)}’s {assignment.name}
      </label>
      {mayEdit ? (
        <TextArea
          id={id}
          data-score-note
          rows={2}
          maxLength={limits.remark}
          aria-describedby={`${id}-help`}
          className="field-sizing-content"
          value={shown}
          onChange={(event) => {
            notes.begin(assignment.id, student.id)
            setTyped(event.target.value)
            unsent.current = event.target.value
            clearTimeout(timer.current)
            timer.current = setTimeout(save, typingPause)
          }}
          onBlur={leave}
          onKeyDown={(event) => {
            if (event.key !== 'Escape') return
            leave()
            document.querySelector<HTMLElement>('[data-focus-home]')?.focus()
          }}
        />
      ) : (
        <p id={id}>{saved}</p>
      )}
      <p id={`${id}-help`} className="text-[12px] text-muted">
        For those who teach the class. Families do not see it.
      </p>
    </section>
  )
}
