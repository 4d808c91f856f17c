import sharp from 'sharp'
import { readCodesCsv } from '@/core/attendance/codes-csv'
import { readPasted } from '@/core/marks/pasted'
import { readTypedScore } from '@/core/marks/typed-score'
import { readTimetableCsv } from '@/core/timetable/timetable-csv'
import { heatAndIce, printTest } from '@/demo/heat-and-ice'
import { inspectPdf } from '@/formats/pdf/inspect'
import { makePhoto } from '@/formats/image/photo'
import { readCsv } from '@/screen/read-csv'
import { mutated } from '../walks/mutated'

// Files that were damaged on their way, or made to do damage: each is taken whole or refused in words, and nothing hangs
// or falls over. KEDGE_MUTATED=50 tries fifty times as many.
const times = Number(process.env.KEDGE_MUTATED ?? 1)
const seeds = (n: number) => Array.from({ length: n * times }, (_, i) => i + 1)
const sentence = /^[a-zA-Z0-9].*[.]$/s

test('every PDF', async () => {
  const whole = await printTest('Heat and ice', heatAndIce)
  expect(await inspectPdf(whole)).toEqual({ ok: true, pageCount: 3 })
  let refused = 0
  for (const seed of seeds(25)) {
    const inspected = await inspectPdf(mutated(whole, seed))
    if (inspected.ok) expect(inspected.pageCount).toBeGreaterThanOrEqual(0)
    else expect(inspected.problem).toMatch(sentence)
    if (!inspected.ok) refused++
  }
  expect(refused).toBeGreaterThan(0)
})

test.each(['jpeg', 'png', 'webp'] as const)('every picture: %s', async (format) => {
  const whole = await sharp({ create: { width: 320, height: 200, channels: 3, background: '#336699' } })
    .composite([
      {
        input: Buffer.from(
          '<svg width="90" height="90"><circle cx="45" cy="45" r="40" fill="#e0b050"/></svg>',
        ),
      },
    ])
    .toFormat(format)
    .toBuffer()
  const kinds = new Set<string>()
  for (const seed of seeds(150)) {
    const made = await makePhoto(mutated(whole, seed), { x: 10, y: 0, width: 60, height: 100 })
    kinds.add(made.ok ? 'made' : made.problem)
    if (!made.ok) expect(made.problem).toMatch(sentence)
    else expect(await sharp(made.bytes).metadata()).toMatchObject({ format: 'jpeg', width: 480, height: 480 })
  }
  expect(kinds.size).toBeGreaterThan(1)
})

const codes = `Code,Label,Label for families,Meaning,Requires,Used by
P,Present,,Present,,everyone
L,Late,Late,Late,minutes,everyone
A1,"Ill, with reason",Ill,Absent with reason,note,everyone
M,"Music ""outside""",Away,Educated elsewhere,minutes and note,office
`
const lessons = `Day,Period,Class,Room
Monday,1,7 Science A,Laboratory 1
Monday,2,7 Mathematics B,
Tuesday,1,"7 Science A",Laboratory 1
`

describe('every table', () => {
  const read = async (text: string, seed: number) => {
    // As a browser reads a file: bytes that are no text become replacement characters.
    const csv = await readCsv({
      name: 'list.csv',
      text: () => Promise.resolve(new TextDecoder().decode(mutated(Buffer.from(text), seed))),
    })
    if ('problem' in csv) expect(csv.problem).toMatch(/^list\.csv is not a CSV file: ./)
    return 'problem' in csv ? undefined : csv.rows
  }
  test('of codes: all of it or none', async () => {
    for (const seed of seeds(400)) {
      const rows = await read(codes, seed)
      if (!rows) continue
      const { codes: found, problems } = readCodesCsv(rows)
      if (problems.length > 0) expect(found).toEqual([])
      else expect(found.length).toBeGreaterThan(0)
    }
  })
  test('of lessons: all of it or none', async () => {
    const classes = [
      { id: 'a', name: '7 Science A', roomId: 'r' },
      { id: 'b', name: '7 Mathematics B', roomId: null },
    ]
    for (const seed of seeds(400)) {
      const rows = await read(lessons, seed)
      if (!rows) continue
      const { lessons: placed, problems } = readTimetableCsv(
        rows,
        { classes, rooms: [{ id: 'r', name: 'Laboratory 1' }] },
        ['Monday', 'Tuesday', 'Wednesday', 'Thursday', 'Friday'],
        6,
      )
      if (problems.length > 0) expect(placed).toEqual([])
    }
  })
  test('of scores that are pasted: read whole, or refused with the row', () => {
    const students = ['Ilse', 'Tobias', 'Pip', 'Thora'].map((name, i) => ({ name, number: 401 + i }))
    const columns = ['20', '10'].map((most) => ({
      name: `Out of ${most}`,
      read: (cell: string) => {
        const score = readTypedScore(cell, most)
        return score.ok ? ({ ok: true, value: score.entry } as const) : score
      },
    }))
    for (const seed of seeds(400)) {
      const source = seed % 2 === 0 ? '12\n7.5\nmissing\n9\n' : 'Pip\t12\t3\nIlse\t7.5\tm\n'
      const text = new TextDecoder().decode(mutated(Buffer.from(source), seed))
      const read = readPasted(text, { students, columns, from: 0, rows: students.length })
      if (read.ok) expect(new Set(read.cells.map((c) => `${c.row} ${c.column}`)).size).toBe(read.cells.length)
      else expect(read.problems.every((problem) => sentence.test(problem))).toBe(true)
    }
  })
})
