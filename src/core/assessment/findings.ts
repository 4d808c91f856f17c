import { fromHundredths, hundredths } from '@/core/marks/rational'
import { kindOf, type Group } from './kinds'
import { levelOf, type Level } from './levels'
import { countedPoints, isUnmarked, totalOf, type AskedQuestion, type Counted } from './scoring'

/** A student's attempt that counts. */
export interface Attempt {
  readonly studentId: string
  readonly responses: ReadonlyMap<string, Counted>
}

export interface StudentResult {
  readonly studentId: string
  /** Points as a decimal text. */
  readonly points: string
  readonly percent: number
  /** Place in the levels, the highest first. */
  readonly level: number
  readonly unmarked: number
}

const sum = (values: readonly number[]) => values.reduce((a, b) => a + b, 0)

/** The result of one attempt over some questions. */
export function resultOf(
  questions: readonly AskedQuestion[],
  { studentId, responses }: Attempt,
  levels: readonly Level[],
): StudentResult {
  const { points, most, unmarked } = totalOf(questions, responses)
  return {
    studentId,
    points: fromHundredths(points),
    percent: most === 0 ? 0 : (100 * points) / most,
    level: levelOf(points, most, levels),
    unmarked,
  }
}

export interface Summary {
  readonly assessed: number
  /** In points; undefined without results. */
  readonly mean: number | undefined
  readonly median: number | undefined
  /** Sample standard deviation (n - 1); undefined for fewer than two results. */
  readonly deviation: number | undefined
  readonly lowest: number | undefined
  readonly highest: number | undefined
}

/** Mean, median and sample standard deviation of points. */
export function summarise(points: readonly number[]): Summary {
  const sorted = [...points].sort((a, b) => a - b)
  const n = sorted.length
  const at = (i: number) => sorted[i] ?? 0
  const mean = n > 0 ? sum(sorted) / n : undefined
  return {
    assessed: n,
    mean,
    median: n > 0 ? (at(Math.floor((n - 1) / 2)) + at(Math.ceil((n - 1) / 2))) / 2 : undefined,
    deviation:
      n > 1 && mean !== undefined ? Math.sqrt(sum(sorted.map((x) => (x - mean) ** 2)) / (n - 1)) : undefined,
    lowest: sorted[0],
    highest: sorted[n - 1],
  }
}

export interface QuestionFinding {
  readonly questionId: string
  /** Share of the question's points earned, 0 to 1, of those whose answers have points; undefined without any. */
  readonly share: number | undefined
  /** Who answered what, as the kind groups it. */
  readonly groups: readonly Group[]
  readonly leftOut: readonly string[]
  readonly unmarked: readonly string[]
  /** Everyone who has not all of its points. */
  readonly without: readonly string[]
}

export interface StandardFinding {
  readonly standardId: string
  readonly questionPositions: readonly number[]
  /** Students by level, the highest first. */
  readonly byLevel: readonly (readonly string[])[]
}

export interface Findings {
  readonly results: readonly StudentResult[]
  readonly summary: Summary
  /** Students by level, the highest first. */
  readonly byLevel: readonly (readonly string[])[]
  readonly questions: readonly QuestionFinding[]
  readonly standards: readonly StandardFinding[]
}

const groupByLevel = (results: readonly StudentResult[], levels: readonly Level[]) =>
  levels.map((_, i) => results.filter((r) => r.level === i).map((r) => r.studentId))

function findQuestion(question: AskedQuestion, attempts: readonly Attempt[]): QuestionFinding {
  const full = hundredths(question.points)
  const answered: { studentId: string; value: unknown }[] = []
  const leftOut: string[] = []
  const unmarked: string[] = []
  const without: string[] = []
  let earned = 0
  for (const { studentId, responses } of attempts) {
    const response = responses.get(question.id)
    if (response?.value === undefined) leftOut.push(studentId)
    else answered.push({ studentId, value: response.value })
    if (isUnmarked(question, response)) unmarked.push(studentId)
    const points = countedPoints(question, response)
    if (points < full) without.push(studentId)
    earned += points
  }
  const marked = attempts.length - unmarked.length
  return {
    questionId: question.id,
    share: full === 0 || marked === 0 || question.counts === 'dropped' ? undefined : earned / (full * marked),
    groups: kindOf(question.kind).tally(question.content, answered),
    leftOut,
    unmarked,
    without,
  }
}

/**
 * Reads the results of one assessment: overall, per question and per standard. Students come in the order of the
 * attempts.
 * @param levelsOf the levels of a learning standard, where they do not begin where those of the whole do
 */
export function readFindings(
  questions: readonly AskedQuestion[],
  attempts: readonly Attempt[],
  levels: readonly Level[],
  levelsOf: (standardId: string) => readonly Level[] = () => levels,
): Findings {
  const results = attempts.map((attempt) => resultOf(questions, attempt, levels))
  const standardIds = [...new Set(questions.flatMap((q) => q.standardIds))]
  return {
    results,
    summary: summarise(results.map((r) => Number(r.points))),
    byLevel: groupByLevel(results, levels),
    questions: questions.map((question) => findQuestion(question, attempts)),
    standards: standardIds.map((standardId) => {
      const tagged = questions.filter((q) => q.standardIds.includes(standardId))
      const own = levelsOf(standardId)
      return {
        standardId,
        questionPositions: tagged.map((q) => q.position),
        byLevel: groupByLevel(
          attempts.map((attempt) => resultOf(tagged, attempt, own)),
          own,
        ),
      }
    }),
  }
}
