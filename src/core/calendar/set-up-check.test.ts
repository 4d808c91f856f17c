import fc from 'fast-check'
import { countedBy, crossed, type ClassCount } from './set-up-check'

const count = (over: Partial<ClassCount>): ClassCount => ({
  classId: 'a',
  class: '7 Science A',
  subject: 'Science',
  yearGroup: 'Year 7',
  term: 'Autumn',
  teacher: 'Achterberg, Remi',
  students: 28,
  ...over,
})

test('a class with two teachers counts with each and once in the totals', () => {
  const table = crossed([count({}), count({ teacher: 'Quist, Ada' })], 'teacher', 'subject')
  expect(table).toMatchObject({ cells: [[28], [28]], rowTotals: [28, 28], columnTotals: [28], total: 28 })
})

test('where there is no class there is no number, and a class without students has 0', () => {
  const table = crossed(
    [count({ students: 0 }), count({ classId: 'b', subject: 'Art', yearGroup: 'Year 8', teacher: '' })],
    'subject',
    'year group',
  )
  expect(table.cells).toEqual([
    [0, undefined],
    [undefined, 28],
  ])
  expect(crossed([count({ teacher: '' })], 'teacher', 'term').rows).toEqual(['no teacher'])
})

test('exchanging rows and columns exchanges the table and nothing else', () => {
  const one = fc.record({
    classId: fc.constantFrom('a', 'b', 'c'),
    term: fc.constantFrom('Autumn', 'Spring'),
    teacher: fc.constantFrom('', 'Quist, Ada', 'Farouk, Tala'),
  })
  const by = fc.constantFrom(...countedBy)
  // Whatever else is said of a class is the same in all its lines.
  const counts = fc.array(one, { maxLength: 12 }).map((list) =>
    list.map(({ classId, term, teacher }) =>
      count({
        classId,
        class: classId,
        subject: classId === 'a' ? 'Art' : 'Science',
        yearGroup: classId === 'c' ? 'Year 8' : 'Year 7',
        term,
        teacher,
        students: classId.charCodeAt(0),
      }),
    ),
  )
  fc.assert(
    fc.property(counts, by, by, (list, down, across) => {
      const [a, b] = [crossed(list, down, across), crossed(list, across, down)]
      expect(b.rows).toEqual(a.columns)
      expect(b.total).toBe(a.total)
      expect(b.rowTotals).toEqual(a.columnTotals)
      a.rows.forEach((_, i) => a.columns.forEach((__, j) => expect(b.cells[j]?.[i]).toBe(a.cells[i]?.[j])))
    }),
  )
})
