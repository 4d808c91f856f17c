import type { CardContents, CardLine } from '@/core/reports/card'
import { ink, margin, muted, rule, shoal, textWidth, type Paper, type Style } from './paper'
import { wrap } from './wrap'

/** Something of a known height, in points, that is drawn at a place on the page and says what it is to a screen reader. */
export interface Block {
  readonly height: number
  readonly draw: (paper: Paper, top: number) => void
}

const school: Style = { font: 'bold', size: 11, colour: ink }
const quiet: Style = { font: 'regular', size: 10, colour: muted }
const name: Style = { font: 'bold', size: 22, colour: ink }
const fact: Style = { font: 'regular', size: 9.5, colour: ink }
const heading: Style = { font: 'bold', size: 11, colour: ink }
const figure: Style = heading
const body: Style = { font: 'regular', size: 9.5, colour: ink }
const bodyLine = 13.2
const small: Style = { font: 'regular', size: 8.5, colour: muted }
const smallLine = 11.8

/** Right edges of the three columns beside a subject. */
const markEdge = margin + textWidth - 145
const gradeEdge = margin + textWidth - 90
const effortEdge = margin + textWidth

const facts = (card: CardContents): readonly (readonly [string, string])[] => [
  ['Year group', card.student.yearGroup],
  ['Homeroom', `${card.student.homeroom}${card.homeroomTeacher ? `, ${card.homeroomTeacher}` : ''}`],
  [
    'Student number',
    card.student.number === null ? 'not enrolled' : String(card.student.number).padStart(4, '0'),
  ],
  ['Term', `${card.term}, ${card.year}`],
]

/** School and round, the student's name, and who that is. */
export function headBlock(card: CardContents): Block {
  return {
    height: 132,
    draw(paper, top) {
      paper.tag('P', () => paper.write(card.school, margin, top, school))
      const issue = card.issue > 1 ? `, version ${card.issue}` : ''
      paper.tag('P', () => paper.writeTo(`${card.round}${issue}`, margin + textWidth, top + 1, quiet))
      paper.line(top + 20, 1, ink)
      paper.tag('H1', () => paper.writeWithin(card.student.name, margin, top + 34, textWidth, name))
      facts(card).forEach(([label, value], i) => {
        const x = margin + (i % 2) * (textWidth / 2)
        const y = top + 70 + Math.floor(i / 2) * 18
        paper.tag('P', () => {
          const words = `${label}: `
          paper.write(words, x, y, { ...fact, colour: muted })
          paper.write(value, x + paper.widthOf(words, fact), y, fact)
        })
      })
    },
  }
}

/** Attendance figures as a table of one row. */
export function attendanceBlock({ attendance }: CardContents): Block {
  const figures: readonly (readonly [string, string])[] = [
    ['Half-days', String(attendance.possible)],
    [
      'Present',
      attendance.percentPresent === undefined ? '–' : `${attendance.present}, ${attendance.percentPresent}%`,
    ],
    ['Late', String(attendance.late)],
    ['Absent with reason', String(attendance.withReason)],
    ['Absent, unexplained', String(attendance.withoutReason)],
  ]
  const left = (i: number) => margin + 8 + (i * textWidth) / figures.length
  return {
    height: 74,
    draw(paper, top) {
      paper.tag('H2', () => paper.write('Attendance', margin, top, heading))
      paper.artifact(() => paper.doc.rect(margin, top + 18, textWidth, 40).fill(shoal))
      paper.within('Table', () => {
        paper.within('TR', () =>
          figures.forEach(([label], i) =>
            paper.tag('TH', () => paper.write(label, left(i), top + 24, small)),
          ),
        )
        paper.within('TR', () =>
          figures.forEach(([, value], i) =>
            paper.tag('TD', () => paper.write(value, left(i), top + 38, figure)),
          ),
        )
      })
    },
  }
}

/** What stands above the subjects. */
export function subjectsHeadBlock(): Block {
  return {
    height: 24,
    draw(paper, top) {
      paper.tag('H2', () => paper.write('Subjects', margin, top, heading))
      // Each figure is spoken with its name, so the columns' heads are only drawn.
      paper.artifact(() => {
        paper.writeTo('Mark', markEdge, top + 3, small)
        paper.writeTo('Grade', gradeEdge, top + 3, small)
        paper.writeTo('Effort', effortEdge, top + 3, small)
      })
      paper.line(top + 19, 0.7, ink)
    },
  }
}

interface Figure {
  readonly drawn: string
  readonly spoken: string
}

/** A subject: its figures, its teacher, the comment. */
export function subjectBlock(line: CardLine, paper: Paper): Block {
  const comment = line.comment
    ? wrap(line.comment, textWidth - 12, (words) => paper.widthOf(words, body))
    : []
  const commentHeight = comment.length > 0 ? comment.length * bodyLine + 4 : 0
  // What nobody has entered is a dash, and never "none", which would be a judgement.
  const [mark, grade, effort] = [line.mark, line.grade, line.effort].map((value) => ({
    drawn: value ?? '–',
    spoken: value ?? 'not entered',
  })) as [Figure, Figure, Figure]
  return {
    height: 40 + commentHeight,
    draw(to, top) {
      to.tag('H3', () => to.write(line.subject, margin, top + 4, heading))
      to.tag(
        'P',
        () => {
          to.writeTo(mark.drawn, markEdge, top + 4, figure)
          to.writeTo(grade.drawn, gradeEdge, top + 4, figure)
          to.writeTo(effort.drawn, effortEdge, top + 4, figure)
        },
        `Mark: ${mark.spoken}. Grade: ${grade.spoken}. Effort: ${effort.spoken}.`,
      )
      to.tag('P', () => to.write(line.teacher, margin, top + 19, small))
      if (comment.length > 0)
        to.tag('P', () =>
          comment.forEach((words, i) => to.write(words, margin, top + 33 + i * bodyLine, body)),
        )
      to.line(top + 36 + commentHeight, 0.5, rule)
    },
  }
}

function scaleInWords(scale: CardContents['scale']): string {
  const bands = scale.map((b, i) =>
    i === scale.length - 1 && Number(b.fromPercent) === 0
      ? `${b.grade} below`
      : `${b.grade} from ${b.fromPercent}`,
  )
  return `Grades: ${bands.join(', ')}.`
}

/** What is still to follow, the grade scale, and what counts as present. */
export function footBlock(card: CardContents, paper: Paper): Block {
  const text = [
    card.toFollow.length > 0 ? [`Still to follow: ${card.toFollow.join(', ')}.`] : [],
    card.scale.length > 0 ? [scaleInWords(card.scale)] : [],
    ['Present counts late arrivals and school activities elsewhere; one school day has two half-days.'],
  ]
    .flat()
    .join(' ')
  const lines = wrap(text, textWidth, (words) => paper.widthOf(words, small))
  return {
    height: lines.length * smallLine + 16,
    draw(to, top) {
      to.tag('P', () => lines.forEach((words, i) => to.write(words, margin, top + 10 + i * smallLine, small)))
    },
  }
}
