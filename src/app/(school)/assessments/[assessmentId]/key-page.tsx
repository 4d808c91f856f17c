'use client'
import { useState } from 'react'
import { kindOf } from '@/core/assessment/kinds'
import { mostOf } from '@/core/assessment/scoring'
import { keyedInLine, readKeys, writeKeys } from '@/core/assessment/typed'
import { Button, buttonLooks } from '@/ui/button'
import { Field, TextInput } from '@/ui/field'
import { ConflictNotice, NoticesInView, NotSavedNotice } from '@/screen/conflict-notice'
import Link from '@/screen/link'
import { PageHead } from '@/screen/page-head'
import { AddQuestions } from './add-questions'
import { assessmentPages, givenTo } from './assessment-pages'
import { AssessmentActs } from './acts/assessment-acts'
import { FindPlaces } from './find-places'
import { LevelsLine } from './levels-line'
import { PlacesLayer } from './places-layer'
import { QuestionTable } from './question-table'
import { TestDocument } from './test-document'
import { useKey, type Key, type Question } from './use-key'

/** How each kind of question that there is, is typed: "B one choice, A+C several choices". */
const examples = (questions: readonly Question[]) =>
  [...new Set(questions.map((q) => q.kind))]
    .map((name) => `${kindOf(name).example} ${kindOf(name).words.toLowerCase()}`)
    .join(', ')

/** The answer key beside the test: typed as letters in order or question by question, saved as it is typed. */
export function KeyPage({ initial }: { initial: Key }) {
  const k = useKey(initial)
  const { server, questions, text } = k
  const { mayEdit } = server
  const [page, setPage] = useState(1)
  const [drawing, setDrawing] = useState<string>()
  const inLine = keyedInLine(questions)
  const read = readKeys(text, inLine)
  const withKey = inLine.filter((q) => kindOf(q.kind).isKeyed(q.content)).length
  const byHand = questions.length - inLine.length
  const plainLetters = inLine.every((q) => q.kind === 'one choice')
  const total = mostOf(questions) / 100
  const placed = questions.map(({ id, page: on, box }, i) => ({
    id,
    position: i + 1,
    page: on,
    box: box ?? null,
  }))
  return (
    <div
      className={`grid min-h-full ${server.documentId ? 'lg:grid-cols-[minmax(0,1fr)_minmax(300px,27%)]' : 'lg:grid-cols-[minmax(0,1fr)_240px]'}`}
    >
      <div className="sheet">
        <PageHead
          title={server.name}
          page="Answer key"
          pages={assessmentPages(server)}
          detail={givenTo(server)}
          saves={mayEdit}
          act={
            <>
              <AssessmentActs server={server} onSaved={() => void k.refresh()} />
              {server.mayEnter && (
                <Link href={`/assessments/${server.id}/answers`} className={buttonLooks()}>
                  Enter answers
                </Link>
              )}
            </>
          }
        />
        <NoticesInView>
          {k.rejectedEdits.map((rejected) =>
            rejected.reason === 'conflict' ? (
              <ConflictNotice key={rejected.edit.id} onResolve={(keep) => k.resolve(rejected, keep)}>
                Someone else changed this answer key while you were editing it. Their version has been kept:{' '}
                <strong>{writeKeys(server.questions)}</strong>. Yours:{' '}
                <strong>
                  {writeKeys((rejected.edit.input as { questions?: readonly Question[] }).questions ?? [])}
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
        {mayEdit && server.sheets > 0 && (
          <p className="hint mb-3">
            {server.sheets === 1 ? '1 student has' : `${server.sheets} students have`} answers already. Their
            scores follow every change of the key, also in the gradebook.
          </p>
        )}
        <Field
          label={
            plainLetters ? 'Answer key: type the letters in order' : 'Answer key: type it as it is read aloud'
          }
          help={
            plainLetters
              ? 'Type . for a question without a key. Spaces are ignored.'
              : `${examples(inLine)}; . for a question without a key. What else belongs to a key stands in its row.`
          }
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
              className={`text-[18px] font-bold ${plainLetters ? 'max-w-[520px] tracking-[0.18em] uppercase' : ''}`}
            />
          )}
        </Field>
        <p role="status" className="my-2 text-[13px] text-muted">
          {withKey} of {inLine.length} questions have a key
          {byHand > 0 && `, ${byHand} ${byHand === 1 ? 'is' : 'are'} marked by hand`}, {total} points in
          total.
          {withKey === inLine.length && (
            <span className="text-starboard">
              {' '}
              <span aria-hidden>✓</span> Complete.
            </span>
          )}
        </p>
        <QuestionTable
          questions={questions}
          standards={server.knownStandards}
          mayEdit={mayEdit}
          pages={server.pageCount ?? 0}
          onChange={k.change}
          onRemove={k.remove}
          onShow={setPage}
          onDraw={(id) => setDrawing(drawing === id ? undefined : id)}
          drawn={drawing}
        />
        {mayEdit && <AddQuestions questions={questions} onChange={k.change} />}
        <LevelsLine server={server} onSaved={() => void k.refresh()} />
      </div>
      <aside
        aria-label="The test"
        className="border-l border-rule bg-panel p-5 max-lg:border-t max-lg:border-l-0"
      >
        <TestDocument
          server={server}
          page={page}
          onPage={setPage}
          onAttach={k.attach}
          over={(shown) => (
            <PlacesLayer
              page={shown}
              questions={placed}
              drawing={placed.find((q) => q.id === drawing)}
              onDrawn={(box) => {
                const id = drawing
                setDrawing(undefined)
                k.change(
                  (now) => now.map((q) => (q.id === id ? { ...q, page: shown, box } : q)),
                  'place of a question',
                )
              }}
              onEnd={() => setDrawing(undefined)}
            />
          )}
        >
          {mayEdit && drawing === undefined && (
            <FindPlaces
              address={`/api/documents/${server.documentId}`}
              questions={questions}
              onChange={k.change}
            />
          )}
          {drawing !== undefined && (
            <p role="status" className="mt-2 text-[13px]">
              Drag over question {placed.find((q) => q.id === drawing)?.position} on the page. Escape leaves
              it as it was.
            </p>
          )}
        </TestDocument>
      </aside>
    </div>
  )
}
