'use client'
import { useState } from 'react'
import { v7 as uuid } from 'uuid'
import { kindOf, kinds, newQuestion, type KindName } from '@/core/assessment/kinds'
import { limits } from '@/core/limits'
import { Button } from '@/ui/button'
import { Select, TextInput } from '@/ui/field'
import { choicesOf } from './question-row'
import type { ChangeKey, Question } from './use-key'

/** Adds any number of questions of one kind at the end, like the last one in all else. */
export function AddQuestions({
  questions,
  onChange,
}: {
  questions: readonly Question[]
  onChange: ChangeKey
}) {
  const [count, setCount] = useState('1')
  const [kind, setKind] = useState<KindName>('one choice')
  const room = limits.questions - questions.length
  const wanted = /^\d{1,3}$/.test(count.trim()) ? Number(count) : 0
  const fits = wanted >= 1 && wanted <= room
  function add() {
    onChange(
      (now) => {
        const last = now.at(-1)
        const made = Array.from({ length: wanted }, () => ({
          id: uuid(),
          ...newQuestion(kind, choicesOf(last)),
          points: last?.points ?? '1',
          counts: 'keyed' as const,
          standardIds: [],
          page: last?.page ?? null,
        }))
        return [...now, ...made]
      },
      `${wanted} × ${kindOf(kind).words.toLowerCase()} added`,
    )
    setCount('1')
  }
  return (
    <form
      className="mt-3 flex flex-wrap items-center gap-2"
      onSubmit={(e) => {
        e.preventDefault()
        if (fits) add()
      }}
    >
      <TextInput
        aria-label="How many questions to add"
        type="number"
        min={1}
        max={room}
        className="w-16! text-right"
        value={count}
        onChange={(e) => setCount(e.target.value)}
      />
      <Select
        aria-label="Kind of the added questions"
        className="w-auto!"
        value={kind}
        onChange={(e) => setKind(e.target.value as KindName)}
      >
        {kinds.map((one) => (
          <option key={one.name} value={one.name}>
            {one.words}
          </option>
        ))}
      </Select>
      <Button kind="plain" type="submit" disabled={!fits}>
        {wanted === 1 ? 'Add a question' : `Add ${wanted > 0 ? wanted : ''} questions`}
      </Button>
      {wanted > room && (
        <span className="text-[13px] text-muted">
          An assessment has at most {limits.questions} questions.
        </span>
      )}
    </form>
  )
}
