'use client'
import Link from '@/screen/link'
import { useState } from 'react'
import { levels, type Level } from '@/core/assessment/findings'
import { shortDate } from '@/core/calendar/date-words'
import type { QueryOutput } from '@/server/registry'
import { PdfPages } from '@/ui/pdf-pages'
import { PageHead } from '@/screen/page-head'
import { useLive } from '@/screen/use-live'
import { LevelShape } from '../level-mark'
import { Steps } from '../steps'
import { IntoGradebook } from './into-gradebook'
import { LevelBar, Opens, ScoreLine } from './figures'
import { QuestionFindings } from './question-findings'

export type Findings = QueryOutput<'assessment.findings'>
/** Students behind a figure, and what the figure is. */
export interface Behind {
  readonly title: string
  readonly students: readonly string[]
  readonly page?: number | null
}

const oneDecimal = (n: number | undefined) => (n === undefined ? 'none' : n.toFixed(1))

/** The results, in the order people read them: how they did, which standards, which questions, and who. */
export function FindingsPage({ initial }: { initial: Findings }) {
  const [f] = useLive('assessment.findings', { assessmentId: initial.id }, initial)
  const [behind, setBehind] = useState<Behind>()
  const [page, setPage] = useState(1)
  const nameOf = new Map(f.students.map((s) => [s.id, s]))
  const resultOf = new Map(f.results.map((r) => [r.studentId, r]))
  const total = f.questions.reduce((sum, q) => sum + Number(q.points), 0)
  const { summary } = f
  const show = (next: Behind) => {
    setBehind(next)
    if (next.page) setPage(next.page)
  }
  const levelSentence: Readonly<Record<Level, string>> = {
    secure: `${Number(f.secureFrom)}% and more`,
    nearly: `${Number(f.nearlyFrom)}% to under ${Number(f.secureFrom)}%`,
    'not yet': `under ${Number(f.nearlyFrom)}%`,
  }
  return (
    <div className="leaf">
      <div className="sheet">
        <PageHead
          title={f.name}
          detail={`${f.classes.map((c) => c.name).join(', ')}, given ${shortDate(f.givenOn)}`}
        >
          <Steps assessmentId={f.id} at="findings" />
        </PageHead>
        {summary.assessed === 0 ? (
          <p>
            No answers yet, so there is nothing to read.{' '}
            <Link className="link" href={`/assessments/${f.id}/answers`}>
              Type the answers
            </Link>
            .
          </p>
        ) : (
          <>
            <section className="mb-6">
              <h2 className="mb-2">How they did</h2>
              <p className="mb-2">
                <strong>{summary.assessed}</strong> assessed
                {f.missing.length > 0 ? (
                  <>
                    ,{' '}
                    <Opens onOpen={() => show({ title: 'Without answers', students: f.missing })}>
                      {f.missing.length} missing
                    </Opens>
                  </>
                ) : (
                  ', nobody missing'
                )}
                . Mean <strong>{oneDecimal(summary.mean)}</strong> of {total}, median{' '}
                <strong>{oneDecimal(summary.median)}</strong>, standard deviation{' '}
                <strong>{oneDecimal(summary.deviation)}</strong>, from {summary.lowest} to {summary.highest}.
              </p>
              <LevelBar
                byLevel={f.byLevel}
                onOpen={(level) =>
                  show({ title: `${level}, ${levelSentence[level]}`, students: f.byLevel[level] })
                }
              />
              <ScoreLine
                results={f.results}
                total={total}
                onOpen={(points, students) => show({ title: `${points} points`, students })}
              />
            </section>
            {f.byStandard.length > 0 && (
              <section className="mb-6">
                <h2 className="mb-1">Learning standards</h2>
                <table className="rows">
                  <thead>
                    <tr>
                      <th scope="col">Standard</th>
                      <th scope="col">Questions</th>
                      {levels.map((l) => (
                        <th key={l} scope="col" className="text-right whitespace-nowrap">
                          <LevelShape level={l} /> {l}
                        </th>
                      ))}
                    </tr>
                  </thead>
                  <tbody>
                    {f.byStandard.map((s) => {
                      const standard = f.standards.find((x) => x.id === s.standardId)
                      return (
                        <tr key={s.standardId}>
                          <th scope="row">
                            <strong>{standard?.code}</strong> {standard?.statement}
                          </th>
                          <td className="text-muted">{s.questionPositions.join(', ')}</td>
                          {levels.map((l) => (
                            <td key={l} className="text-right">
                              <Opens
                                onOpen={() =>
                                  show({ title: `${standard?.code}: ${l}`, students: s.byLevel[l] })
                                }
                              >
                                {s.byLevel[l].length}
                              </Opens>
                            </td>
                          ))}
                        </tr>
                      )
                    })}
                  </tbody>
                </table>
              </section>
            )}
            <QuestionFindings findings={f} onShow={show} />
            {f.mayEdit && <IntoGradebook findings={f} />}
          </>
        )}
      </div>
      <aside aria-label="Who is behind the figure">
        <div className="stay">
          {behind ? (
            <div data-testid="behind">
              <h2 className="mb-1 border-b border-ink pb-1">{behind.title}</h2>
              {behind.students.length === 0 && <p className="text-muted">Nobody.</p>}
              <ul className="max-lg:columns-2 max-lg:gap-6">
                {behind.students.map((id) => {
                  const result = resultOf.get(id)
                  return (
                    <li key={id} className="flex justify-between border-b border-rule py-[3px]">
                      <Link className="no-underline hover:underline" href={`/people/${id}`}>
                        {nameOf.get(id)?.name}
                      </Link>
                      {result && (
                        <span className="text-muted">
                          {result.points} of {total}
                        </span>
                      )}
                    </li>
                  )
                })}
              </ul>
            </div>
          ) : (
            summary.assessed > 0 && (
              <p className="text-muted">Choose any figure to see the students behind it.</p>
            )
          )}
          {f.documentId && (
            <div className="mt-5">
              <PdfPages
                address={`/api/documents/${f.documentId}`}
                name={f.document ?? 'The test'}
                page={page}
                onPage={setPage}
              />
            </div>
          )}
        </div>
      </aside>
    </div>
  )
}
