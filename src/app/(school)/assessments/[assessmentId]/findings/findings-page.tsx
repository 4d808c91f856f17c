'use client'
import { mostOf } from '@/core/assessment/scoring'
import { Button } from '@/ui/button'
import { Select } from '@/ui/field'
import { useState } from 'react'
import { PdfPages } from '@/ui/pdf-pages'
import Link from '@/screen/link'
import { PageHead } from '@/screen/page-head'
import { useLive } from '@/screen/use-live'
import { assessmentPages, givenTo } from '@/app/(school)/assessments/[assessmentId]/assessment-pages'
import { PlacesLayer } from '@/app/(school)/assessments/[assessmentId]/places-layer'
import { AddToGradebook } from './add-to-gradebook'
import { LevelBar, Opens, ScoreLine } from './figures'
import { QuestionFindings } from './question-findings'
import { StandardFindings } from './standard-findings'
import type { Findings, Behind } from './shown'

const oneDecimal = (n: number | undefined) => (n === undefined ? '–' : n.toFixed(1))

/** The results, in the order in which they are read: how the students did, which standards, which questions, and who. */
export function FindingsPage({ initial, linkedAtFirst }: { initial: Findings; linkedAtFirst: string[] }) {
  const [classId, chooseClass] = useState<string>()
  const [f] = useLive(
    'assessment.findings',
    { assessmentId: initial.id, ...(classId === undefined ? {} : { classId }) },
    initial,
  )
  const [linked, refreshLinked] = useLive('marks.linkedTo', { assessmentId: initial.id }, linkedAtFirst)
  const [behind, setBehind] = useState<Behind>()
  const [page, setPage] = useState(1)
  const nameOf = new Map(f.students.map((s) => [s.id, s]))
  const resultOf = new Map(f.results.map((r) => [r.studentId, r]))
  const total = mostOf(f.questions) / 100
  const unmarked = f.results.filter((r) => r.unmarked > 0).map((r) => r.studentId)
  const { summary } = f
  const show = (next: Behind) => {
    setBehind(next)
    if (next.question?.page) setPage(next.question.page)
  }
  /** A level with where it begins: "nearly, from 60%". */
  const levelWords = (place: number) => {
    const { name = '', from } = f.levels[place] ?? {}
    return from ? `${name}, from ${'percent' in from ? `${from.percent}%` : `${from.points} points`}` : name
  }
  return (
    <div className="leaf">
      <div className="sheet">
        <PageHead title={f.name} page="Findings" pages={assessmentPages(f)} detail={givenTo(f)} />
        {f.classes.length > 1 && (
          <Select
            aria-label="Class"
            className="mb-4 w-auto!"
            value={classId ?? ''}
            onChange={(e) => {
              chooseClass(e.target.value || undefined)
              setBehind(undefined)
            }}
          >
            <option value="">all {f.classes.length} classes</option>
            {f.classes.map((c) => (
              <option key={c.id} value={c.id}>
                {c.name}
              </option>
            ))}
          </Select>
        )}
        {summary.assessed === 0 ? (
          <p>
            No answers have been entered yet.{' '}
            <Link className="link" href={`/assessments/${f.id}/answers`}>
              Enter answers
            </Link>
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
                  ', none missing'
                )}
                . Mean <strong>{oneDecimal(summary.mean)}</strong> of {total}, median{' '}
                <strong>{oneDecimal(summary.median)}</strong>, standard deviation{' '}
                <strong>{oneDecimal(summary.deviation)}</strong>, from {summary.lowest} to {summary.highest}.
              </p>
              {unmarked.length > 0 && (
                <p className="hint mb-2">
                  <Opens onOpen={() => show({ title: 'With answers not marked yet', students: unmarked })}>
                    {unmarked.length === 1 ? '1 student has' : `${unmarked.length} students have`}
                  </Opens>{' '}
                  answers that are not marked yet, so these figures are not final.
                </p>
              )}
              <LevelBar
                levels={f.levels}
                byLevel={f.byLevel}
                onOpen={(place) => show({ title: levelWords(place), students: f.byLevel[place] ?? [] })}
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
                <StandardFindings findings={f} onShow={show} />
              </section>
            )}
            <QuestionFindings findings={f} onShow={show} />
            {f.ownClassIds.length > 0 && (
              <AddToGradebook findings={f} linked={linked} refresh={refreshLinked} />
            )}
          </>
        )}
      </div>
      <aside aria-label="Students of the selected figure" data-open={behind ? true : undefined}>
        <div className="mb-2 flex justify-end lg:hidden">
          <Button kind="plain" onClick={() => setBehind(undefined)}>
            Close
          </Button>
        </div>
        <div className="stay">
          {behind ? (
            <div data-testid="behind">
              <h2 className="mb-1 border-b border-ink pb-1">{behind.title}</h2>
              <Rationale behind={behind} />
              {behind.students.length === 0 && !behind.question && <p className="text-muted">No students.</p>}
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
                          {result.unmarked > 0 && ', not final'}
                        </span>
                      )}
                    </li>
                  )
                })}
              </ul>
            </div>
          ) : (
            summary.assessed > 0 && <p className="text-muted">Select a figure to see the students.</p>
          )}
          {f.documentId && (
            <div className="mt-5">
              <PdfPages
                address={`/api/documents/${f.documentId}`}
                name={f.document ?? 'The test'}
                page={page}
                onPage={setPage}
                over={(shown) => (
                  <PlacesLayer page={shown} questions={behind?.question ? [behind.question] : []} />
                )}
              />
            </div>
          )}
        </div>
      </aside>
    </div>
  )
}

/** Why the answer of a question is right, and what the answer that was given shows. */
function Rationale({ behind: { question, answer } }: { behind: Behind }) {
  if (!question) return null
  const ofAnswer = answer === undefined ? undefined : question.choiceRationales[answer]
  return (
    <>
      {ofAnswer && (
        <p className="mb-1">
          {answer}: {ofAnswer}
        </p>
      )}
      {question.rationale && <p className="mb-2 text-muted">{question.rationale}</p>}
    </>
  )
}
