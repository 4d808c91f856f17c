import { readTypedCode, type AttendanceCode } from '@/core/attendance/codes'
import type { KeyGroup } from '@/screen/keys'
import type { Reading } from '@/ui/grid/grid'

/** What keys do in a register, and what a typed code can become. */
export const keys: KeyGroup = {
  title: 'Register',
  keys: [
    ['P, L, A, A1 …', 'Enter a code. It is saved at once; A waits, because A1 begins with it'],
    ['Enter', 'Keep a waiting code; otherwise go to the list of codes'],
    ['↑ ↓, Home, End', 'Go to another student'],
    ['.', 'Mark the rest present'],
    [', and letters', 'Go to a name: type its first letters, then Enter'],
    ['/', 'Write a note for the student you have just marked, or for the selected one'],
    ['-', 'Enter minutes late, likewise'],
    ['=', 'End the planned absence of a student who is here'],
    ['Backspace', 'Clear the mark'],
    ['Ctrl Z, Ctrl Y', 'Undo, redo'],
    ['Escape', 'Cancel the code being typed'],
  ],
}
/** Keys that are acts, not codes. */
export const acts = new Set(['.', '/', '-', '=', 'Ctrl+z', 'Ctrl+y', 'Ctrl+Shift+z'])
/** Keys that go to another student of one's own choice. */
export const moves = new Set(['ArrowUp', 'ArrowDown', 'Home', 'End'])
/** What a typed code can become, as the grid asks it. */
export function readingOf(text: string, codes: readonly AttendanceCode[]): Reading {
  const read = readTypedCode(text, codes)
  const why = `${text.toUpperCase()} is not an attendance code. The codes are listed on the right.`
  if (read.kind === 'complete') return { kind: 'whole' }
  if (read.kind === 'unknown') return { kind: 'impossible', why }
  return { kind: 'open', why: read.exact ? undefined : why }
}

/** The code that a typed text stands for. */
export function codeOf(text: string, codes: readonly AttendanceCode[]): AttendanceCode | undefined {
  const read = readTypedCode(text, codes)
  return read.kind === 'complete' ? read.code : read.kind === 'waiting' ? read.exact : undefined
}

/** The codes that most marks have: present, late, absent; those of the school that mean it first. */
export const commonest = (codes: readonly AttendanceCode[]) =>
  (['present', 'late', 'absent without reason'] as const).flatMap(
    (meaning) => codes.find((c) => c.meaning === meaning) ?? [],
  )
