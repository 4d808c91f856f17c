'use client'
import { useEffect, useMemo, useRef, useState } from 'react'
import { readLetters, writeLetters } from '@/core/assessment/answer-key'
import { scoreSheet } from '@/core/assessment/findings'
import { spokenName } from '@/core/people/names'
import type { CommandInput, QueryOutput } from '@/server/registry'
import { useDraft } from '@/screen/use-draft'
import { useLive } from '@/screen/use-live'
import { useRecorded, type Editing } from '@/screen/use-recorded'

export type Answers = QueryOutput<'assessment.answers'>
export type Choices = CommandInput<'assessment.setAnswers'>['cells'][number]['value']
type Questions = Answers['questions']

/** Letters half typed, with the version that was in sight when they were begun. */
interface Draft {
  readonly text: string
  readonly expectedVersion: number
}

/** The letters that some answers make in today's order of the questions; empty for none. */
export function lettersOf(choices: Choices, questions: Questions): string {
  if (!choices) return ''
  const chosen = new Map(choices.map((c) => [c.questionId, c.choice]))
  return writeLetters(questions.map((q) => chosen.get(q.id)))
}

/** Answers that name their questions, so that they stay right when the key is reordered in the meantime. */
function choicesOf(letters: string, questions: Questions): Choices {
  if (letters.trim() === '') return null
  const read = readLetters(
    letters,
    questions.map((q) => q.choices),
  )
  return questions.map((q, i) => ({ questionId: q.id, choice: read.letters[i] ?? null }))
}

function editingOf(assessmentId: string, name: string): Editing<'assessment.setAnswers', Choices> {
  return {
    command: 'assessment.setAnswers',
    record: `answers ${assessmentId} {studentId}`,
    table: 'answer_sheet',
    scope: `answers ${assessmentId}`,
    place: { name: `${name}, answers`, href: `/assessments/${assessmentId}/answers` },
    input: { assessmentId },
    empty: null,
  }
}

/** Students' answers as they are typed: letters are saved once there is one for each question. */
export function useAnswers(initial: Answers) {
  const { id: assessmentId, name } = initial
  const [server, refresh] = useLive('assessment.answers', { assessmentId }, initial)
  const { questions } = server
  const choices = useMemo(() => questions.map((q) => q.choices), [questions])
  const about = useMemo(() => editingOf(assessmentId, name), [assessmentId, name])
  const recordFor = (studentId: string) => about.record.replace('{studentId}', studentId)
  const stored = useMemo(
    () =>
      new Map(
        server.rows.map((r) => [
          about.record.replace('{studentId}', r.studentId),
          { value: choicesOf(r.letters, questions), version: r.version },
        ]),
      ),
    [server.rows, questions, about],
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
  function save(studentId: string, letters: string) {
    endDraft(studentId)
    const label = `${nameOf(studentId)}: ${letters.toUpperCase() || 'answers removed'}`
    return recorded?.save([{ key: { studentId }, value: choicesOf(letters, questions) }], label) ?? 0
  }
  function type(studentId: string, text: string) {
    recorded?.begin({ studentId })
    setRemoved(undefined)
    if (readLetters(text, choices).complete) save(studentId, text)
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
    if (draft?.text.trim() !== '') return
    // Where nothing was saved when typing began, nothing is removed, whatever has come since.
    if (draft.expectedVersion === 0) {
      recorded?.cancel({ studentId })
      return endDraft(studentId)
    }
    if (save(studentId, '') > 0) setRemoved(spokenName(nameOf(studentId)))
  }
  function restore() {
    recorded?.undo()
    setRemoved(undefined)
  }
  const rows = server.rows.map((row) => {
    const text = drafts.get(row.studentId)?.text ?? lettersOf(valueAt(recordFor(row.studentId)), questions)
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
        ? scoreSheet(questions, sheet, { secureFrom: server.secureFrom, nearlyFrom: server.nearlyFrom })
        : undefined,
    }
  })
  return { server, rows, recorded, type, leave, removed, restore, rejectedEdits, resolve, nameOf }
}
