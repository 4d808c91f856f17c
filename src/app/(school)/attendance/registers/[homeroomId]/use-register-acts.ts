import { hereMeanings, type AttendanceCode } from '@/core/attendance/codes'
import { useAnnounce } from '@/screen/announce'
import { sendCommand } from '@/screen/server'
import type { RegisterInput, useRegister } from './use-register'

/** What is done to the students of a register, each act with what is said of it. */
export function useRegisterActs(
  input: RegisterInput,
  r: ReturnType<typeof useRegister>,
  {
    usable,
    nameOf,
    say,
    warn,
    marked,
    setMarked,
    goTo,
  }: {
    usable: readonly AttendanceCode[]
    nameOf: (studentId: string) => string
    say: (words: string) => void
    warn: (words: string) => void
    /** Who was marked by the last key. */
    marked: string | undefined
    setMarked: (studentId: string) => void
    goTo: (studentId: string) => void
  },
) {
  const announce = useAnnounce()
  const { register, rows, recorded } = r
  const { codes } = register

  function take(studentId: string, code: AttendanceCode) {
    setMarked(studentId)
    const late = code.meaning === 'late' ? {} : { minutesLate: null }
    r.change(studentId, { codeId: code.id, ...late })
    say('')
    const planned = rows.find((x) => x.studentId === studentId)?.planned
    const here = hereMeanings.includes(code.meaning) || code.meaning === 'late'
    announce(
      `${nameOf(studentId)}: ${code.label}${code.meaning === 'late' ? '. Press - to enter minutes' : ''}${planned && here ? `. An absence is planned.${register.mayEndPlans ? ' Press = to end it.' : ''}` : ''}`,
    )
  }
  function markRest() {
    const present = usable.find((c) => c.meaning === 'present')
    const left = rows.filter((row) => row.now.codeId === null && !row.expected).length
    if (!present || left === 0) return say('Everyone on roll already has a mark.')
    recorded?.act(r.markRest, { ...input, codeId: present.id }, `Present for the rest, ${left} students`)
  }
  function undo(
    done: { label: string; keys: readonly Readonly<Record<string, unknown>>[] } | undefined,
    word: string,
  ) {
    if (!done) return say(`Nothing to ${word}.`)
    const [first] = done.keys
    if (first) goTo(String(first.studentId))
    say(`${word === 'undo' ? 'Undone' : 'Done again'}: ${done.label}.`)
  }
  /** The student is here although an absence was planned. */
  async function endPlan(studentId: string) {
    const planned = rows.find((x) => x.studentId === studentId)?.planned
    if (!planned?.id) return say(`No absence is planned for ${nameOf(studentId)}.`)
    if (!register.mayEndPlans)
      return warn(
        'Whoever looks after the register ends planned absences, on the day itself. Ask the office.',
      )
    const { date } = input
    const ended = { date, plannedId: planned.id, expectedVersion: planned.version }
    const result =
      'classId' in input
        ? await sendCommand('attendance.endPlannedInLesson', { classId: input.classId, ...ended })
        : await sendCommand('attendance.endPlanned', { homeroomId: input.homeroomId, ...ended })
    if (result.ok) say(`The planned absence of ${nameOf(studentId)} has ended.`)
    else warn(result.failure.message)
    await r.refresh()
  }
  /** A mark goes on to the next student; what belongs to the mark is still one key away. */
  const meant = (studentId: string) => marked ?? studentId
  function enterMinutes(studentId: string) {
    const row = rows.find((x) => x.studentId === studentId)
    const code = codes.find((c) => c.id === row?.now.codeId)
    if (code?.meaning !== 'late')
      return warn(`Minutes belong to a late mark, and ${nameOf(studentId)} has none.`)
    document.getElementById(`minutes-${studentId}`)?.focus()
  }
  const actions: Readonly<Record<string, (studentId: string) => void>> = {
    '.': markRest,
    '/': (studentId) => document.getElementById(`note-${meant(studentId)}`)?.focus(),
    '-': (studentId) => enterMinutes(meant(studentId)),
    '=': (studentId) => void endPlan(studentId),
    'Ctrl+z': () => undo(recorded?.undo(), 'undo'),
    'Ctrl+y': () => undo(recorded?.redo(), 'redo'),
    'Ctrl+Shift+z': () => undo(recorded?.redo(), 'redo'),
  }
  return { take, undo, actions }
}
