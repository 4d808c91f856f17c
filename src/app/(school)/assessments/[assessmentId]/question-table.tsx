'use client'
import { useState } from 'react'
import { choiceLetters } from '@/core/assessment/answer-key'
import { Across } from '@/ui/across'
import { ChoiceGroup } from '@/ui/choice-group'
import { Select, TextInput } from '@/ui/field'
import type { Key, Question } from './use-key'

type Change = (next: (now: readonly Question[]) => readonly Question[], label: string) => void

interface Props {
  readonly questions: readonly Question[]
  readonly standards: Key['standards']
  readonly mayEdit: boolean
  readonly pages: number
  readonly onChange: Change
  readonly onRemove: (questionId: string) => void
  readonly onShow: (page: number) => void
}

const isPoints = (text: string) => /^\d{1,4}(\.\d{1,2})?$/.test(text)

/** A field whose text is kept only when it makes sense; until then it says that it does not yet. */
function Points({
  label,
  value,
  disabled,
  onChange,
}: {
  label: string
  value: string
  disabled: boolean
  onChange: (points: string) => void
}) {
  const [text, setText] = useState<string>()
  const shown = text ?? value
  return (
    <TextInput
      aria-label={label}
      inputMode="decimal"
      disabled={disabled}
      aria-invalid={!isPoints(shown) || undefined}
      className="min-h-6! w-14! py-0! text-right"
      value={shown}
      onChange={(e) => {
        const typed = e.target.value.replace(',', '.')
        setText(typed)
        if (isPoints(typed)) onChange(typed)
      }}
      onBlur={() => setText((now) => (now === undefined || isPoints(now) ? undefined : now))}
    />
  )
}

/** Puts a question one place up or down. */
function moved(questions: readonly Question[], id: string, by: 1 | -1): readonly Question[] {
  const at = questions.findIndex((q) => q.id === id)
  const next = [...questions]
  const [question] = next.splice(at, 1)
  if (question) next.splice(at + by, 0, question)
  return next
}

/** The questions one by one: key, choices, points, learning standard, page of the document. */
export function QuestionTable({ questions, standards, mayEdit, pages, onChange, onRemove, onShow }: Props) {
  const change = (id: string, part: Partial<Question>, label: string) =>
    onChange((now) => now.map((q) => (q.id === id ? { ...q, ...part } : q)), label)
  // Pages only go forward: the questions after this one are on its page or a later one.
  const setPage = (id: string, page: number | null, label: string) =>
    onChange((now) => {
      const at = now.findIndex((q) => q.id === id)
      return now.map((q, i) =>
        i === at || (i > at && page !== null && (q.page ?? 0) < page) ? { ...q, page } : q,
      )
    }, label)
  const firstTag = questions[0]?.standardId
  const small = 'min-h-6! w-14! py-0! text-right'
  const order = 'size-6 disabled:opacity-30 pointer-coarse:size-11'
  return (
    <>
      <Across label="Questions">
        <table className="rows" aria-label="Questions">
          <thead>
            <tr>
              <th scope="col" className="text-right">
                No.
              </th>
              <th scope="col">Key</th>
              <th scope="col">Choices</th>
              <th scope="col">Points</th>
              <th scope="col">Learning standard</th>
              {pages > 0 && <th scope="col">Page</th>}
              {mayEdit && <th scope="col">Order</th>}
            </tr>
          </thead>
          <tbody>
            {questions.map((q, i) => (
              <tr key={q.id} onFocus={() => q.page && onShow(q.page)}>
                <th scope="row" className="text-right">
                  {i + 1}
                </th>
                <td>
                  <ChoiceGroup
                    small
                    label={`Key of question ${i + 1}`}
                    choices={[...choiceLetters.slice(0, q.choices)]}
                    value={q.key}
                    disabled={!mayEdit}
                    onChange={(key) => change(q.id, { key }, `question ${i + 1}, key ${key ?? 'removed'}`)}
                  />
                </td>
                <td>
                  <TextInput
                    aria-label={`Choices of question ${i + 1}`}
                    type="number"
                    min={2}
                    max={10}
                    disabled={!mayEdit}
                    className={small}
                    value={q.choices}
                    onChange={(e) => {
                      const choices = Math.min(10, Math.max(2, Number(e.target.value) || 2))
                      const key = q.key && choiceLetters.indexOf(q.key) < choices ? q.key : null
                      change(q.id, { choices, key }, `question ${i + 1}, ${choices} choices`)
                    }}
                  />
                </td>
                <td>
                  <Points
                    label={`Points of question ${i + 1}`}
                    value={q.points}
                    disabled={!mayEdit}
                    onChange={(points) => change(q.id, { points }, `question ${i + 1}, ${points} points`)}
                  />
                </td>
                <td>
                  <Select
                    aria-label={`Learning standard of question ${i + 1}`}
                    disabled={!mayEdit}
                    className="min-h-6! max-w-60 py-0!"
                    value={q.standardId ?? ''}
                    onChange={(e) =>
                      change(
                        q.id,
                        { standardId: e.target.value || null },
                        `question ${i + 1}, learning standard`,
                      )
                    }
                  >
                    <option value="">not tagged</option>
                    {standards.map((s) => (
                      <option key={s.id} value={s.id}>
                        {s.code} {s.statement}
                      </option>
                    ))}
                  </Select>
                </td>
                {pages > 0 && (
                  <td>
                    <TextInput
                      aria-label={`Page of question ${i + 1}`}
                      type="number"
                      min={1}
                      max={pages}
                      disabled={!mayEdit}
                      className={small}
                      value={q.page ?? ''}
                      onChange={(e) => {
                        const page = Math.min(pages, Math.max(0, Number(e.target.value))) || null
                        setPage(q.id, page, `question ${i + 1}, page ${page ?? 'removed'}`)
                        if (page) onShow(page)
                      }}
                    />
                  </td>
                )}
                {mayEdit && (
                  <td className="whitespace-nowrap">
                    {([-1, 1] as const).map((by) => (
                      <button
                        key={by}
                        type="button"
                        className={order}
                        disabled={by < 0 ? i === 0 : i === questions.length - 1}
                        onClick={() => onChange((now) => moved(now, q.id, by), `question ${i + 1} moved`)}
                        aria-label={`Move question ${i + 1} ${by < 0 ? 'up' : 'down'}`}
                      >
                        {by < 0 ? '↑' : '↓'}
                      </button>
                    ))}
                    <button
                      type="button"
                      className={order}
                      disabled={questions.length === 1}
                      onClick={() => onRemove(q.id)}
                      aria-label={`Remove question ${i + 1}`}
                    >
                      ×
                    </button>
                  </td>
                )}
              </tr>
            ))}
          </tbody>
        </table>
      </Across>
      {mayEdit && firstTag && questions.some((q) => q.standardId !== firstTag) && (
        <p className="mt-2 text-[13px]">
          <button
            type="button"
            className="link"
            onClick={() =>
              onChange((now) => now.map((q) => ({ ...q, standardId: firstTag })), 'all questions tagged')
            }
          >
            Tag all questions with {standards.find((s) => s.id === firstTag)?.code}
          </button>
        </p>
      )}
    </>
  )
}
