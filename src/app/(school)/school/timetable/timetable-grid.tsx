'use client'
import { useRef, useState, type KeyboardEvent } from 'react'
import { lessonText, readLesson } from '@/core/timetable/lesson-text'
import { Across } from '@/ui/across'
import { Button } from '@/ui/button'
import { newKey, sendCommand } from '@/screen/server'
import { useBeforeLeaving } from '@/screen/saving'
import type { useUndoable } from '@/screen/undoable'
import type { Shown, Timetable } from './timetable'
import type { TableOf } from './timetable'

type Lesson = Shown['lessons'][number]

interface Cell {
  readonly cycleDay: number
  readonly period: number
  /** The lesson that was there when typing began. */
  readonly was: Lesson | undefined
  /** All lessons of this time then. */
  readonly beside: readonly string[]
}

interface Draft extends Cell {
  readonly text: string
  /** Names this content to the server, which saves it once. */
  readonly key: string
  /** Why it was not saved. */
  readonly problem?: string
  /** The person may save it in spite of the problem. */
  readonly askAgain?: boolean
  /** On its way to the server. */
  readonly sent?: boolean
}

/** What somebody else has saved at a time since typing began there; undefined while all is as it was. */
function savedSince(
  { was, beside }: Cell,
  here: readonly Lesson[],
): { readonly lesson: Lesson | undefined } | undefined {
  const added = here.find((l) => !beside.includes(l.id))
  if (added) return { lesson: added }
  const now = was && here.find((l) => l.id === was.id)
  if (was && now?.version !== was.version) return { lesson: now }
  return undefined
}

/** The days of the cycle across, its periods down; a cell is typed into and saved when it is left. */
export function TimetableGrid({
  shown,
  timetable,
  of,
  undoable,
  refresh,
}: {
  shown: Shown
  timetable: Timetable
  of: TableOf
  undoable: ReturnType<typeof useUndoable>
  refresh: () => Promise<void>
}) {
  const [drafts, setDrafts] = useState<Readonly<Record<string, Draft>>>({})
  const latest = useRef(drafts)
  const sending = useRef(new Set<string>())
  const table = useRef<HTMLTableElement>(null)
  const about = of.kind === 'class' ? { classId: of.id } : of.kind === 'room' ? { roomId: of.id } : {}
  const taught = new Set(shown.classes.filter((c) => c.teachers.some((t) => t.id === of.id)).map((c) => c.id))
  const isOf = (l: Lesson) =>
    of.kind === 'class'
      ? l.classId === of.id
      : of.kind === 'room'
        ? l.roomId === of.id
        : taught.has(l.classId)
  const lessons = shown.lessons.filter(isOf)
  const suggestions =
    of.kind === 'class'
      ? [of.name, ...shown.rooms.map((r) => r.name)]
      : shown.classes.filter((c) => of.kind === 'room' || taught.has(c.id)).map((c) => c.name)

  function keep(cell: string, draft: Draft | undefined) {
    const { [cell]: _, ...others } = latest.current
    latest.current = draft ? { ...others, [cell]: draft } : others
    setDrafts(latest.current)
  }
  const hereAt = ({ cycleDay, period }: Pick<Cell, 'cycleDay' | 'period'>) =>
    lessons.filter((l) => l.cycleDay === cycleDay && l.period === period)
  /** A colleague's lesson was looked at: what is typed replaces it. */
  function replace(cell: string, draft: Draft, lesson: Lesson | undefined) {
    const beside = hereAt(draft).map((l) => l.id)
    keep(cell, { ...draft, was: lesson, beside, problem: undefined, key: newKey() })
    void commit(cell)
  }
  async function commit(cell: string, confirmed = false) {
    const draft = latest.current[cell]
    if (!draft || sending.current.has(draft.key) || savedSince(draft, hereAt(draft))) return
    const { cycleDay, period, was } = draft
    if (draft.text.trim() === (was ? lessonText(was, shown, about) : '')) return keep(cell, undefined)
    if (draft.problem && !confirmed) return
    const read = readLesson(draft.text, shown, about)
    if (read && 'problem' in read) return keep(cell, { ...draft, problem: read.problem })
    if (read && of.kind === 'teacher' && !taught.has(read.classId))
      return keep(cell, {
        ...draft,
        problem: `${of.name} does not teach this class. Teachers of a class are chosen under School, Classes and teachers.`,
      })
    sending.current.add(draft.key)
    keep(cell, { ...draft, sent: true })
    const result = await sendCommand(
      'timetable.setLesson',
      {
        timetableId: timetable.id,
        cycleDay,
        period,
        gone: was ? { lessonId: was.id, expectedVersion: was.version } : null,
        lesson: read,
        confirmed,
      },
      draft.key,
    )
    sending.current.delete(draft.key)
    if (result.ok) {
      await refresh()
      if (latest.current[cell]?.key === draft.key) keep(cell, undefined)
      return undoable.done(
        `${shown.days[cycleDay - 1]}, period ${period}: ${draft.text.trim() === '' ? 'no lesson' : draft.text.trim()}.`,
        result.run,
      )
    }
    const { failure } = result
    const askAgain = failure.kind === 'invalid' && failure.fields.some((f) => f.path === 'confirmed')
    if (latest.current[cell]?.key === draft.key)
      keep(cell, { ...draft, key: newKey(), sent: false, problem: failure.message, askAgain })
    await refresh()
  }
  useBeforeLeaving(() => {
    for (const cell of Object.keys(latest.current)) void commit(cell)
  })

  /** Enter and the arrows go from cell to cell as in a table of numbers. */
  function move(event: KeyboardEvent<HTMLInputElement>) {
    const by = { Enter: [1, 0], ArrowDown: [1, 0], ArrowUp: [-1, 0] }[event.key]
    if (!by) return
    const [row, column] = (event.currentTarget.dataset.at ?? '').split(' ').map(Number)
    const next = table.current?.querySelector<HTMLElement>(
      `[data-at="${(row ?? 0) + (by[0] ?? 0)} ${(column ?? 0) + (by[1] ?? 0)}"]`,
    )
    event.preventDefault()
    if (next) next.focus()
    else event.currentTarget.blur()
  }

  /** A lesson as it is read: what, and where or who. */
  const lessonLines = (l: Lesson): readonly [string, string] => {
    const name = shown.classes.find((c) => c.id === l.classId)?.name ?? 'a class of another year'
    const room = shown.rooms.find((r) => r.id === l.roomId)?.name ?? ''
    return of.kind === 'class' ? [room || 'no room', ''] : [name, of.kind === 'room' ? '' : room]
  }
  /** Every lesson of a time, and what is being typed there, also where its lesson is gone or another one came. */
  function cellsOf(cycleDay: number, period: number) {
    const here = hereAt({ cycleDay, period })
    const keyOf = (lesson: Lesson | undefined) => `${cycleDay} ${period} ${lesson?.id ?? ''}`
    const drawn = new Set(here.map(keyOf))
    const typed = Object.entries(drafts).filter(
      ([key, draft]) => draft.cycleDay === cycleDay && draft.period === period && !drawn.has(key),
    )
    return [
      ...here.map((l, n) => cellOf(keyOf(l), { cycleDay, period, was: l }, n === 0)),
      ...typed.map(([key, draft]) => cellOf(key, draft, here.length === 0)),
      ...(here.length === 0 && typed.length === 0
        ? [cellOf(keyOf(undefined), { cycleDay, period, was: undefined }, true)]
        : []),
    ]
  }
  function cellOf(cell: string, { cycleDay, period, was }: Omit<Cell, 'beside'>, first: boolean) {
    const draft = drafts[cell]
    const since = draft && !draft.sent ? savedSince(draft, hereAt(draft)) : undefined
    const theirs = since?.lesson ? lessonText(since.lesson, shown, about) : 'no lesson'
    const value = draft?.text ?? (was ? lessonText(was, shown, about) : '')
    const name = `${shown.days[cycleDay - 1]}, period ${period}`
    const [what, where] = was && !draft ? lessonLines(was) : ['', '']
    const lines = (
      <span aria-hidden={shown.mayChange} className="block min-h-9 px-1 leading-[18px]">
        {what}
        {where && <span className="block text-[13px] text-muted">{where}</span>}
      </span>
    )
    if (!shown.mayChange) return <div key={cell}>{lines}</div>
    return (
      <div key={cell}>
        <div className="relative">
          {lines}
          <input
            aria-label={name}
            aria-invalid={draft?.problem ? true : undefined}
            aria-describedby={draft?.problem ? `${cell} problem` : undefined}
            data-at={first ? `${period} ${cycleDay}` : undefined}
            list="lessons"
            autoComplete="off"
            maxLength={200}
            value={value}
            onChange={(e) =>
              keep(cell, {
                cycleDay,
                period,
                was: draft ? draft.was : was,
                beside: draft ? draft.beside : hereAt({ cycleDay, period }).map((l) => l.id),
                text: e.target.value,
                key: newKey(),
              })
            }
            onBlur={(e) => {
              // "Save anyway" is the answer to what stands under the cell.
              if (
                e.relatedTarget instanceof Element &&
                e.currentTarget.parentElement?.contains(e.relatedTarget)
              )
                return
              void commit(cell)
            }}
            onKeyDown={(e) => {
              if (e.key === 'Escape' && draft) {
                e.stopPropagation()
                return keep(cell, undefined)
              }
              move(e)
            }}
            className={`absolute inset-0 min-h-9 w-full rounded-[3px] border border-line bg-panel px-1 aria-invalid:border-2 aria-invalid:border-port ${draft ? '' : 'opacity-0 focus:opacity-100'}`}
          />
        </div>
        {draft && since && (
          <div role="alert" className="hint my-1 grid gap-2 text-[13px] whitespace-normal">
            <span>
              Someone else saved <strong>{theirs}</strong> here while you were typing.
            </span>
            <span className="flex flex-wrap gap-2">
              <Button kind="plain" onClick={() => keep(cell, undefined)}>
                Keep {theirs}
              </Button>
              <Button kind="plain" onClick={() => replace(cell, draft, since.lesson)}>
                Use {draft.text.trim() || 'no lesson'}
              </Button>
            </span>
          </div>
        )}
        {draft?.problem && !since && (
          <p id={`${cell} problem`} role="alert" className="pb-1 text-[13px] whitespace-normal text-port">
            <span aria-hidden>▲ </span>
            {draft.problem}{' '}
            {draft.askAgain && (
              <Button kind="plain" onClick={() => void commit(cell, true)}>
                Save anyway
              </Button>
            )}
          </p>
        )}
      </div>
    )
  }
  return (
    <div>
      <datalist id="lessons">
        {suggestions.map((s) => (
          <option key={s} value={s} />
        ))}
      </datalist>
      <Across label="Timetable">
        <table ref={table} className="rows min-w-full table-fixed" aria-label={`Timetable of ${of.name}`}>
          <thead>
            <tr>
              <th scope="col" className="w-24">
                Period
              </th>
              {shown.days.map((day) => (
                <th key={day} scope="col" className="min-w-40">
                  {day}
                </th>
              ))}
            </tr>
          </thead>
          <tbody>
            {shown.periods.map((p) => (
              <tr key={p.number} className="align-top">
                <th scope="row" className="whitespace-nowrap">
                  {p.number}{' '}
                  <span className="block text-[13px] font-normal text-muted">
                    {p.starts} to {p.ends}
                  </span>
                </th>
                {shown.days.map((day, i) => (
                  <td key={day} className="align-top">
                    {cellsOf(i + 1, p.number)}
                  </td>
                ))}
              </tr>
            ))}
          </tbody>
        </table>
      </Across>
      {shown.mayChange && (
        <p className="mt-2 text-[13px] text-muted no-print">
          {of.kind === 'class'
            ? 'Type a room, or the name of the class for a lesson in its usual room. Leave empty for no lesson.'
            : 'Type a class, or class and room with a comma between them. Leave empty for no lesson.'}{' '}
          Enter saves and goes down, Esc discards.
        </p>
      )}
    </div>
  )
}
