'use client'
import {
  useCallback,
  useMemo,
  useRef,
  useState,
  type ClipboardEvent,
  type KeyboardEvent,
  type RefObject,
} from 'react'
import { isCalculated } from '@/core/marks/columns/column'
import { readTypedEntry } from '@/core/marks/columns/entered'
import { readPasted, type PasteColumn } from '@/core/marks/pasted'
import type { ScoreEntry } from '@/core/marks/gradebook'
import { readTypedScore, writeEntry } from '@/core/marks/typed-score'
import { spokenName } from '@/core/people/names'
import type { At, Effect, GridRules } from '@/ui/grid/grid'
import { useGrid } from '@/ui/grid/use-grid'
import { useAnnounce } from '@/screen/announce'
import type { useMessage } from '@/screen/message'
import { useBeforeLeaving } from '@/screen/saving'
import type { ShownEntered } from './book'
import { fillOfKey, fillWords, filled, type Fill } from './fill-range'
import type { OpenGradebook } from './use-gradebook'
import { useRange, type Range } from './use-range'

/** The row of the assignments' names, above the students. */
export const headRow = 'head'

const acts = new Set(['Ctrl+z', 'Ctrl+y', 'Ctrl+Shift+z', 'Ctrl+d'])

/** What a text says in a cell. */
type ReadCell =
  | { readonly of: 'assignment'; readonly id: string; readonly entry: ScoreEntry | undefined }
  | { readonly of: 'column'; readonly id: string; readonly entry: string | null }

/** What the keys, the clipboard and the mouse do in a gradebook. */
export function useGradebookKeys(
  g: OpenGradebook,
  grid: RefObject<HTMLDivElement | null>,
  { say, warn }: ReturnType<typeof useMessage>,
  /** Opens an assignment, or a calculated column. */
  onOpen: (id: string) => void,
  studentId?: string,
) {
  const announce = useAnnounce()
  const { students, mayEdit } = g.server
  const assignments = useMemo(() => g.book?.assignments ?? [], [g.book])
  const { columns } = g.server
  const columnOf = (id: string) => columns.find((c) => c.id === id)
  const entryColumn = (id: string) => {
    const column = columnOf(id)
    return column && !isCalculated(column) ? column : undefined
  }
  const enteredAt = (columnId: string, studentId: string) =>
    g.entered.recorded?.valueNow({ columnId, studentId }) ?? null
  // Scores and columns entered by hand are saved apart; undo takes back the last of either.
  const lastSaved = useRef<('scores' | 'entries')[]>([])
  const undone = useRef<('scores' | 'entries')[]>([])
  const noteSaved = (what: 'scores' | 'entries') => {
    lastSaved.current.push(what)
    undone.current = []
  }
  const studentOf = (id: string) => students.find((s) => s.id === id)
  const assignmentOf = (id: string) => assignments.find((a) => a.id === id)

  const shape = useMemo(
    () => ({
      rows: [headRow, ...students.map((s) => s.id)],
      columns: [...assignments.map((a) => a.id), ...columns.map((c) => c.id), 'mark', 'grade'],
      end: 'mark',
    }),
    [students, assignments, columns],
  )
  const rules: GridRules = {
    acts,
    characters: /[\d.,/\p{L}-]/iu,
    read: (text, at) => {
      const [student, assignment] = [studentOf(at.row), assignmentOf(at.column)]
      const column = entryColumn(at.column)
      if (student && column) {
        const read = readTypedEntry(text, column)
        return {
          kind: 'open',
          why: read.ok ? undefined : `${spokenName(student.name)}, ${column.name}: ${read.problem}`,
        }
      }
      if (!student || !assignment) return { kind: 'open' }
      const read = readTypedScore(text, assignment.maxPoints, g.entryAt(assignment.id, student.id))
      return {
        kind: 'open',
        why: read.ok ? undefined : `${spokenName(student.name)}, ${assignment.name}: ${read.problem}`,
      }
    },
    locked: (at) => {
      const assignment = assignmentOf(at.column)
      if (at.row === headRow) return 'Press Enter to open this column. Scores are entered in the rows below.'
      if (entryColumn(at.column)) return mayEdit ? undefined : 'Only the class’s teachers can change this.'
      const column = columnOf(at.column)
      if (column) return `${column.name} is calculated. Its parts can be changed, or the scores it rests on.`
      if (!assignment) return 'Term marks are calculated. Select a score to change it.'
      if (!mayEdit) return 'Only the class’s teachers can change scores.'
      if (g.isLinked(assignment.id, at.row))
        return `The scores of ${assignment.name} come from the assessment. Change the answers there; the scores follow.`
      return undefined
    },
  }

  function changeScores(...asked: Parameters<typeof g.change>) {
    const n = g.change(...asked)
    if (n > 0) noteSaved('scores')
    return n
  }
  function keep(at: At, text: string) {
    const [student, assignment] = [studentOf(at.row), assignmentOf(at.column)]
    const column = entryColumn(at.column)
    if (student && column) {
      const read = readTypedEntry(text, column)
      if (!read.ok) return
      say('')
      const words = `${student.name}, ${column.name}: ${read.value ?? 'empty'}`
      const saved = g.entered.recorded?.save(
        [{ key: { columnId: column.id, studentId: student.id }, value: read.value }],
        words,
      )
      if (saved) noteSaved('entries')
      return announce(words)
    }
    if (!student || !assignment) return
    const read = readTypedScore(text, assignment.maxPoints, g.entryAt(assignment.id, student.id))
    if (!read.ok) return
    say('')
    const words = writeEntry(read.entry) || 'empty'
    changeScores(
      [{ assignmentId: assignment.id, studentId: student.id, entry: read.entry }],
      `${student.name}, ${assignment.name}: ${words}`,
    )
    announce(`${spokenName(student.name)}, ${assignment.name}: ${words}`)
  }
  function fillDown(at: At) {
    const why = rules.locked?.(at)
    if (why) return warn(why)
    const column = entryColumn(at.column)
    if (column) return fillEntries(column, at)
    const assignment = assignmentOf(at.column)
    const from = assignment && g.entryAt(assignment.id, at.row)
    if (!from) return warn('This cell is empty, so there is nothing to fill down.')
    const below = students
      .slice(students.findIndex((s) => s.id === at.row) + 1)
      .filter((s) => g.entryAt(assignment.id, s.id) === undefined)
    const n = changeScores(
      below.map((s) => ({ assignmentId: assignment.id, studentId: s.id, entry: from })),
      `${assignment.name}: ${writeEntry(from)} in ${below.length} empty cells`,
    )
    say(
      n === 0
        ? 'There are no empty cells below.'
        : `${writeEntry(from)} entered in ${n} empty cells below. Press Ctrl Z to undo.`,
    )
  }
  function fillEntries({ id: columnId, name }: ShownEntered, at: At) {
    const value = enteredAt(columnId, at.row)
    if (value === null) return warn('This cell is empty, so there is nothing to fill down.')
    const below = students
      .slice(students.findIndex((s) => s.id === at.row) + 1)
      .filter((s) => enteredAt(columnId, s.id) === null)
    const n = g.entered.recorded?.save(
      below.map((s) => ({ key: { columnId, studentId: s.id }, value })),
      `${name}: ${value} in ${below.length} empty cells`,
    )
    if (n) noteSaved('entries')
    say(
      n
        ? `${value} entered in ${n} empty cells below. Press Ctrl Z to undo.`
        : 'There are no empty cells below.',
    )
  }
  function step(word: 'undo' | 'redo') {
    const [from, to] = word === 'undo' ? [lastSaved, undone] : [undone, lastSaved]
    const what = from.current.pop() ?? 'scores'
    const done = what === 'entries' ? g.entered.recorded?.[word]() : g.step(word)
    if (!done) return say(`Nothing to ${word}.`)
    to.current.push(what)
    selection.clear()
    const first = done.keys[0] as { studentId?: string; assignmentId?: string; columnId?: string } | undefined
    if (first) cursor.goTo({ row: first.studentId ?? '', column: first.assignmentId ?? first.columnId ?? '' })
    say(`${word === 'undo' ? 'Undone' : 'Done again'}: ${done.label}.`)
  }
  const actions: Readonly<Record<string, (at: At) => void>> = {
    'Ctrl+z': () => step('undo'),
    'Ctrl+y': () => step('redo'),
    'Ctrl+Shift+z': () => step('redo'),
    'Ctrl+d': fillDown,
  }
  function onEffect(effect: Effect) {
    if (effect.kind === 'refuse') return warn(effect.why)
    const { column: id, row: studentId } = effect.at
    const isEntry = entryColumn(id) !== undefined
    if (effect.kind === 'begin') {
      if (isEntry) g.entered.recorded?.begin({ columnId: id, studentId })
      else g.recorded?.begin({ assignmentId: id, studentId })
    } else if (effect.kind === 'cancel') {
      if (isEntry) g.entered.recorded?.cancel({ columnId: id, studentId })
      else g.recorded?.cancel({ assignmentId: id, studentId })
      say('')
    } else if (effect.kind === 'clear') keep(effect.at, '')
    else if (effect.kind === 'keep') keep(effect.at, effect.text)
    else actions[effect.key]?.(effect.at)
  }
  const cursor = useGrid(shape, rules, onEffect, () => [
    // Below the head.
    1 +
      Math.max(
        0,
        students.findIndex((s) => s.id === studentId),
      ),
    0,
  ])
  useBeforeLeaving(() => void cursor.end())
  const { at, onKeyDown } = cursor
  const selection = useRange(shape, at, headRow)
  /** For fingers: whether the next tap reaches to a further cell, as a press with Shift does. */
  const [reaches, setReaches] = useState(false)

  /** How a text is read in a cell: as a score, or what a column entered by hand holds; why not elsewhere. */
  function readAt(id: string, text: string): ReturnType<PasteColumn<ReadCell>['read']> {
    const assignment = assignmentOf(id)
    const column = entryColumn(id)
    if (column) {
      const read = readTypedEntry(text, column)
      return read.ok ? { ok: true, value: { of: 'column', id, entry: read.value } } : read
    }
    if (!assignment) return { ok: false, problem: `${columnOf(id)?.name ?? 'This'} is calculated.` }
    const read = readTypedScore(text, assignment.maxPoints)
    // Missing or excused can be entered there, too.
    if (assignment.assessmentId && read.ok && read.entry?.kind === 'points')
      return { ok: false, problem: `The scores of ${assignment.name} come from the assessment.` }
    return read.ok ? { ok: true, value: { of: 'assignment', id, entry: read.entry } } : read
  }
  /** Enters what was read in several cells, in one step for an undo of each kind. */
  function enter(
    cells: readonly { readonly studentId: string; readonly value: ReadCell }[],
    label: string,
  ): number {
    const entries = cells.flatMap(({ studentId, value }) =>
      value.of === 'column' ? [{ key: { columnId: value.id, studentId }, value: value.entry }] : [],
    )
    const changes = cells.flatMap(({ studentId, value }) =>
      value.of === 'assignment' ? [{ assignmentId: value.id, studentId, entry: value.entry }] : [],
    )
    const saved = entries.length > 0 ? (g.entered.recorded?.save(entries, label) ?? 0) : 0
    if (saved > 0) noteSaved('entries')
    return saved + (changes.length > 0 ? changeScores(changes, label) : 0)
  }
  function onPaste(event: ClipboardEvent) {
    event.preventDefault()
    const why = rules.locked?.(at)
    if (why) return warn(why)
    const first = selection.range?.rows[0] ?? at.row
    const from = students.findIndex((s) => s.id === first)
    const start = shape.columns.indexOf(selection.range?.columns[0] ?? at.column)
    const ids = shape.columns.slice(start).filter((id) => assignmentOf(id) ?? entryColumn(id))
    const read = readPasted(event.clipboardData.getData('text/plain'), {
      students,
      columns: ids.map((id): PasteColumn<ReadCell> => ({
        name: assignmentOf(id)?.name ?? columnOf(id)?.name ?? '',
        read: (text) => readAt(id, text),
      })),
      from,
      rows: selection.range?.rows.length ?? students.length - from,
    })
    if (!read.ok) return warn(read.problems.join(' '))
    const n = enter(
      read.cells.map(({ row, value }) => ({ studentId: students[row]?.id ?? '', value })),
      `${read.cells.length} pasted values`,
    )
    selection.clear()
    say(
      n === 0
        ? 'What was pasted is already there.'
        : `${n} ${n === 1 ? 'value' : 'values'} pasted${read.isByName ? ', by the names in front' : ''}. Press Ctrl Z to undo.`,
    )
  }
  /** Fills the chosen cells, all or none. */
  function fillRange(range: Range, fill: Fill) {
    if (cursor.typed !== undefined) cursor.pressKey('Escape')
    const cells = filled(range, fill, textAt).map(({ row, column, text }) => ({
      studentId: row,
      read: readAt(column, text),
    }))
    const problem = cells.find(({ read }) => !read.ok)?.read
    if (problem && !problem.ok) return warn(`${problem.problem} Nothing was changed.`)
    const words = fillWords(fill)
    const n = enter(
      cells.flatMap(({ studentId, read }) => (read.ok ? [{ studentId, value: read.value }] : [])),
      `${cells.length} cells: ${words}`,
    )
    say(`${n} ${n === 1 ? 'cell' : 'cells'} ${words}. Press Ctrl Z to undo.`)
  }
  function textAt(studentId: string, id: string): string {
    if (assignmentOf(id)) return writeEntry(g.entriesOf.get(studentId)?.get(id))
    if (entryColumn(id)) return enteredAt(id, studentId) ?? g.entered.enteredBy(studentId).get(id) ?? ''
    const value = g.columnsOf(studentId).get(id)
    if (value) return value.text ?? ''
    return g.markOf(studentId)?.[id === 'grade' ? 'grade' : 'mark'] ?? ''
  }
  function onCopy(event: ClipboardEvent) {
    event.preventDefault()
    const { range } = selection
    const rows = range?.rows ?? students.map((s) => s.id)
    const lines = rows.map((row) => (range?.columns ?? [at.column]).map((id) => textAt(row, id)).join('\t'))
    event.clipboardData.setData('text/plain', lines.join('\n'))
    say(
      range ? `${rows.length * range.columns.length} cells copied.` : `Column copied, ${lines.length} cells.`,
    )
  }
  const { goTo } = cursor
  const onChoose = useCallback((row: string, column: string) => void goTo({ row, column }), [goTo])
  const onGridKey = useCallback(
    (event: KeyboardEvent) => {
      if (event.target !== grid.current) return
      const { range } = selection
      const fill = range && mayEdit ? fillOfKey(event, cursor.typed) : undefined
      if (range && fill) {
        event.preventDefault()
        return fillRange(range, fill)
      }
      const reached =
        event.shiftKey && !event.ctrlKey && !event.metaKey ? selection.reach(event.key) : undefined
      if (reached && at.row !== headRow) {
        event.preventDefault()
        selection.begin()
        return void goTo(reached)
      }
      const moves = /^(Arrow|Home$|End$|Enter$|Tab$|Page)/.test(event.key)
      if (event.key === 'Escape' && cursor.typed === undefined) selection.clear()
      else if (moves && !(event.ctrlKey || event.metaKey)) selection.clear()
      const field = document.querySelector<HTMLElement>('[data-find-student]')
      if (event.key === '/' && cursor.typed === undefined && field) {
        event.preventDefault()
        return field.focus()
      }
      if (event.key === 'F2') {
        event.preventDefault()
        void cursor.end()
        return document.querySelector<HTMLElement>('[data-score-note]')?.focus()
      }
      const isHead = at.row === headRow && mayEdit && (event.key === 'Enter' || event.key === ' ')
      const opened = isHead ? (assignmentOf(at.column) ?? columnOf(at.column)) : undefined
      if (opened) {
        event.preventDefault()
        return onOpen(opened.id)
      }
      onKeyDown(event)
    },
    [grid, onKeyDown, at, cursor.typed, selection, mayEdit, g, onOpen], // eslint-disable-line react-hooks/exhaustive-deps -- what it calls is of these
  )
  // The margin goes on explaining the student one came from while the cursor is in the head.
  const lastStudent = useRef(students[0]?.id ?? '')
  if (at.row !== headRow) lastStudent.current = at.row
  /** A press with the mouse: with Shift the range reaches to it. */
  const { begin: beginRange, clear: clearRange } = selection
  const onPressing = useCallback(
    (withShift: boolean) => (withShift || reaches ? beginRange() : clearRange()),
    [beginRange, clearRange, reaches],
  )
  return {
    at,
    range: selection.range,
    onPressing,
    typed: cursor.typed,
    student: studentOf(at.row === headRow ? lastStudent.current : at.row),
    assignment: assignmentOf(at.column),
    column: columnOf(at.column),
    end: cursor.end,
    goTo,
    onChoose,
    onKeyDown: onGridKey,
    /** A key, pressed by a button; in several cells at once where they are chosen. */
    onPress: (key: string) => {
      const { range } = selection
      if (!range || key.startsWith('Arrow') || key === 'Enter') return void cursor.pressKey(key)
      fillRange(range, key === 'Backspace' ? 'empty' : { text: key })
    },
    onFill: (fill: Fill) => selection.range && fillRange(selection.range, fill),
    reaches,
    onReaching: (next: boolean) => {
      setReaches(next)
      if (!next) selection.clear()
    },
    /** What a field over the cell does, where there is no keyboard. */
    touch: useMemo(() => ({ press: cursor.pressKey, onKeyDown }), [cursor.pressKey, onKeyDown]),
    onPaste,
    onCopy,
  }
}
