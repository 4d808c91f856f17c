import { groupBy } from '@/core/group-by'
import { sql, type Transaction } from 'kysely'
import type {
  CellEntry,
  Gradebook,
  GradingBand,
  LateRule,
  ScoreEntries,
  Standing,
} from '@/core/marks/gradebook'
import type { Tables } from '@/db/tables'
import { linkedMost, linkedScores } from './linked-scores'
import { defineTopic } from '@/server/platform/topic'

/** A class's gradebook: its rules, assignments and scores. */
export const gradebookTopic = defineTopic<[classId: string]>('gradebook', 'class')
/** How far the marks of any class are. */
export const marksStatesTopic = defineTopic('marks states')

export interface StoredScore {
  readonly assignmentId: string
  readonly studentId: string
  readonly entry: CellEntry | undefined
  readonly version: number
  readonly changedBy: string
  readonly changedAt: string
  /** Whether the points come from a linked assessment. */
  readonly linked: boolean
}

/** What describes an assignment, and from when families see it. */
export interface AssignmentWords {
  readonly description: string
  readonly tags: readonly string[]
  readonly givenOn: string | null
  readonly shownFrom: string | null
  /** Whether it was put in its place by hand. */
  readonly isPlaced: boolean
}

export interface LoadedGradebook extends Gradebook {
  readonly classId: string
  readonly version: number
  readonly linkedAssessments: ReadonlyMap<string, string>
  /** What describes each assignment. */
  readonly about: ReadonlyMap<string, AssignmentWords>
  /** The version of each assignment, for whoever edits it. */
  readonly versions: ReadonlyMap<string, number>
  readonly scores: readonly StoredScore[]
  readonly entriesOf: (studentId: string) => ScoreEntries
}

interface ScoreRow {
  assignmentId: string
  classId: string
  studentId: string
  points: string | null
  standing: Standing | null
  late: true | null
  version: number
  changedBy: string
  changedAt: string
  linked: boolean
  /** How many answers of a linked assessment are not marked yet. */
  unmarked: number
}

/** A decimal without trailing zeros. */
export const plainDecimal = (text: string) => text.replace(/(\.\d*?)0+$/, '$1').replace(/\.$/, '')

function entryOf({
  points,
  standing,
  late,
  unmarked,
}: Pick<ScoreRow, 'points' | 'standing' | 'late' | 'unmarked'>): CellEntry | undefined {
  if (unmarked > 0) return { kind: 'unmarked' }
  if (points !== null) return { kind: 'points', points: plainDecimal(points), ...(late ? { late } : {}) }
  return standing ? { kind: standing } : undefined
}

interface Book {
  readonly classId: string
  readonly termId: string
  readonly method: Gradebook['rules']['method']
  readonly decimals: number
  readonly emptyCounts: Gradebook['rules']['emptyCounts']
  readonly missingCounts: Gradebook['rules']['missingCounts']
  readonly incompleteCounts: Gradebook['rules']['incompleteCounts']
  readonly latePercent: string | null
  readonly lateOf: LateRule['of'] | null
  readonly most: string | null
  readonly version: number
  readonly bands: readonly GradingBand[]
  readonly categories: Gradebook['categories']
}

/** Gradebooks as they are set, without what is in them: a select of `Book`, with more conditions to be added. */
const books = sql`
  select g.class_id, g.term_id, g.method, g.decimals, g.empty_counts, g.missing_counts, g.incomplete_counts,
    g.late_percent::text, g.late_of, g.most::text, g.version,
    (select coalesce(json_agg(json_build_object('grade', b.grade, 'fromPercent', b.from_percent::text) order by b.from_percent desc), '[]')
      from grading_band b where b.school_id = c.school_id and b.scale_id = c.scale_id
        and b.starts_on = kedge_scale_day(c.scale_id, g.term_id)) as bands,
    (select coalesce(json_agg(json_build_object('id', k.id, 'name', k.name, 'weight', k.weight::text, 'within', k.within, 'dropLowest', k.drop_lowest) order by k.position), '[]')
      from category k where k.school_id = g.school_id and k.class_id = g.class_id and k.term_id = g.term_id) as categories
  from gradebook g join class c on c.school_id = g.school_id and c.id = g.class_id`

/** The rules and categories of a row, as they are calculated with. */
const setUp = (book: Book): Pick<Gradebook, 'rules' | 'categories'> => ({
  rules: {
    method: book.method,
    decimals: book.decimals,
    emptyCounts: book.emptyCounts,
    missingCounts: book.missingCounts,
    incompleteCounts: book.incompleteCounts,
    late:
      book.latePercent && book.lateOf ? { percent: plainDecimal(book.latePercent), of: book.lateOf } : null,
    most: book.most === null ? null : plainDecimal(book.most),
    bands: book.bands.map((b) => ({ grade: b.grade, fromPercent: plainDecimal(b.fromPercent) })),
  },
  categories: book.categories.map((c) => ({ ...c, weight: plainDecimal(c.weight) })),
})

/** How gradebooks of classes and terms are set, by `class term`. */
export async function loadSettings(
  db: Transaction<Tables>,
  those: readonly { readonly classId: string; readonly termId: string }[],
): Promise<ReadonlyMap<string, Pick<Gradebook, 'rules' | 'categories'>>> {
  const { rows } =
    await sql<Book>`${books} join unnest(${those.map((t) => t.classId)}::uuid[], ${those.map((t) => t.termId)}::uuid[])
    as asked(class_id, term_id) on g.class_id = asked.class_id and g.term_id = asked.term_id`.execute(db)
  return new Map(rows.map((book) => [`${book.classId} ${book.termId}`, setUp(book)]))
}

/**
 * The gradebooks of several classes for one term, in three statements however many there are. Points of a linked
 * assignment are read from the assessment itself, never copied.
 */
export async function loadGradebooks(
  db: Transaction<Tables>,
  classIds: readonly string[],
  termId: string,
): Promise<ReadonlyMap<string, LoadedGradebook>> {
  if (classIds.length === 0) return new Map()
  const ids = [...classIds]
  const [found, assignments, scores] = await Promise.all([
    sql<Book>`${books} where g.class_id = any(${ids}::uuid[]) and g.term_id = ${termId}`.execute(db),
    sql<{
      id: string
      classId: string
      categoryId: string
      name: string
      maxPoints: string
      dueOn: string
      counts: boolean
      extra: boolean
      description: string
      tags: string[]
      givenOn: string | null
      shownFrom: string | null
      isPlaced: boolean
      assessmentId: string | null
      version: number
    }>`
      select a.id, a.class_id, a.category_id, a.name, a.due_on, a.counts, a.extra, a.description, a.tags, a.given_on, a.shown_from, a.position is not null as is_placed,
        a.assessment_id, a.version,
        case when a.assessment_id is null or a.scaled then a.max_points else coalesce(${linkedMost}, a.max_points) end::text as max_points
      from assignment a join category c on c.school_id = a.school_id and c.id = a.category_id
      where a.class_id = any(${ids}::uuid[]) and a.term_id = ${termId} order by a.position, c.position, a.due_on, a.id`.execute(
      db,
    ),
    sql<ScoreRow>`
      with linked as materialized (
        ${linkedScores(sql`a.class_id = any(${ids}::uuid[]) and a.term_id = ${termId}`)})
      select a.id as assignment_id, a.class_id, s.student_id, s.points::text, s.standing, s.late, s.version, s.changed_by, s.changed_at, false as linked, 0 as unmarked
      from assignment a join score s on s.school_id = a.school_id and s.assignment_id = a.id
      where a.class_id = any(${ids}::uuid[]) and a.term_id = ${termId}
        and not exists (select 1 from linked l where l.id = a.id and l.student_id = s.student_id)
      union all
      select l.id, l.class_id, l.student_id, l.points, null, null::boolean as late, l.version, l.changed_by, l.changed_at, true, l.unmarked from linked l`.execute(
      db,
    ),
  ])
  const assignmentsOf = groupBy(assignments.rows, (a) => a.classId)
  const scoresOf = groupBy(scores.rows, (s) => s.classId)
  return new Map(
    found.rows.map((book) => {
      const own = assignmentsOf.get(book.classId) ?? []
      const stored = (scoresOf.get(book.classId) ?? []).map((s) => ({
        assignmentId: s.assignmentId,
        studentId: s.studentId,
        entry: entryOf(s),
        version: s.version,
        changedBy: s.changedBy,
        changedAt: s.changedAt,
        linked: s.linked,
      }))
      const byStudent = groupBy(stored, (s) => s.studentId)
      return [
        book.classId,
        {
          classId: book.classId,
          version: book.version,
          ...setUp(book),
          assignments: own.map((a) => ({
            id: a.id,
            name: a.name,
            categoryId: a.categoryId,
            maxPoints: plainDecimal(a.maxPoints),
            dueOn: a.dueOn,
            counts: a.counts,
            extra: a.extra,
          })),
          about: new Map(
            own.map(({ id, description, tags, givenOn, shownFrom, isPlaced }) => [
              id,
              { description, tags, givenOn, shownFrom, isPlaced },
            ]),
          ),
          versions: new Map(own.map((a) => [a.id, a.version])),
          linkedAssessments: new Map(
            own.flatMap((a) => (a.assessmentId ? [[a.id, a.assessmentId] as const] : [])),
          ),
          scores: stored,
          entriesOf: (studentId: string) =>
            new Map(
              (byStudent.get(studentId) ?? []).flatMap((s) =>
                s.entry ? [[s.assignmentId, s.entry] as const] : [],
              ),
            ),
        },
      ]
    }),
  )
}
