'use client'
import { mostOf } from '@/core/assessment/scoring'
import { useState } from 'react'
import { kindOf } from '@/core/assessment/kinds'
import { writeKeys } from '@/core/assessment/typed'
import { spokenName } from '@/core/people/names'
import { Across } from '@/ui/across'
import { Button, buttonLooks } from '@/ui/button'
import { useRowFocus } from '@/ui/grid/use-row-focus'
import { ConflictNotice, NoticesInView, NotSavedNotice } from '@/screen/conflict-notice'
import { UnreadFile } from '@/screen/csv-file'
import { useKeys, type KeyGroup } from '@/screen/keys'
import Link from '@/screen/link'
import { PageHead } from '@/screen/page-head'
import { contested } from '@/screen/use-recorded'
import { assessmentPages, givenTo } from '@/app/(school)/assessments/[assessmentId]/assessment-pages'
import { AnswerRow } from './answer-row'
import { lineOf, useAnswers, type Answers } from './use-answers'

const keys: KeyGroup = {
  title: 'Answers',
  keys: [
    ['A to J', 'One letter per question; . for one left out'],
    ['A+C, T or F, 3.5', 'Several choices, true or false, a number'],
    ['"ice", 2 or ?', 'A short text; points of a written answer, or not marked yet'],
    ['Enter or ↓', 'Next student'],
    ['↑', 'Previous student'],
  ],
}

/** Each student's answers as letters in order, typed at keyboard speed; each is scored at once. */
export function AnswersPage({ initial }: { initial: Answers }) {
  const a = useAnswers(initial)
  const { server, rows } = a
  const { questions } = server
  const fields = useRowFocus<HTMLInputElement>(rows.map((r) => r.studentId))
  useKeys(keys)
  const missing = rows.filter((r) => !r.text).length
  const withoutKey = questions.filter((q) => !kindOf(q.kind).isKeyed(q.content)).length
  const total = mostOf(questions) / 100
  const plainLetters = questions.every((q) => q.kind === 'one choice')
  const examples = [...new Set(questions.map((q) => q.kind))].map(kindOf)
  const severalClasses = server.classes.length > 1
  // Where the work goes on when the page is opened; not where it is after each student.
  const [first] = useState(() => rows.find((r) => !r.text)?.studentId)
  return (
    <div className="sheet">
      <PageHead
        title={server.name}
        page="Answers"
        pages={assessmentPages(server)}
        detail={`${givenTo(server)}, ${total} points`}
        saves={server.mayEnter}
        act={
          missing < rows.length && (
            <Link href={`/assessments/${server.id}/findings`} className={buttonLooks()}>
              View findings
            </Link>
          )
        }
      />
      {withoutKey > 0 && (
        <p className="hint mb-3">
          {withoutKey === questions.length
            ? 'There is no answer key yet, so nothing is scored.'
            : withoutKey === 1
              ? '1 question has no key yet; answers to it are not scored.'
              : `${withoutKey} questions have no key yet; answers to them are not scored.`}{' '}
          <Link className="link" href={`/assessments/${server.id}`}>
            Enter the answer key
          </Link>
        </p>
      )}
      <NoticesInView>
        {a.rejectedEdits.flatMap((rejected) =>
          rejected.reason === 'conflict' ? (
            contested(a.recorded, rejected, null).map((c) => {
              const theirs = lineOf(c.theirs, questions) || 'no answers'
              const mine = lineOf(c.mine, questions) || 'no answers'
              return (
                <ConflictNotice
                  key={rejected.edit.id + c.record}
                  theirs={theirs}
                  mine={mine}
                  onResolve={(keep) => a.resolve(rejected, keep)}
                >
                  <strong>{spokenName(a.nameOf(c.record.split(' ').at(-1) ?? ''))}</strong>: {c.by} entered{' '}
                  <strong>{theirs}</strong> while you were entering <strong>{mine}</strong>. {theirs} has been
                  kept.
                </ConflictNotice>
              )
            })
          ) : (
            <NotSavedNotice
              key={rejected.edit.id}
              label={rejected.edit.label}
              message={rejected.message}
              onResolve={(keep) => a.resolve(rejected, keep)}
            />
          ),
        )}
      </NoticesInView>
      {a.removed && (
        <p role="status" className="hint mb-3 flex flex-wrap items-center gap-3">
          <span>
            The answers of <strong>{a.removed}</strong> were removed.
          </span>
          <Button kind="plain" onClick={a.restore}>
            Undo
          </Button>
        </p>
      )}
      <UnreadFile problems={a.pasteProblems} from="what you pasted" />
      {a.pasted > 0 && (
        <p role="status" className="hint mb-3 flex flex-wrap items-center gap-3">
          <span>
            {a.pasted === 1 ? 'The answers of 1 student were' : `The answers of ${a.pasted} students were`}{' '}
            pasted.
          </span>
          <Button kind="plain" onClick={a.restore}>
            Undo
          </Button>
        </p>
      )}
      <p className="mb-2 text-muted">
        {rows.length === 0 ? (
          'No students were in these classes on the day it was given.'
        ) : (
          <>
            {plainLetters
              ? 'Type one letter per question, '
              : `Type one answer per question (${examples.map((k) => (k.byHand ? 'points or ? for a written one' : k.example)).join(', ')}), `}
            <strong>.</strong> for one left out; Enter goes to the next student.{' '}
            {missing === 0
              ? 'All students have answers.'
              : `${missing} of ${rows.length} have no answers yet.`}
          </>
        )}
      </p>
      {rows.length > 0 && (
        <Across label="Answers">
          <table className="rows" aria-label="Answers">
            <thead>
              <tr>
                <th scope="col">Student</th>
                {severalClasses && <th scope="col">Class</th>}
                <th scope="col">
                  Answers,{' '}
                  <span aria-label={`Key ${writeKeys(questions)}`}>
                    key{' '}
                    <span className={plainLetters ? 'tracking-[0.18em]' : ''}>{writeKeys(questions)}</span>
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
              {rows.map((row) => (
                <AnswerRow
                  key={row.studentId}
                  row={row}
                  plainLetters={plainLetters}
                  questions={questions.length}
                  levels={server.levels.map((l) => l.name)}
                  className={severalClasses ? row.className : undefined}
                  disabled={!row.mayEnter}
                  autoFocus={row.studentId === first}
                  total={total}
                  inputRef={fields.fieldOf(row.studentId)}
                  onPaste={(text) => a.paste(text, row.studentId)}
                  onType={(text) => a.type(row.studentId, text)}
                  onLeave={() => a.leave(row.studentId)}
                  onStep={(by) => void fields.step(by)}
                />
              ))}
            </tbody>
          </table>
        </Across>
      )}
    </div>
  )
}
