'use client'
import { useMemo, useState } from 'react'
import type { Gradebook, ScoreEntries } from '@/core/marks/gradebook'
import { termMark, type Dates, type TermMark } from '@/core/marks/term-mark'
import { gradesToWish, liftsOf, neededFor, type Needed } from '@/core/marks/what-if'
import { spokenName } from '@/core/people/names'
import { Field, Select } from '@/ui/field'

function neededWords(needed: Needed, grade: string): string {
  switch (needed.kind) {
    case 'certain':
      return `${grade} is certain, whatever comes.`
    case 'nothing left':
      return 'No work is left in this term.'
    case 'out of reach':
      return `${grade} is out of reach: with full points on all that is left the mark would be ${needed.mark}.`
    case 'share': {
      const names = needed.pieces.map((p) => p.name).join(', ')
      return `${needed.percent}% on each piece that is left: ${names}.`
    }
  }
}

/** For one student of the copy: the mark beside the real one, what a wished grade needs, and what would change most. */
export function WhatIfMargin({
  book,
  student,
  entries,
  dates,
  real,
}: {
  book: Gradebook
  student: { name: string }
  entries: ScoreEntries
  dates: Dates
  real: TermMark | undefined
}) {
  const wishes = gradesToWish(book)
  const [wished, setWished] = useState(wishes[0]?.grade ?? '')
  const now = useMemo(() => termMark(book, entries, dates), [book, entries, dates])
  const lifts = useMemo(() => liftsOf(book, entries, dates), [book, entries, dates])
  const aim = wishes.find((w) => w.grade === wished)
  const needed = useMemo(() => aim && neededFor(book, entries, dates, aim.mark), [book, entries, dates, aim])
  return (
    <div className="stay grid content-start gap-4">
      <div>
        <h2 className="text-[17px]">{spokenName(student.name)}, what if</h2>
        <p className="text-[26px] leading-9 font-bold" data-testid="what-if-mark">
          {now.mark ?? 'no mark'} <span className="text-[18px] font-normal">{now.grade}</span>
        </p>
        <p className="text-[13px] text-muted">
          In the gradebook: {real?.mark ?? 'no mark yet'} {real?.grade}
        </p>
      </div>
      {aim && needed && (
        <div className="grid gap-2">
          <Field label="What is needed for">
            {(field) => (
              <Select {...field} value={wished} onChange={(event) => setWished(event.target.value)}>
                {wishes.map((w) => (
                  <option key={w.grade} value={w.grade}>
                    {w.grade}, {w.mark} or more
                  </option>
                ))}
              </Select>
            )}
          </Field>
          <p data-testid="needed">{neededWords(needed, aim.grade)}</p>
        </div>
      )}
      <div>
        <h3 className="border-b border-ink pb-1">Missing work that would change most</h3>
        {lifts.length === 0 ? (
          <p className="text-[13px] text-muted">Nothing is missing that would lift this mark.</p>
        ) : (
          <dl className="grid grid-cols-[1fr_auto] gap-x-3">
            {lifts.map((lift) => (
              <div key={lift.assignment.id} className="contents">
                <dt>
                  {lift.points} of {lift.points} in {lift.assignment.name}
                </dt>
                <dd className="text-right font-bold">
                  {lift.mark} {lift.grade}
                </dd>
              </div>
            ))}
          </dl>
        )}
      </div>
    </div>
  )
}
