'use client'
import Link from '../../../../shared/link'
import { useEffect, useMemo, useRef, useState } from 'react'
import { readLetters } from '@/core/assessment/answer-key'
import { scoreSheet } from '@/core/assessment/findings'
import { shortDate } from '@/core/calendar/date-words'
import { spokenName } from '@/core/people/names'
import type { QueryOutput } from '@/server/registry'
import { Button } from '@/ui/button'
import { PageHead } from '../../../../shared/page-head'
import { useSaved, useSaving } from '../../../../shared/saving'
import { useLive } from '../../../../shared/use-live'
import { Steps } from '../steps'
import { AnswerRow } from './answer-row'

type Answers = QueryOutput<'assessment.answers'>
interface Conflict {
  readonly studentId: string
  readonly editId: string
  readonly mine: string
  readonly theirs: { readonly letters: string; readonly version: number; readonly changedBy: string | null }
}

/** Types each student's answers as one string, at keyboard speed; each is scored at once. */
export function AnswersPage({ initial }: { initial: Answers }) {
  const [server, refresh] = useLive('assessment.answers', { assessmentId: initial.id }, initial)
  const { save, isWaiting, dismiss } = useSaving()
  const [own, setOwn] = useState<ReadonlyMap<string, string>>(new Map())
  const [conflicts, setConflicts] = useState<readonly Conflict[]>([])
  const [problem, setProblem] = useState<string>()
  const versions = useRef(new Map<string, number>())
  const inputs = useRef<(HTMLInputElement | null)[]>([])
  const { questions } = server
  const choices = useMemo(() => questions.map((q) => q.choices), [questions])
  const slot = (studentId: string) => `answers ${initial.id} ${studentId}`

  useEffect(() => {
    for (const row of server.rows) versions.current.set(row.studentId, row.version)
    // What is half typed stays; what has been saved is the server's again.
    setOwn(
      (all) =>
        new Map(
          [...all].filter(
            ([studentId, letters]) =>
              isWaiting(`answers ${initial.id} ${studentId}`) || !readLetters(letters, choices).complete,
          ),
        ),
    )
  }, [server, isWaiting, choices, initial.id])

  useSaved('assessment.setAnswers', (edit, outcome) => {
    if (edit.assessmentId !== initial.id) return
    if ('value' in outcome) {
      versions.current.set(edit.studentId, outcome.value.version)
      return void refresh()
    }
    const { refused } = outcome
    if (refused.conflict)
      setConflicts((all) => [
        ...all,
        {
          studentId: edit.studentId,
          editId: refused.edit.id,
          mine: edit.letters,
          theirs: refused.current as Conflict['theirs'],
        },
      ])
    else setProblem(refused.message)
    setOwn((all) => new Map([...all].filter(([id]) => id !== edit.studentId)))
    void refresh()
  })
  function type(studentId: string, name: string, text: string, base?: number) {
    setOwn((all) => new Map(all).set(studentId, text))
    if (!readLetters(text, choices).complete) return
    save(
      'assessment.setAnswers',
      {
        assessmentId: initial.id,
        studentId,
        letters: text,
        expectedVersion: base ?? versions.current.get(studentId) ?? 0,
      },
      { slot: slot(studentId), label: `${name}, ${text.toUpperCase()}` },
    )
  }
  const rows = server.rows.map((row) => {
    const text = own.get(row.studentId) ?? row.letters
    const read = readLetters(text, choices)
    const sheet = {
      studentId: row.studentId,
      answers: new Map(
        questions.flatMap((q, i) => (read.letters[i] ? [[q.id, read.letters[i]] as const] : [])),
      ),
    }
    return {
      ...row,
      text,
      read,
      result: read.complete
        ? scoreSheet(questions, sheet, { secureFrom: server.secure_from, nearlyFrom: server.nearly_from })
        : undefined,
    }
  })
  const missing = rows.filter((r) => !r.text).length
  const withoutKey = questions.filter((q) => !q.key).length
  const total = questions.reduce((sum, q) => sum + Number(q.points), 0)
  const severalClasses = server.classes.length > 1
  const go = (to: number) => {
    inputs.current[to]?.focus()
    inputs.current[to]?.select()
  }
  const first = rows.findIndex((r) => !r.text)
  return (
    <div className="sheet max-w-5xl">
      <PageHead
        title={server.name}
        detail={`${server.classes.map((c) => c.name).join(', ')}, given ${shortDate(server.given_on)}, ${total} points`}
        saves={server.mayEdit}
      >
        <Steps assessmentId={server.id} at="answers" />
      </PageHead>
      {withoutKey > 0 && (
        <p className="hint mb-3">
          {withoutKey === questions.length
            ? 'There is no key yet'
            : `${withoutKey} questions have no key yet`}
          , so they score nothing.{' '}
          <Link className="link" href={`/assessments/${server.id}`}>
            Type the key
          </Link>
          ; scores follow at once.
        </p>
      )}
      {problem && (
        <p role="alert" className="mb-3 text-port">
          ▲ {problem}
        </p>
      )}
      {conflicts.map((c) => (
        <div key={c.editId} role="alert" className="hint mb-3 flex flex-wrap items-center gap-3">
          <span>
            <strong>{spokenName(rows.find((r) => r.studentId === c.studentId)?.name ?? '')}</strong>:{' '}
            {c.theirs.changedBy ?? 'Somebody'} typed <strong>{c.theirs.letters}</strong> while you typed{' '}
            <strong>{c.mine.toUpperCase()}</strong>. Theirs stands.
          </span>
          <Button
            kind="plain"
            onClick={() => {
              dismiss(c.editId)
              setConflicts(conflicts.filter((x) => x !== c))
            }}
          >
            Keep theirs
          </Button>
          <Button
            kind="plain"
            onClick={() => {
              dismiss(c.editId)
              setConflicts(conflicts.filter((x) => x !== c))
              type(c.studentId, '', c.mine, c.theirs.version)
            }}
          >
            Put mine
          </Button>
        </div>
      ))}
      <p className="mb-2 text-muted">
        {rows.length === 0 ? (
          'Nobody was in these classes on the day it was given.'
        ) : (
          <>
            One letter a question, in order, <strong>.</strong> for one left out; Enter goes to the next
            student. {missing === 0 ? 'Everyone has answers.' : `${missing} of ${rows.length} have none yet.`}
          </>
        )}
      </p>
      {rows.length > 0 && (
        <table className="rows">
          <thead>
            <tr>
              <th scope="col">Student</th>
              {severalClasses && <th scope="col">Class</th>}
              <th scope="col">
                Answers{' '}
                <span
                  className="tracking-[0.18em]"
                  aria-label={`Key ${questions.map((q) => q.key ?? 'none').join(' ')}`}
                >
                  key {questions.map((q) => q.key ?? '.').join('')}
                </span>
              </th>
              <th scope="col" className="text-right">
                Score
              </th>
              <th scope="col">Level</th>
              <th scope="col">
                <span className="sr-only">Remarks</span>
              </th>
            </tr>
          </thead>
          <tbody>
            {rows.map((row, i) => (
              <AnswerRow
                key={row.studentId}
                row={row}
                questions={questions}
                className={severalClasses ? row.className : undefined}
                disabled={!server.mayEdit}
                autoFocus={i === first}
                total={total}
                inputRef={(input) => {
                  inputs.current[i] = input
                }}
                onType={(text) => type(row.studentId, row.name, text)}
                onStep={(by) => go(i + by)}
              />
            ))}
          </tbody>
        </table>
      )}
      {rows.length > 0 && missing < rows.length && (
        <p className="mt-4">
          <Link
            href={`/assessments/${server.id}/findings`}
            className="inline-flex min-h-8 items-center rounded-[3px] border border-ink bg-ink px-3 font-bold text-panel"
          >
            Read the findings
          </Link>
        </p>
      )}
    </div>
  )
}
