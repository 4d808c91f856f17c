'use client'
import { memo, useMemo } from 'react'
import { explainMark } from '@/core/marks/explanation'
import type { ScoreEntries } from '@/core/marks/gradebook'
import type { Dates } from '@/core/marks/term-mark'
import { writeEntry } from '@/core/marks/typed-score'
import { spokenName } from '@/core/people/names'
import type { QueryOutput } from '@/server/registry'
import { useClock } from '@/screen/clock'
import { ExplanationView } from '@/screen/explanation-view'
import Link from '@/screen/link'
import { useAnswer } from '@/screen/use-live'
import { ScoreNote } from './score-note'
import type { Book, BookAssignment } from './book'
import type { Notes } from './use-notes'

/** Explains how the selected student's mark is worked out, down to the scores. */
export const MarksMargin = memo(function MarksMargin({
  classId,
  dates,
  book,
  student,
  entries,
  assignment,
  notes,
  mayEdit,
}: {
  classId: string
  dates: Dates
  book: Book
  student: { id: string; name: string }
  entries: ScoreEntries
  assignment: BookAssignment | undefined
  notes: Notes
  mayEdit: boolean
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
      <ExplanationView why={why} byPoints={book.rules.method === 'points'} chosen={assignment?.id} />
      {why.whatIf && (
        <p className="hint mt-3 text-[13px]">
          With {why.whatIf.points} of {why.whatIf.points} in <strong>{why.whatIf.name}</strong>, this mark
          would be <strong>{why.whatIf.mark}</strong>.
        </p>
      )}
      {assignment && (
        <ScoreNote
          key={`${assignment.id} ${student.id}`}
          notes={notes}
          assignment={assignment}
          student={student}
          mayEdit={mayEdit}
        />
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
