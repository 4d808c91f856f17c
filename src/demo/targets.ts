import { placesOf, type DemoPeople } from './people'
import { seeded } from './random'
import type { DemoStructure } from './structure'

const grades = ['A', 'B', 'C', 'D', 'E'] as const

interface Targets {
  readonly rows: readonly (readonly [string, readonly object[]])[]
  /** The column of each class. */
  readonly targets: ReadonlyMap<string, string>
}

/** In Year 7 every class has a column for the whole year, in which its teacher enters the grade each student aims at. */
export function targetRows(school: { id: string }, s: DemoStructure, { students }: DemoPeople): Targets {
  const own = { school_id: school.id }
  const random = seeded(53)
  const columns: object[] = []
  const levels: object[] = []
  const entries: object[] = []
  const targets = new Map<string, string>()
  for (const c of s.classes.filter((one) => one.yearGroup.number === 7 && one.name !== '7 Navigation')) {
    const id = random.uuid()
    targets.set(c.id, id)
    columns.push({
      ...own,
      id,
      class_id: c.id,
      term_id: null,
      name: 'Target',
      does: 'choice',
      take: null,
      decimals: 2,
      position: 9,
      version: 1,
    })
    grades.forEach((name, i) =>
      levels.push({ ...own, column_id: id, position: i + 1, name, from_value: null }),
    )
    for (const student of students) {
      const isHere = placesOf(s, student).some(
        (p) => p.classId === c.id && p.from <= s.today && (p.until === null || s.today < p.until),
      )
      if (!isHere) continue
      const aim = student.ability + 0.5 * random.normal()
      const at = aim > 0.8 ? 0 : aim > -0.2 ? 1 : aim > -1 ? 2 : 3
      // A few are still to be talked over.
      if (random.next() > 0.96) continue
      entries.push({
        ...own,
        column_id: id,
        student_id: student.id,
        value: grades[at],
        version: 1,
        changed_by: `${c.teacher.given} ${c.teacher.family}`,
        changed_at: `${s.year.firstDay}T15:00:00Z`,
      })
    }
  }
  return {
    rows: [
      ['mark_column', columns],
      ['mark_column_level', levels],
      ['column_entry', entries],
    ],
    targets,
  }
}
