'use client'
import Link from '@/screen/link'
import { useCallback, useLayoutEffect, useReducer, useRef, useState, type KeyboardEvent } from 'react'
import { readTypedCode, type AttendanceCode } from '@/core/attendance/codes'
import { shortDate } from '@/core/calendar/date-words'
import { spokenName } from '@/core/people/names'
import { Button } from '@/ui/button'
import { ConflictNotice } from '@/screen/conflict-notice'
import { PageHead } from '@/screen/page-head'
import { Told } from '@/screen/told'
import { useDateLink } from '@/screen/use-date-link'
import { NoSession } from './no-session'
import { RegisterMargin } from './register-margin'
import { RegisterTable } from './register-table'
import {
  useRegister,
  type Conflict,
  type MarkChange,
  type Register,
  type RegisterInput,
} from './use-register'

const counted = {
  here: ['present', 'late', 'elsewhere'],
  away: ['absent with reason', 'absent without reason', 'not expected'],
} as const

function Counts({ register, rows }: { register: Register; rows: ReturnType<typeof useRegister>['rows'] }) {
  const meaningOf = new Map(register.codes.map((c) => [c.id, c.meaning]))
  const meanings = rows.map((r) => (r.now.codeId ? meaningOf.get(r.now.codeId) : undefined))
  const of = (list: readonly string[]) => meanings.filter((m) => m && list.includes(m)).length
  const late = of(['late'])
  const open = rows.filter((r) => r.now.codeId === null && !r.expected).length
  const cell = 'border-r border-ink px-3 py-[5px] last:border-r-0'
  return (
    <p className="inline-flex overflow-hidden rounded-[3px] border border-ink bg-panel" data-testid="counts">
      <span className={cell}>
        <strong className="text-[15px]">{of(counted.here) - late}</strong> here
      </span>
      <span className={cell}>
        <strong className="text-[15px]">{of(counted.away)}</strong> away
      </span>
      <span className={cell}>
        <strong className="text-[15px]">{late}</strong> late
      </span>
      <span className={`${cell} ${open > 0 ? 'bg-buff' : ''}`}>
        <strong className="text-[15px]">{open}</strong> no mark yet
      </span>
    </p>
  )
}

function ConflictNote({
  conflict,
  name,
  codes,
  onResolve,
}: {
  conflict: Conflict
  name: string
  codes: readonly AttendanceCode[]
  onResolve: (keep: 'mine' | 'theirs') => void
}) {
  const words = (codeId: string | null | undefined, note: string | null | undefined) =>
    [codes.find((c) => c.id === codeId)?.code ?? 'no mark', note].filter(Boolean).join(', ')
  const theirs = words(conflict.theirs?.codeId, conflict.theirs?.note)
  const mine = words(conflict.mine.codeId, conflict.mine.note)
  return (
    <ConflictNotice theirs={theirs} mine={mine} onResolve={onResolve}>
      <strong>{name}</strong>: {conflict.theirs?.changedBy ?? 'Somebody'} put <strong>{theirs}</strong> while
      you put <strong>{mine}</strong>. Theirs stands.
    </ConflictNotice>
  )
}

/** A homeroom's register for one half-day, taken by keyboard, mouse or finger; each mark is saved as it is typed. */
export function RegisterPage({ input, initial }: { input: RegisterInput; initial: Register }) {
  const { register, rows, mark, markRest, undo, conflicts, resolve, told, setTold, touched } = useRegister(
    input,
    initial,
  )
  const [chosen, setChosen] = useState(() =>
    Math.max(
      0,
      initial.rows.findIndex((r) => !r.mark?.codeId),
    ),
  )
  const [typed, setTyped] = useState('')
  const cells = useRef<(HTMLButtonElement | null)[]>([])
  const chosenNow = useRef(chosen)
  const [moves, moved] = useReducer((n: number) => n + 1, 0)
  const dated = useDateLink()
  const open = register.day?.kind === 'school day' && register.begun && rows.length > 0
  const row = rows[chosen]

  // Once the row is drawn: asked for earlier, the browser would lay the table out twice for one key.
  useLayoutEffect(() => {
    const cell = cells.current[chosenNow.current]
    cell?.focus({ preventScroll: true })
    if (moves > 0) cell?.scrollIntoView({ block: 'nearest' })
  }, [moves])

  function go(to: number) {
    const next = Math.min(rows.length - 1, Math.max(0, to))
    setTyped('')
    setChosen(next)
    chosenNow.current = next
    moved()
  }
  function take(code: AttendanceCode) {
    if (!row) return
    mark(row.studentId, { codeId: code.id, ...(code.meaning === 'late' ? {} : { minutesLate: null }) })
    setTyped('')
  }
  function type(text: string) {
    const read = readTypedCode(text, register.codes)
    if (read.kind === 'complete') {
      take(read.code)
      go(chosen + 1)
    } else if (read.kind === 'waiting') setTyped(text.toUpperCase())
    else {
      // Nothing longer fits: what was waiting is taken, and the key begins the next student's code.
      const waiting = readTypedCode(typed, register.codes)
      const key = text.slice(-1)
      if (
        typed &&
        waiting.kind === 'waiting' &&
        waiting.exact &&
        readTypedCode(key, register.codes).kind !== 'unknown'
      ) {
        take(waiting.exact)
        const next = Math.min(rows.length - 1, chosen + 1)
        go(next)
        const begun = readTypedCode(key, register.codes)
        if (begun.kind === 'complete') {
          const nextRow = rows[next]
          if (nextRow && next !== chosen) mark(nextRow.studentId, { codeId: begun.code.id })
          go(next + 1)
        } else setTyped(key.toUpperCase())
      } else setTold(`${text.toUpperCase()} is not a code. The codes stand at the right.`)
    }
  }
  function settle(): boolean {
    const read = typed ? readTypedCode(typed, register.codes) : undefined
    if (read?.kind !== 'waiting' || !read.exact) return false
    take(read.exact)
    return true
  }
  function choose(index: number) {
    if (index === chosenNow.current) return
    settle()
    chosenNow.current = index
    setChosen(index)
    setTyped('')
  }
  // Rows are drawn again only when they change, so they hold on to handlers that always reach the newest state.
  function takeAndGoOn(code: AttendanceCode) {
    take(code)
    go(chosen + 1)
  }
  const latest = useRef({ choose, mark, takeAndGoOn })
  useLayoutEffect(() => {
    latest.current = { choose, mark, takeAndGoOn }
  })
  const onTake = useCallback((code: AttendanceCode) => latest.current.takeAndGoOn(code), [])
  const onChoose = useCallback((index: number) => latest.current.choose(index), [])
  const onMark = useCallback(
    (studentId: string, change: Partial<MarkChange>) => latest.current.mark(studentId, change),
    [],
  )
  const onLeaveNote = useCallback(() => cells.current[chosenNow.current]?.focus(), [])

  const acts: Readonly<Record<string, () => void>> = {
    ArrowDown: () => {
      settle()
      go(chosen + 1)
    },
    ArrowUp: () => {
      settle()
      go(chosen - 1)
    },
    Enter: () => {
      settle()
      go(chosen + 1)
    },
    Home: () => go(0),
    End: () => go(rows.length - 1),
    Escape: () => setTyped(''),
    Backspace: () =>
      typed ? setTyped(typed.slice(0, -1)) : row && mark(row.studentId, { codeId: null, minutesLate: null }),
    Delete: () => row && mark(row.studentId, { codeId: null, minutesLate: null }),
    '.': markRest,
    '/': () => document.getElementById(`note-${row?.studentId}`)?.focus(),
  }
  function onKeyDown(event: KeyboardEvent) {
    if ((event.ctrlKey || event.metaKey) && event.key.toLowerCase() === 'z') {
      event.preventDefault()
      const studentId = undo()
      const at = rows.findIndex((r) => r.studentId === studentId)
      if (at >= 0) go(at)
      return
    }
    if (event.ctrlKey || event.metaKey || event.altKey) return
    const act = acts[event.key]
    if (act) {
      event.preventDefault()
      act()
    } else if (/^[a-z0-9]$/i.test(event.key)) {
      event.preventDefault()
      type(typed + event.key)
    }
  }
  const expected = rows.filter((r) => r.expected).length
  const other = input.session === 'morning' ? 'afternoon' : 'morning'
  return (
    <div className="leaf">
      <div className="sheet">
        <PageHead
          title={`${register.homeroom.name}, ${input.session} register`}
          detail={`${rows.length - expected} on roll${expected ? `, ${expected} expected to arrive` : ''}`}
          saves={open}
        />
        {open && row ? (
          <>
            {conflicts.map((c) => (
              <ConflictNote
                key={c.editId}
                conflict={c}
                codes={register.codes}
                name={spokenName(rows.find((r) => r.studentId === c.studentId)?.name ?? '')}
                onResolve={(keep) => resolve(c, keep)}
              />
            ))}
            <div className="mb-3 flex flex-wrap items-center gap-2 no-print">
              <Counts register={register} rows={rows} />
              <Button onClick={markRest} keyCap=".">
                Mark the rest present
              </Button>
              <Link className="link ml-auto text-[13px]" href={dated(`?session=${other}`)}>
                {other === 'afternoon' ? 'Afternoon' : 'Morning'} register
              </Link>
            </div>
            <Told text={told} />
            <RegisterTable
              rows={rows}
              codes={register.codes}
              sessions={register.sessions}
              chosen={chosen}
              typed={typed}
              touched={touched}
              cells={cells}
              onChoose={onChoose}
              onKeyDown={onKeyDown}
              onMark={onMark}
              onLeaveNote={onLeaveNote}
            />
          </>
        ) : (
          <NoSession register={register} input={input} />
        )}
      </div>
      {open && row && (
        <aside aria-label="About the chosen student">
          <RegisterMargin
            row={row}
            codes={register.codes}
            typed={typed}
            onTake={onTake}
            term={shortDate(input.date)}
          />
        </aside>
      )}
    </div>
  )
}
