import type { Edit } from '@/ui/saving/outbox'
import { rebase } from './rebase'

const change = (command: string, input: object): Edit => ({
  id: 'e',
  slot: 's',
  command,
  input,
  label: '',
  at: 0,
})

test('a later mark of the same student and session expects the version the first left behind', () => {
  const mark = { studentId: 'ilse', date: '2026-11-23', session: 'morning', expectedVersion: 0 }
  const done = change('attendance.setMarks', mark)
  expect(rebase(change('attendance.setMarks', mark), done, { version: 4 }).input).toMatchObject({
    expectedVersion: 4,
  })
  expect(
    rebase(change('attendance.setMarks', { ...mark, studentId: 'tobias' }), done, { version: 4 }).input,
  ).toMatchObject({ expectedVersion: 0 })
  expect(
    rebase(change('attendance.setMarks', { ...mark, session: 'afternoon' }), done, { version: 4 }).input,
  ).toMatchObject({ expectedVersion: 0 })
})

test('after marking the rest, a mark typed meanwhile builds on it', () => {
  const mark = change('attendance.setMarks', {
    studentId: 'ilse',
    date: 'd',
    session: 'morning',
    expectedVersion: 0,
  })
  const rest = change('attendance.markRest', { date: 'd', session: 'morning' })
  expect(rebase(mark, rest, [{ studentId: 'ilse', version: 1 }]).input).toMatchObject({ expectedVersion: 1 })
  expect(rebase(mark, rest, [{ studentId: 'tobias', version: 1 }])).toBe(mark)
})

test('scores are brought up to date cell by cell', () => {
  const cells = [
    { assignmentId: 'a', studentId: 'x', expectedVersion: 0 },
    { assignmentId: 'a', studentId: 'y', expectedVersion: 2 },
  ]
  const waiting = change('marks.setScores', { classId: 'c', cells })
  const result = rebase(waiting, change('marks.setScores', { classId: 'c', cells: [] }), [
    { assignmentId: 'a', studentId: 'x', version: 5 },
  ])
  expect((result.input as { cells: object[] }).cells).toEqual([{ ...cells[0], expectedVersion: 5 }, cells[1]])
})

test('edits of other commands are left as they are', () => {
  const waiting = change('people.enrol', { a: 1 })
  expect(rebase(waiting, change('attendance.setMarks', {}), { version: 1 })).toBe(waiting)
})
