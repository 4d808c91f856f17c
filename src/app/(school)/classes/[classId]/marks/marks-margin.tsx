'use client'
import { memo, useMemo } from 'react'
import { explainMark, type ExplainedScore } from '@/core/marks/explanation'
import type { ScoreEntries } from '@/core/marks/gradebook'
import type { Dates } from '@/core/marks/term-mark'
import { writeEntry } from '@/core/marks/typed-score'
import { spokenName } from '@/core/people/names'
import type { QueryOutput } from '@/server/registry'
import { useClock } from '@/screen/clock'
import Link from '@/screen/link'
import { useAnswer } from '@/screen/use-live'
import type { Book, BookAssignment } from './use-gradebook'

const endings: Readonly<Partial<Record<ExplainedScore['treatment'], string>>> = {
  dropped: 'dropped',
  excused: 'not counted',
  unmarked: 'not marked yet, not counted',
  missing: 'not counted',
  incomplete: 'not counted',
  empty: '',
  'does not count': 'does not count',
  'counted as zero': 'zero',
}

/** Explains how the selected student's mark is worked out, down to the scores. */
export const MarksMargin = memo(function MarksMargin({
  classId,
  dates,
  book,
  student,
  entries,
  assignment,
}: {
  classId: string
  dates: Dates
  book: Book
  student: { id: string; name: string }
  entries: ScoreEntries
  assignment: BookAssignment | undefined
}) {
  const why = useMemo(() => explainMark(book, entries, dates), [book, entries, dates])
  return (
    <div
      className="stay max-lg:columns-2 max-lg:gap-6 [&>section]:break-inside-avoid"
      data-testid="explanation"
    >
      <h2 className="text-[17px]">
        {why.mark === undefined
          ? `${spokenName(student.name)} has no mark yet`
          : `How ${spokenName(student.name)}’s ${why.mark} is worked out`}
      </h2>
      {why.mark !== undefined && (
        <p className="mb-2 text-[26px] leading-9 font-bold" data-testid="explained-mark">
          {why.mark} <span className="text-[18px] font-normal">{why.grade}</span>
        </p>
      )}
      {why.categories.map((c) => (
        <section key={c.name} className="mb-2">
          <h3 className="border-b border-ink pb-1">
            {c.name}
            {c.weight !== undefined && `, weight ${c.weight}`}
          </h3>
          <dl className="grid grid-cols-[1fr_auto_56px] gap-x-2">
            {c.scores
              .filter((s) => s.treatment !== 'empty')
              .map((s) => (
                <div
                  key={s.assignmentId}
                  className={`contents ${s.assignmentId === assignment?.id ? 'font-bold' : ''}`}
                >
                  <dt>
                    <span className={s.treatment === 'dropped' ? 'text-muted line-through' : ''}>
                      {s.name}
                    </span>
                    {s.treatment === 'dropped' && <span className="text-[12px] text-muted"> lowest</span>}
                    {s.extra && <span className="text-[12px] text-muted"> extra credit</span>}
                    {s.lost !== undefined && (
                      <span className="text-[12px] text-muted">
                        {s.lost === '0' ? ' late' : ` late, ${s.lost} lost`}
                      </span>
                    )}
                  </dt>
                  <dd className={`text-right ${s.treatment === 'dropped' ? 'text-muted' : ''}`}>
                    {s.scored}
                  </dd>
                  <dd className="text-right">
                    {s.treatment === 'counted' ? (
                      s.percent
                    ) : (
                      <span className="text-muted">{endings[s.treatment]}</span>
                    )}
                  </dd>
                </div>
              ))}
          </dl>
          <p className="border-b border-rule pb-1 text-[12px] text-muted">{c.sum}</p>
        </section>
      ))}
      {why.contributions.length > 0 && (
        <section>
          <h3 className="border-b border-ink pb-1">
            {book.rules.method === 'points' ? 'All points' : 'Weighted total'}
          </h3>
          <dl className="grid grid-cols-[1fr_auto] gap-x-2">
            {why.contributions.map((c) => (
              <div key={c.category} className="contents">
                <dt>
                  {c.formula}
                  {c.adjusted && <span className="text-[12px] text-muted"> adjusted for rounding</span>}
                </dt>
                <dd className="text-right font-bold" data-testid="contribution">
                  {c.value}
                </dd>
              </div>
            ))}
          </dl>
          <p className="mt-1 border-t border-rule pt-1 text-[12px] text-muted">
            <span data-testid="total">{why.total}</span>, shown as {why.mark}. {why.held} {why.band}
          </p>
          {why.weights && <p className="text-[12px] text-muted">{why.weights}</p>}
        </section>
      )}
      {why.whatIf && (
        <p className="hint mt-3 text-[13px]">
          With {why.whatIf.points} of {why.whatIf.points} in <strong>{why.whatIf.name}</strong>, this mark
          would be <strong>{why.whatIf.mark}</strong>.
        </p>
      )}
      {assignment && (
        <ScoreHistory
          key={`${assignment.id} ${student.id} ${writeEntry(entries.get(assignment.id))}`}
          classId={classId}
          assignment={assignment}
          studentId={student.id}
        />
      )}
    </div>
  )
})

type Changes = QueryOutput<'marks.scoreHistory'>

function changeWords(change: Changes[number]): string {
  const value = (v: Changes[number]['before']) =>
    v?.standing ?? (v?.points === undefined ? (v?.answer ?? 'empty') : `${v.points}${v.late ? ' late' : ''}`)
  const what = change.question ? `question ${change.question}, ` : ''
  return `${what}${change.before ? `${value(change.before)} to ` : ''}${change.after ? value(change.after) : 'empty'}`
}

/** Who changed the chosen score, when, from what to what. */
function ScoreHistory({
  classId,
  assignment,
  studentId,
}: {
  classId: string
  assignment: BookAssignment
  studentId: string
}) {
  const { moment } = useClock()
  // Moving along a row with the arrows asks nothing until the cursor rests.
  const { answer: changes = [], problem } = useAnswer(
    'marks.scoreHistory',
    { classId, assignmentId: assignment.id, studentId },
    { after: 350 },
  )
  return (
    <section className="mt-3 text-[13px]">
      {assignment.assessmentId && (
        <p className="mb-2">
          The scores of {assignment.name} come from{' '}
          <Link className="link" href={`/assessments/${assignment.assessmentId}/answers`}>
            its answers
          </Link>
          .
        </p>
      )}
      {problem && <p className="text-port">The changes could not be loaded. {problem}</p>}
      {changes.length > 0 && (
        <>
          <h3 className="border-b border-ink pb-1">Changes to {assignment.name}</h3>
          <ul>
            {changes.map((c, i) => (
              <li key={i}>
                {moment(c.at)}, {c.actor}: {changeWords(c)}
              </li>
            ))}
          </ul>
        </>
      )}
    </section>
  )
}
