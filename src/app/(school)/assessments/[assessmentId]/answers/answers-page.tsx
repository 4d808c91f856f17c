'use client'
import Link from '@/screen/link'
import { useMemo, useRef, useState } from 'react'
import { readLetters, writeLetters } from '@/core/assessment/answer-key'
import { scoreSheet } from '@/core/assessment/findings'
import { shortDate } from '@/core/calendar/date-words'
import { spokenName } from '@/core/people/names'
import type { CommandInput, QueryOutput } from '@/server/registry'
import { Button, buttonLooks } from '@/ui/button'
import { ConflictNotice } from '@/screen/conflict-notice'
import { PageHead } from '@/screen/page-head'
import { useSaving } from '@/screen/saving'
import { useLive } from '@/screen/use-live'
import { cellSource, useTyped } from '@/screen/use-typed'
import { Steps } from '../steps'
import { AnswerRow } from './answer-row'

type Answers = QueryOutput<'assessment.answers'>
interface Person {
  readonly studentId: string
  readonly name: string
}

type Choices = CommandInput<'assessment.setAnswers'>['cells'][number]['value']

/** The string of letters that some answers make in today's order of the questions; empty for none. */
const lettersOf = (choices: Choices, questions: Answers['questions']) => {
  if (!choices) return ''
  const chosen = new Map(choices.map((c) => [c.questionId, c.choice]))
  return writeLetters(questions.map((q) => chosen.get(q.id)))
}

/** Answers that name their questions, so that they stay right when somebody reorders the key meanwhile. */
function choicesOf(letters: string, questions: Answers['questions']): Choices {
  if (letters.trim() === '') return null
  const read = readLetters(
    letters,
    questions.map((q) => q.choices),
  )
  return questions.map((q, i) => ({ questionId: q.id, choice: read.letters[i] ?? null }))
}

/** Types each student's answers as one string, at keyboard speed; each is scored at once. */
export function AnswersPage({ initial }: { initial: Answers }) {
  const [server, refresh] = useLive('assessment.answers', { assessmentId: initial.id }, initial)
  const { save } = useSaving()
  // Strings half typed; a whole one is on its way at once.
  const [drafts, setDrafts] = useState<ReadonlyMap<string, string>>(new Map())
  // The version somebody saw when they began a string, so that one typed meanwhile elsewhere is not overwritten unseen.
  const begunOn = useRef(new Map<string, number>())
  const [problem, setProblem] = useState<string>()
  const [takenAway, setTakenAway] = useState<{ person: Person; letters: string }>()
  const inputs = useRef<(HTMLInputElement | null)[]>([])
  const { questions } = server
  const choices = useMemo(() => questions.map((q) => q.choices), [questions])
  const stored = useMemo(() => new Map(server.rows.map((r) => [r.studentId, r.version])), [server.rows])
  const sources = useMemo(
    () => [
      cellSource('assessment.setAnswers', {
        isHere: (edit) => edit.assessmentId === initial.id,
        recordOf: (key) => key.studentId,
      }),
    ],
    [initial.id],
  )
  const typed = useTyped(stored, sources, {
    refresh,
    whenRefused: (message, mine) => {
      setProblem(message)
      setDrafts(
        (all) =>
          new Map([...mine.map(([id, choices]) => [id, lettersOf(choices, questions)] as const), ...all]),
      )
    },
  })

  function put({ studentId, name }: Person, letters: string, base = typed.version(studentId)) {
    save(
      'assessment.setAnswers',
      {
        assessmentId: initial.id,
        cells: [{ key: { studentId }, value: choicesOf(letters, questions), seen: base }],
      },
      {
        slot: `answers ${initial.id} ${studentId}`,
        label: `${name}, ${letters.toUpperCase() || 'answers taken away'}`,
      },
    )
  }
  /** The string is at its end, whole or emptied: answers the version it was begun on. */
  function endDraft(studentId: string): number {
    const now = typed.version(studentId)
    const begun = begunOn.current.get(studentId) ?? now
    begunOn.current.delete(studentId)
    return typed.isOwn(studentId) ? now : begun
  }
  function type(person: Person, text: string) {
    if (!begunOn.current.has(person.studentId))
      begunOn.current.set(person.studentId, typed.version(person.studentId))
    const whole = readLetters(text, choices).complete
    setDrafts(
      (all) =>
        new Map([
          ...[...all].filter(([id]) => id !== person.studentId),
          ...(whole ? [] : [[person.studentId, text] as const]),
        ]),
    )
    setProblem(undefined)
    setTakenAway(undefined)
    if (whole) put(person, text, endDraft(person.studentId))
  }
  /** A field left empty has its answers taken away; while one types, it may be empty for a moment. */
  function leave(person: Person, standing: string) {
    if (drafts.get(person.studentId) !== '') return
    setDrafts((all) => new Map([...all].filter(([id]) => id !== person.studentId)))
    const base = endDraft(person.studentId)
    // Where nothing stood when one began, nothing is taken away, whatever has come since.
    if (base === 0 || standing === '') return
    put(person, '', base)
    setTakenAway({ person, letters: standing })
  }
  const rows = server.rows.map((row) => {
    const own = typed.values.get(row.studentId)
    const standing = own === undefined ? row.letters : lettersOf(own, questions)
    const text = drafts.get(row.studentId) ?? standing
    const read = readLetters(text, choices)
    const sheet = {
      studentId: row.studentId,
      answers: new Map(
        questions.flatMap((q, i) => (read.letters[i] ? [[q.id, read.letters[i]] as const] : [])),
      ),
    }
    return {
      ...row,
      standing,
      text,
      read,
      result: read.complete
        ? scoreSheet(questions, sheet, { secureFrom: server.secureFrom, nearlyFrom: server.nearlyFrom })
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
        detail={`${server.classes.map((c) => c.name).join(', ')}, given ${shortDate(server.givenOn)}, ${total} points`}
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
      {typed.conflicts.map(({ editId, mine: [mine], standing: [saved], message }) => {
        if (!mine || !saved) return null
        const [studentId, choices] = mine
        const letters = lettersOf(choices, questions)
        const standing = lettersOf(saved.value as Choices, questions)
        const name = rows.find((r) => r.studentId === studentId)?.name ?? ''
        return (
          <ConflictNotice
            key={editId}
            onResolve={(keep) => {
              typed.dismiss(editId)
              if (keep === 'mine') put({ studentId, name }, letters, saved.version)
            }}
          >
            <strong>{spokenName(name)}</strong>: {message} You typed{' '}
            <strong>{letters.toUpperCase() || 'nothing'}</strong>; <strong>{standing || 'nothing'}</strong> is
            saved.
          </ConflictNotice>
        )
      })}
      {takenAway && (
        <p role="status" className="hint mb-3 flex flex-wrap items-center gap-3">
          <span>
            The answers of <strong>{spokenName(takenAway.person.name)}</strong> were taken away.
          </span>
          <Button
            kind="plain"
            onClick={() => {
              put(takenAway.person, takenAway.letters)
              setTakenAway(undefined)
            }}
          >
            Put them back
          </Button>
        </p>
      )}
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
                <span aria-label={`Key ${questions.map((q) => q.key ?? 'none').join(' ')}`}>
                  key <span className="tracking-[0.18em]">{questions.map((q) => q.key ?? '.').join('')}</span>
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
                onType={(text) => type(row, text)}
                onLeave={() => leave(row, row.standing)}
                onStep={(by) => go(i + by)}
              />
            ))}
          </tbody>
        </table>
      )}
      {rows.length > 0 && missing < rows.length && (
        <p className="mt-4">
          <Link href={`/assessments/${server.id}/findings`} className={buttonLooks()}>
            Read the findings
          </Link>
        </p>
      )}
    </div>
  )
}
