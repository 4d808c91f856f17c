'use client'
import { useMemo, useRef, useState } from 'react'
import { kindOf } from '@/core/assessment/kinds'
import { keyedInLine, readKeys, writeKeys } from '@/core/assessment/typed'
import type { CommandInput, QueryOutput } from '@/server/registry'
import { useBeforeLeaving, useEnded } from '@/screen/saving'
import { useLive } from '@/screen/use-live'
import { useRecordedWhole, type EditingWhole } from '@/screen/use-recorded'

export type Key = QueryOutput<'assessment.key'>
export type Question = CommandInput<'assessment.setQuestions'>['questions'][number]
/** What changes the questions of a key, with what is done in words. */
export type ChangeKey = (next: (now: readonly Question[]) => readonly Question[], label: string) => void

const typingPause = 600

/** A question as it is saved; its place in the list is its position. */
const plain = (question: Question): Question => {
  const { id, kind, content, points, counts, standardIds, page, box, rationale, choiceRationales } = question
  const more = { page, box, rationale, choiceRationales }
  return { id, kind, content, points, counts, standardIds: [...standardIds], ...more } as Question
}

function editingOf(
  assessmentId: string,
  name: string,
): EditingWhole<'assessment.setQuestions', readonly Question[]> {
  return {
    command: 'assessment.setQuestions',
    record: `questions ${assessmentId}`,
    scope: `questions ${assessmentId}`,
    place: { name: `${name}, answer key`, href: `/assessments/${assessmentId}` },
    input: (questions, expectedVersion) => ({ assessmentId, expectedVersion, questions: [...questions] }),
    valueIn: (input) => input.questions,
    empty: [],
  }
}

/** Questions that were removed and can be brought back: the runs that removed them, and in words. */
interface Removed {
  readonly words: string
  readonly runs: readonly string[]
}

/** The questions with the keys of a typed line, in the order of those whose key can be typed; what it leaves out has none. */
function withLine(questions: readonly Question[], typed: string): readonly Question[] {
  const inLine = keyedInLine(questions)
  const { entries } = readKeys(typed, inLine)
  const keyed = new Map(
    inLine.map((q, i) => [q.id, entries[i] ?? kindOf(q.kind).unkeyed(q.content)] as const),
  )
  return questions.map((q) => (keyed.has(q.id) ? ({ ...q, content: keyed.get(q.id) } as Question) : q))
}

/** An answer key as it is edited: one record, whose questions have their ids from where they are made. */
export function useKey(initial: Key) {
  const { id: assessmentId, name } = initial
  const [server, refresh] = useLive('assessment.key', { assessmentId }, initial)
  const about = useMemo(() => editingOf(assessmentId, name), [assessmentId, name])
  const stored = useMemo(
    () => new Map([[about.record, { value: server.questions.map(plain), version: server.version }]]),
    [about, server.questions, server.version],
  )
  const { recorded, valueAt, rejectedEdits, resolve } = useRecordedWhole(about, stored, refresh)
  const saved = valueAt(about.record)
  const [removed, setRemoved] = useState<Removed>()
  const removing = useRef(false)

  // The key as it is being typed, until typing pauses: a class is not scored again at every letter.
  const [text, setText] = useState<string>()
  const latest = useRef(text)
  const timer = useRef<ReturnType<typeof setTimeout>>(undefined)
  const withText = (typed: string | undefined): readonly Question[] =>
    typed === undefined ? saved : withLine(saved, typed)
  const questions = withText(text)

  function save(next: readonly Question[], label: string) {
    recorded?.save([{ key: {}, value: next.map(plain) }], `${name}: ${label}`)
  }
  function endText() {
    clearTimeout(timer.current)
    if (latest.current === undefined) return
    const next = withText(latest.current)
    latest.current = undefined
    save(next, `answer key ${writeKeys(next)}`)
  }
  function typeKey(typed: string) {
    recorded?.begin({})
    latest.current = typed
    setText(typed)
    clearTimeout(timer.current)
    timer.current = setTimeout(endText, typingPause)
  }
  /** The field of the key is left: it shows what is saved again. */
  function leaveText() {
    endText()
    setText(undefined)
  }
  useBeforeLeaving(endText)

  useEnded((ended) => {
    if (ended.edit.scope !== about.scope || ended.kind !== 'done' || ended.edit.command !== about.command)
      return
    const { run } = ended
    if (removing.current && run) setRemoved((now) => now && { ...now, runs: [...now.runs, run] })
    else setRemoved(undefined)
  })
  /** Changes the questions; what is being typed as a key is part of it. */
  const change: ChangeKey = (next, label) => {
    const now = withText(latest.current)
    latest.current = undefined
    setText(undefined)
    clearTimeout(timer.current)
    removing.current = false
    save(next(now), label)
  }
  function remove(questionId: string) {
    const position = questions.findIndex((q) => q.id === questionId) + 1
    change((now) => now.filter((q) => q.id !== questionId), `without question ${position}`)
    removing.current = true
    const students = server.sheets === 1 ? '1 student' : `${server.sheets} students`
    setRemoved((now) => ({
      words: now
        ? 'Questions were removed.'
        : server.sheets > 0
          ? `Question ${position} was removed, with the answers of ${students}.`
          : `Question ${position} was removed.`,
      runs: now?.runs ?? [],
    }))
  }
  function restore() {
    // Last removed, first restored.
    for (const run of [...(removed?.runs ?? [])].reverse())
      recorded?.undoRun(run, `${name}: questions removed`)
    setRemoved(undefined)
  }
  /** Attaches another document, in order with the edits of the key. */
  function attach(documentIds: readonly string[], fileName: string) {
    recorded?.act(
      'assessment.setDocument',
      { assessmentId, documentIds: [...documentIds], expectedVersion: recorded.versionOf({}) },
      `${name}: document ${fileName}`,
    )
  }
  return {
    server,
    refresh,
    questions,
    text: text ?? writeKeys(questions).replace(/[\s.]+$/, ''),
    typeKey,
    leaveText,
    change,
    remove,
    removed,
    restore,
    attach,
    rejectedEdits,
    resolve,
  }
}
