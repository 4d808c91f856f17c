/** A grade, and the percentage from which it is given. */
export interface Band {
  readonly grade: string
  /** A decimal as text, 0 to 100. */
  readonly fromPercent: string
}

/** What is wrong, at which row and field. */
export interface BandProblem {
  readonly path: readonly [row: number, field: keyof Band]
  readonly message: string
}

/** What is wrong with the grades of a scale that has any, each with the row it stands in and the field. */
export function checkBands(bands: readonly Band[]): readonly BandProblem[] {
  const same = (a: Band, b: Band) => a.grade.trim().toLowerCase() === b.grade.trim().toLowerCase()
  const problems = bands.flatMap((band, i): readonly BandProblem[] => {
    const before = bands.slice(0, i)
    if (band.grade.trim() && before.some((b) => same(b, band)))
      return [{ path: [i, 'grade'], message: `${band.grade} is in the scale twice.` }]
    if (band.fromPercent.trim() && before.some((b) => Number(b.fromPercent) === Number(band.fromPercent)))
      return [
        {
          path: [i, 'fromPercent'],
          message: `Two grades cannot both begin at ${band.fromPercent} %.`,
        },
      ]
    return []
  })
  const last = bands.length - 1
  const isComplete = bands.every((b) => b.fromPercent.trim() !== '')
  return problems.length === 0 &&
    bands.length > 0 &&
    isComplete &&
    !bands.some((b) => Number(b.fromPercent) === 0)
    ? [
        {
          path: [last, 'fromPercent'],
          message: 'One grade must begin at 0 %, so that every mark has a grade.',
        },
      ]
    : problems
}

/** The span of each grade in words, highest first: `B 80 to under 90`. */
export function bandWords(bands: readonly Band[]): readonly string[] {
  const sorted = [...bands].sort((a, b) => Number(b.fromPercent) - Number(a.fromPercent))
  return sorted.map(({ grade, fromPercent }, i) => {
    const above = sorted[i - 1]
    return above
      ? `${grade} ${fromPercent} to under ${above.fromPercent}`
      : `${grade} ${fromPercent} and above`
  })
}
