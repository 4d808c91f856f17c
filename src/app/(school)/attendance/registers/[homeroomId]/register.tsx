'use client'
import { useCallback, useLayoutEffect, useMemo, useRef, useState, type KeyboardEvent } from 'react'
import type { AttendanceCode } from '@/core/attendance/codes'
import { shortDate } from '@/core/calendar/date-words'
import { spokenName } from '@/core/people/names'
import { Button } from '@/ui/button'
import type { Effect } from '@/ui/grid/grid'
import { useGrid } from '@/ui/grid/use-grid'
import { useAnnounce } from '@/screen/announce'
import { classPages } from '@/screen/class-pages'
import { useKeyChoice } from '@/screen/key-choice'
import { useKeys } from '@/screen/keys'
import { Margin, useMargin } from '@/screen/margin'
import { MessageInView, useMessage } from '@/screen/message'
import { PageHead } from '@/screen/page-head'
import { useBeforeLeaving } from '@/screen/saving'
import { useSchool } from '@/screen/school-context'
import { SeekingName, useNameJump } from './name-jump'
import { NoSession } from './no-session'
import { Counts, lessonWords, OtherSessions } from './register-bar'
import { StripLegend } from './recent-strip'
import { acts, codeOf, commonest, keys, moves, readingOf } from './register-keys'
import { RegisterMargin } from './register-margin'
import { useRegisterNotices } from './register-notices'
import { RegisterTable } from './register-table'
import { useDrafts } from './use-drafts'
import { useRegisterActs } from './use-register-acts'
import { useRegister, useRestMarked, type Register, type RegisterInput } from './use-register'

const columns = ['mark'] as const

/** A register of a half-day or a lesson, taken by keyboard, mouse or finger; each mark is saved as it is entered. */
export function RegisterPage({ input, initial }: { input: RegisterInput; initial: Register }) {
  const school = useSchool()
  const lessonOf = 'classId' in input ? input.classId : undefined
  const title =
    lessonOf === undefined
      ? `${initial.place.name}, ${input.session} register, ${shortDate(input.date)}`
      : `${initial.place.name}${input.session === '' ? '' : `, period ${input.session}`}, ${shortDate(input.date)}`
  const r = useRegister(input, initial, title)
  const { register, rows, recorded } = r
  const { codes } = register
  const usable = useMemo(() => codes.filter((c) => c.usable), [codes])
  const { message, say, warn } = useMessage()
  const announce = useAnnounce()
  const keyChoice = useKeyChoice()
  const margin = useMargin()
  const cells = useRef(new Map<string, HTMLButtonElement | null>())
  // Who was marked by the last key; nobody once another student was gone to.
  const [marked, setMarked] = useState<string>()
  // A half-day that was marked before the year group went over to lessons stays open.
  const takes =
    lessonOf === undefined
      ? register.taken || rows.some((x) => x.mark?.codeId)
      : register.taken && register.lesson !== null && !register.lesson.cancelled
  const open =
    takes && register.day?.kind === 'school day' && register.begun && rows.length > 0 && codes.length > 0
  const nameOf = (studentId: string) =>
    spokenName(rows.find((row) => row.studentId === studentId)?.name ?? '')
  useKeys(keys)

  const { take, undo, actions } = useRegisterActs(input, r, {
    usable,
    nameOf,
    say,
    warn,
    marked,
    setMarked,
    goTo: (studentId) => grid.goTo({ row: studentId, column: 'mark' }),
  })
  function onEffect(effect: Effect) {
    if (effect.kind === 'refuse') return warn(effect.why)
    const studentId = effect.at.row
    if (effect.kind === 'begin') recorded?.begin({ studentId })
    else if (effect.kind === 'cancel') recorded?.cancel({ studentId })
    else if (effect.kind === 'clear') {
      r.change(studentId, { codeId: null, minutesLate: null })
      announce(`${nameOf(studentId)}: no mark`)
    } else if (effect.kind === 'act') actions[effect.key]?.(studentId)
    else {
      const code = codeOf(effect.text, usable)
      if (code) take(studentId, code)
    }
  }
  const studentIds = rows.map((row) => row.studentId)
  const ids = studentIds.join()
  const shape = useMemo(() => ({ rows: ids === '' ? [] : ids.split(','), columns }), [ids])
  const rules = useMemo(
    () => ({ read: (text: string) => readingOf(text, usable), characters: /[a-z0-9]/i, acts }),
    [usable],
  )
  const grid = useGrid(shape, rules, onEffect, () => [
    Math.max(
      0,
      initial.rows.findIndex((row) => !row.mark?.codeId),
    ),
    0,
  ])
  const isTyping = grid.typed !== undefined
  function onGridKey(event: KeyboardEvent) {
    if (event.key === '.' && !keyChoice.rest) return
    if (moves.has(event.key)) setMarked(undefined)
    if (event.key !== 'Enter' || isTyping) return grid.onKeyDown(event)
    event.preventDefault()
    document.querySelector<HTMLElement>('[data-codes] [data-present], [data-codes] button')?.focus()
  }
  const jump = useNameJump(
    rows,
    (studentId) => {
      setMarked(undefined)
      grid.goTo({ row: studentId, column: 'mark' })
    },
    onGridKey,
  )
  const chosen = grid.at.row
  const row = rows.find((x) => x.studentId === chosen)

  const { drafting, endDraft, onDraft, onEndDraft } = useDrafts(r, {
    nameOf,
    warn,
    onBack: () => cells.current.get(chosen)?.focus(),
  })
  useBeforeLeaving(() => {
    endDraft()
    grid.end()
  })
  useRestMarked(recorded && r.scope, (n) => {
    if (n === 0) return say('Someone else has already marked everyone.')
    say(
      `${n} ${n === 1 ? 'student' : 'students'} marked ${rows.some((x) => x.planned) ? 'present or as planned' : 'present'}.`,
      () => {
        undo(recorded?.undo(), 'undo')
        cells.current.get(chosen)?.focus()
      },
    )
  })
  // Once the row is drawn: asked for earlier, the browser would lay the table out twice for one key.
  const first = useRef(true)
  // A code chosen from the list gives the keys back to the table.
  const comesBack = useRef(false)
  useLayoutEffect(() => {
    const cell = cells.current.get(chosen)
    const at = document.activeElement
    const inTable = at instanceof HTMLButtonElement && at.dataset.student !== undefined
    if (!first.current && !comesBack.current && !inTable) return
    comesBack.current = false
    cell?.focus({ preventScroll: true })
    if (!first.current) cell?.scrollIntoView({ block: 'nearest' })
    first.current = false
  }, [chosen])

  // Rows are drawn again only when they change, so they hold on to handlers that always reach the newest state.
  const latest = useRef({ take, chosen, usable })
  useLayoutEffect(() => {
    latest.current = { take, chosen, usable }
  })
  const { goTo, drop } = grid
  const { setOpen: setMargin } = margin
  const quick = useMemo(() => commonest(usable), [usable])
  const onQuick = useCallback((studentId: string, codeId: string) => {
    const code = latest.current.usable.find((c) => c.id === codeId)
    if (code) latest.current.take(studentId, code)
  }, [])
  const onMore = useCallback(
    (studentId: string) => {
      goTo({ row: studentId, column: 'mark' })
      setMargin(true)
    },
    [goTo, setMargin],
  )
  const onTake = useCallback(
    (code: AttendanceCode) => {
      latest.current.take(latest.current.chosen, code)
      comesBack.current = true
      drop(1)
      setMargin(false)
    },
    [drop, setMargin],
  )
  const onChoose = useCallback((studentId: string) => void goTo({ row: studentId, column: 'mark' }), [goTo])
  const onClick = useCallback(
    (studentId: string) => {
      setMarked(undefined)
      onChoose(studentId)
    },
    [onChoose],
  )
  const expected = rows.filter((x) => x.expected).length
  const notices = useRegisterNotices(r, nameOf)
  return (
    <div className="leaf">
      <div className="sheet">
        <PageHead
          title={title}
          page={lessonOf === undefined ? undefined : 'Register'}
          pages={lessonOf === undefined ? undefined : classPages(school, lessonOf, undefined, 'Register')}
          detail={[
            `${rows.length - expected} on roll${expected ? `, ${expected} expected` : ''}`,
            ...lessonWords(register),
          ].join(', ')}
          saves={open}
        />
        {open && row ? (
          <>
            <div className="mb-1 flex flex-wrap items-center gap-2 no-print">
              <Counts register={register} rows={rows} />
              <Button onClick={() => grid.pressKey('.')} keyCap=".">
                Mark the rest present
              </Button>
              <OtherSessions register={register} input={input} />
            </div>
            <MessageInView {...message} />
            <SeekingName seeking={jump.seeking} />
            <RegisterTable
              rows={rows}
              codes={codes}
              sessions={register.sessions}
              chosen={chosen}
              typed={grid.typed ?? ''}
              drafting={drafting}
              touched={r.touched}
              cells={cells}
              marked={marked ?? chosen}
              notices={notices}
              onChoose={onChoose}
              quick={quick}
              onQuick={onQuick}
              onMore={onMore}
              onClick={onClick}
              onKeyDown={jump.onKeyDown}
              starts={register.starts}
              mayEndPlans={register.mayEndPlans}
              lessons={lessonOf !== undefined}
              onDraft={onDraft}
              onEndDraft={onEndDraft}
              onBlurCell={grid.end}
            />
            <StripLegend />
          </>
        ) : (
          <NoSession register={register} input={input} onCleared={() => void r.refresh()} />
        )}
      </div>
      {open && row && (
        <Margin label="About the selected student" opens="Codes and contacts" of={margin}>
          <RegisterMargin
            row={row}
            codes={usable}
            typed={grid.typed ?? ''}
            onTake={onTake}
            onLeaveCodes={() => cells.current.get(chosen)?.focus()}
            onEndPlan={register.mayEndPlans ? () => grid.pressKey('=') : undefined}
            term={shortDate(input.date)}
          />
        </Margin>
      )}
    </div>
  )
}
