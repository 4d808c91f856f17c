'use client'
import { useRef, useState, type KeyboardEvent } from 'react'
import { readTypedScore, writeEntry } from '@/core/marks/typed-score'
import { Button } from '@/ui/button'
import { Field, Select, TextInput } from '@/ui/field'
import { useRowFocus } from '@/ui/grid/use-row-focus'
import { useBeforeLeaving } from '@/screen/saving'
import { isCalculated } from '@/core/marks/columns/column'
import type { BookAssignment, ShownEntered } from './book'
import { EntriesByColumn } from './entries-by-column'
import type { OpenGradebook } from './use-gradebook'

/** Scores on a phone: one assignment, or one column entered by hand, at a time, a field for each student; saved when a field is left. */
export function MarksByColumn({
  g,
  assignments,
}: {
  g: OpenGradebook
  assignments: readonly BookAssignment[]
}) {
  const [chosen, setChosen] = useState(assignments[0]?.id)
  const [drafts, setDrafts] = useState<Readonly<Record<string, string>>>({})
  const latest = useRef(drafts)
  const assignment = assignments.find((a) => a.id === chosen) ?? assignments[0]
  const { students, mayEdit } = g.server
  const entered = g.server.columns.filter((c): c is ShownEntered => !isCalculated(c))
  const column = entered.find((c) => c.id === chosen)
  const rows = useRowFocus<HTMLInputElement>(students.map((s) => s.id))
  function keep(studentId: string, text: string | undefined) {
    const { [studentId]: _, ...others } = latest.current
    latest.current = text === undefined ? others : { ...others, [studentId]: text }
    setDrafts(latest.current)
  }
  function save(studentId: string, text: string | undefined) {
    const student = students.find((s) => s.id === studentId)
    const read = assignment && text !== undefined ? readTypedScore(text, assignment.maxPoints) : undefined
    if (!student || !assignment || !read?.ok) return
    keep(studentId, undefined)
    g.change(
      [{ assignmentId: assignment.id, studentId, entry: read.entry }],
      `${student.name}, ${assignment.name}: ${writeEntry(read.entry) || 'empty'}`,
    )
  }
  const saveAll = () => {
    for (const [studentId, text] of Object.entries(latest.current)) save(studentId, text)
  }
  useBeforeLeaving(saveAll)
  if (!assignment) return null
  return (
    <div className="grid gap-3">
      <Field label="Assignment">
        {(field) => (
          <Select
            {...field}
            value={column?.id ?? assignment.id}
            onChange={(e) => {
              saveAll()
              setChosen(e.target.value)
            }}
          >
            {assignments.map((a) => (
              <option key={a.id} value={a.id}>
                {a.name}, out of {a.maxPoints}
              </option>
            ))}
            {entered.map((c) => (
              <option key={c.id} value={c.id}>
                {c.name}, entered by hand
              </option>
            ))}
          </Select>
        )}
      </Field>
      {column && <EntriesByColumn key={column.id} g={g} column={column} />}
      <ul hidden={column !== undefined} aria-label={`Scores in ${assignment.name}`}>
        {students.map((s) => {
          const entry = g.entryAt(assignment.id, s.id)
          const draft = drafts[s.id]
          const read = draft === undefined ? undefined : readTypedScore(draft, assignment.maxPoints)
          const locked = !mayEdit || g.isLinked(assignment.id, s.id)
          return (
            <li key={s.id} className="border-b border-rule py-1">
              <span className="flex items-center gap-3">
                <span className="min-w-0 flex-1 wrap-anywhere">{s.name}</span>
                <TextInput
                  ref={rows.fieldOf(s.id)}
                  aria-label={`${s.name}, ${assignment.name}`}
                  aria-invalid={read && !read.ok ? true : undefined}
                  inputMode="decimal"
                  enterKeyHint="next"
                  autoComplete="off"
                  disabled={locked}
                  className="w-24! text-right"
                  value={draft ?? writeEntry(entry)}
                  onChange={(e) => {
                    g.recorded?.begin({ assignmentId: assignment.id, studentId: s.id })
                    keep(s.id, e.target.value)
                  }}
                  onBlur={() => save(s.id, latest.current[s.id])}
                  onKeyDown={(e: KeyboardEvent) => {
                    if (e.key === 'Escape' && latest.current[s.id] !== undefined) {
                      g.recorded?.cancel({ assignmentId: assignment.id, studentId: s.id })
                      keep(s.id, undefined)
                    } else if (e.key === 'Enter') {
                      save(s.id, latest.current[s.id])
                      rows.step(1)
                    }
                  }}
                />
                <span className="w-16 text-right text-[13px] text-muted">
                  {g.markOf(s.id)?.mark ?? '–'} {g.markOf(s.id)?.grade}
                </span>
              </span>
              {g.server.columns.length > 0 && (
                <span className="block text-[12px] wrap-anywhere text-muted">
                  {g.server.columns
                    .map((c) => {
                      const value = g.columnsOf(s.id).get(c.id)
                      return `${c.name} ${value?.level ?? value?.text ?? g.entered.enteredBy(s.id).get(c.id) ?? '–'}`
                    })
                    .join(', ')}
                </span>
              )}
              {read && !read.ok && (
                <span role="alert" className="block text-right text-[13px] text-port">
                  <span aria-hidden>▲ </span>
                  {read.problem}
                </span>
              )}
              {!locked && draft !== undefined && (
                <span className="mt-1 flex flex-wrap justify-end gap-2">
                  {[
                    ['Missing', 'm'],
                    ['Excused', 'e'],
                    ['Incomplete', 'i'],
                    ...(read?.ok && read.entry?.kind === 'points' ? [['Late', `${draft} l`] as const] : []),
                  ].map(([words, text]) => (
                    <Button
                      key={words}
                      kind="plain"
                      onPointerDown={(e) => e.preventDefault()}
                      onClick={() => save(s.id, text)}
                    >
                      {words}
                    </Button>
                  ))}
                </span>
              )}
            </li>
          )
        })}
      </ul>
    </div>
  )
}
