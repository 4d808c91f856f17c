'use client'
import { memo, type KeyboardEvent } from 'react'
import { readTypedCode, type AttendanceCode } from '@/core/attendance/codes'

/** `1, 2 or 3`. */
const oneOf = (words: readonly string[]) => words.join(', ').replace(/, ([^,]*)$/, ' or $1')

/** The codes to type or choose; while a code is being typed, those that begin with it. */
export const CodePalette = memo(function CodePalette({
  codes,
  typed,
  present,
  onTake,
  onLeave,
}: {
  codes: readonly AttendanceCode[]
  typed: string
  /** The code that the selected student has. */
  present: string | null
  onTake: (code: AttendanceCode) => void
  /** Escape gives the keys back to the register. */
  onLeave: () => void
}) {
  const read = readTypedCode(typed, codes)
  const possible = new Set((read.kind === 'waiting' ? read.possible : codes).map((c) => c.id))
  const longer =
    read.kind === 'waiting' && read.exact
      ? read.possible.filter((c) => c !== read.exact).map((c) => c.code.slice(typed.length))
      : []
  function onKeyDown(event: KeyboardEvent<HTMLUListElement>) {
    if (event.key === 'Escape') return onLeave()
    const by = { ArrowDown: 1, ArrowUp: -1 }[event.key]
    if (by === undefined) return
    event.preventDefault()
    const buttons = [...event.currentTarget.querySelectorAll<HTMLElement>('button:not(:disabled)')]
    buttons[buttons.indexOf(document.activeElement as HTMLElement) + by]?.focus()
  }
  return (
    <>
      <h2 className="border-b border-ink pb-1">Codes</h2>
      <ul
        aria-label="Codes"
        data-codes
        onKeyDown={onKeyDown}
        className="sm:max-lg:grid sm:max-lg:grid-cols-2 sm:max-lg:gap-x-4"
      >
        {codes.map((c) => (
          <li key={c.id} className="border-b border-rule">
            <button
              type="button"
              onClick={() => onTake(c)}
              data-present={c.id === present || undefined}
              disabled={!possible.has(c.id)}
              className="flex min-h-7 w-full items-center text-left hover:bg-shoal-light disabled:opacity-35 pointer-coarse:min-h-11"
            >
              <span className="w-11 flex-none pl-2 font-bold">{c.code}</span>
              <span>{c.label}</span>
            </button>
          </li>
        ))}
      </ul>
      {longer.length > 0 && (
        <p className="hint mt-2 text-[13px]">
          Press Enter for <strong>{typed.toUpperCase()}</strong>, or type {oneOf(longer)}.
        </p>
      )}
    </>
  )
})
