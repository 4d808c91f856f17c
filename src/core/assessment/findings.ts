import { fromHundredths, hundredths } from '@/core/marks/rational'

export type Level = 'secure' | 'nearly' | 'not yet'
export const levels: readonly Level[] = ['secure', 'nearly', 'not yet']

export interface ScoredQuestion {
  readonly id: string
  readonly position: number
  readonly key: string | null
  readonly choices: number
  readonly points: string
  readonly standardId: string | null
}

export interface Sheet {
  readonly studentId: string
  /** The letter chosen, by question id; an absent key is a question left out. */
  readonly answers: ReadonlyMap<string, string>
}

export interface Thresholds {
  /** Lowest percentage of points that is secure, and that is nearly. */
  readonly secureFrom: string
  readonly nearlyFrom: string
}

export interface StudentResult {
  readonly studentId: string
  /** Points as a decimal text. */
  readonly points: string
  readonly percent: number
  readonly level: Level
}

/** The level of a share of points, compared exactly: points / max against the thresholds. */
export function levelOf(points: number, max: number, { secureFrom, nearlyFrom }: Thresholds): Level {
  if (max === 0) return 'not yet'
  // points/max >= threshold/100, in hundredths on both sides so that all numbers are whole.
  const reaches = (threshold: string) => points * 10000 >= hundredths(threshold) * max
  return reaches(secureFrom) ? 'secure' : reaches(nearlyFrom) ? 'nearly' : 'not yet'
}

const earned = (question: ScoredQuestion, sheet: Sheet) =>
  question.key !== null && sheet.answers.get(question.id) === question.key ? hundredths(question.points) : 0

const sum = (values: readonly number[]) => values.reduce((a, b) => a + b, 0)

/** Scores one sheet: full points for the key's letter, none otherwise. */
export function scoreSheet(
  questions: readonly ScoredQuestion[],
  sheet: Sheet,
  thresholds: Thresholds,
): StudentResult {
  const points = sum(questions.map((q) => earned(q, sheet)))
  const max = sum(questions.map((q) => hundredths(q.points)))
  return {
    studentId: sheet.studentId,
    points: fromHundredths(points),
    percent: max === 0 ? 0 : (100 * points) / max,
    level: levelOf(points, max, thresholds),
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
  /** Share of the question's points earned, 0 to 1; undefined without sheets. */
  readonly share: number | undefined
  /** Students by the letter they chose, every choice present; `''` holds those who left it out. */
  readonly chosenBy: ReadonlyMap<string, readonly string[]>
}

export interface StandardFinding {
  readonly standardId: string
  readonly questionPositions: readonly number[]
  readonly byLevel: Readonly<Record<Level, readonly string[]>>
}

export interface Findings {
  readonly results: readonly StudentResult[]
  readonly summary: Summary
  readonly byLevel: Readonly<Record<Level, readonly string[]>>
  readonly questions: readonly QuestionFinding[]
  readonly standards: readonly StandardFinding[]
}

function groupByLevel(
  results: readonly { studentId: string; level: Level }[],
): Record<Level, readonly string[]> {
  const of = (level: Level) => results.filter((r) => r.level === level).map((r) => r.studentId)
  return { secure: of('secure'), nearly: of('nearly'), 'not yet': of('not yet') }
}

/** Reads the results of one assessment: overall, per question and per standard. Students come in the order of the sheets. */
export function readFindings(
  questions: readonly ScoredQuestion[],
  sheets: readonly Sheet[],
  thresholds: Thresholds,
): Findings {
  const results = sheets.map((sheet) => scoreSheet(questions, sheet, thresholds))
  const standardIds = [...new Set(questions.flatMap((q) => q.standardId ?? []))]
  return {
    results,
    summary: summarise(results.map((r) => Number(r.points))),
    byLevel: groupByLevel(results),
    questions: questions.map((question) => {
      const letters = [...Array.from({ length: question.choices }, (_, i) => String.fromCharCode(65 + i)), '']
      const full = hundredths(question.points) * sheets.length
      return {
        questionId: question.id,
        share: full === 0 ? undefined : sum(sheets.map((s) => earned(question, s))) / full,
        chosenBy: new Map(
          letters.map((l) => [
            l,
            sheets.filter((s) => (s.answers.get(question.id) ?? '') === l).map((s) => s.studentId),
          ]),
        ),
      }
    }),
    standards: standardIds.map((standardId) => {
      const tagged = questions.filter((q) => q.standardId === standardId)
      const of = sheets.map((sheet) => scoreSheet(tagged, sheet, thresholds))
      return { standardId, questionPositions: tagged.map((q) => q.position), byLevel: groupByLevel(of) }
    }),
  }
}
