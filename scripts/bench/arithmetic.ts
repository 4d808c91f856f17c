// Term marks of 30 students with 100 assignments: the core against a plain evaluation in exact fractions, cell by
// cell, and against a general spreadsheet engine. Prints medians of many runs and their ratios.
import { readFileSync } from 'node:fs'
import { createRequire } from 'node:module'
import { initSync, Model } from '@ironcalc/wasm'
import type { ScoreEntry, Gradebook } from '@/core/marks/gradebook'
import { explainMark } from '@/core/marks/explanation'
import { termMark } from '@/core/marks/term-mark'
import { usualRules } from '@/core/marks/usual-settings'
import { median } from './median'

const categories = ['a', 'b', 'c', 'd'].map((id, i) => ({
  id,
  name: id,
  weight: ['40', '30', '20', '10'][i] ?? '0',
  within: 'points' as const,
  dropLowest: i === 3 ? 2 : 0,
}))
const dates = { on: '2026-11-23', since: '2026-09-01' }
const book: Gradebook = {
  rules: {
    ...usualRules,
    bands: [
      { grade: 'A', fromPercent: '90' },
      { grade: 'E', fromPercent: '0' },
    ],
  },
  categories,
  assignments: Array.from({ length: 100 }, (_, i) => ({
    id: `x${i}`,
    name: `x${i}`,
    categoryId: categories[i % 4]?.id ?? '',
    maxPoints: String(10 + (i % 5) * 10),
    dueOn: '2026-10-01',
    counts: true,
    extra: false,
  })),
}
const students = Array.from(
  { length: 30 },
  (_, s) =>
    new Map(
      book.assignments.map((a, i): [string, ScoreEntry] => [
        a.id,
        { kind: 'points', points: (((s * 7 + i * 3) % (Number(a.maxPoints) * 2)) / 2).toString() },
      ]),
    ),
)

/** The reference: one reduced fraction after another. */
function plain(entries: ReadonlyMap<string, ScoreEntry>): string {
  const gcd = (a: bigint, b: bigint): bigint => (b === 0n ? a : gcd(b, a % b))
  type Fraction = readonly [bigint, bigint]
  const make = (n: bigint, d: bigint): Fraction => {
    const g = gcd(n < 0n ? -n : n, d) || 1n
    return [n / g, d / g]
  }
  const add = (a: Fraction, b: Fraction) => make(a[0] * b[1] + b[0] * a[1], a[1] * b[1])
  const times = (a: Fraction, b: Fraction) => make(a[0] * b[0], a[1] * b[1])
  const over = (a: Fraction, b: Fraction) => make(a[0] * b[1], a[1] * b[0])
  const read = (text: string) => make(BigInt(Math.round(Number(text) * 100)), 100n)
  let total: Fraction = [0n, 1n]
  for (const c of book.categories) {
    const cells = book.assignments
      .filter((a) => a.categoryId === c.id)
      .flatMap((a) => {
        const e = entries.get(a.id)
        return e?.kind === 'points' ? [{ got: read(e.points), of: read(a.maxPoints) }] : []
      })
    const low = (x: (typeof cells)[number], y: (typeof cells)[number]) => {
      const [p, q] = [over(x.got, x.of), over(y.got, y.of)]
      return Number(p[0] * q[1] - q[0] * p[1])
    }
    const kept = [...cells].sort(low).slice(c.dropLowest)
    const got = kept.reduce((sum, x) => add(sum, x.got), [0n, 1n] as Fraction)
    const of = kept.reduce((sum, x) => add(sum, x.of), [0n, 1n] as Fraction)
    total = add(total, times(over(got, of), read(c.weight)))
  }
  const tenths = (20n * total[0] + total[1]) / (2n * total[1])
  return `${tenths / 10n}.${tenths % 10n}`
}

for (const entries of students)
  if (termMark(book, entries, dates).mark !== plain(entries)) throw new Error('the two ways disagree')
/** The same class in a spreadsheet, without what it drops: assignments beside each other, with one formula for each mark. */
function sheet() {
  initSync({ module: readFileSync(createRequire(import.meta.url).resolve('@ironcalc/wasm/wasm_bg.wasm')) })
  const model = new Model('marks', 'en', 'UTC', 'en')
  const places = categories.flatMap((c) => book.assignments.filter((a) => a.categoryId === c.id))
  const letters = (n: number): string =>
    n <= 26 ? String.fromCharCode(64 + n) : letters(Math.floor((n - 1) / 26)) + letters(((n - 1) % 26) + 1)
  const pointsOf = (entries: ReadonlyMap<string, ScoreEntry>, id: string) => {
    const entry = entries.get(id)
    return entry?.kind === 'points' ? entry.points : ''
  }
  const markColumn = places.length + 1
  model.pauseEvaluation()
  places.forEach((a, i) => model.setUserInput(0, 1, i + 1, a.maxPoints))
  students.forEach((entries, s) => {
    places.forEach((a, i) => model.setUserInput(0, s + 2, i + 1, pointsOf(entries, a.id)))
    const shares = categories.map((c) => {
      const at = places.findIndex((a) => a.categoryId === c.id) + 1
      const last = at + places.filter((a) => a.categoryId === c.id).length - 1
      const range = (row: string) => `${letters(at)}${row}:${letters(last)}${row}`
      return `${c.weight}*SUM(${range(String(s + 2))})/SUM(${range('$1')})`
    })
    model.setUserInput(0, s + 2, markColumn, `=ROUND(${shares.join('+')},1)`)
  })
  model.resumeEvaluation()
  model.evaluate()
  return {
    marks: () => students.map((_, s) => Number(model.getFormattedCellValue(0, s + 2, markColumn)).toFixed(1)),
    evaluate: () => model.evaluate(),
    change: (points: string) => model.setUserInput(0, 2, 1, points),
  }
}

const whole: Gradebook = { ...book, categories: categories.map((c) => ({ ...c, dropLowest: 0 })) }
const spread = sheet()
const wholeMarks = students.map((entries) => termMark(whole, entries, dates).mark)
if (String(spread.marks()) !== String(wholeMarks)) throw new Error('the spreadsheet disagrees')

const core = median(() => students.forEach((e) => termMark(book, e, dates)))
const reference = median(() => students.forEach(plain), 40)
const one = median(() => void termMark(book, students[0] ?? new Map(), dates))
const why = median(() => void explainMark(book, students[0] ?? new Map(), dates))
const wholeCore = median(() => students.forEach((e) => termMark(whole, e, dates)))
const wholeOne = median(() => void termMark(whole, students[0] ?? new Map(), dates))
const spreadAll = median(spread.evaluate, 40)
let points = 0
const spreadOne = median(() => spread.change(String(++points % 10)), 40)
const row = (name: string, value: string) => console.log(`  ${name.padEnd(52)}${value}`)
console.log('Gradebook arithmetic, 30 students × 100 assignments (median)')
row('core, all 30 term marks', `${core.toFixed(2)} ms`)
row('plain exact fractions, the same', `${reference.toFixed(2)} ms`)
row('core / plain', `${(core / reference).toFixed(3)}  (${(reference / core).toFixed(1)} times as fast)`)
row('core, one student, as after one keystroke', `${one.toFixed(3)} ms`)
row('core, one explanation', `${why.toFixed(3)} ms`)
console.log('  the same without drops')
row('core, all 30 term marks', `${wholeCore.toFixed(2)} ms`)
row('spreadsheet engine, all formulas', `${spreadAll.toFixed(2)} ms`)
row('core / spreadsheet engine', (wholeCore / spreadAll).toFixed(3))
row('core, one changed score', `${wholeOne.toFixed(3)} ms`)
row('spreadsheet engine, one changed score', `${spreadOne.toFixed(3)} ms`)
row('core / spreadsheet engine', (wholeOne / spreadOne).toFixed(3))
