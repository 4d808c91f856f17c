'use client'
import { useState } from 'react'
import { Opens } from './figures'
import type { Behind, Findings } from './findings-page'

/** Each question: share of points earned, and who chose what; the hardest first when asked. */
export function QuestionFindings({
  findings: f,
  onShow,
}: {
  findings: Findings
  onShow: (behind: Behind) => void
}) {
  const [hardest, setHardest] = useState(false)
  const rows = f.questions.map((q) => ({ q, finding: f.byQuestion.find((x) => x.questionId === q.id) }))
  const shown = hardest ? [...rows].sort((a, b) => (a.finding?.share ?? 2) - (b.finding?.share ?? 2)) : rows
  const letters = [...new Set(f.byQuestion.flatMap((q) => q.chosenBy.map((c) => c.letter)))]
    .filter(Boolean)
    .sort()
  const assessed = f.summary.assessed
  return (
    <section className="mb-6">
      <div className="mb-1 flex items-baseline gap-4">
        <h2>Questions</h2>
        <button type="button" className="link text-[13px]" onClick={() => setHardest(!hardest)}>
          {hardest ? 'In order of the test' : 'Hardest first'}
        </button>
      </div>
      <table className="rows">
        <thead>
          <tr>
            <th scope="col" className="text-right">
              No.
            </th>
            <th scope="col">Standard</th>
            <th scope="col" className="w-44">
              Share of points
            </th>
            {letters.map((l) => (
              <th key={l} scope="col" className="text-right">
                {l}
              </th>
            ))}
            <th scope="col" className="text-right">
              left out
            </th>
          </tr>
        </thead>
        <tbody>
          {shown.map(({ q, finding }) => {
            const percent = finding?.share === undefined ? undefined : Math.round(100 * finding.share)
            return (
              <tr key={q.id}>
                <th scope="row" className="text-right">
                  {q.page ? (
                    <Opens
                      onOpen={() => onShow({ title: `Question ${q.position}`, students: [], page: q.page })}
                    >
                      {q.position}
                    </Opens>
                  ) : (
                    q.position
                  )}
                </th>
                <td className="text-muted">{f.standards.find((s) => s.id === q.standardId)?.code}</td>
                <td>
                  <span className="flex items-center gap-2">
                    <span aria-hidden className="h-[10px] w-24 border border-line bg-panel">
                      <span className="block h-full bg-ink" style={{ width: `${percent ?? 0}%` }} />
                    </span>
                    <Opens
                      onOpen={() =>
                        onShow({
                          title: `Question ${q.position}: without its points`,
                          page: q.page,
                          students:
                            finding?.chosenBy.filter((c) => c.letter !== q.key).flatMap((c) => c.students) ??
                            [],
                        })
                      }
                    >
                      {percent === undefined ? 'none' : `${percent}%`}
                    </Opens>
                  </span>
                </td>
                {[...letters, ''].map((letter) => {
                  const students = finding?.chosenBy.find((c) => c.letter === letter)?.students
                  const isKey = letter !== '' && letter === q.key
                  return (
                    <td key={letter} className={`text-right ${isKey ? 'bg-shoal' : ''}`}>
                      {students === undefined ? (
                        ''
                      ) : students.length === 0 ? (
                        <span className="text-muted">0</span>
                      ) : (
                        <Opens
                          onOpen={() =>
                            onShow({
                              title: `Question ${q.position}: ${letter ? `chose ${letter}` : 'left out'}${isKey ? ', the key' : ''}`,
                              students,
                              page: q.page,
                            })
                          }
                        >
                          {students.length}
                        </Opens>
                      )}
                      {isKey && <span className="text-[11px]"> key</span>}
                    </td>
                  )
                })}
              </tr>
            )
          })}
        </tbody>
      </table>
      <p className="mt-1 text-[12px] text-muted">
        {assessed} students. Choose a figure to see who, with the question’s page of the test beside.
      </p>
    </section>
  )
}
