'use client'
import { useCallback, useMemo, useRef, type ClipboardEvent, type KeyboardEvent, type RefObject } from 'react'
import { readPastedColumn } from '@/core/marks/pasted-column'
import { readTypedScore, writeEntry } from '@/core/marks/typed-score'
import { spokenName } from '@/core/people/names'
import type { At, Effect, GridRules } from '@/ui/grid/grid'
import { useGrid } from '@/ui/grid/use-grid'
import { useAnnounce } from '@/screen/announce'
import type { useMessage } from '@/screen/message'
import { useBeforeLeaving } from '@/screen/saving'
import type { OpenGradebook } from './use-gradebook'

/** The row of the assignments' names, above the students. */
export const headRow = 'head'

const acts = new Set(['Ctrl+z', 'Ctrl+y', 'Ctrl+Shift+z', 'Ctrl+d'])

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
    characters: /[\d.,a-z-]/i,
    read: (text, at) => {
      const [student, assignment] = [studentOf(at.row), assignmentOf(at.column)]
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
      const column = columnOf(at.column)
      if (column) return `${column.name} is calculated. Its parts can be changed, or the scores it rests on.`
      if (!assignment) return 'Term marks are calculated. Select a score to change it.'
      if (!mayEdit) return 'Only the class’s teachers can change scores.'
      if (g.isLinked(assignment.id, at.row))
        return `The scores of ${assignment.name} come from the assessment. Change the answers there; the scores follow.`
      return undefined
    },
  }

  function keep(at: At, text: string) {
    const [student, assignment] = [studentOf(at.row), assignmentOf(at.column)]
    if (!student || !assignment) return
    const read = readTypedScore(text, assignment.maxPoints, g.entryAt(assignment.id, student.id))
    if (!read.ok) return
    say('')
    const words = writeEntry(read.entry) || 'empty'
    g.change(
      [{ assignmentId: assignment.id, studentId: student.id, entry: read.entry }],
      `${student.name}, ${assignment.name}: ${words}`,
    )
    announce(`${spokenName(student.name)}, ${assignment.name}: ${words}`)
  }
  function fillDown(at: At) {
    const why = rules.locked?.(at)
    if (why) return warn(why)
    const assignment = assignmentOf(at.column)
    const from = assignment && g.entryAt(assignment.id, at.row)
    if (!from) return warn('This cell is empty, so there is nothing to fill down.')
    const below = students
      .slice(students.findIndex((s) => s.id === at.row) + 1)
      .filter((s) => g.entryAt(assignment.id, s.id) === undefined)
    const n = g.change(
      below.map((s) => ({ assignmentId: assignment.id, studentId: s.id, entry: from })),
      `${assignment.name}: ${writeEntry(from)} in ${below.length} empty cells`,
    )
    say(
      n === 0
        ? 'There are no empty cells below.'
        : `${writeEntry(from)} entered in ${n} empty cells below. Press Ctrl Z to undo.`,
    )
  }
  function step(done: ReturnType<NonNullable<typeof g.recorded>['undo']>, word: 'undo' | 'redo') {
    if (!done) return say(`Nothing to ${word}.`)
    const [first] = done.keys
    if (first) cursor.goTo({ row: String(first.studentId), column: String(first.assignmentId) })
    say(`${word === 'undo' ? 'Undone' : 'Done again'}: ${done.label}.`)
  }
  const actions: Readonly<Record<string, (at: At) => void>> = {
    'Ctrl+z': () => step(g.recorded?.undo(), 'undo'),
    'Ctrl+y': () => step(g.recorded?.redo(), 'redo'),
    'Ctrl+Shift+z': () => step(g.recorded?.redo(), 'redo'),
    'Ctrl+d': fillDown,
  }
  function onEffect(effect: Effect) {
    if (effect.kind === 'refuse') return warn(effect.why)
    const key = { assignmentId: effect.at.column, studentId: effect.at.row }
    if (effect.kind === 'begin') g.recorded?.begin(key)
    else if (effect.kind === 'cancel') {
      g.recorded?.cancel(key)
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

  function onPaste(event: ClipboardEvent) {
    event.preventDefault()
    const assignment = assignmentOf(at.column)
    const why = rules.locked?.(at)
    if (!assignment || why) return warn(why ?? '')
    const rows = students.slice(students.findIndex((s) => s.id === at.row))
    const read = readPastedColumn(
      event.clipboardData.getData('text/plain'),
      rows.map((s) => spokenName(s.name)),
      assignment.maxPoints,
    )
    if (!read.ok) return warn(read.problems.join(' '))
    const n = g.change(
      rows.map((s, i) => ({ assignmentId: assignment.id, studentId: s.id, entry: read.entries[i] })),
      `${assignment.name}: ${rows.length} pasted scores`,
    )
    say(
      n === 0
        ? 'The pasted scores are already there.'
        : `${n} scores pasted into ${assignment.name}. Press Ctrl Z to undo.`,
    )
  }
  function onCopy(event: ClipboardEvent) {
    event.preventDefault()
    const assignment = assignmentOf(at.column)
    const column = students.map((s) => {
      if (assignment) return writeEntry(g.entryAt(assignment.id, s.id))
      const value = g.columnsOf(s.id).get(at.column)
      if (value) return value.text ?? ''
      return g.markOf(s.id)?.[at.column === 'grade' ? 'grade' : 'mark'] ?? ''
    })
    event.clipboardData.setData('text/plain', column.join('\n'))
    say(`Column copied, ${column.length} cells.`)
  }
  const { goTo } = cursor
  const onChoose = useCallback((row: string, column: string) => void goTo({ row, column }), [goTo])
  const onGridKey = useCallback(
    (event: KeyboardEvent) => {
      if (event.target !== grid.current) return
      const isHead = at.row === headRow && mayEdit && (event.key === 'Enter' || event.key === ' ')
      const opened = isHead ? (assignmentOf(at.column) ?? columnOf(at.column)) : undefined
      if (opened) {
        event.preventDefault()
        return onOpen(opened.id)
      }
      onKeyDown(event)
    },
    [grid, onKeyDown, at, mayEdit, assignments, columns, onOpen], // eslint-disable-line react-hooks/exhaustive-deps -- assignmentOf is of the assignments, columnOf of the columns
  )
  // The margin goes on explaining the student one came from while the cursor is in the head.
  const lastStudent = useRef(students[0]?.id ?? '')
  if (at.row !== headRow) lastStudent.current = at.row
  return {
    at,
    typed: cursor.typed,
    student: studentOf(at.row === headRow ? lastStudent.current : at.row),
    assignment: assignmentOf(at.column),
    column: columnOf(at.column),
    end: cursor.end,
    goTo,
    onChoose,
    onKeyDown: onGridKey,
    /** A key, pressed by a button. */
    onPress: (key: string) => void cursor.pressKey(key),
    /** What a field over the cell does, where there is no keyboard. */
    touch: useMemo(() => ({ press: cursor.pressKey, onKeyDown }), [cursor.pressKey, onKeyDown]),
    onPaste,
    onCopy,
  }
}
