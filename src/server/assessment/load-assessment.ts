import { sql, type RawBuilder, type Transaction } from 'kysely'
import type { Attempt } from '@/core/assessment/findings'
import type { Box } from '@/core/assessment/box'
import { schemasOf } from '@/core/assessment/inputs'
import type { Keyed } from '@/core/assessment/kinds'
import type { Level, Threshold } from '@/core/assessment/levels'
import {
  pointsSources,
  type AskedQuestion,
  type Counted,
  type Counts,
  type PointsSource,
} from '@/core/assessment/scoring'
import { groupBy } from '@/core/group-by'
import type { Tables } from '@/db/tables'

type Database = Transaction<Tables>

/** A question as it is asked now, with its place on the document and the key version it has its key from. */
export type LoadedQuestion = AskedQuestion & {
  readonly page: number | null
  readonly box: Box | null
  readonly rationale: string | null
  readonly choiceRationales: Readonly<Record<string, string>>
  readonly fromVersion: number
}

/** A decimal without trailing zeros. */
const plain = (decimal: string) => Number(decimal).toString()

type Place = { readonly page: number } & { readonly [side in keyof Box]: number | null }

const boxOf = (place: Place | null): Box | null =>
  place === null || place.x === null || place.y === null || place.width === null || place.height === null
    ? null
    : { x: place.x, y: place.y, width: place.width, height: place.height }

/** Questions in order, as they count now. */
export async function loadQuestions(db: Database, assessmentId: string): Promise<readonly LoadedQuestion[]> {
  const { rows } = await sql<
    Keyed & {
      id: string
      position: number
      points: string
      counts: Counts
      fromVersion: number
      standardIds: string[]
      rationale: string | null
      choiceRationales: Record<string, string>
      place: Place | null
    }
  >`
    select q.id, q.position, q.kind, q.content, q.points::text, q.counts, q.from_version,
      array(select t.standard_id from question_standard t
        where t.school_id = q.school_id and t.assessment_id = q.assessment_id and t.question_id = q.id order by t.standard_id) as standard_ids,
      n.rationale, n.choice_rationales,
      (select json_build_object('page', p.page, 'x', p.x, 'y', p.y, 'width', p.width, 'height', p.height) from question_place p join form f on f.school_id = p.school_id and f.assessment_id = p.assessment_id and f.id = p.form_id
        where p.school_id = q.school_id and p.assessment_id = q.assessment_id and p.question_id = q.id order by f.position limit 1) as place
    from asked_question q join question n on n.school_id = q.school_id and n.assessment_id = q.assessment_id and n.id = q.id where q.assessment_id = ${assessmentId} order by q.position`.execute(
    db,
  )
  // The database keeps the parts of a key in an order of its own.
  return rows.map(({ place, ...q }) => ({
    ...q,
    page: place?.page ?? null,
    box: boxOf(place),
    content: schemasOf(q.kind).content.parse(q.content),
    points: plain(q.points),
  })) as LoadedQuestion[]
}

interface ThresholdRow {
  readonly fromPercent: string | null
  readonly fromPoints: string | null
}
const thresholdOf = ({ fromPercent, fromPoints }: ThresholdRow): Threshold | null =>
  fromPercent !== null
    ? { percent: plain(fromPercent) }
    : fromPoints !== null
      ? { points: plain(fromPoints) }
      : null

export interface Levels {
  readonly levels: readonly Level[]
  /** Where levels begin for a standard when it is elsewhere. */
  readonly standards: readonly { readonly standardId: string; readonly from: readonly Threshold[] }[]
}

/** The levels of an assessment, the highest first, and those of single standards. */
export async function loadLevels(db: Database, assessmentId: string): Promise<Levels> {
  const [levels, standards] = await Promise.all([
    db
      .selectFrom('assessmentLevel')
      .select(['name', 'fromPercent', 'fromPoints'])
      .where('assessmentId', '=', assessmentId)
      .orderBy('position')
      .execute(),
    db
      .selectFrom('standardThreshold')
      .select(['standardId', 'fromPercent', 'fromPoints'])
      .where('assessmentId', '=', assessmentId)
      .orderBy('standardId')
      .orderBy('position')
      .execute(),
  ])
  return {
    levels: levels.map((row) => ({ name: row.name, from: thresholdOf(row) })),
    standards: [...new Set(standards.map((row) => row.standardId))].map((standardId) => ({
      standardId,
      from: standards.filter((row) => row.standardId === standardId).flatMap((row) => thresholdOf(row) ?? []),
    })),
  }
}

/** The levels of one standard: those of the whole, beginning where it says. */
export const levelsOfStandard = ({ levels, standards }: Levels, standardId: string): readonly Level[] => {
  const own = standards.find((s) => s.standardId === standardId)
  return own ? levels.map(({ name, from }, i) => ({ name, from: own.from[i] ?? from })) : levels
}

export interface RollAttempt extends Attempt {
  readonly name: string
  /** The permanent number; none before enrolment. */
  readonly number: string | null
  readonly classId: string
  readonly className: string
  /** Whether it was handed in. */
  readonly answered: boolean
  /** 0 where no answers were ever typed. */
  readonly version: number
  readonly changedBy: string | null
  /** Points a marker gave, by question, as decimal texts. */
  readonly byHand: ReadonlyMap<string, string>
}

/** A student's points from one source: the questions, and the points of each, joined by blanks. */
interface PointsRow {
  readonly student_id: string
  readonly source: PointsSource
  readonly questions: string
  readonly points: string
}

/** Splits joined identifiers. Students answer the same questions in the same order: what is split once is kept. */
function splitter(): (joined: string) => readonly string[] {
  const known = new Map<string, readonly string[]>()
  return (joined) => {
    const before = known.get(joined)
    if (before) return before
    const made = joined.split(' ')
    known.set(joined, made)
    return made
  }
}

/**
 * Everyone in the classes of an assessment's sittings on their days, once, in name order, with their answers.
 * @param studentIds asks for these students alone
 */
export async function loadRoll(
  db: Database,
  assessmentId: string,
  studentIds?: readonly string[],
): Promise<readonly RollAttempt[]> {
  const some = studentIds ?? null
  const [roll, responses, points] = await Promise.all([
    sql<{
      studentId: string
      name: string
      number: string | null
      classId: string
      className: string
      version: number | null
      answered: boolean
      changedBy: string | null
    }>`
      select * from (
        select distinct on (st.id) st.id as student_id, st.sort_name as name, st.number, c.id as class_id, c.name as class_name,
          a.version, coalesce(a.state = 'handed in', false) as answered, a.changed_by
        from sitting i
        join sitting_class ic on ic.school_id = i.school_id and ic.assessment_id = i.assessment_id and ic.sitting_id = i.id
        join class c on c.school_id = ic.school_id and c.id = ic.class_id
        join class_member m on m.school_id = c.school_id and m.class_id = c.id
        join student st on st.school_id = m.school_id and st.id = m.student_id
        left join attempt a on a.school_id = i.school_id and a.assessment_id = i.assessment_id and a.student_id = st.id and a.number = 1
        where i.assessment_id = ${assessmentId} and (m.period @> i.given_on or a.state = 'handed in')
          and (${some}::uuid[] is null or st.id = any(${some}::uuid[]))
        order by st.id, m.period @> i.given_on desc, lower(m.period) desc
      ) one order by class_name, name, number`.execute(db),
    // Each table by itself: joined in one statement they are planned badly whenever many answers have just come in. As
    // texts: a school's tens of thousands of answers come in half the time that objects by question would take.
    sql<{ student_id: string; questions: string; given: readonly unknown[] }>`
      select r.student_id, string_agg(r.question_id::text, ' ') as questions, json_agg(r.value) as given from response r
      where r.assessment_id = ${assessmentId} and r.attempt = 1 and (${some}::uuid[] is null or r.student_id = any(${some}::uuid[]))
      group by r.student_id`.execute(db.withoutPlugins()),
    sql<PointsRow>`
      select p.student_id, p.source, string_agg(p.question_id::text, ' ') as questions, string_agg(p.points::text, ' ') as points
      from response_points p
      where p.assessment_id = ${assessmentId} and p.attempt = 1 and (${some}::uuid[] is null or p.student_id = any(${some}::uuid[]))
      group by p.student_id, p.source`.execute(db.withoutPlugins()),
  ])
  const split = splitter()
  const givenBy = new Map(responses.rows.map((row) => [row.student_id, row]))
  // Of several sources the strongest counts: it is put last.
  const pointsBy = groupBy(
    [...points.rows].sort((a, b) => pointsSources.indexOf(b.source) - pointsSources.indexOf(a.source)),
    (row) => row.student_id,
  )
  return roll.rows.map((row) => {
    const given = row.answered ? givenBy.get(row.studentId) : undefined
    const own = row.answered ? (pointsBy.get(row.studentId) ?? []) : []
    const counted = new Map<string, number>()
    const byHand = new Map<string, string>()
    for (const { source, questions, points: joined } of own) {
      const pieces = joined.split(' ')
      split(questions).forEach((id, i) => {
        const piece = pieces[i] ?? '0'
        counted.set(id, Math.round(100 * Number(piece)))
        if (source === 'hand') byHand.set(id, plain(piece))
      })
    }
    return {
      ...row,
      version: row.version ?? 0,
      responses: new Map(
        given &&
          split(given.questions).map((id, i): [string, Counted] => [
            id,
            { value: given.given[i] ?? undefined, points: counted.get(id) },
          ]),
      ),
      byHand,
    }
  })
}

/** What a student's answers to an assessment come to, as everyone reads it who builds on it. */
export interface AssessmentResult {
  readonly assessmentId: string
  readonly studentId: string
  readonly points: string
  /** How many answers have no points yet; while there are any, the result is not final. */
  readonly unmarked: number
  readonly version: number
  readonly changedBy: string
  readonly changedAt: string
}

/**
 * The one door to results: the attempt that counts of each student, or the mean of all where the assessment says so.
 * A select of `AssessmentResult`, to be part of a larger statement or to stand alone.
 * @param assessments a select of the assessments' identifiers
 * @param students only these
 */
export const resultsOf = (
  assessments: RawBuilder<unknown>,
  students?: readonly string[],
): RawBuilder<AssessmentResult> => sql`
  select r.assessment_id, r.student_id, r.points::text as points, r.unmarked, r.version, r.changed_by, r.changed_at
  from assessment_result r where r.assessment_id = any(array(${assessments}))
    and (${students ?? null}::uuid[] is null or r.student_id = any(${students ?? null}::uuid[]))`

/** The same by learning standard: each with `standardId`, and the points of the questions tagged with it. */
export const standardResultsOf = (
  assessments: RawBuilder<unknown>,
): RawBuilder<AssessmentResult & { readonly standardId: string }> => sql`
  select r.assessment_id, r.standard_id, r.student_id, r.points::text as points, r.unmarked, r.version, r.changed_by, r.changed_at
  from assessment_standard_result r where r.assessment_id = any(array(${assessments}))`
