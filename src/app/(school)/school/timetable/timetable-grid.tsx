'use client'
import { useRef, useState, type KeyboardEvent } from 'react'
import { lessonText, readLesson } from '@/core/timetable/lesson-text'
import { Button } from '@/ui/button'
import { newKey, tellServer } from '@/screen/server'
import { useBeforeLeaving } from '@/screen/saving'
import type { useUndoable } from '@/screen/undoable'
import type { Shown, Timetable } from './timetable-page'

/** Whose timetable is looked at. */
export interface TableOf {
  readonly kind: 'teacher' | 'class' | 'room'
  readonly id: string
  readonly name: string
}

type Lesson = Shown['lessons'][number]

interface Cell {
  readonly cycleDay: number
  readonly period: number
  /** The lesson that was there when typing began. */
  readonly was: Lesson | undefined
}

interface Draft extends Cell {
  readonly text: string
  /** Names this content to the server, which saves it once. */
  readonly key: string
  /** Why it was not saved. */
  readonly problem?: string
  /** The person may save it in spite of the problem. */
  readonly askAgain?: boolean
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
  async function commit(cell: string, confirmed = false) {
    const draft = latest.current[cell]
    if (!draft || sending.current.has(draft.key)) return
    const { cycleDay, period, was } = draft
    if (draft.text.trim() === (was ? lessonText(was, shown, about) : '')) return keep(cell, undefined)
    if (draft.problem && !confirmed) return
    const read = readLesson(draft.text, shown, about)
    if (read && 'problem' in read) return keep(cell, { ...draft, problem: read.problem })
    if (read && of.kind === 'teacher' && !taught.has(read.classId))
      return keep(cell, {
        ...draft,
        problem: `${of.name} does not teach this class. Teachers of a class are chosen under School, Structure.`,
      })
    sending.current.add(draft.key)
    const result = await tellServer(
      'timetable.setLesson',
      {
        timetableId: timetable.id,
        cycleDay,
        period,
        gone: was ? { lessonId: was.id, seen: was.version } : null,
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
      keep(cell, { ...draft, key: newKey(), problem: failure.message, askAgain })
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
  function cellOf(cycleDay: number, period: number, was: Lesson | undefined, first: boolean) {
    const cell = `${cycleDay} ${period} ${was?.id ?? ''}`
    const draft = drafts[cell]
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
        {draft?.problem && (
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
    <div className="overflow-x-auto">
      <datalist id="lessons">
        {suggestions.map((s) => (
          <option key={s} value={s} />
        ))}
      </datalist>
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
              {shown.days.map((day, i) => {
                const here = lessons.filter((l) => l.cycleDay === i + 1 && l.period === p.number)
                return (
                  <td key={day} className="align-top">
                    {here.length === 0
                      ? cellOf(i + 1, p.number, undefined, true)
                      : here.map((l, n) => cellOf(i + 1, p.number, l, n === 0))}
                  </td>
                )
              })}
            </tr>
          ))}
        </tbody>
      </table>
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
