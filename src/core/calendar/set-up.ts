/** What a school has so far, in numbers, on a date. */
export interface SetUpCounts {
  readonly years: number
  readonly yearGroups: number
  readonly homerooms: number
  readonly homeroomsWithoutTeacher: number
  readonly subjects: number
  readonly classes: number
  readonly classesWithoutTeacher: number
  readonly teachers: number
  readonly students: number
  readonly studentsWithoutHomeroom: number
}

export interface SetUpStep {
  readonly title: string
  /** What there is and what is missing: "24 homerooms, 1 without a teacher". */
  readonly words: string
  readonly done: boolean
  /** Whether the first register can be taken without it. */
  readonly forRegister: boolean
  readonly href: string
  readonly act: string
}

const number = (n: number, one: string, many = `${one}s`) =>
  n === 0 ? `no ${many}` : n === 1 ? `1 ${one}` : `${n} ${many}`
const without = (n: number, what: string) => (n > 0 ? `, ${n} without a ${what}` : '')

/**
 * The steps from an empty school to its first register, in the order in which they are usually taken. The order is
 * advice: each step can be taken at any time once what it names exists.
 */
export function setUpSteps(counts: SetUpCounts): readonly SetUpStep[] {
  const step = (
    title: string,
    words: string,
    done: boolean,
    forRegister: boolean,
    href: string,
    act: string,
  ): SetUpStep => ({ title, words, done, forRegister, href, act })
  const { homerooms, classes, students } = counts
  return [
    step(
      'Academic year',
      number(counts.years, 'academic year'),
      counts.years > 0,
      true,
      '/school/year',
      'Create the academic year',
    ),
    step(
      'Year groups',
      number(counts.yearGroups, 'year group'),
      counts.yearGroups > 0,
      true,
      '/school/structure',
      'Add year groups',
    ),
    step(
      'Homerooms',
      number(homerooms, 'homeroom') + without(counts.homeroomsWithoutTeacher, 'teacher'),
      homerooms > 0 && counts.homeroomsWithoutTeacher === 0,
      homerooms === 0,
      '/school/structure',
      homerooms === 0 ? 'Add homerooms' : 'Choose homeroom teachers',
    ),
    step(
      'Staff',
      number(counts.teachers, 'teacher'),
      counts.teachers > 0,
      false,
      '/school/staff',
      'Add staff',
    ),
    step(
      'Subjects',
      number(counts.subjects, 'subject'),
      counts.subjects > 0,
      false,
      '/school/structure',
      'Add subjects',
    ),
    step(
      'Classes',
      number(classes, 'class', 'classes') + without(counts.classesWithoutTeacher, 'teacher'),
      classes > 0 && counts.classesWithoutTeacher === 0,
      false,
      '/school/structure',
      classes === 0 ? 'Add classes' : 'Choose teachers',
    ),
    step(
      'Students',
      number(students, 'student') + without(counts.studentsWithoutHomeroom, 'homeroom'),
      students > 0 && counts.studentsWithoutHomeroom === 0,
      students === 0,
      students === 0 ? '/people/enrol' : '/people',
      students === 0 ? 'Enrol the first student' : 'Open the list of students',
    ),
  ]
}

/** What must be done before the first register can be taken. */
export const missingForRegister = (steps: readonly SetUpStep[]): readonly SetUpStep[] =>
  steps.filter((s) => !s.done && s.forRegister)
