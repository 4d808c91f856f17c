'use client'
import { choiceLetters } from '@/core/assessment/answer-key'
import type { QueryOutput } from '@/server/registry'
import { Select, TextInput } from '@/ui/field'

type Key = QueryOutput<'assessment.key'>
export type Question = Key['questions'][number]

interface Props {
  readonly questions: readonly Question[]
  readonly standards: Key['standards']
  readonly mayEdit: boolean
  readonly pages: number
  readonly onChange: (questions: readonly Question[]) => void
  readonly onShow: (page: number) => void
}

/** The questions one by one: key, choices, points, learning standard, page of the document. */
export function QuestionTable({ questions, standards, mayEdit, pages, onChange, onShow }: Props) {
  const change = (i: number, part: Partial<Question>) =>
    onChange(questions.map((q, at) => (at === i ? { ...q, ...part } : q)))
  // Pages only go forward: the questions after this one are on its page or a later one.
  const setPage = (i: number, page: number | null) =>
    onChange(
      questions.map((q, at) =>
        at === i || (at > i && page !== null && (q.page ?? 0) < page) ? { ...q, page } : q,
      ),
    )
  const swap = (i: number, j: number) => {
    const next = [...questions]
    const [a, b] = [next[i], next[j]]
    if (a && b) [next[i], next[j]] = [b, a]
    onChange(next)
  }
  const firstTag = questions[0]?.standardId
  return (
    <>
      <table className="rows">
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
                <span className="inline-flex" role="radiogroup" aria-label={`Key of question ${i + 1}`}>
                  {[...choiceLetters.slice(0, q.choices)].map((letter) => (
                    <button
                      key={letter}
                      type="button"
                      role="radio"
                      aria-checked={q.key === letter}
                      disabled={!mayEdit}
                      onClick={() => change(i, { key: q.key === letter ? null : letter })}
                      className={`h-6 w-7 border border-l-0 border-line first:border-l pointer-coarse:h-11 pointer-coarse:w-11 ${q.key === letter ? 'bg-ink font-bold text-panel' : 'bg-panel'}`}
                    >
                      {letter}
                    </button>
                  ))}
                </span>
              </td>
              <td>
                <TextInput
                  aria-label={`Choices of question ${i + 1}`}
                  type="number"
                  min={2}
                  max={10}
                  disabled={!mayEdit}
                  className="min-h-6! w-14! py-0! text-right"
                  value={q.choices}
                  onChange={(e) => {
                    const choices = Math.min(10, Math.max(2, Number(e.target.value) || 2))
                    change(i, {
                      choices,
                      key: q.key && choiceLetters.indexOf(q.key) < choices ? q.key : null,
                    })
                  }}
                />
              </td>
              <td>
                <TextInput
                  aria-label={`Points of question ${i + 1}`}
                  inputMode="decimal"
                  disabled={!mayEdit}
                  aria-invalid={!/^\d{1,5}(\.\d{1,2})?$/.test(q.points) || undefined}
                  className="min-h-6! w-14! py-0! text-right"
                  value={q.points}
                  onChange={(e) => change(i, { points: e.target.value })}
                />
              </td>
              <td>
                <Select
                  aria-label={`Learning standard of question ${i + 1}`}
                  disabled={!mayEdit}
                  className="min-h-6! max-w-60 py-0!"
                  value={q.standardId ?? ''}
                  onChange={(e) => change(i, { standardId: e.target.value || null })}
                >
                  <option value="">none</option>
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
                    className="min-h-6! w-14! py-0! text-right"
                    value={q.page ?? ''}
                    onChange={(e) => {
                      const page = Math.min(pages, Math.max(0, Number(e.target.value))) || null
                      setPage(i, page)
                      if (page) onShow(page)
                    }}
                  />
                </td>
              )}
              {mayEdit && (
                <td className="whitespace-nowrap">
                  <button
                    type="button"
                    className="size-6 disabled:opacity-30 pointer-coarse:size-11"
                    disabled={i === 0}
                    onClick={() => swap(i, i - 1)}
                    aria-label={`Move question ${i + 1} up`}
                  >
                    ↑
                  </button>
                  <button
                    type="button"
                    className="size-6 disabled:opacity-30 pointer-coarse:size-11"
                    disabled={i === questions.length - 1}
                    onClick={() => swap(i, i + 1)}
                    aria-label={`Move question ${i + 1} down`}
                  >
                    ↓
                  </button>
                  <button
                    type="button"
                    className="size-6 disabled:opacity-30 pointer-coarse:size-11"
                    disabled={questions.length === 1}
                    onClick={() => onChange(questions.filter((_, at) => at !== i))}
                    aria-label={`Take question ${i + 1} out`}
                  >
                    ×
                  </button>
                </td>
              )}
            </tr>
          ))}
        </tbody>
      </table>
      {mayEdit && firstTag && questions.some((q) => q.standardId !== firstTag) && (
        <p className="mt-2 text-[13px]">
          <button
            type="button"
            className="link"
            onClick={() => onChange(questions.map((q) => ({ ...q, standardId: firstTag })))}
          >
            Tag all questions with {standards.find((s) => s.id === firstTag)?.code}
          </button>
        </p>
      )}
    </>
  )
}
