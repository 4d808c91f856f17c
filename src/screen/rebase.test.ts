import type { Edit } from '@/ui/saving/outbox'
import { rebase } from './rebase'

const change = (command: string, input: object): Edit => ({
  id: command,
  slot: command,
  command,
  input,
  label: '',
  at: 0,
})
const register = { homeroomId: 'tern', date: '2026-11-23', session: 'morning' }
const mark = (studentId: string, seen: number, over: object = {}) =>
  change('attendance.setMarks', { ...register, ...over, cells: [{ key: { studentId }, value: 'A1', seen }] })
const seenOf = (e: Edit) => (e.input as { cells: { seen: number }[] }).cells.map((c) => c.seen)
const written = (studentId: string, version: number) => [{ key: { studentId }, version }]

test('a later edit of the same cell starts from the version the first left behind', () => {
  expect(seenOf(rebase(mark('ilse', 0), mark('ilse', 0), written('ilse', 4)))).toEqual([4])
})

test('other students, sessions and classes are left alone', () => {
  const other = mark('tobias', 0)
  expect(rebase(other, mark('ilse', 0), written('ilse', 4))).toBe(other)
  const afternoon = mark('ilse', 0, { session: 'afternoon' })
  expect(rebase(afternoon, mark('ilse', 0), written('ilse', 4))).toBe(afternoon)
})

test('after marking the rest, a mark typed in the meantime builds on it', () => {
  const rest = change('attendance.markRest', { ...register, codeId: 'p' })
  expect(seenOf(rebase(mark('ilse', 0), rest, written('ilse', 7)))).toEqual([7])
  const other = mark('ilse', 0)
  expect(rebase(other, rest, written('tobias', 7))).toBe(other)
})

test('scores are brought up to date cell by cell', () => {
  const cell = (studentId: string, seen: number) => ({
    key: { assignmentId: 'a', studentId },
    value: null,
    seen,
  })
  const waiting = change('marks.setScores', { classId: 'c', cells: [cell('x', 0), cell('y', 2)] })
  const done = change('marks.setScores', { classId: 'c', cells: [cell('x', 0)] })
  const answer = [{ key: { assignmentId: 'a', studentId: 'x' }, version: 5 }]
  expect(seenOf(rebase(waiting, done, answer))).toEqual([5, 2])
  const elsewhere = change('marks.setScores', { classId: 'd', cells: [cell('x', 0)] })
  expect(rebase(elsewhere, done, answer)).toBe(elsewhere)
})

test('a key typed on waits for the version of the one before', () => {
  const key = (seen: number) => change('assessment.setQuestions', { assessmentId: 'a', seen, questions: [] })
  expect(rebase(key(1), key(1), { version: 9 }).input).toMatchObject({ seen: 9 })
})

test('an edit of another command is left alone', () => {
  const waiting = change('reports.setEntries', { roundId: 'r', classId: 'c', cells: [] })
  expect(rebase(waiting, mark('ilse', 0), written('ilse', 1))).toBe(waiting)
})
