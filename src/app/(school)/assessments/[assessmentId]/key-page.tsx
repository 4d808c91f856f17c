'use client'
import Link from '@/screen/link'
import { useEffect, useRef, useState } from 'react'
import { choiceLetters, readLetters, writeLetters } from '@/core/assessment/answer-key'
import { shortDate } from '@/core/calendar/date-words'
import type { QueryOutput } from '@/server/registry'
import { Button, buttonLooks } from '@/ui/button'
import { Field, Problem, TextInput } from '@/ui/field'
import { PdfPages } from '@/ui/pdf-pages'
import { PageHead } from '@/screen/page-head'
import { useSaved, useSaving } from '@/screen/saving'
import { tellServer, uploadFile } from '@/screen/server'
import { useLive } from '@/screen/use-live'
import { QuestionTable, type Question } from './question-table'
import { Steps } from './steps'

type Key = QueryOutput<'assessment.key'>

/** The answer key beside the test: typed as one string or question by question, saved as it is typed. */
export function KeyPage({ initial }: { initial: Key }) {
  const [server, refresh] = useLive('assessment.key', { assessmentId: initial.id }, initial)
  const { save, isWaiting } = useSaving()
  const [questions, setQuestions] = useState<readonly Question[]>(initial.questions)
  const [text, setText] = useState(writeLetters(initial.questions.map((q) => q.key)).replace(/\.+$/, ''))
  const [told, setTold] = useState<{ text: string; wrong: boolean }>()
  const [page, setPage] = useState(1)
  const version = useRef(initial.version)
  const slot = `key ${initial.id}`
  const { mayEdit } = server

  useEffect(() => {
    if (isWaiting(slot)) return
    version.current = server.version
    setQuestions(server.questions)
    setText((now) =>
      document.activeElement?.id === 'key'
        ? now
        : writeLetters(server.questions.map((q) => q.key)).replace(/\.+$/, ''),
    )
  }, [server, isWaiting, slot])

  useSaved('assessment.setQuestions', (edit, outcome) => {
    if (edit.assessmentId !== initial.id) return
    if ('value' in outcome) {
      version.current = outcome.value.version
      setTold(undefined)
      setQuestions((now) => now.map((q, i) => ({ ...q, id: outcome.value.ids[i] ?? q.id })))
    } else {
      setTold({ text: outcome.refused.message, wrong: true })
      void refresh()
    }
  })
  function change(next: readonly Question[]) {
    setQuestions(next)
    // A number half typed is not sent; its field says that it is not right yet.
    if (!next.every((q) => /^\d{1,5}(\.\d{1,2})?$/.test(q.points))) return
    save(
      'assessment.setQuestions',
      {
        assessmentId: initial.id,
        seen: version.current,
        questions: next.map((q) => ({
          id: q.id.startsWith('new') ? undefined : q.id,
          key: q.key,
          choices: q.choices,
          points: q.points,
          standardId: q.standardId,
          page: q.page,
        })),
      },
      { slot, label: `${server.name}, key` },
    )
  }
  const read = readLetters(
    text,
    questions.map((q) => q.choices),
  )
  function typeKey(typed: string) {
    setText(typed)
    const letters = readLetters(
      typed,
      questions.map((q) => q.choices),
    ).letters
    change(questions.map((q, i) => ({ ...q, key: letters[i] ?? null })))
  }
  async function replace(file: File | undefined) {
    if (!file) return
    const uploaded = await uploadFile(file)
    const result = uploaded.ok
      ? await tellServer('assessment.setDocument', {
          assessmentId: initial.id,
          documentId: uploaded.value.documentId,
          seen: version.current,
        })
      : uploaded
    setTold(
      result.ok
        ? { text: 'The document is in place; the key is as it was.', wrong: false }
        : { text: result.failure.message, wrong: true },
    )
    if (result.ok && 'version' in result.value) version.current = result.value.version
    void refresh()
  }
  const withKey = questions.filter((q) => q.key).length
  const total = questions.reduce((sum, q) => sum + (Number(q.points) || 0), 0)
  return (
    <div className="grid min-h-full lg:grid-cols-[minmax(0,1fr)_minmax(300px,430px)]">
      <div className="sheet">
        <PageHead
          title={server.name}
          detail={`${server.classes.map((c) => c.name).join(', ')}, given ${shortDate(server.givenOn)}`}
          saves={mayEdit}
        >
          <Steps assessmentId={server.id} at="key" />
        </PageHead>
        {told &&
          (told.wrong ? (
            <Problem>{told.text}</Problem>
          ) : (
            <p role="status" className="mb-2 text-muted">
              {told.text}
            </p>
          ))}
        {server.sheets > 0 && (
          <p className="hint mb-3">
            {server.sheets} students have answers already. Their scores follow every change of the key at
            once, also in the gradebook.
          </p>
        )}
        <Field
          label="Answer key, as one string"
          help={`As you would read it aloud; spaces do not matter. A to ${choiceLetters[(questions[0]?.choices ?? 4) - 1]}, and . for a question without a key.`}
          problem={text && !read.complete ? read.problems.join(' ') : undefined}
        >
          {(f) => (
            <TextInput
              {...f}
              id="key"
              aria-label="Answer key"
              disabled={!mayEdit}
              autoFocus={withKey === 0}
              autoCapitalize="characters"
              autoComplete="off"
              spellCheck={false}
              value={text}
              onChange={(e) => typeKey(e.target.value)}
              className="max-w-[520px] text-[18px] font-bold tracking-[0.18em] uppercase"
            />
          )}
        </Field>
        <p role="status" className="my-2 text-[13px] text-muted">
          {withKey} of {questions.length} questions have a key, {total} points in all.
          {read.complete && (
            <span className="text-starboard">
              {' '}
              <span aria-hidden>✓</span> Complete.
            </span>
          )}
        </p>
        <QuestionTable
          questions={questions}
          standards={server.standards}
          mayEdit={mayEdit}
          pages={server.pageCount ?? 0}
          onChange={change}
          onShow={(p) => setPage(p)}
        />
        {mayEdit && (
          <p className="mt-3 flex flex-wrap gap-3">
            <Button
              kind="plain"
              onClick={() =>
                change([
                  ...questions,
                  {
                    id: `new ${crypto.randomUUID()}`,
                    position: questions.length + 1,
                    key: null,
                    choices: questions.at(-1)?.choices ?? 4,
                    points: questions.at(-1)?.points ?? '1',
                    standardId: null,
                    page: questions.at(-1)?.page ?? null,
                  },
                ])
              }
            >
              Add a question
            </Button>
            <Link href={`/assessments/${server.id}/answers`} className={buttonLooks()}>
              Type the answers
            </Link>
          </p>
        )}
      </div>
      <aside
        aria-label="The test"
        className="border-l border-rule bg-panel p-5 max-lg:border-t max-lg:border-l-0"
      >
        {server.documentId ? (
          <PdfPages
            address={`/api/documents/${server.documentId}`}
            name={server.document ?? 'The test'}
            page={page}
            onPage={setPage}
          />
        ) : (
          <p className="text-muted">No document is attached. The key works without one.</p>
        )}
        {mayEdit && (
          <label className="mt-3 block text-[13px]">
            {server.documentId ? 'Replace the document' : 'Add the test as PDF'}
            <input
              type="file"
              accept="application/pdf,.pdf"
              className="mt-1 block w-full file:mr-3 file:rounded-[3px] file:border file:border-line file:bg-panel file:px-3 file:py-1"
              onChange={(e) => void replace(e.target.files?.[0])}
            />
          </label>
        )}
      </aside>
    </div>
  )
}
