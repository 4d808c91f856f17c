'use client'
import { useEffect, useMemo, useRef, useState } from 'react'
import { resultOf, type StudentResult } from '@/core/assessment/findings'
import { kindOf } from '@/core/assessment/kinds'
import { keyPoints, type AskedQuestion, type Counted } from '@/core/assessment/scoring'
import { readPastedAnswers } from '@/core/assessment/pasted-answers'
import { readAnswers, writeAnswers, type TypedLine, type TypedAnswer } from '@/core/assessment/typed'
import { hundredths } from '@/core/marks/rational'
import { spokenName } from '@/core/people/names'
import type { CommandInput, QueryOutput } from '@/server/registry'
import { useDraft } from '@/screen/use-draft'
import { useLive } from '@/screen/use-live'
import { useRecorded, type Editing } from '@/screen/use-recorded'

export type Answers = QueryOutput<'assessment.answers'>
export type Given = CommandInput<'assessment.setAnswers'>['cells'][number]['value']
type Questions = readonly AskedQuestion[]

/** A line half typed, with the version that was in sight when it was begun. */
interface Draft {
  readonly text: string
  readonly expectedVersion: number
}

/** The line that some answers make in today's order of the questions; empty for none. */
export function lineOf(given: Given, questions: Questions): string {
  if (!given) return ''
  const byId = new Map(given.map((a) => [a.questionId, a]))
  return writeAnswers(
    questions,
    questions.map((q) => {
      const answer = byId.get(q.id)
      return answer && answer.value !== null ? { value: answer.value, points: answer.points } : undefined
    }),
  )
}

/** Answers that name their questions, so that they stay right when the key is reordered in the meantime. */
function givenBy(line: string, questions: Questions): Given {
  if (line.trim() === '') return null
  const { entries } = readAnswers(line, questions)
  return questions.map((q, i) => ({
    questionId: q.id,
    value: (entries[i]?.value ?? null) as NonNullable<Given>[number]['value'],
    points: entries[i]?.points ?? null,
  }))
}

/** What a typed answer is worth: what a marker gave, or else the key. */
function counted(question: AskedQuestion, { value, points }: TypedAnswer): Counted {
  return { value, points: points === null ? keyPoints(question, value) : hundredths(points) }
}

/** What a line comes to, as the server will work it out. */
function scored(
  studentId: string,
  { entries }: TypedLine<TypedAnswer>,
  questions: Questions,
  levels: Answers['levels'],
): { readonly result: StudentResult; readonly wrong: readonly number[] } {
  const responses = new Map(
    questions.flatMap((q, i) => {
      const answer = entries[i]
      return answer ? [[q.id, counted(q, answer)] as const] : []
    }),
  )
  const wrong = questions.filter((q) => responses.get(q.id)?.points === 0 && q.counts === 'keyed')
  return {
    result: resultOf(questions, { studentId, responses }, levels),
    wrong: wrong.map((q) => q.position),
  }
}

function editingOf(assessmentId: string, name: string): Editing<'assessment.setAnswers', Given> {
  return {
    command: 'assessment.setAnswers',
    record: `answers ${assessmentId} {studentId}`,
    table: 'attempt',
    scope: `answers ${assessmentId}`,
    place: { name: `${name}, answers`, href: `/assessments/${assessmentId}/answers` },
    input: { assessmentId },
    empty: null,
  }
}

/** Students' answers as they are typed: a line is saved once there is an answer to each question. */
export function useAnswers(initial: Answers) {
  const { id: assessmentId, name } = initial
  const [server, refresh] = useLive('assessment.answers', { assessmentId }, initial)
  const { questions, levels } = server
  const about = useMemo(() => editingOf(assessmentId, name), [assessmentId, name])
  const recordFor = (studentId: string) => about.record.replace('{studentId}', studentId)
  const stored = useMemo(
    () =>
      new Map(
        server.rows.map((r) => [
          about.record.replace('{studentId}', r.studentId),
          { value: r.answers as Given, version: r.version },
        ]),
      ),
    [server.rows, about],
  )
  const { recorded, valueAt, rejectedEdits, resolve } = useRecorded(about, stored, refresh)
  const [removed, setRemoved] = useState<string>()

  const [drafts, setDrafts] = useState<ReadonlyMap<string, Draft>>(new Map())
  const latest = useRef(drafts)
  const [kept, keep] = useDraft<readonly (readonly [string, Draft])[]>(`answers.${assessmentId}`)
  const change = (next: ReadonlyMap<string, Draft>) => {
    latest.current = next
    setDrafts(next)
    keep(next.size > 0 ? [...next] : undefined)
  }
  useEffect(() => {
    if (!kept) return
    for (const [studentId, { expectedVersion }] of kept) recorded?.begin({ studentId }, expectedVersion)
    setDrafts((now) => {
      latest.current = new Map([...kept, ...now])
      return latest.current
    })
  }, [kept, recorded])
  const endDraft = (studentId: string) =>
    change(new Map([...latest.current].filter(([id]) => id !== studentId)))

  const nameOf = (studentId: string) => server.rows.find((r) => r.studentId === studentId)?.name ?? ''
  function save(studentId: string, line: string) {
    endDraft(studentId)
    const given = givenBy(line, questions)
    const label = `${nameOf(studentId)}: ${lineOf(given, questions) || 'answers removed'}`
    return recorded?.save([{ key: { studentId }, value: given }], label) ?? 0
  }
  /** Whether a line can be saved as it is typed. What may still grow, such as a number at its end, waits until it is left. */
  const isEnded = (text: string) =>
    readAnswers(text, questions).complete && !kindOf(questions.at(-1)?.kind ?? 'one choice').grows
  function type(studentId: string, text: string) {
    recorded?.begin({ studentId })
    setRemoved(undefined)
    setPasted(0)
    if (isEnded(text)) save(studentId, text)
    else
      change(
        new Map(latest.current).set(studentId, {
          text,
          expectedVersion: recorded?.begunOn({ studentId }) ?? 0,
        }),
      )
  }
  /** A field left empty has its answers removed; during typing it may be empty for a moment. */
  function leave(studentId: string) {
    const draft = latest.current.get(studentId)
    if (draft === undefined) return
    if (draft.text.trim() !== '') {
      if (readAnswers(draft.text, questions).complete) save(studentId, draft.text)
      return
    }
    // Where nothing was saved when typing began, nothing is removed, whatever has come since.
    if (draft.expectedVersion === 0) {
      recorded?.cancel({ studentId })
      return endDraft(studentId)
    }
    if (save(studentId, '') > 0) setRemoved(spokenName(nameOf(studentId)))
  }
  const [pasteProblems, setPasteProblems] = useState<readonly string[]>([])
  const [pasted, setPasted] = useState(0)
  /** Takes over answers from a spreadsheet in one act: what is complete is saved, the rest waits in its rows. */
  function paste(text: string, from: string) {
    const { lines, problems } = readPastedAnswers(text, server.rows, questions, from)
    setPasteProblems(problems)
    setPasted(0)
    if (problems.length > 0) return
    setRemoved(undefined)
    const isComplete = (line: string) => line.trim() !== '' && readAnswers(line, questions).complete
    const next = new Map(latest.current)
    for (const [studentId, text] of lines) {
      recorded?.begin({ studentId })
      next.delete(studentId)
      if (!isComplete(text) && text.trim() !== '')
        next.set(studentId, { text, expectedVersion: recorded?.begunOn({ studentId }) ?? 0 })
    }
    change(next)
    const complete = [...lines].filter(([, line]) => isComplete(line))
    recorded?.save(
      complete.map(([studentId, line]) => ({ key: { studentId }, value: givenBy(line, questions) })),
      `answers of ${complete.length} students pasted`,
    )
    setPasted(complete.length)
  }
  function restore() {
    recorded?.undo()
    setRemoved(undefined)
    setPasted(0)
  }
  const rows = server.rows.map((row) => {
    const text = drafts.get(row.studentId)?.text ?? lineOf(valueAt(recordFor(row.studentId)), questions)
    const read = readAnswers(text, questions)
    return {
      ...row,
      text,
      read,
      scored: read.complete ? scored(row.studentId, read, questions, levels) : undefined,
    }
  })
  return {
    server,
    rows,
    recorded,
    type,
    leave,
    removed,
    restore,
    paste,
    pasted,
    pasteProblems,
    rejectedEdits,
    resolve,
    nameOf,
  }
}
