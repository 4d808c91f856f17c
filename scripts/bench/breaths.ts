// How long the heaviest entries hold the server's main thread in one breath. Prints JSON.
import { monitorEventLoopDelay } from 'node:perf_hooks'
import { xlsxOf } from '@/formats/xlsx/write-list'
import { queries } from '@/server/registry'
import { hashPassword } from '@/server/platform/password-hash'
import { executeQuery } from '@/server/platform/run'
import { actor, db } from './at-school'

const day = process.argv[4] ?? ''

const year = { from: '2026-09-01', to: '2027-06-18', date: day }
const asked: readonly (readonly [string, string, unknown])[] = [
  ['all students', 'people.list', { date: day }],
  [
    'figures of a year, half-days',
    'attendance.figures',
    { kind: 'school', id: null, ...year, sessions: 'half-days' },
  ],
  [
    'figures of a year, lessons',
    'attendance.figures',
    { kind: 'school', id: null, ...year, sessions: 'lessons' },
  ],
  ['registers of a day', 'attendance.registersOfDay', { date: day }],
]
const works: (readonly [string, () => Promise<unknown>])[] = asked.map(([name, query, input]) => [
  name,
  async () => {
    const answer = await executeQuery(queries.get(query) as never, actor, input)
    if (!answer.ok) throw new Error(`${query}: ${answer.failure.message}`)
    return JSON.stringify(answer)
  },
])
const cells = Array.from({ length: 25 }, (_, n) => `value ${n}`)
works.push([
  'a workbook of 500,000 cells',
  () =>
    xlsxOf(
      'Large',
      cells,
      Array.from({ length: 20_000 }, () => cells),
    ),
])
works.push([
  'five passwords hashed',
  () => Promise.all(Array.from({ length: 5 }, () => hashPassword('harbour lights'))),
])

const measured = []
for (const [name, work] of works) {
  await work()
  const delay = monitorEventLoopDelay({ resolution: 1 })
  delay.enable()
  const from = performance.now()
  await work()
  const took = performance.now() - from
  await new Promise((resolve) => setTimeout(resolve, 5))
  delay.disable()
  measured.push({ name, took, longest: delay.max / 1e6 })
}
console.log(JSON.stringify(measured))
await db.destroy()
