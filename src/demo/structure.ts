import type { CivilDate, SchoolYear } from '@/core/calendar/school-year'
import { sortName } from '@/core/people/names'
import { familyName, givenName, phone } from './names'
import type { Random } from './random'

export interface DemoStaff {
  readonly id: string
  readonly given: string
  readonly family: string
  readonly username: string
  readonly role: 'administrator' | 'head' | 'office' | 'records' | 'teacher'
  /** Still has the password it was given. */
  readonly initial: boolean
  readonly phone: string
}

export interface DemoYearGroup {
  readonly id: string
  readonly number: number
  readonly name: string
}

export interface DemoHomeroom {
  readonly id: string
  readonly yearGroup: DemoYearGroup
  readonly bird: 'Tern' | 'Plover'
  readonly name: string
  readonly teacher: DemoStaff
}

export interface DemoClass {
  readonly id: string
  readonly courseId: string
  readonly subject: string
  readonly yearGroup: DemoYearGroup
  readonly homeroom: DemoHomeroom
  readonly name: string
  readonly teacher: DemoStaff
  readonly terms: readonly string[]
}

export interface DemoStructure {
  readonly year: SchoolYear
  readonly today: CivilDate
  readonly staff: readonly DemoStaff[]
  readonly yearGroups: readonly DemoYearGroup[]
  readonly homerooms: readonly DemoHomeroom[]
  readonly subjects: ReadonlyMap<string, string>
  readonly classes: readonly DemoClass[]
  readonly scales: { readonly letters: string; readonly levels: string }
}

const office: readonly (readonly [string, string, DemoStaff['role']])[] = [
  ['Mara', 'Vester', 'administrator'],
  ['Sunniva', 'Kirkness', 'head'],
  ['Tomas', 'Farouk', 'head'],
  ['Dalia', 'Munro', 'office'],
  ['Ewan', 'Leask', 'office'],
  ['Hana', 'Tulloch', 'office'],
  ['Petra', 'Ilves', 'records'],
]

/** The subjects of Years 1 to 9. */
export const lowerSubjects = [
  'English',
  'Mathematics',
  'Science',
  'Marine studies',
  'History',
  'Geography',
  'Second language',
  'Art',
  'Music',
  'Movement',
  'Computing',
]
const upperSubjects = lowerSubjects.flatMap((s) =>
  s === 'Science' ? ['Biology', 'Chemistry', 'Physics'] : [s],
)
/** In Years 1 to 6 the homeroom teacher teaches these. */
const homeroomSubjects = new Set(['English', 'Mathematics', 'Science', 'History', 'Geography', 'Art'])

export const subjectOrder = [
  ...lowerSubjects.slice(0, 3),
  'Biology',
  'Chemistry',
  'Physics',
  ...lowerSubjects.slice(3),
]

function makeStaff(random: Random): DemoStaff[] {
  const taken = new Set<string>()
  const member = (given: string, family: string, role: DemoStaff['role']): DemoStaff => {
    const base = `${given[0]}.${family}`.toLowerCase()
    let username = base
    for (let n = 2; taken.has(username); n++) username = `${base}${n}`
    taken.add(username)
    return {
      id: random.uuid(),
      given,
      family,
      username,
      role,
      initial: username === 'd.munro',
      phone: phone(random),
    }
  }
  const leads = office.map(([given, family, role]) => member(given, family, role))
  const teachers = [member('Remi', 'Achterberg', 'teacher')]
  while (teachers.length < 46) teachers.push(member(givenName(random), familyName(random), 'teacher'))
  return [...leads, ...teachers]
}

/** Wrackline's staff, year groups, homerooms and classes. */
export function makeStructure(year: SchoolYear, today: CivilDate, random: Random): DemoStructure {
  const staff = makeStaff(random)
  const teachers = staff.filter((s) => s.role === 'teacher')
  const yearGroups = Array.from({ length: 12 }, (_, i) => ({
    id: random.uuid(),
    number: i + 1,
    name: `Year ${i + 1}`,
  }))
  // Years 1 to 6 take the last twelve teachers; the specialists also look after the older homerooms.
  const specialists = teachers.slice(0, 34)
  const homerooms = yearGroups.flatMap((yearGroup, g) =>
    (['Tern', 'Plover'] as const).map((bird, b): DemoHomeroom => {
      const at = 2 * g + b
      const teacher =
        (yearGroup.number <= 6 ? teachers[34 + at] : specialists[at - 12]) ?? (teachers[0] as DemoStaff)
      return { id: random.uuid(), yearGroup, bird, name: `${yearGroup.number} ${bird}`, teacher }
    }),
  )
  const subjects = new Map(subjectOrder.map((name) => [name, random.uuid()]))
  const achterberg = teachers[0] as DemoStaff
  const others = specialists.slice(1)
  const allTerms = year.terms.map((t) => t.id)
  const poolOf = (subject: string) => {
    const i = subjectOrder.indexOf(subject)
    return [others[(i * 5) % 33], others[(i * 5 + 2) % 33], others[(i * 5 + 4) % 33]].filter(
      (t) => t !== undefined,
    )
  }
  const achterbergTeaches = new Set(['7 Science A', '8 Science A', '10 Biology A', '11 Marine studies A'])
  const classes = yearGroups.flatMap((yearGroup) => {
    const list = yearGroup.number >= 10 ? upperSubjects : lowerSubjects
    return list.flatMap((subject) => {
      const courseId = random.uuid()
      return homerooms
        .filter((h) => h.yearGroup === yearGroup)
        .map((homeroom, i): DemoClass => {
          const name = `${yearGroup.number} ${subject} ${'AB'[i]}`
          const pool = poolOf(subject)
          const teacher = achterbergTeaches.has(name)
            ? achterberg
            : yearGroup.number <= 6 && homeroomSubjects.has(subject)
              ? homeroom.teacher
              : (pool[(yearGroup.number + i) % pool.length] ?? achterberg)
          return { id: random.uuid(), courseId, subject, yearGroup, homeroom, name, teacher, terms: allTerms }
        })
    })
  })
  const spring = year.terms[1]
  const seventh = homerooms.find((h) => h.name === '7 Tern')
  const navigation: DemoClass[] =
    spring && seventh
      ? [
          {
            id: random.uuid(),
            courseId: random.uuid(),
            subject: 'Marine studies',
            yearGroup: seventh.yearGroup,
            homeroom: seventh,
            name: '7 Navigation',
            teacher: achterberg,
            terms: [spring.id],
          },
        ]
      : []
  return {
    year,
    today,
    staff,
    yearGroups,
    homerooms,
    subjects,
    classes: [...classes, ...navigation],
    scales: { letters: random.uuid(), levels: random.uuid() },
  }
}

/** Rows of the structure's tables, in the order in which they can be inserted. */
export function structureRows(
  school: { id: string },
  s: DemoStructure,
): readonly (readonly [string, readonly object[]])[] {
  const own = { school_id: school.id }
  const whole = `[${s.year.firstDay},)`
  const courses = new Map(s.classes.map((c) => [c.courseId, c]))
  return [
    [
      'academic_year',
      [
        {
          ...own,
          id: s.year.id,
          name: s.year.name,
          first_day: s.year.firstDay,
          last_day: s.year.lastDay,
          weekdays: s.year.weekdays,
        },
      ],
    ],
    [
      'term',
      s.year.terms.map((t, i) => ({
        ...own,
        id: t.id,
        year_id: s.year.id,
        name: t.name,
        position: i + 1,
        first_day: t.firstDay,
        last_day: t.lastDay,
      })),
    ],
    [
      'closure',
      s.year.closures.map((c, i) => ({
        ...own,
        id: `00000000-0000-7000-8000-00000000000${i}`,
        year_id: s.year.id,
        kind: c.kind,
        name: c.name,
        first_day: c.firstDay,
        last_day: c.lastDay,
      })),
    ],
    [
      'staff_member',
      s.staff.map((t) => ({
        ...own,
        id: t.id,
        given_name: t.given,
        family_name: t.family,
        sort_name: sortName(t.given, t.family),
        email: `${t.username}@wrackline.example`,
        phone: t.phone,
      })),
    ],
    [
      'year_group',
      s.yearGroups.map((g) => ({
        ...own,
        id: g.id,
        name: g.name,
        position: g.number,
        registers: g.number >= 7 ? 'both' : 'half-days',
      })),
    ],
    [
      'homeroom',
      s.homerooms.map((h) => ({
        ...own,
        id: h.id,
        year_id: s.year.id,
        year_group_id: h.yearGroup.id,
        name: h.name,
      })),
    ],
    [
      'homeroom_teacher',
      s.homerooms.map((h) => ({ ...own, homeroom_id: h.id, staff_id: h.teacher.id, period: whole })),
    ],
    ['subject', [...s.subjects].map(([name, id], i) => ({ ...own, id, name, position: i + 1 }))],
    [
      'grading_scale',
      [
        { ...own, id: s.scales.letters, name: 'A to E' },
        { ...own, id: s.scales.levels, name: 'Levels' },
      ],
    ],
    [
      'scale_change',
      [s.scales.letters, s.scales.levels].map((scale_id) => ({ ...own, scale_id, starts_on: '-infinity' })),
    ],
    [
      'grading_band',
      [
        ...(
          [
            ['A', 90],
            ['B', 80],
            ['C', 70],
            ['D', 60],
            ['E', 0],
          ] as const
        ).map(([grade, from]) => ({ ...own, scale_id: s.scales.letters, grade, from_percent: from })),
        ...(
          [
            ['secure', 80],
            ['nearly', 60],
            ['not yet', 0],
          ] as const
        ).map(([grade, from]) => ({ ...own, scale_id: s.scales.levels, grade, from_percent: from })),
      ],
    ],
    [
      'course',
      [...courses].map(([id, c]) => ({
        ...own,
        id,
        subject_id: s.subjects.get(c.subject),
        year_group_id: c.yearGroup.id,
        name: c.name.replace(/ [AB]$/, ''),
      })),
    ],
    [
      'class',
      s.classes.map((c) => ({
        ...own,
        id: c.id,
        year_id: s.year.id,
        course_id: c.courseId,
        scale_id: c.yearGroup.number <= 6 ? s.scales.levels : s.scales.letters,
        name: c.name,
      })),
    ],
    ['class_term', s.classes.flatMap((c) => c.terms.map((term_id) => ({ ...own, class_id: c.id, term_id })))],
    [
      'class_teacher',
      s.classes.map((c) => ({ ...own, class_id: c.id, staff_id: c.teacher.id, period: whole })),
    ],
    ['homeroom_class', s.classes.map((c) => ({ ...own, homeroom_id: c.homeroom.id, class_id: c.id }))],
  ]
}
