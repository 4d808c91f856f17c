'use client'
import { useRef, useState } from 'react'
import { readTypedEntry } from '@/core/marks/columns/entered'
import { Select, TextInput } from '@/ui/field'
import { useBeforeLeaving } from '@/screen/saving'
import type { ShownEntered } from './book'
import type { OpenGradebook } from './use-gradebook'

/** A column entered by hand on a phone: a field or a choice for each student, saved when it is left. */
export function EntriesByColumn({ g, column }: { g: OpenGradebook; column: ShownEntered }) {
  const { students, mayEdit } = g.server
  const { recorded, enteredBy } = g.entered
  const [drafts, setDrafts] = useState<Readonly<Record<string, string>>>({})
  const latest = useRef(drafts)
  function keep(studentId: string, text: string | undefined) {
    const { [studentId]: _, ...others } = latest.current
    latest.current = text === undefined ? others : { ...others, [studentId]: text }
    setDrafts(latest.current)
  }
  function save(studentId: string, text: string | undefined) {
    const read = text === undefined ? undefined : readTypedEntry(text, column)
    if (!read?.ok) return
    keep(studentId, undefined)
    const name = students.find((s) => s.id === studentId)?.name ?? ''
    recorded?.save(
      [{ key: { columnId: column.id, studentId }, value: read.value }],
      `${name}, ${column.name}: ${read.value ?? 'empty'}`,
    )
  }
  useBeforeLeaving(() => Object.entries(latest.current).forEach(([id, text]) => save(id, text)))
  return (
    <ul aria-label={column.name}>
      {students.map((s) => {
        const value = enteredBy(s.id).get(column.id) ?? ''
        const draft = drafts[s.id]
        const read = draft === undefined ? undefined : readTypedEntry(draft, column)
        return (
          <li key={s.id} className="border-b border-rule py-1">
            <span className="flex items-center gap-3">
              <span className="min-w-0 flex-1 wrap-anywhere">{s.name}</span>
              {column.does === 'choice' ? (
                <Select
                  aria-label={`${s.name}, ${column.name}`}
                  disabled={!mayEdit}
                  className="w-36!"
                  value={value}
                  onChange={(event) => save(s.id, event.target.value)}
                >
                  <option value="">–</option>
                  {column.choices.map((c) => (
                    <option key={c.name}>{c.name}</option>
                  ))}
                </Select>
              ) : (
                <TextInput
                  aria-label={`${s.name}, ${column.name}`}
                  aria-invalid={read && !read.ok ? true : undefined}
                  inputMode="decimal"
                  autoComplete="off"
                  disabled={!mayEdit}
                  className="w-24! text-right"
                  value={draft ?? value}
                  onChange={(event) => {
                    recorded?.begin({ columnId: column.id, studentId: s.id })
                    keep(s.id, event.target.value)
                  }}
                  onBlur={() => save(s.id, latest.current[s.id])}
                />
              )}
            </span>
            {read && !read.ok && (
              <span role="alert" className="block text-right text-[13px] text-port">
                <span aria-hidden>▲ </span>
                {read.problem}
              </span>
            )}
          </li>
        )
      })}
    </ul>
  )
}
