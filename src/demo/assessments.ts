import { schoolDays } from '@/core/calendar/school-year'
import { scienceStandards } from './heat-and-ice'
import type { DemoCategory } from './marks'
import { placesOf, type DemoPeople } from './people'
import type { Random } from './random'
import type { DemoStructure } from './structure'

const key = 'BADCBDACBDCA'

/** Learning standards, and one assessment that has been sat, with answers, linked into its class's gradebook. */
export function assessmentRows(
  school: { id: string },
  s: DemoStructure,
  { students }: DemoPeople,
  categories: readonly DemoCategory[],
  random: Random,
): readonly (readonly [string, readonly object[]])[] {
  const own = { school_id: school.id }
  const standards = scienceStandards.map(([code, statement]) => ({
    ...own,
    id: random.uuid(),
    subject_id: s.subjects.get('Science'),
    code,
    statement,
  }))
  const schoolClass = s.classes.find((c) => c.name === '8 Science A')
  const days = schoolDays(s.year, s.year.firstDay, s.today)
  const givenOn = days.at(-8)
  const term = s.year.terms.find(
    (t) => givenOn !== undefined && t.firstDay <= givenOn && givenOn <= t.lastDay,
  )
  const tests = categories.find(
    (c) => c.classId === schoolClass?.id && c.termId === term?.id && c.name === 'Unit tests',
  )
  if (!schoolClass || !givenOn || !term || !tests) return [['learning_standard', standards]]

  const assessmentId = random.uuid()
  const mine = { ...own, assessment_id: assessmentId }
  const hardness = [...key].map(() => 0.9 * random.normal())
  const questions = [...key].map((letter, i) => ({
    ...mine,
    id: random.uuid(),
    position: i + 1,
    choices: 4,
    key: letter,
    points: i < 8 ? 1 : 2,
    standard_id: standards[i % 2 === 0 ? 3 : 4]?.id,
    page: null,
  }))
  const sheets: object[] = []
  const answers: object[] = []
  const roll = students.filter((x) =>
    placesOf(s, x).some(
      (p) => p.classId === schoolClass.id && p.from <= givenOn && (p.until === null || givenOn < p.until),
    ),
  )
  for (const student of roll) {
    if (random.next() < 0.06) continue
    sheets.push({
      ...mine,
      student_id: student.id,
      version: 1,
      changed_by: `${schoolClass.teacher.given} ${schoolClass.teacher.family}`,
      changed_at: `${givenOn}T16:00:00Z`,
    })
    questions.forEach((q, i) => {
      // A student knows the answer by ability against the question's hardness (logistic), else takes a likely distractor.
      const knows = random.next() < 1 / (1 + Math.exp(-(1.1 + 1.3 * student.ability - (hardness[i] ?? 0))))
      const wrong = 'ABCD'.replace(q.key, '')
      const choice = knows ? q.key : random.next() < 0.55 ? wrong[i % 3] : random.pick([...wrong])
      if (knows || random.next() > 0.03)
        answers.push({ ...mine, student_id: student.id, question_id: q.id, choice })
    })
  }
  return [
    ['learning_standard', standards],
    [
      'assessment',
      [
        {
          ...own,
          id: assessmentId,
          name: 'Fair tests',
          subject_id: s.subjects.get('Science'),
          owner_id: schoolClass.teacher.id,
          document_id: null,
          given_on: givenOn,
          secure_from: 80,
          nearly_from: 60,
          version: 1,
          created_at: `${givenOn}T08:00:00Z`,
        },
      ],
    ],
    ['assessment_class', [{ ...mine, class_id: schoolClass.id }]],
    ['question', questions],
    ['answer_sheet', sheets],
    ['answer', answers],
    [
      'assignment',
      [
        {
          ...own,
          id: random.uuid(),
          class_id: schoolClass.id,
          term_id: term.id,
          category_id: tests.id,
          name: 'Fair tests',
          max_points: 16,
          due_on: givenOn,
          assessment_id: assessmentId,
          counts: true,
          version: 1,
        },
      ],
    ],
  ]
}
