import { addDays, schoolDays, termShownOn } from '@/core/calendar/school-year'
import { placesOf, type DemoPeople, type DemoStudent } from './people'
import { seeded, type Random } from './random'
import type { DemoStructure } from './structure'

const openings = [
  (n: string) => `${n} listens well and asks questions that move the whole class on.`,
  (n: string) => `${n} works steadily and is always ready to help a neighbour.`,
  (n: string) => `${n} has made a confident start to the year.`,
  (n: string) => `${n} enjoys practical work and explains ideas in clear words.`,
]
const strong = [
  'Work is accurate and shows real understanding.',
  'Tests show secure knowledge of nearly everything we have covered.',
  'The best pieces were well planned and carefully checked.',
]
const middling = [
  'Understanding is sound; showing each step would lift the results further.',
  'Most of the term’s work is in place, and more reading at home would help.',
  'Results vary; planning before writing makes the difference.',
]
const weak = [
  'Several topics are not yet firm and we will go over them together.',
  'Handing in every piece of homework is the next step.',
  'Short, regular practice at home will help a great deal.',
]
const endings = ['A good term.', 'I look forward to the next unit.', 'Keep it up.', '']

function comment(random: Random, student: DemoStudent): string {
  const middle = student.ability > 0.6 ? strong : student.ability > -0.7 ? middling : weak
  return [
    random.pick(openings)(student.preferred ?? student.given),
    random.pick(middle),
    random.pick(endings),
  ]
    .join(' ')
    .trim()
}

const effortOf = (random: Random, student: DemoStudent) => {
  const x = student.ability * 0.5 + random.normal() * 0.6 - student.forgets * 4
  return x > 0.6 ? 'excellent' : x > -0.5 ? 'good' : x > -1.1 ? 'uneven' : 'low'
}

/** The report round for Year 7 in the term under way, its class entries at different stages. */
export function reportRows(
  school: { id: string },
  s: DemoStructure,
  { students }: DemoPeople,
  /** The column of each class that holds its targets. */
  targets: ReadonlyMap<string, string>,
  random: Random,
): readonly (readonly [string, readonly object[]])[] {
  const own = { school_id: school.id }
  const term = termShownOn(s.year, s.today)
  const seventh = s.yearGroups.find((g) => g.number === 7)
  if (!term || !seventh) return []
  const roundId = random.uuid()
  const due = schoolDays(s.year, s.today, addDays(s.today, 14)).at(-1) ?? s.today
  const classes = s.classes.filter(
    (c) => c.yearGroup === seventh && c.terms.includes(term.id) && c.name !== '7 Navigation',
  )
  const handedIn = new Set(['7 English A'])
  const entries: object[] = []
  classes.forEach((c) => {
    const members = students.filter((x) =>
      placesOf(s, x).some(
        (p) => p.classId === c.id && p.from <= s.today && (p.until === null || s.today < p.until),
      ),
    )
    // How far each teacher has come; 7 Science A has not begun.
    const share = handedIn.has(c.name) ? 1 : c.name === '7 Science A' ? 0 : random.pick([0, 0.3, 0.6, 0.9])
    members.forEach((student, i) => {
      if (i >= Math.ceil(share * members.length)) return
      entries.push({
        ...own,
        round_id: roundId,
        class_id: c.id,
        student_id: student.id,
        effort: effortOf(random, student),
        comment: comment(random, student),
        version: 1,
        changed_by: `${c.teacher.given} ${c.teacher.family}`,
        changed_at: `${addDays(s.today, -2)}T16:30:00Z`,
      })
    })
  })
  const ids = seeded(47)
  const [mark, target] = [ids.uuid(), ids.uuid()]
  // A few classes have still to say what fills their targets.
  const unsettled = new Set(['7 Science A', '7 Mathematics A', '7 History B'])
  return [
    [
      'report_round',
      [
        {
          ...own,
          id: roundId,
          year_id: s.year.id,
          term_id: term.id,
          name: `${term.name} report, Year 7`,
          due_on: due,
          comment_limit: 400,
        },
      ],
    ],
    ['report_round_year_group', [{ ...own, round_id: roundId, year_group_id: seventh.id }]],
    [
      'class_entries',
      classes.map((c) => ({
        ...own,
        round_id: roundId,
        class_id: c.id,
        state: handedIn.has(c.name) ? 'handed in' : 'writing',
        remark: null,
        version: 1,
        changed_by: handedIn.has(c.name) ? `${c.teacher.given} ${c.teacher.family}` : null,
        changed_at: handedIn.has(c.name) ? `${addDays(s.today, -1)}T15:10:00Z` : null,
      })),
    ],
    [
      'report_line',
      [
        { ...own, id: mark, round_id: roundId, name: 'Mark', kind: 'mark', position: 1 },
        { ...own, id: target, round_id: roundId, name: 'Target', kind: 'word', position: 2 },
      ],
    ],
    [
      'feed',
      classes.flatMap((c) => {
        const feed = (line_id: string, column_id: string | null) => ({
          ...own,
          round_id: roundId,
          class_id: c.id,
          line_id,
          column_id,
          version: 1,
        })
        const column = targets.get(c.id)
        return [feed(mark, null), ...(column && !unsettled.has(c.name) ? [feed(target, column)] : [])]
      }),
    ],
    ['report_entry', entries],
  ]
}
