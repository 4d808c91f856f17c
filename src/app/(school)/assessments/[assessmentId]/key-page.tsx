'use client'
import { v7 as uuid } from 'uuid'
import { useState } from 'react'
import { choiceLetters, readLetters, writeLetters } from '@/core/assessment/answer-key'
import { shortDate } from '@/core/calendar/date-words'
import { Button, buttonLooks } from '@/ui/button'
import { Field, Problem, TextInput } from '@/ui/field'
import { PdfPages } from '@/ui/pdf-pages'
import { ConflictNotice, NoticesInView, NotSavedNotice } from '@/screen/conflict-notice'
import Link from '@/screen/link'
import { PageHead } from '@/screen/page-head'
import { uploadFile } from '@/screen/server'
import { assessmentPages } from './assessment-pages'
import { QuestionTable } from './question-table'
import { useKey, type Key, type Question } from './use-key'

/** The answer key beside the test: typed as letters in order or question by question, saved as it is typed. */
export function KeyPage({ initial }: { initial: Key }) {
  const k = useKey(initial)
  const { server, questions, text } = k
  const { mayEdit } = server
  const [problem, setProblem] = useState<string>()
  const [page, setPage] = useState(1)
  const read = readLetters(
    text,
    questions.map((q) => q.choices),
  )
  async function replace(file: File | undefined) {
    if (!file) return
    const uploaded = await uploadFile(file)
    setProblem(uploaded.ok ? undefined : uploaded.failure.message)
    if (uploaded.ok) k.attach(uploaded.value.documentId, file.name)
  }
  const withKey = questions.filter((q) => q.key).length
  const total = questions.reduce((sum, q) => sum + (Number(q.points) || 0), 0)
  const keyOf = (list: readonly Question[]) => writeLetters(list.map((q) => q.key))
  return (
    <div className="grid min-h-full lg:grid-cols-[minmax(0,1fr)_minmax(300px,430px)]">
      <div className="sheet">
        <PageHead
          title={server.name}
          page="Answer key"
          pages={assessmentPages(server.id)}
          detail={`${server.classes.map((c) => c.name).join(', ')}, given ${shortDate(server.givenOn)}`}
          saves={mayEdit}
          act={
            mayEdit && (
              <Link href={`/assessments/${server.id}/answers`} className={buttonLooks()}>
                Enter answers
              </Link>
            )
          }
        />
        {problem && <Problem>{problem}</Problem>}
        <NoticesInView>
          {k.rejectedEdits.map((rejected) =>
            rejected.reason === 'conflict' ? (
              <ConflictNotice key={rejected.edit.id} onResolve={(keep) => k.resolve(rejected, keep)}>
                Someone else changed this answer key while you were editing it. Their version has been kept:{' '}
                <strong>{keyOf(server.questions)}</strong>. Yours:{' '}
                <strong>
                  {keyOf((rejected.edit.input as { questions?: readonly Question[] }).questions ?? [])}
                </strong>
                .
              </ConflictNotice>
            ) : (
              <NotSavedNotice
                key={rejected.edit.id}
                label={rejected.edit.label}
                message={rejected.message}
                onResolve={(keep) => k.resolve(rejected, keep)}
              />
            ),
          )}
        </NoticesInView>
        {k.removed && (
          <p role="status" className="hint mb-3 flex flex-wrap items-center gap-3">
            <span>{k.removed.words}</span>
            {k.removed.runs.length > 0 && (
              <Button kind="plain" onClick={k.restore}>
                Undo
              </Button>
            )}
          </p>
        )}
        {server.sheets > 0 && (
          <p className="hint mb-3">
            {server.sheets === 1 ? '1 student has' : `${server.sheets} students have`} answers already. Their
            scores follow every change of the key, also in the gradebook.
          </p>
        )}
        <Field
          label="Answer key: type the letters in order"
          help={`A to ${choiceLetters[(questions[0]?.choices ?? 4) - 1]}; type . for a question without a key. Spaces are ignored.`}
          problem={text && !read.complete ? read.problems.join(' ') : undefined}
        >
          {(field) => (
            <TextInput
              {...field}
              id="key"
              aria-label="Answer key"
              disabled={!mayEdit}
              autoFocus={withKey === 0}
              autoCapitalize="characters"
              autoComplete="off"
              spellCheck={false}
              value={text}
              onChange={(e) => k.typeKey(e.target.value)}
              onBlur={k.leaveText}
              className="max-w-[520px] text-[18px] font-bold tracking-[0.18em] uppercase"
            />
          )}
        </Field>
        <p role="status" className="my-2 text-[13px] text-muted">
          {withKey} of {questions.length} questions have a key, {total} points in total.
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
          onChange={k.change}
          onRemove={k.remove}
          onShow={setPage}
        />
        {mayEdit && (
          <p className="mt-3">
            <Button
              kind="plain"
              onClick={() =>
                k.change(
                  (now) => [
                    ...now,
                    {
                      id: uuid(),
                      key: null,
                      choices: now.at(-1)?.choices ?? 4,
                      points: now.at(-1)?.points ?? '1',
                      standardId: null,
                      page: now.at(-1)?.page ?? null,
                    },
                  ],
                  `question ${questions.length + 1} added`,
                )
              }
            >
              Add a question
            </Button>
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
          <p className="text-muted">No document has been added. The answer key works without one.</p>
        )}
        {mayEdit && (
          <label className="mt-3 block text-[13px]">
            {server.documentId ? 'Replace the document' : 'Add the test as a PDF'}
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
