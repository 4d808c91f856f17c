'use client'
import { useState, type Ref } from 'react'
import type { StudentResult } from '@/core/assessment/findings'
import type { TypedAnswer, TypedLine } from '@/core/assessment/typed'
import { keepPlain } from '@/ui/plain-text'
import { LevelMark } from '@/app/(school)/assessments/[assessmentId]/level-mark'

interface Row {
  readonly name: string
  readonly text: string
  readonly read: TypedLine<TypedAnswer>
  readonly scored: { readonly result: StudentResult; readonly wrong: readonly number[] } | undefined
}

interface Props {
  readonly row: Row
  /** Whether all answers are single letters. */
  readonly plainLetters: boolean
  readonly questions: number
  readonly levels: readonly string[]
  readonly className: string | undefined
  readonly disabled: boolean
  readonly autoFocus: boolean
  readonly total: number
  readonly inputRef: Ref<HTMLInputElement>
  /** Something of several cells or rows was pasted. */
  readonly onPaste: (text: string) => void
  readonly onType: (text: string) => void
  readonly onLeave: () => void
  readonly onStep: (by: 1 | -1) => void
}

/** One student's answers: the letters, which are wrong, the score. */
export function AnswerRow({
  row,
  plainLetters,
  questions,
  levels,
  className,
  disabled,
  autoFocus,
  total,
  inputRef,
  onPaste,
  onType,
  onLeave,
  onStep,
}: Props) {
  const [focused, setFocused] = useState(false)
  const { read, text } = row
  // While typing, only letters that cannot be are pointed out; too few letters are, once the field is left.
  const unfinished = text !== '' && !read.complete
  const impossible = read.impossible
  const shown = unfinished ? (focused ? impossible : read.problems) : []
  const { result, wrong = [] } = row.scored ?? {}
  return (
    <tr>
      <th scope="row" className="text-[15px] whitespace-nowrap">
        {row.name}
      </th>
      {className && <td className="text-muted">{className}</td>}
      <td>
        <input
          ref={inputRef}
          aria-label={`Answers of ${row.name}`}
          aria-invalid={shown.length > 0 || undefined}
          disabled={disabled}
          autoFocus={autoFocus}
          autoComplete="off"
          autoCapitalize="characters"
          spellCheck={false}
          value={text}
          onInput={keepPlain}
          onPaste={(e) => {
            const text = e.clipboardData.getData('text/plain')
            if (!/[\t\r\n]/.test(text.trim())) return
            e.preventDefault()
            onPaste(text)
          }}
          onChange={(e) => onType(e.target.value)}
          onFocus={() => setFocused(true)}
          onBlur={() => {
            setFocused(false)
            onLeave()
          }}
          onKeyDown={(e) => {
            if (e.key === 'Enter' || e.key === 'ArrowDown' || e.key === 'ArrowUp') {
              e.preventDefault()
              onStep(e.key === 'ArrowUp' ? -1 : 1)
            }
          }}
          style={{ width: `${Math.max(12, questions * (plainLetters ? 1.25 : 2.2))}em` }}
          className={`max-w-full rounded-[3px] border border-line bg-panel px-2 py-[2px] font-bold aria-invalid:border-2 aria-invalid:border-port ${plainLetters ? 'tracking-[0.18em] uppercase' : ''}`}
        />
      </td>
      <td className="text-right font-bold whitespace-nowrap">
        {result?.points}
        <span className="font-normal text-muted">{result && ` of ${total}`}</span>
      </td>
      <td>
        {result && result.unmarked > 0 ? (
          <span className="text-muted">not final</span>
        ) : (
          result && <LevelMark name={levels[result.level] ?? ''} place={result.level} of={levels.length} />
        )}
      </td>
      <td className="text-[12px]">
        {shown.length > 0 ? (
          <span role="alert" className="text-port">
            <span aria-hidden>▲ </span>
            {shown.join(' ')}
          </span>
        ) : focused && unfinished ? (
          <span className="text-muted">{read.remaining} remaining</span>
        ) : (
          <span className="text-muted">
            {[
              result && result.unmarked > 0 && `${result.unmarked} not marked yet`,
              wrong.length > 0 && `incorrect: ${wrong.join(', ')}`,
            ]
              .filter(Boolean)
              .join('; ')}
          </span>
        )}
      </td>
    </tr>
  )
}
