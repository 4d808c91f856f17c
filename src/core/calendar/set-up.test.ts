import { missingForRegister, setUpSteps, type SetUpCounts } from './set-up'

const nothing: SetUpCounts = {
  years: 0,
  yearGroups: 0,
  homerooms: 0,
  homeroomsWithoutTeacher: 0,
  subjects: 0,
  classes: 0,
  classesWithoutTeacher: 0,
  teachers: 0,
  students: 0,
  studentsWithoutHomeroom: 0,
}
const titles = (counts: Partial<SetUpCounts>) =>
  missingForRegister(setUpSteps({ ...nothing, ...counts })).map((s) => s.title)

test('a register needs a year, a year group, a homeroom and a student, and nothing else', () => {
  expect(titles({})).toEqual(['Academic year', 'Year groups', 'Homerooms', 'Students'])
  expect(titles({ years: 1, yearGroups: 2, homerooms: 2, homeroomsWithoutTeacher: 2, students: 1 })).toEqual(
    [],
  )
  expect(titles({ years: 1, yearGroups: 2, homerooms: 2 })).toEqual(['Students'])
})

test('a step is done once nothing of it is missing, and says what is', () => {
  const whole = {
    ...nothing,
    years: 1,
    yearGroups: 2,
    homerooms: 2,
    subjects: 9,
    classes: 5,
    teachers: 3,
    students: 40,
  }
  expect(setUpSteps(whole).every((s) => s.done)).toBe(true)
  const some = setUpSteps({ ...whole, classesWithoutTeacher: 1, studentsWithoutHomeroom: 3 })
  expect(some.filter((s) => !s.done).map((s) => s.words)).toEqual([
    '5 classes, 1 without a teacher',
    '40 students, 3 without a homeroom',
  ])
  expect(setUpSteps(nothing).map((s) => s.words)).toContain('no classes')
})
