// 620 report cards in one PDF, and memory while they are made. Writes the same contents as HTML for the reference.
import { exampleCard } from '@tests/example-card'
import { writeFileSync } from 'node:fs'
import type { CardContents } from '@/core/reports/card'
import { lowerSubjects } from '@/demo/structure'
import { printCards } from '@/formats/pdf/report-card'

const cards = Array.from({ length: 620 }, (_, i): CardContents => ({
  school: 'Wrackline School',
  round: 'Autumn report',
  year: '2026/27',
  term: 'Autumn',
  student: {
    id: String(i),
    name: `Student ${i + 1}`,
    number: i + 1,
    yearGroup: 'Year 7',
    homeroom: '7 Tern',
  },
  homeroomTeacher: 'Remi Achterberg',
  lines: lowerSubjects.map((subject, s) => ({
    subject,
    className: subject,
    teacher: 'Remi Achterberg',
    mark: `${60 + ((i * 7 + s) % 40)}.${i % 10}`,
    grade: 'B',
    effort: 'good',
    comment: `Works steadily in ${subject} and asks questions that move the whole class on. Showing each step would lift the results further.`,
    checked: true,
  })),
  ...exampleCard,
}))
const html = `<!doctype html><html lang="en"><style>@page{size:A4;margin:19mm}body{font:10pt sans-serif}section{break-before:right}table{width:100%;border-collapse:collapse}td{border-bottom:1px solid #ddd;padding:4px;break-inside:avoid}</style>${cards
  .map(
    (c) =>
      `<section><p>${c.school}, ${c.round}</p><h1>${c.student.name}</h1><p>${c.student.yearGroup}, ${c.student.homeroom}</p><h2>Attendance</h2><p>${c.attendance.present} of ${c.attendance.possible}</p><h2>Subjects</h2><table>${c.lines.map((l) => `<tr><td><b>${l.subject}</b><br>${l.teacher}<br>${l.comment}</td><td>${l.mark}</td><td>${l.grade}</td><td>${l.effort}</td></tr>`).join('')}</table></section>`,
  )
  .join('')}</html>`
writeFileSync(process.argv[2] ?? '/tmp/cards.html', html)

await printCards(cards.slice(0, 20))
const from = performance.now()
const { bytes, pageCount } = await printCards(cards)
const milliseconds = performance.now() - from

// Memory in a run of its own, since collecting garbage at every step takes time.
const heap: number[] = []
await printCards(cards, async (n) => {
  if (n % 62 === 0) {
    globalThis.gc?.()
    heap.push(Math.round(process.memoryUsage().heapUsed / 1048576))
  }
  return 'go on'
})
console.log(JSON.stringify({ milliseconds, pages: pageCount, bytes: bytes.length, heap }))
