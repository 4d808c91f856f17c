import { kindOf, type Keyed } from '@/core/assessment/kinds'
import { keyPoints } from '@/core/assessment/scoring'
import { usualLevels } from '@/core/assessment/levels'
import { schoolDays, termShownOn } from '@/core/calendar/school-year'
import {
  frameworks,
  plans,
  type PlannedAssessment,
  type PlannedQuestion,
  type PlannedShare,
} from './assessment-plans'
import type { DemoCategory } from './marks'
import { placesOf, type DemoPeople } from './people'
import { seeded, type Random } from './random'
import type { DemoClass, DemoStructure } from './structure'

type Row = Readonly<Record<string, unknown>>

const tables = [
  'standard_set',
  'standard',
  'assessment',
  'assessment_share',
  'form',
  'sitting',
  'sitting_class',
  'key_version',
  'question',
  'question_key',
  'question_standard',
  'assessment_level',
  'attempt',
  'response',
  'response_points',
  'assignment',
  'mark_column',
  'mark_column_part',
  'mark_column_level',
] as const

interface Question extends PlannedQuestion {
  readonly id: string
}

interface Given {
  readonly id: string
  readonly name: string
  readonly schoolClass: DemoClass
  readonly givenOn: string
  readonly tags?: readonly string[]
  readonly description?: string
  readonly seriesId?: string
  readonly questions: readonly Question[]
}

/** A wrong answer of a kind, as a student would give it. */
function wrongAnswer({ kind, content }: Keyed, random: Random): unknown {
  switch (kind) {
    case 'one choice':
      return random.pick(content.choices.filter((c) => c !== content.right))
    case 'several choices': {
      const left = random.pick(content.right)
      const added = random.pick(content.choices.filter((c) => !content.right.includes(c)))
      const chosen = content.choices.filter(
        (c) => (content.right.includes(c) && c !== left) || (c === added && random.next() < 0.5),
      )
      return chosen.length > 0 ? chosen : [added]
    }
    case 'true or false':
      return content.right !== true
    case 'number':
      return String(1 + random.below(40))
    case 'short text':
      return random.pick(['wave', 'current', 'salt', 'wind'])
    case 'written':
      return ''
  }
}

/** The right answer of a kind, written as students write it. */
function rightAnswer({ kind, content }: Keyed, random: Random): unknown {
  switch (kind) {
    case 'one choice':
    case 'several choices':
    case 'true or false':
      return content.right
    case 'number': {
      const written = random.next() < 0.3 ? (content.right ?? '').replace('.', ',') : (content.right ?? '')
      return content.unit !== null && random.next() < 0.4 ? `${written} ${content.unit}` : written
    }
    case 'short text':
      return random.next() < 0.3 ? (content.accepted[0] ?? '').toUpperCase() : random.pick(content.accepted)
    case 'written':
      return ''
  }
}

/** Collects the rows of assessments, table by table. */
class Rows {
  readonly of = new Map<string, Row[]>(tables.map((table) => [table, []]))

  constructor(private readonly schoolId: string) {}

  add(table: (typeof tables)[number], row: Row): void {
    this.of.get(table)?.push({ school_id: this.schoolId, ...row })
  }

  /** An assessment with its key, given to one class. */
  assessment(
    { id, name, schoolClass, givenOn, tags = [], description, seriesId, questions }: Given,
    subjectId: string,
    standards: ReadonlyMap<string, string>,
  ) {
    const mine = { assessment_id: id }
    const teacher = `${schoolClass.teacher.given} ${schoolClass.teacher.family}`
    this.add('assessment', {
      id,
      name,
      subject_id: subjectId,
      owner_id: schoolClass.teacher.id,
      tags,
      description: description ?? null,
      year_group_id: schoolClass.yearGroup.id,
      series_id: seriesId ?? null,
      version: 1,
      created_at: `${givenOn}T08:00:00Z`,
    })
    this.add('form', { ...mine, id })
    this.add('sitting', {
      ...mine,
      id,
      form_id: id,
      given_on: givenOn,
      given_by: schoolClass.teacher.id,
      version: 1,
    })
    this.add('sitting_class', { ...mine, sitting_id: id, class_id: schoolClass.id })
    this.add('key_version', { ...mine, number: 1, made_by: teacher, made_at: `${givenOn}T08:00:00Z` })
    usualLevels.forEach((level, i) =>
      this.add('assessment_level', {
        ...mine,
        position: i + 1,
        name: level.name,
        from_percent: level.from && 'percent' in level.from ? level.from.percent : null,
      }),
    )
    questions.forEach((q, i) => {
      const ofIt = { ...mine, question_id: q.id }
      this.add('question', { ...mine, id: q.id, position: i + 1, kind: q.asked.kind })
      this.add('question_key', {
        ...ofIt,
        from_version: 1,
        content: q.asked.content,
        points: q.points,
        counts: 'keyed',
      })
      const standard = q.standard === undefined ? undefined : standards.get(q.standard)
      if (standard) this.add('question_standard', { ...ofIt, standard_id: standard })
    })
  }

  share({ id, schoolClass }: Given, shareId: string, { with: whom, may }: PlannedShare, s: DemoStructure) {
    const colleague = typeof whom === 'object' && s.classes.find((c) => c.name === whom.teacherOf)?.teacher
    if (typeof whom === 'object' && !colleague) return
    this.add('assessment_share', {
      assessment_id: id,
      id: shareId,
      staff_id: colleague ? colleague.id : null,
      course_id: whom === 'course' ? schoolClass.courseId : null,
      year_group_id: whom === 'year group' ? schoolClass.yearGroup.id : null,
      may_see_results: may.includes('see_results'),
      may_give: may.includes('give'),
      may_edit: may.includes('edit'),
    })
  }

  attempt({ id, schoolClass, givenOn }: Given, studentId: string) {
    this.add('attempt', {
      assessment_id: id,
      student_id: studentId,
      number: 1,
      state: 'handed in',
      version: 1,
      changed_by: `${schoolClass.teacher.given} ${schoolClass.teacher.family}`,
      changed_at: `${givenOn}T16:00:00Z`,
    })
  }

  /** What a student answered to a question, and what it is worth. */
  response({ id }: Given, studentId: string, q: Question, value: unknown, byHand?: number) {
    const ofIt = { assessment_id: id, student_id: studentId, attempt: 1, question_id: q.id }
    this.add('response', { ...ofIt, value })
    const points = keyPoints({ ...q.asked, points: String(q.points) }, value)
    if (points !== undefined)
      this.add('response_points', { ...ofIt, source: 'key', points: points / 100, key_version: 1 })
    if (byHand !== undefined)
      this.add('response_points', { ...ofIt, source: 'hand', points: byHand, key_version: null })
  }
}

const fairTests = 'BADCBDACBDCA'

/** Learning standards; one assessment that is linked into its class's gradebook, and more that are not. */
export function assessmentRows(
  school: { id: string },
  s: DemoStructure,
  { students }: DemoPeople,
  categories: readonly DemoCategory[],
  random: Random,
): readonly (readonly [string, readonly object[]])[] {
  const rows = new Rows(school.id)
  const standards = addFrameworks(rows, s, random)
  const days = schoolDays(s.year, s.year.firstDay, s.today)
  const rollOn = (c: DemoClass, day: string) =>
    students.filter((x) =>
      placesOf(s, x).some((p) => p.classId === c.id && p.from <= day && (p.until === null || day < p.until)),
    )
  addFairTests(rows, s, { standards, days, rollOn, categories, random })

  // Of their own, so that what is drawn after them stays as it was.
  const own = seeded(20261130)
  const sharing = seeded(20261201)
  const firsts = new Map<string, string>()
  for (const plan of plans) {
    const schoolClass = s.classes.find((c) => c.name === plan.className)
    const givenOn = days.at(-1 - plan.daysAgo)
    const subjectId = schoolClass && s.subjects.get(schoolClass.subject)
    if (!schoolClass || !givenOn || !subjectId) continue
    const id = own.uuid()
    if (plan.series !== undefined && !firsts.has(plan.series)) firsts.set(plan.series, id)
    const given: Given = {
      id,
      name: plan.name,
      schoolClass,
      givenOn,
      tags: plan.tags,
      description: plan.description,
      seriesId: plan.series === undefined ? undefined : firsts.get(plan.series),
      questions: plan.questions.map((q) => ({ ...q, id: own.uuid() })),
    }
    rows.assessment(given, subjectId, standards)
    if (plan.inGradebook) addByStandard(rows, s, given, plan.inGradebook, { standards, categories })
    for (const share of plan.shares ?? []) rows.share(given, sharing.uuid(), share, s)
    const hardness = given.questions.map(() => 0.9 * own.normal())
    for (const student of rollOn(schoolClass, givenOn)) {
      rows.attempt(given, student.id)
      given.questions.forEach((q, i) => {
        const chance = 1 / (1 + Math.exp(-(1.1 + 1.3 * student.ability - (hardness[i] ?? 0))))
        const knows = own.next() < chance
        if (!knows && own.next() < 0.04) return
        const value = knows ? rightAnswer(q.asked, own) : wrongAnswer(q.asked, own)
        const isMarked = kindOf(q.asked.kind).byHand && own.next() < (plan.marked ?? 0)
        const share = Math.min(1, Math.max(0, chance + 0.15 * own.normal()))
        rows.response(
          given,
          student.id,
          q,
          value,
          isMarked ? Math.round(2 * share * q.points) / 2 : undefined,
        )
      })
    }
  }
  return [...rows.of]
}

/** The school's frameworks as trees; answers the standards by their codes. */
function addFrameworks(rows: Rows, s: DemoStructure, random: Random): ReadonlyMap<string, string> {
  const ids = new Map<string, string>()
  const own = seeded(20261129)
  for (const { name, subject, strands } of frameworks) {
    const setId = own.uuid()
    rows.add('standard_set', { id: setId, name, subject_id: s.subjects.get(subject), version: 1 })
    let position = 0
    for (const [statement, standards] of strands) {
      const strandId = own.uuid()
      const common = { set_id: setId, source: null }
      rows.add('standard', {
        ...common,
        id: strandId,
        parent_id: null,
        position: ++position,
        code: null,
        statement,
        years: [],
      })
      for (const [code, words] of standards) {
        const id = subject === 'Science' ? random.uuid() : own.uuid()
        ids.set(code, id)
        const years = [code.split('.')[1]?.padStart(2, '0')]
        rows.add('standard', {
          ...common,
          id,
          parent_id: strandId,
          position: ++position,
          code,
          statement: words,
          years,
        })
      }
    }
  }
  return ids
}

interface Around {
  readonly standards: ReadonlyMap<string, string>
  readonly days: readonly string[]
  readonly rollOn: (c: DemoClass, day: string) => DemoPeople['students']
  readonly categories: readonly DemoCategory[]
  readonly random: Random
}

/** The one that its class's gradebook is linked with; two students have no answers yet. */
function addFairTests(
  rows: Rows,
  s: DemoStructure,
  { standards, days, rollOn, categories, random }: Around,
): void {
  const schoolClass = s.classes.find((c) => c.name === '8 Science A')
  const givenOn = days.at(-8)
  const term = s.year.terms.find(
    (t) => givenOn !== undefined && t.firstDay <= givenOn && givenOn <= t.lastDay,
  )
  const category = categories.find(
    (c) => c.classId === schoolClass?.id && c.termId === term?.id && c.name === 'Unit tests',
  )
  const subjectId = s.subjects.get('Science')
  if (!schoolClass || !givenOn || !term || !category || !subjectId) return
  const id = random.uuid()
  const hardness = [...fairTests].map(() => 0.9 * random.normal())
  const given: Given = {
    id,
    name: 'Fair tests',
    schoolClass,
    givenOn,
    questions: [...fairTests].map((right, i) => ({
      id: random.uuid(),
      asked: { kind: 'one choice', content: { choices: [...'ABCD'], right } },
      points: i < 8 ? 1 : 2,
      standard: i % 2 === 0 ? 'SCI.8.01' : 'SCI.8.02',
    })),
  }
  rows.assessment(given, subjectId, standards)
  for (const student of rollOn(schoolClass, givenOn)) {
    if (random.next() < 0.06) continue
    rows.attempt(given, student.id)
    given.questions.forEach((q, i) => {
      const right = fairTests[i] ?? ''
      // A student knows the answer by ability against the question's hardness (logistic), else takes a likely distractor.
      const knows = random.next() < 1 / (1 + Math.exp(-(1.1 + 1.3 * student.ability - (hardness[i] ?? 0))))
      const wrong = 'ABCD'.replace(right, '')
      const choice = knows ? right : random.next() < 0.55 ? (wrong[i % 3] ?? '') : random.pick([...wrong])
      if (knows || random.next() > 0.03) rows.response(given, student.id, q, choice)
    })
  }
  rows.add('assignment', {
    id: random.uuid(),
    class_id: schoolClass.id,
    term_id: term.id,
    category_id: category.id,
    name: 'Fair tests',
    max_points: 16,
    due_on: givenOn,
    assessment_id: id,
    standard_id: null,
    counts: true,
    version: 1,
  })
}

/** Shows an assessment in its class's gradebook by learning standards, with a column for how far a student is in them. */
function addByStandard(
  rows: Rows,
  s: DemoStructure,
  given: Given,
  { category, column }: NonNullable<PlannedAssessment['inGradebook']>,
  { standards, categories }: Pick<Around, 'standards' | 'categories'>,
): void {
  const term = termShownOn(s.year, given.givenOn)
  const own = categories.find(
    (c) => c.classId === given.schoolClass.id && c.termId === term?.id && c.name === category,
  )
  if (!term || !own) return
  const random = seeded(59)
  const codes = [...new Set(given.questions.flatMap((q) => q.standard ?? []))].sort()
  const parts = codes.map((code) => {
    const id = random.uuid()
    rows.add('assignment', {
      id,
      class_id: given.schoolClass.id,
      term_id: term.id,
      category_id: own.id,
      name: `${given.name.replace('Island tales, p', 'P')} ${code}`,
      max_points: given.questions.filter((q) => q.standard === code).reduce((sum, q) => sum + q.points, 0),
      due_on: given.givenOn,
      assessment_id: given.id,
      standard_id: standards.get(code) ?? null,
      counts: false,
      version: 1,
    })
    return id
  })
  const columnId = random.uuid()
  rows.add('mark_column', {
    id: columnId,
    class_id: given.schoolClass.id,
    term_id: term.id,
    name: column,
    does: 'mean',
    take: null,
    decimals: 0,
    position: 1,
    version: 1,
  })
  parts.forEach((assignment_id, i) =>
    rows.add('mark_column_part', { column_id: columnId, position: i + 1, weight: 1, assignment_id }),
  )
  ;[
    ['secure', 80],
    ['nearly', 50],
    ['not yet', 0],
  ].forEach(([name, from_value], i) =>
    rows.add('mark_column_level', { column_id: columnId, position: i + 1, name, from_value }),
  )
}
