'use client'
import { useCallback, useMemo, useRef, type ClipboardEvent, type KeyboardEvent, type RefObject } from 'react'
import { isCalculated } from '@/core/marks/columns/column'
import { readTypedEntry } from '@/core/marks/columns/entered'
import { readPastedColumn } from '@/core/marks/pasted-column'
import { readTypedScore, writeEntry } from '@/core/marks/typed-score'
import { spokenName } from '@/core/people/names'
import type { At, Effect, GridRules } from '@/ui/grid/grid'
import { useGrid } from '@/ui/grid/use-grid'
import { useAnnounce } from '@/screen/announce'
import type { useMessage } from '@/screen/message'
import { useBeforeLeaving } from '@/screen/saving'
import type { OpenGradebook, ShownEntered } from './use-gradebook'

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
    characters: /[\d.,\p{L}-]/iu,
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
    const done = what === 'entries' ? g.entered.recorded?.[word]() : g.recorded?.[word]()
    if (!done) return say(`Nothing to ${word}.`)
    to.current.push(what)
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

  function pasteEntries(column: ShownEntered, text: string) {
    const rows = students.slice(students.findIndex((s) => s.id === at.row))
    const lines = text.replace(/\r?\n$/, '').split(/\r?\n/)
    if (lines.length > rows.length)
      return warn(
        `There are ${lines.length} lines to paste and ${rows.length} students from here down. Nothing was pasted.`,
      )
    const read = lines.map((line) => readTypedEntry(line, column))
    const wrong = read.flatMap((r, i) => (r.ok ? [] : [`${spokenName(rows[i]?.name ?? '')}: ${r.problem}`]))
    if (wrong.length > 0) return warn(`${wrong.join(' ')} Nothing was pasted.`)
    const n = g.entered.recorded?.save(
      read.flatMap((r, i) =>
        r.ok ? [{ key: { columnId: column.id, studentId: rows[i]?.id ?? '' }, value: r.value }] : [],
      ),
      `${column.name}: ${lines.length} pasted`,
    )
    if (n) noteSaved('entries')
    say(n ? `${n} pasted into ${column.name}. Press Ctrl Z to undo.` : 'What was pasted is already there.')
  }
  function onPaste(event: ClipboardEvent) {
    event.preventDefault()
    const assignment = assignmentOf(at.column)
    const why = rules.locked?.(at)
    const column = entryColumn(at.column)
    if (column && !why) return pasteEntries(column, event.clipboardData.getData('text/plain'))
    if (!assignment || why) return warn(why ?? '')
    const rows = students.slice(students.findIndex((s) => s.id === at.row))
    const read = readPastedColumn(
      event.clipboardData.getData('text/plain'),
      rows.map((s) => spokenName(s.name)),
      assignment.maxPoints,
    )
    if (!read.ok) return warn(read.problems.join(' '))
    const n = changeScores(
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
      if (entryColumn(at.column)) return enteredAt(at.column, s.id) ?? ''
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
