'use client'
import { useCallback, useMemo, useRef } from 'react'
import type { Gradebook, ScoreEntries, ScoreEntry } from '@/core/marks/gradebook'
import { isCalculated } from '@/core/marks/columns/column'
import { withEntered } from '@/core/marks/columns/entered'
import { evaluateAll, sourceIn, type Evaluated, type PartValue } from '@/core/marks/columns/evaluate'
import { sourceOf } from '@/core/marks/columns/student-source'
import { termMark, type Dates, type TermMark } from '@/core/marks/term-mark'
import { writeEntry } from '@/core/marks/typed-score'
import { cellOf, type CellChange, type GradebookAnswer } from './book'

/** A student's entries as stored, with what was typed on top. */
function withCells(from: ScoreEntries, cells: readonly CellChange[]): ScoreEntries {
  const entries = new Map(from)
  for (const { assignmentId, entry } of cells)
    if (entry) entries.set(assignmentId, entry)
    else entries.delete(assignmentId)
  return entries
}

/**
 * Everybody's entries with what was typed on top. A student whose cells did not change keeps the same object, so
 * that only the rows that changed are calculated and drawn again.
 */
export function useEntries(
  stored: ReadonlyMap<string, ScoreEntries>,
  typed: ReadonlyMap<string, ScoreEntry | null>,
): ReadonlyMap<string, ScoreEntries> {
  const previous = useRef(new Map<string, { from: ScoreEntries; typed: string; entries: ScoreEntries }>())
  return useMemo(() => {
    const typedBy = new Map<string, CellChange[]>()
    for (const [name, entry] of typed) {
      const cell = { ...cellOf(name), entry: entry ?? undefined }
      typedBy.set(cell.studentId, [...(typedBy.get(cell.studentId) ?? []), cell])
    }
    const out = new Map(stored)
    const kept = new Map<string, { from: ScoreEntries; typed: string; entries: ScoreEntries }>()
    for (const [studentId, cells] of typedBy) {
      const from = stored.get(studentId)
      if (!from) continue
      const text = cells.map((c) => `${c.assignmentId}=${writeEntry(c.entry)}`).join()
      const was = previous.current.get(studentId)
      const entries = was?.from === from && was.typed === text ? was.entries : withCells(from, cells)
      kept.set(studentId, { from, typed: text, entries })
      out.set(studentId, entries)
    }
    previous.current = kept
    return out
  }, [stored, typed])
}

/** Term marks, each calculated once for the entries it rests on. */
export function useMarks(
  book: Gradebook | undefined,
  entriesOf: ReadonlyMap<string, ScoreEntries>,
  datesOf: (studentId: string) => Dates,
): (studentId: string) => TermMark | undefined {
  const known = useRef(new WeakMap<ScoreEntries, { book: Gradebook; mark: TermMark }>())
  return useCallback(
    (studentId) => {
      const entries = entriesOf.get(studentId)
      if (!book || !entries) return undefined
      const found = known.current.get(entries)
      if (found?.book === book) return found.mark
      const mark = termMark(book, entries, datesOf(studentId))
      known.current.set(entries, { book, mark })
      return mark
    },
    [book, entriesOf, datesOf],
  )
}

const noValues: ReadonlyMap<string, Evaluated> = new Map()

/** The calculated columns of a student, each calculated once for the entries they rest on. */
export function useColumnValues(
  server: GradebookAnswer,
  entriesOf: ReadonlyMap<string, ScoreEntries>,
  datesOf: (studentId: string) => Dates,
  markOf: (studentId: string) => TermMark | undefined,
  enteredBy: (studentId: string) => ReadonlyMap<string, string>,
): (studentId: string) => ReadonlyMap<string, Evaluated> {
  const { book, columns, terms, term, elsewhere } = server
  const known = useRef(
    new WeakMap<
      ScoreEntries,
      {
        server: GradebookAnswer
        entered: ReadonlyMap<string, string>
        values: ReadonlyMap<string, Evaluated>
      }
    >(),
  )
  const elsewhereBy = useMemo(() => {
    const by = new Map<string, Map<string, PartValue>>()
    for (const { studentId, key, num, den, on } of elsewhere) {
      const own = by.get(studentId) ?? new Map<string, PartValue>()
      own.set(key, { value: { num: BigInt(num), den: BigInt(den) }, on })
      by.set(studentId, own)
    }
    return by
  }, [elsewhere])
  return useCallback(
    (studentId) => {
      const entries = entriesOf.get(studentId)
      const calculated = columns.filter(isCalculated)
      if (!book || !entries || calculated.length === 0) return noValues
      const entered = enteredBy(studentId)
      const found = known.current.get(entries)
      if (found?.server === server && found.entered === entered) return found.values
      const source = sourceOf(
        {
          term,
          periods: terms.find((t) => t.id === term.id)?.periods ?? [],
          book,
          entries,
          dates: datesOf(studentId),
          mark: markOf(studentId),
        },
        withEntered(columns, (id) => entered.get(id), sourceIn(elsewhereBy.get(studentId) ?? new Map())),
      )
      const values = evaluateAll(calculated, source)
      known.current.set(entries, { server, entered, values })
      return values
    },
    [server, book, columns, terms, term, entriesOf, datesOf, markOf, elsewhereBy, enteredBy],
  )
}
