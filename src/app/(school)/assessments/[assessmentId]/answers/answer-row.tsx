'use client'
import { useState, type Ref } from 'react'
import type { TypedLetters } from '@/core/assessment/answer-key'
import type { StudentResult } from '@/core/assessment/findings'
import { keepPlain } from '@/ui/plain-text'
import { LevelMark } from '@/app/(school)/assessments/[assessmentId]/level-mark'

interface Row {
  readonly name: string
  readonly text: string
  readonly read: TypedLetters
  readonly result: StudentResult | undefined
}

interface Props {
  readonly row: Row
  readonly questions: readonly { readonly id: string; readonly key: string | null }[]
  readonly className: string | undefined
  readonly disabled: boolean
  readonly autoFocus: boolean
  readonly total: number
  readonly inputRef: Ref<HTMLInputElement>
  readonly onType: (text: string) => void
  readonly onLeave: () => void
  readonly onStep: (by: 1 | -1) => void
}

/** One student's answers: the letters, which are wrong, the score. */
export function AnswerRow({
  row,
  questions,
  className,
  disabled,
  autoFocus,
  total,
  inputRef,
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
  const wrong = questions
    .map((q, i) => (q.key && read.letters[i] && read.letters[i] !== q.key ? i + 1 : 0))
    .filter((n) => n > 0)
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
          style={{ width: `${Math.max(12, questions.length * 1.25)}em` }}
          className="max-w-full rounded-[3px] border border-line bg-panel px-2 py-[2px] font-bold tracking-[0.18em] uppercase aria-invalid:border-2 aria-invalid:border-port"
        />
      </td>
      <td className="text-right font-bold whitespace-nowrap">
        {row.result ? `${row.result.points}` : ''}
        <span className="font-normal text-muted">{row.result && ` of ${total}`}</span>
      </td>
      <td>{row.result && <LevelMark level={row.result.level} />}</td>
      <td className="text-[12px]">
        {shown.length > 0 ? (
          <span role="alert" className="text-port">
            <span aria-hidden>▲ </span>
            {shown.join(' ')}
          </span>
        ) : focused && unfinished ? (
          <span className="text-muted">{questions.length - text.replace(/\s/g, '').length} remaining</span>
        ) : wrong.length > 0 && row.result ? (
          <span className="text-muted">incorrect: {wrong.join(', ')}</span>
        ) : null}
      </td>
    </tr>
  )
}
