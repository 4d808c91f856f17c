'use client'
import {
  useCallback,
  useEffect,
  useLayoutEffect,
  useRef,
  useState,
  type ClipboardEvent,
  type KeyboardEvent,
  type RefObject,
} from 'react'
import { readPastedColumn } from '@/core/marks/pasted-column'
import { readTypedScore, writeEntry } from '@/core/marks/typed-score'
import { spokenName } from '@/core/people/names'
import type { OpenGradebook } from './use-gradebook'

/** A cell by its row and column; the two columns after the assignments are the term mark and the grade. */
export interface At {
  readonly row: number
  readonly column: number
}

const steps: Readonly<Record<string, readonly [row: number, column: number]>> = {
  ArrowDown: [1, 0],
  ArrowUp: [-1, 0],
  ArrowLeft: [0, -1],
  ArrowRight: [0, 1],
  Enter: [1, 0],
}

/** Where one is in a gradebook's grid, what one is typing, and what each key does. */
export function useGrid(g: OpenGradebook, grid: RefObject<HTMLDivElement | null>, studentId?: string) {
  const [at, setAt] = useState<At>(() => ({
    row: Math.max(
      0,
      g.server.students.findIndex((s) => s.id === studentId),
    ),
    column: 0,
  }))
  const [typed, setTyped] = useState<string>()
  const { students, mayEdit } = g.server
  const assignments = g.book?.assignments ?? []
  const student = students[at.row]
  const assignment = assignments[at.column]
  const editable =
    assignment !== undefined && student !== undefined && mayEdit && !g.isLinked(assignment.id, student.id)
  const say = (text: string, wrong = false) => g.setTold({ text, wrong })

  useEffect(() => grid.current?.focus({ preventScroll: true }), [grid])

  function move(row: number, column: number) {
    setTyped(undefined)
    setAt({
      row: Math.min(students.length - 1, Math.max(0, row)),
      column: Math.min(assignments.length + 1, Math.max(0, column)),
    })
  }

  /** Keeps what is being typed; answers false when it cannot be a score, which then stays to be mended. */
  function keep(text: string | undefined = typed): boolean {
    if (text === undefined || !assignment || !student) return true
    const read = readTypedScore(text, assignment.maxPoints)
    if (!read.ok) {
      say(`${spokenName(student.name)}, ${assignment.name}: ${read.problem}`, true)
      return false
    }
    setTyped(undefined)
    say('')
    g.change(
      [{ assignmentId: assignment.id, studentId: student.id, entry: read.entry }],
      `${student.name}, ${assignment.name}: ${writeEntry(read.entry) || 'empty'}`,
    )
    return true
  }

  function whyNot(): string {
    if (!assignment) return 'Marks are worked out; choose a score to change.'
    if (!mayEdit) return 'Only the class’s teachers change scores.'
    return `${assignment.name} takes its scores from the assessment. Change the answer there and the score follows.`
  }

  function fillDown() {
    if (!assignment || !student || !editable) return say(whyNot(), true)
    const read = typed === undefined ? undefined : readTypedScore(typed, assignment.maxPoints)
    if (!keep()) return
    const from = read?.ok ? read.entry : g.entryAt(assignment.id, student.id)
    if (!from) return say('There is nothing in this cell to fill down.', true)
    const below = students.slice(at.row + 1).filter((s) => g.entryAt(assignment.id, s.id) === undefined)
    const n = g.change(
      below.map((s) => ({ assignmentId: assignment.id, studentId: s.id, entry: from })),
      `${assignment.name}, ${below.length} cells filled down`,
    )
    say(
      n === 0
        ? 'No empty cells below.'
        : `${writeEntry(from)} filled into ${n} empty cells below. Ctrl Z takes it back.`,
    )
  }

  function undo() {
    const back = g.undo()
    if (back)
      move(
        students.findIndex((s) => s.id === back.studentId),
        assignments.findIndex((a) => a.id === back.assignmentId),
      )
  }

  function onKeyDown(event: KeyboardEvent) {
    if (event.target !== grid.current) return
    const command = event.ctrlKey || event.metaKey
    const key = event.key.length === 1 ? event.key.toLowerCase() : event.key
    const act = command ? { z: undo, d: fillDown }[key] : undefined
    if (act) {
      event.preventDefault()
      return act()
    }
    if (command || event.altKey) return
    const step = steps[event.key]
    if (step) {
      event.preventDefault()
      if (keep()) move(at.row + step[0], at.column + step[1])
    } else if (event.key === 'Home' || event.key === 'End') {
      event.preventDefault()
      if (keep()) move(at.row, event.key === 'Home' ? 0 : assignments.length)
    } else if (event.key === 'Tab') {
      if (!keep()) event.preventDefault()
    } else if (event.key === 'Escape') {
      setTyped(undefined)
      say('')
    } else if (event.key === 'Backspace' || event.key === 'Delete') {
      event.preventDefault()
      if (typed) setTyped(typed.slice(0, -1))
      else if (editable) keep('')
    } else if (/^[\d.,a-z-]$/i.test(event.key)) {
      event.preventDefault()
      if (!editable) return say(whyNot(), true)
      setTyped((typed ?? '') + event.key)
    }
  }

  function onPaste(event: ClipboardEvent) {
    event.preventDefault()
    if (!assignment || !editable) return say(whyNot(), true)
    const rows = students.slice(at.row)
    const read = readPastedColumn(
      event.clipboardData.getData('text/plain'),
      rows.map((s) => spokenName(s.name)),
      assignment.maxPoints,
    )
    if (!read.ok) return say(read.problems.join(' '), true)
    const n = g.change(
      rows.map((s, i) => ({ assignmentId: assignment.id, studentId: s.id, entry: read.entries[i] })),
      `${assignment.name}, ${rows.length} cells pasted`,
    )
    say(`${n} cells pasted into ${assignment.name}. Ctrl Z takes it back.`)
  }

  function onCopy(event: ClipboardEvent) {
    event.preventDefault()
    const column = students.map((s) => {
      if (assignment) return writeEntry(g.entryAt(assignment.id, s.id))
      const mark = g.markOf(s.id)
      return (at.column === assignments.length ? mark?.mark : mark?.grade) ?? ''
    })
    event.clipboardData.setData('text/plain', column.join('\n'))
    say(`The column was copied, ${column.length} cells.`)
  }

  // One function for all cells, so that rows need not be drawn again when what it does changes.
  const latest = useRef({ keep, move })
  useLayoutEffect(() => {
    latest.current = { keep, move }
  })
  const onChoose = useCallback((row: number, column: number) => {
    if (latest.current.keep()) latest.current.move(row, column)
  }, [])

  const goTo = useCallback((column: number) => setAt(({ row }) => ({ row, column })), [])

  return { at, typed, goTo, student, assignment, keep, onChoose, onKeyDown, onPaste, onCopy }
}
