'use client'
import { useEffect, useRef, useState, type FocusEvent, type KeyboardEvent, type ReactNode } from 'react'
import { shortDate } from '@/core/calendar/date-words'
import { isCivilDate } from '@/core/calendar/school-year'
import { DateInput } from '@/screen/date-input'
import { sendQuery, newKey, type CallResult } from '@/screen/server'
import { useDraft } from '@/screen/use-draft'
import { useBeforeLeaving } from '@/screen/saving'
import { ConflictNotice, NotSavedNotice } from '@/screen/conflict-notice'
import { TextInput } from '@/ui/field'
import type { Days } from './year'
import type { TypedDays, Typing, Spanned } from './year'

interface Draft extends TypedDays {
  /** The version that was in sight when typing began. */
  readonly expectedVersion: number
  /** Names this content to the server, which saves it once. */
  readonly key: string
  /** Why it was not saved. */
  readonly refused?: string
}

interface Rules<R extends Spanned> extends Partial<Typing<R>> {
  /** What is wrong with the days, each with its field. */
  readonly check: (
    row: R,
    days: Days,
  ) => readonly { readonly path: 'firstDay' | 'lastDay'; readonly message: string }[]
  /** Days that change between school and no school: what lies on them is shown before it is saved. */
  readonly touched: (row: R, days: Days) => readonly Days[]
  /** What else changes with these days, in words. */
  readonly also?: (row: R, days: Days) => string
  readonly save: (
    row: R,
    typed: TypedDays,
    expectedVersion: number,
    key: string,
  ) => Promise<CallResult<unknown>>
  /** Names what is typed here, for keeping what could not be saved until one comes back. */
  readonly draft: string
}

const fields = ['name', 'firstDay', 'lastDay'] as const
type FieldName = (typeof fields)[number]

const titles: Readonly<Record<FieldName, string>> = {
  name: 'name',
  firstDay: 'first day',
  lastDay: 'last day',
}
const spanWords = ({ name, firstDay, lastDay }: TypedDays) =>
  `${name}, ${shortDate(firstDay, true)} to ${shortDate(lastDay, true)}`

async function anythingOn(spans: readonly Days[]): Promise<CallResult<boolean>> {
  for (const { firstDay, lastDay } of spans) {
    const result = await sendQuery('setUp.touchedBy', { firstDay, lastDay })
    if (!result.ok) return result
    if (Object.values(result.value).some((n) => n > 0)) return { ok: true, value: true }
  }
  return { ok: true, value: false }
}

/**
 * Rows of names and days that are typed into: what is wrong is said under the field while typing; a row is saved when
 * it is left or with Enter, given back with Esc. What lies on days that change is shown in the dialog first.
 */
export function useTypedDays<R extends Spanned>(rows: readonly R[], rules: Rules<R>) {
  const [drafts, setDrafts] = useState<Readonly<Record<string, Draft>>>({})
  // Leaving the row asks in the same moment as Enter: what counts is the latest, and each content is sent once.
  const latest = useRef(drafts)
  const sending = useRef(new Set<string>())
  const [found, keepDraft] = useDraft<Readonly<Record<string, Draft>>>(rules.draft)
  useEffect(() => {
    if (!found) return
    latest.current = { ...found, ...latest.current }
    setDrafts(latest.current)
  }, [found])
  function keep(id: string, draft: Draft | undefined) {
    const { [id]: _, ...others } = latest.current
    latest.current = draft ? { ...others, [id]: draft } : others
    setDrafts(latest.current)
    keepDraft(Object.keys(latest.current).length > 0 ? latest.current : undefined)
  }
  function type(row: R, typed: Partial<TypedDays>) {
    const before = latest.current[row.id] ?? { ...pick(row), expectedVersion: row.version, key: '' }
    keep(row.id, { ...before, ...typed, key: newKey(), refused: undefined })
  }
  function problemsOf(row: R, draft: Draft): Readonly<Partial<Record<FieldName, string>>> {
    const problems: Partial<Record<FieldName, string>> = {}
    if (draft.name.trim() === '') problems.name = 'Enter a name.'
    for (const path of ['firstDay', 'lastDay'] as const)
      if (!isCivilDate(draft[path])) problems[path] = 'Enter a date, such as 23 Nov.'
    if (!problems.firstDay && !problems.lastDay)
      for (const { path, message } of rules.check(row, draft)) problems[path] ??= message
    return problems
  }
  async function commit(row: R) {
    const draft = latest.current[row.id]
    if (!draft || sending.current.has(draft.key)) return
    if (fields.every((f) => draft[f].trim() === row[f])) return keep(row.id, undefined)
    if (draft.expectedVersion !== row.version || Object.keys(problemsOf(row, draft)).length > 0) return
    sending.current.add(draft.key)
    const found = await anythingOn(rules.touched(row, draft))
    if (found.ok && found.value) {
      sending.current.delete(draft.key)
      if (rules.review?.(row, draft)) keep(row.id, undefined)
      return
    }
    const result = found.ok ? await rules.save(row, draft, draft.expectedVersion, draft.key) : found
    sending.current.delete(draft.key)
    if (result.ok) {
      // What was typed while it was being saved goes on from the version that was saved.
      const now = latest.current[row.id]
      await rules.refresh?.()
      if (now?.key === draft.key) keep(row.id, undefined)
      rules.saved?.(`${draft.name} was saved.`, result.run)
    } else {
      const now = latest.current[row.id]
      if (now?.key === draft.key) keep(row.id, { ...draft, refused: result.failure.message })
      await rules.refresh?.()
    }
  }
  useBeforeLeaving(() => {
    for (const row of rows) void commit(row)
  })

  function field(row: R, name: FieldName): ReactNode {
    const draft = drafts[row.id]
    const problem = draft && problemsOf(row, draft)[name]
    const id = `${row.id}-${name}-problem`
    const props = {
      'aria-label': `${row.name}, ${titles[name]}`,
      'aria-invalid': problem ? (true as const) : undefined,
      'aria-describedby': problem ? id : undefined,
    }
    const value = draft?.[name] ?? row[name]
    return (
      <div
        className={`-mx-2 ${name === 'name' ? 'min-w-32' : 'w-40'} [&_input:not(:focus):not(:hover):not([aria-invalid])]:border-transparent [&_input:not(:focus):not(:hover)]:bg-transparent`}
        onKeyDown={(event: KeyboardEvent) => {
          // Keys in the calendar are its own.
          if (!event.currentTarget.contains(event.target as Node)) return
          if (event.key === 'Enter') {
            event.preventDefault()
            void commit(row)
          } else if (event.key === 'Escape' && latest.current[row.id]) {
            event.stopPropagation()
            keep(row.id, undefined)
          }
        }}
        onBlur={(event: FocusEvent<HTMLElement>) => {
          const to = event.relatedTarget
          const here = event.currentTarget.closest('tr')
          if (to instanceof Element && (here?.contains(to) || to.closest('[role=dialog]'))) return
          void commit(row)
        }}
      >
        {name === 'name' ? (
          <TextInput
            {...props}
            value={value}
            autoComplete="off"
            onChange={(e) => type(row, { name: e.target.value })}
          />
        ) : (
          <DateInput {...props} value={value} onChange={(date) => type(row, { [name]: date })} />
        )}
        {problem && (
          <p id={id} role="alert" className="max-w-40 px-2 text-[13px] whitespace-normal text-port">
            <span aria-hidden>▲ </span>
            {problem}
          </p>
        )}
      </div>
    )
  }

  const notices = rows.flatMap((row) => {
    const draft = drafts[row.id]
    if (!draft) return []
    if (draft.expectedVersion !== row.version)
      return [
        <ConflictNotice
          key={row.id}
          onResolve={(kept) => {
            if (kept === 'theirs') return keep(row.id, undefined)
            keep(row.id, { ...draft, expectedVersion: row.version, key: newKey(), refused: undefined })
            void commit(row)
          }}
        >
          Someone else changed this row while you were typing. It is now {spanWords(row)}.
        </ConflictNotice>,
      ]
    if (draft.refused)
      return [
        <NotSavedNotice
          key={row.id}
          label={row.name}
          message={draft.refused}
          onResolve={(kept) => (kept === 'theirs' ? keep(row.id, undefined) : void commit(row))}
        />,
      ]
    return []
  })
  const also = rows.flatMap((row) => {
    const draft = drafts[row.id]
    if (!draft || Object.keys(problemsOf(row, draft)).length > 0) return []
    return rules.also?.(row, draft) ?? []
  })
  const waiting = rows.filter((row) => drafts[row.id] && drafts[row.id]?.expectedVersion === row.version)
  return {
    field,
    /** What was not saved, and how it is; for the place under the table. */
    notices: (
      <div className="mt-2 max-w-xl">
        {notices}
        <p role="status" className="min-h-5 text-[13px] text-muted">
          {waiting.length > 0
            ? `${waiting.map((row) => row.name).join(', ')}: not saved yet. Press Enter to save, or Esc to discard what you typed. ${also.join(' ')}`
            : 'A row is saved when you leave it.'}
        </p>
      </div>
    ),
  }
}

function pick({ name, firstDay, lastDay }: Spanned): TypedDays {
  return { name, firstDay, lastDay }
}
