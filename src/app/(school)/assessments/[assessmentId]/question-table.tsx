'use client'
import { standardName } from '@/core/assessment/standards'
import { v7 as uuid } from 'uuid'
import { Across } from '@/ui/across'
import { Sortable } from '@/ui/sortable'
import { QuestionRow } from './question-row'
import type { ChangeKey, Key, Question } from './use-key'

interface Props {
  readonly questions: readonly Question[]
  readonly standards: Key['knownStandards']
  readonly mayEdit: boolean
  readonly pages: number
  readonly onChange: ChangeKey
  readonly onRemove: (questionId: string) => void
  readonly onShow: (page: number) => void
  readonly onDraw: (questionId: string) => void
  /** The question whose place is being drawn. */
  readonly drawn: string | undefined
}

/** Puts a question one place up or down. */
function moved(questions: readonly Question[], id: string, by: 1 | -1): readonly Question[] {
  const at = questions.findIndex((q) => q.id === id)
  const next = [...questions]
  const [question] = next.splice(at, 1)
  if (question) next.splice(at + by, 0, question)
  return next
}

/** Pages only go forward: the questions after this one are on its page or a later one. */
const onPage = (now: readonly Question[], id: string, page: number | null): readonly Question[] => {
  const at = now.findIndex((q) => q.id === id)
  return now.map((q, i) =>
    i === at || (i > at && page !== null && (q.page ?? 0) < page)
      ? { ...q, page, box: q.page === page ? q.box : null }
      : q,
  )
}

/** The questions one by one. */
export function QuestionTable({
  questions,
  standards,
  mayEdit,
  pages,
  onChange,
  onRemove,
  onShow,
  onDraw,
  drawn,
}: Props) {
  // Standards of the first question that not all have: one assessment is often about one.
  const forAll = standards.filter(
    (s) => questions[0]?.standardIds.includes(s.id) && questions.some((q) => !q.standardIds.includes(s.id)),
  )
  return (
    <Sortable
      items={questions.map(({ id }, i) => ({ id, name: `Question ${i + 1}` }))}
      onChange={(order) =>
        onChange((now) => {
          const place = new Map(order.map(({ id }, i) => [id, i]))
          return [...now].sort((a, b) => (place.get(a.id) ?? now.length) - (place.get(b.id) ?? now.length))
        }, 'questions in another order')
      }
    >
      <Across label="Questions">
        <table className="rows [&_td]:px-[5px]! [&_th]:px-[5px]!" aria-label="Questions">
          <thead>
            <tr>
              <th scope="col" className="text-right">
                No.
              </th>
              <th scope="col">Kind</th>
              <th scope="col">Key, number of choices</th>
              <th scope="col">Points</th>
              <th scope="col">Standards</th>
              {pages > 0 && <th scope="col">Page, place</th>}
              {mayEdit && (
                <th scope="col">
                  <span className="sr-only">Remove and more</span>
                </th>
              )}
            </tr>
          </thead>
          <tbody>
            {questions.map((q, i) => (
              <QuestionRow
                key={q.id}
                question={q}
                position={i + 1}
                of={questions.length}
                standards={standards}
                mayEdit={mayEdit}
                pages={pages}
                onChange={(part, words) =>
                  onChange(
                    (now) => now.map((one) => (one.id === q.id ? ({ ...one, ...part } as Question) : one)),
                    `question ${i + 1}, ${words}`,
                  )
                }
                onPage={(page) =>
                  onChange((now) => onPage(now, q.id, page), `question ${i + 1}, page ${page ?? 'removed'}`)
                }
                onMove={(by) => onChange((now) => moved(now, q.id, by), `question ${i + 1} moved`)}
                onCopy={() =>
                  onChange(
                    (now) =>
                      now.flatMap((one) =>
                        one.id === q.id ? [one, { ...one, id: uuid(), box: null }] : [one],
                      ),
                    `question ${i + 1} copied`,
                  )
                }
                onRemove={() => onRemove(q.id)}
                onShow={onShow}
                onDraw={() => onDraw(q.id)}
                isDrawn={drawn === q.id}
              />
            ))}
          </tbody>
        </table>
      </Across>
      {mayEdit && forAll.length > 0 && (
        <p className="mt-2 flex flex-wrap gap-x-4 text-[13px]">
          {forAll.map((standard) => (
            <button
              key={standard.id}
              type="button"
              className="link"
              onClick={() =>
                onChange(
                  (now) =>
                    now.map((q) => ({ ...q, standardIds: [...new Set([...q.standardIds, standard.id])] })),
                  'all questions tagged',
                )
              }
            >
              Tag all questions with {standardName(standard)}
            </button>
          ))}
        </p>
      )}
    </Sortable>
  )
}
