'use client'
import { useEffect, useRef, useState, type ReactNode } from 'react'
import type { Keyed } from '@/core/assessment/kinds'
import { Button } from '@/ui/button'
import { PdfPages } from '@/ui/pdf-pages'
import { AnswerField, type Answer } from './answer-field'

export type SheetQuestion = Keyed & {
  readonly id: string
  readonly position: number
  readonly points: string
  readonly page: number | null
}

/**
 * A test as whoever sits it sees it: the document on one side, the questions with their fields on the other; on a narrow
 * screen one below the other. It is as wide as what it stands in.
 */
export function AnswerSheet({
  name,
  document,
  questions,
  answers,
  handedIn,
  onAnswer,
  onHandIn,
  result,
  remarkOn,
}: {
  name: string
  /** Where its document is, with its name. */
  document: { readonly address: string; readonly name: string } | undefined
  questions: readonly SheetQuestion[]
  answers: ReadonlyMap<string, Answer>
  handedIn: boolean
  onAnswer: (questionId: string, answer: Answer) => void
  onHandIn: () => void
  /** What stands at the head once it was handed in. */
  result?: ReactNode
  /** What stands below a question. */
  remarkOn?: (questionId: string) => ReactNode
}) {
  const [page, setPage] = useState(1)
  const head = useRef<HTMLHeadingElement>(null)
  // What it comes to stands at the head.
  useEffect(() => {
    if (handedIn) head.current?.focus()
  }, [handedIn])
  const [kept, setKept] = useState<ReadonlySet<string>>(new Set())
  const answered = questions.filter((q) => (answers.get(q.id) ?? null) !== null).length
  const later = questions.filter((q) => kept.has(q.id)).map((q) => q.position)
  const keep = (id: string) => {
    const next = new Set(kept)
    if (!next.delete(id)) next.add(id)
    setKept(next)
  }
  return (
    <div className="@container h-full bg-paper">
      <div
        className={`grid h-full gap-5 overflow-auto p-5 @3xl:overflow-hidden ${document ? '@3xl:grid-cols-2' : ''}`}
      >
        {document && (
          <div className="@3xl:overflow-auto">
            <PdfPages address={document.address} name={document.name} page={page} onPage={setPage} />
          </div>
        )}
        <div className="@3xl:overflow-auto">
          <h2 ref={head} tabIndex={-1} className="mb-1">
            {name}
          </h2>
          {result || (
            <p role="status" className="mb-3 text-muted">
              {answered} of {questions.length} answered
              {later.length > 0 && `, marked for later: ${later.join(', ')}`}
            </p>
          )}
          <ol className="grid gap-4">
            {questions.map((q) => (
              <li
                key={q.id}
                className="border-b border-rule pb-3"
                onFocus={() => q.page !== null && setPage(q.page)}
              >
                <p className="mb-1 flex items-baseline gap-3">
                  <strong>{q.position}</strong>
                  <span className="text-[13px] text-muted">
                    {q.points} {q.points === '1' ? 'point' : 'points'}
                  </span>
                  {!handedIn && (
                    <button
                      type="button"
                      aria-pressed={kept.has(q.id)}
                      className="link ml-auto min-h-6 text-[13px] pointer-coarse:min-h-11"
                      onClick={() => keep(q.id)}
                    >
                      {kept.has(q.id) ? '⚑ Marked for later' : 'Mark for later'}
                      <span className="sr-only">, question {q.position}</span>
                    </button>
                  )}
                </p>
                <AnswerField
                  asked={q}
                  label={`Answer to question ${q.position}`}
                  answer={answers.get(q.id) ?? null}
                  disabled={handedIn}
                  onAnswer={(answer) => onAnswer(q.id, answer)}
                />
                {remarkOn?.(q.id)}
              </li>
            ))}
          </ol>
          {!handedIn && (
            <p className="mt-4">
              <Button onClick={onHandIn}>Hand in</Button>
            </p>
          )}
        </div>
      </div>
    </div>
  )
}
