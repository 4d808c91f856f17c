'use client'
import { useMemo, useRef, useState } from 'react'
import { hangsOn } from '@/core/marks/what-if'
import type { ScoreEntries } from '@/core/marks/gradebook'
import { spokenName } from '@/core/people/names'
import { Button } from '@/ui/button'
import { TextInput } from '@/ui/field'
import { classPages } from '@/screen/class-pages'
import { Margin, useMargin } from '@/screen/margin'
import { Message, useMessage } from '@/screen/message'
import { PageHead } from '@/screen/page-head'
import { useSchool } from '@/screen/school-context'
import { useRested } from '@/screen/use-rested'
import { GradebookTable } from './gradebook-table'
import { useCopy } from './use-copy'
import type { OpenGradebook } from './use-gradebook'
import { useGradebookKeys } from './use-gradebook-keys'
import { WhatIfMargin } from './what-if-margin'

const nothing: ScoreEntries = new Map()
const noNotes: ReadonlySet<string> = new Set()

/** A copy of the gradebook to try things on: other scores, weights and drops, with what they do to every mark. */
export function WhatIf({ classId, g, onClose }: { classId: string; g: OpenGradebook; onClose: () => void }) {
  const { copy, setCategory, isChanged, realMarkOf, startAgain, restored, step, canStep } = useCopy(g)
  const grid = useRef<HTMLDivElement>(null)
  const messages = useMessage()
  const margin = useMargin()
  const place = useSchool()
  const keys = useGradebookKeys(copy, grid, messages, () => undefined)
  const { book, server } = copy
  const { students } = server
  const changed = students.filter((s) => copy.markOf(s.id)?.mark !== realMarkOf(s.id)?.mark)
  if (!book) return null
  return (
    <div className="leaf">
      <div className="sheet">
        <PageHead
          title={server.class.name}
          page="Marks"
          pages={classPages(place, classId)}
          detail={`${server.term.name} term, a copy to try things on`}
        />
        <section
          aria-label="A copy of the gradebook"
          className="mb-3 grid gap-3 border-2 border-dashed border-magenta p-4"
          data-testid="what-if"
        >
          <div className="flex flex-wrap items-center gap-4">
            <h2 className="text-[17px]">What if</h2>
            <p className="min-w-60 flex-1">
              This is a copy. Change scores, weights and drops as you like:{' '}
              <strong>nothing here is saved</strong>.
            </p>
            {canStep('undo') && (
              <Button kind="plain" onClick={() => void step('undo')}>
                Undo
              </Button>
            )}
            {canStep('redo') && (
              <Button kind="plain" onClick={() => void step('redo')}>
                Redo
              </Button>
            )}
            {isChanged && (
              <Button kind="plain" onClick={startAgain}>
                Start again
              </Button>
            )}
            <Button onClick={onClose}>Back to the gradebook</Button>
          </div>
          {book.rules.method === 'weights' && (
            <fieldset className="flex flex-wrap gap-x-6 gap-y-2">
              <legend className="sr-only">Weights and drops of the copy</legend>
              {book.categories.map((c) => (
                <Category
                  key={`${c.id} ${restored}`}
                  name={c.name}
                  weight={c.weight}
                  dropLowest={c.dropLowest}
                  onChange={(what, more) => setCategory(c, what, more)}
                />
              ))}
            </fieldset>
          )}
          <p role="status" className="text-[13px]">
            {changed.length === 0
              ? 'Every mark is as in the gradebook.'
              : `${changed.length === 1 ? '1 mark differs' : `${changed.length} marks differ`} from the gradebook.`}
          </p>
        </section>
        <Message {...messages.message} />
        <GradebookTable
          gridRef={grid}
          book={book}
          students={students}
          entriesOf={copy.entriesOf}
          markOf={copy.markOf}
          others={server.columns}
          columnsOf={copy.columnsOf}
          enteredBy={copy.entered.enteredBy}
          isLinked={copy.isLinked}
          noted={noNotes}
          at={keys.at}
          range={keys.range}
          onPressing={keys.onPressing}
          typed={keys.typed}
          touched={copy.touched}
          mayEdit
          onChoose={keys.onChoose}
          onKeyDown={keys.onKeyDown}
          touch={keys.touch}
          onPaste={keys.onPaste}
          onCopy={keys.onCopy}
          onOpen={() => undefined}
          onLeave={keys.end}
        />
        <HangingList copy={copy} />
      </div>
      {keys.student && (
        <Margin label="What if" opens="What would change" of={margin}>
          <WhatIfMargin
            key={keys.student.id}
            book={book}
            student={keys.student}
            entries={copy.entriesOf.get(keys.student.id) ?? nothing}
            dates={copy.datesOf(keys.student.id)}
            real={realMarkOf(keys.student.id)}
          />
        </Margin>
      )}
    </div>
  )
}

/** Weight and drops of one category, taken as soon as they are numbers. */
function Category({
  name,
  weight,
  dropLowest,
  onChange,
}: {
  name: string
  weight: string
  dropLowest: number
  onChange: (what: 'weight' | 'drops', more: { weight?: string; dropLowest?: number }) => void
}) {
  const [text, setText] = useState(weight)
  return (
    <span className="flex items-center gap-2 text-[13px]">
      <strong>{name}</strong>
      <TextInput
        aria-label={`Weight of ${name} in the copy`}
        inputMode="decimal"
        className="w-16! text-right"
        value={text}
        onChange={(event) => {
          setText(event.target.value)
          const number = event.target.value.trim().replace(',', '.')
          if (/^\d{1,4}(\.\d{1,2})?$/.test(number)) onChange('weight', { weight: number })
        }}
      />
      drops
      <TextInput
        aria-label={`How many of the lowest in ${name} are dropped in the copy`}
        type="number"
        min={0}
        max={20}
        className="w-14! text-right"
        value={dropLowest}
        onChange={(event) =>
          onChange('drops', { dropLowest: Math.min(20, Math.max(0, Number(event.target.value) || 0)) })
        }
      />
    </span>
  )
}

/** Whose grade would be another one without a single piece of work. */
function HangingList({ copy: { book, server, entriesOf, markOf, datesOf } }: { copy: OpenGradebook }) {
  const { students } = server
  // Hundreds of marks are worked out for it: when the keys rest.
  const rested = useRested(
    useMemo(
      () => ({ book, students, entriesOf, markOf, datesOf }),
      [book, students, entriesOf, markOf, datesOf],
    ),
  )
  const hanging = useMemo(
    () =>
      rested.students.flatMap((student) => {
        const found =
          rested.book &&
          hangsOn(rested.book, rested.entriesOf.get(student.id) ?? nothing, rested.datesOf(student.id))
        return found ? [{ student, now: rested.markOf(student.id), ...found }] : []
      }),
    [rested],
  )
  return (
    <section className="mt-4">
      <h2 className="mb-1 text-[15px]">Grades that hang on one piece of work</h2>
      {hanging.length === 0 ? (
        <p>No grade would be another one without any single piece.</p>
      ) : (
        <ul className="grid gap-x-8 sm:grid-cols-2">
          {hanging.map(({ student, now, assignment, mark, grade }) => (
            <li key={student.id} className="flex flex-wrap gap-x-2 border-t border-rule py-1">
              <strong>{spokenName(student.name)}</strong>
              <span>
                {now?.mark} {now?.grade}; without {assignment.name} {mark} {grade}
              </span>
            </li>
          ))}
        </ul>
      )}
    </section>
  )
}
