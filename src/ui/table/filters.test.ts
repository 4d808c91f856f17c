import type { Column } from './column'
import { onlyChosen } from './filters'

interface Student {
  readonly name: string
  readonly homeroom: string | null
  readonly groups: readonly string[]
}
const students: readonly Student[] = [
  { name: 'Ilse', homeroom: '7 Tern', groups: ['Choir', 'Language learner'] },
  { name: 'Emeka', homeroom: '7 Tern', groups: [] },
  { name: 'Oona', homeroom: null, groups: ['Choir'] },
]
const column = (id: string, choices?: (s: Student) => readonly string[]): Column<Student> => ({
  id,
  title: id,
  choices,
  cell: () => null,
})
const columns = [
  column('name'),
  column('homeroom', (s) => [s.homeroom ?? 'no homeroom']),
  column('groups', (s) => s.groups),
]
const named = (only: Record<string, string>) => onlyChosen(students, columns, only).map((s) => s.name)

test('rows have the kind chosen in every column; one of several is enough', () => {
  expect(named({})).toEqual(['Ilse', 'Emeka', 'Oona'])
  expect(named({ homeroom: '7 Tern' })).toEqual(['Ilse', 'Emeka'])
  expect(named({ groups: 'Choir' })).toEqual(['Ilse', 'Oona'])
  expect(named({ homeroom: '7 Tern', groups: 'Choir' })).toEqual(['Ilse'])
  expect(named({ homeroom: 'no homeroom' })).toEqual(['Oona'])
})

test('a kind that nobody has leaves nothing; an unknown column narrows nothing', () => {
  expect(named({ homeroom: '9 Tern' })).toEqual([])
  expect(named({ shoe: '42', name: 'Ilse', groups: '' })).toEqual(['Ilse', 'Emeka', 'Oona'])
})
