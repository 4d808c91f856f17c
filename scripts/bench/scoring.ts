// Scoring 1,500 answer sheets of 40 questions of all kinds, and all findings of them, in the core: against a plain loop
// over the same answers that knows nothing of kinds, of exact fractions or of units. Prints medians and their ratio.
import { newQuestion, type Keyed } from '@/core/assessment/kinds'
import { readFindings, type Attempt } from '@/core/assessment/findings'
import { usualLevels } from '@/core/assessment/levels'
import { keyPoints, totalOf, type AskedQuestion, type Counted } from '@/core/assessment/scoring'
import { median } from './median'

const kinds: readonly Keyed[] = [
  { kind: 'one choice', content: { choices: ['A', 'B', 'C', 'D'], right: 'B' } },
  {
    kind: 'several choices',
    content: { choices: ['A', 'B', 'C', 'D'], right: ['A', 'C'], rule: 'each right less each wrong' },
  },
  { kind: 'true or false', content: { right: true } },
  { kind: 'number', content: { right: '3.5', tolerance: '0.1', toleranceIn: 'units', unit: 'm' } },
  {
    kind: 'short text',
    content: { accepted: ['ice'], matters: { case: false, accents: false, spaces: false } },
  },
  newQuestion('written', 4),
]
const answers: readonly (readonly unknown[])[] = [
  ['A', 'B', 'C', 'D'],
  [['A', 'C'], ['A'], ['A', 'B'], ['B', 'D']],
  [true, false, true, true],
  ['3.5', '3,5 m', '3.7', '3.45'],
  ['ice', 'ICE', 'Ice ', 'water'],
  ['Because it floats', '', 'It does not', ''],
]
const questions = Array.from(
  { length: 40 },
  (_, i) =>
    ({
      ...kinds[i % kinds.length],
      id: `q${i}`,
      position: i + 1,
      points: String(1 + (i % 3)),
      counts: 'keyed',
      standardIds: [`s${i % 5}`],
    }) as AskedQuestion,
)
const sheets = Array.from({ length: 1500 }, (_, s) =>
  questions.map((_, i) => answers[i % kinds.length]?.[(s * 7 + i * 3 + (s >> 2)) % 4]),
)

/** The reference: each kind by hand, in floating point. */
function plain(): number {
  let sum = 0
  for (const sheet of sheets)
    sheet.forEach((given, i) => {
      const points = 1 + (i % 3)
      const kind = i % kinds.length
      if (kind === 0 && given === 'B') sum += points
      if (kind === 1 && Array.isArray(given)) {
        const hits = given.filter((c) => c === 'A' || c === 'C').length
        sum += (points * Math.max(0, 2 * hits - given.length)) / 2
      }
      if (kind === 2 && given === true) sum += points
      if (kind === 3 && Math.abs(parseFloat(String(given).replace(',', '.')) - 3.5) <= 0.1000001)
        sum += points
      if (kind === 4 && String(given).trim().toLowerCase() === 'ice') sum += points
    })
  return sum
}

const counted = (sheet: readonly unknown[]): ReadonlyMap<string, Counted> =>
  new Map(questions.map((q, i) => [q.id, { value: sheet[i], points: keyPoints(q, sheet[i]) }]))
const core = () => sheets.reduce((sum, sheet) => sum + totalOf(questions, counted(sheet)).points, 0)
if (Math.abs(core() / 100 - plain()) > 0.5) throw new Error('the two ways disagree')
const attempts = sheets.map((sheet, s): Attempt => ({ studentId: `x${s}`, responses: counted(sheet) }))

const own = median(core, 40)
const reference = median(plain, 40)
const findings = median(() => void readFindings(questions, attempts, usualLevels, () => usualLevels), 20)
const row = (name: string, value: string) => console.log(`  ${name.padEnd(52)}${value}`)
console.log('Assessments, 1,500 sheets × 40 questions of all kinds (median)')
row('core, all sheets scored', `${own.toFixed(1)} ms`)
row('plain loop, the same', `${reference.toFixed(1)} ms`)
row('core / plain', (own / reference).toFixed(1))
row('core, all findings of them', `${findings.toFixed(1)} ms`)
