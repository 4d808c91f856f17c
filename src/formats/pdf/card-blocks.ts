import type { CardContents, CardLine } from '@/core/reports/card'
import { ink, margin, muted, rule, shoal, textWidth, type Paper, type Style } from './paper'
import { wrap } from './wrap'

/** Something of a known height, in points, that is drawn at a place on the page and says what it is to a screen reader. */
export interface Block {
  readonly height: number
  /** Whether it is a row of the table of subjects. */
  readonly isRow?: true
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
/** What a figure may take of its column. */
const columnWidth = 50
const subjectLine = 15

const facts = (card: CardContents): readonly (readonly [string, string])[] => [
  ['Year group', card.student.yearGroup],
  ['Homeroom', `${card.student.homeroom}${card.homeroomTeacher ? `, ${card.homeroomTeacher}` : ''}`],
  [
    'Student number',
    card.student.number === null ? 'not enrolled' : String(card.student.number).padStart(4, '0'),
  ],
  ['Term', `${card.term}, ${card.year}`],
]

const schoolLine = 15
const nameLine = 28
const factLine = 13

/** School and round, the student's name, and who that is; however long each is. */
export function headBlock(card: CardContents, paper: Paper): Block {
  const issue = card.issue > 1 ? `, version ${card.issue}` : ''
  const round = paper.wrapped(`${card.round}${issue}`, textWidth * 0.45, quiet)
  const ofSchool = paper.wrapped(card.school, textWidth * 0.52, school)
  const named = paper.wrapped(card.student.name, textWidth, name)
  const half = textWidth / 2 - 12
  const told = facts(card).map(([label, value]) => {
    const indent = paper.widthOf(`${label}: `, fact)
    return { label, indent, lines: paper.wrapped(value, half - indent, fact) }
  })
  const under = Math.max(round.length, ofSchool.length) * schoolLine + 5
  const toName = under + 14
  const toFacts = toName + named.length * nameLine + 8
  const rowHeight = (row: number) =>
    Math.max(...told.slice(row * 2, row * 2 + 2).map((t) => t.lines.length)) * factLine + 5
  return {
    height: toFacts + rowHeight(0) + rowHeight(1) + 26,
    draw(to, top) {
      to.tag('P', () => to.lines(ofSchool, margin, top, schoolLine, school))
      to.tag('P', () =>
        round.forEach((words, i) => to.writeTo(words, margin + textWidth, top + 1 + i * schoolLine, quiet)),
      )
      to.line(top + under, 1, ink)
      to.tag('H1', () => to.lines(named, margin, top + toName, nameLine, name))
      told.forEach(({ label, indent, lines }, i) => {
        const x = margin + (i % 2) * (textWidth / 2)
        const y = top + toFacts + (i < 2 ? 0 : rowHeight(0))
        to.tag('P', () => {
          to.write(`${label}: `, x, y, { ...fact, colour: muted })
          to.lines(lines, x + indent, y, factLine, fact)
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
            paper.cell('TH', () => paper.write(label, left(i), top + 24, small), { scope: 'Column' }),
          ),
        )
        paper.within('TR', () =>
          figures.forEach(([, value], i) =>
            paper.cell('TD', () => paper.write(value, left(i), top + 38, figure)),
          ),
        )
      })
    },
  }
}

/** The heading above the subjects. */
export function subjectsBlock(): Block {
  return {
    height: 17,
    draw: (paper, top) => paper.tag('H2', () => paper.write('Subjects', margin, top, heading)),
  }
}

const heads = [
  ['Mark', markEdge],
  ['Grade', gradeEdge],
  ['Effort', effortEdge],
] as const

/**
 * The heads of the columns beside a subject.
 * @param repeated on a further page, where they are drawn once more and passed over by screen readers
 */
export function subjectHeadsBlock(repeated: boolean): Block {
  return {
    height: 22,
    isRow: true,
    draw(paper, top) {
      if (repeated)
        paper.artifact(() => {
          paper.write('Subject', margin, top + 3, small)
          for (const [word, edge] of heads) paper.writeTo(word, edge, top + 3, small)
        }, 'Pagination')
      else
        paper.within('TR', () => {
          paper.cell('TH', () => paper.write('Subject', margin, top + 3, small), { scope: 'Column' })
          for (const [word, edge] of heads)
            paper.cell('TH', () => paper.writeTo(word, edge, top + 3, small), { scope: 'Column' })
        })
      paper.line(top + 17, 0.7, ink)
    },
  }
}

/** What stands under a subject: who teaches it, and the further lines of the report that have a value. */
const underSubjectOf = ({ teacher, more = [] }: CardLine): string =>
  [teacher, ...more.filter((m) => m.value !== '').map((m) => `${m.name}: ${m.value}`)].join('. ')

/** A subject: its figures, its teacher, the comment. */
export function subjectBlock(line: CardLine, paper: Paper): Block {
  const comment = line.comment
    ? wrap(line.comment, textWidth - 12, (words) => paper.widthOf(words, body))
    : []
  const commentHeight = comment.length > 0 ? comment.length * bodyLine + 4 : 0
  const subject = paper.wrapped(line.subject, markEdge - margin - columnWidth, heading)
  const under = underSubjectOf(line)
  const teacher = paper.wrapped(comment.length > 0 ? `${under} ` : under, textWidth, small)
  const underSubject = subject.length * subjectLine
  const underTeacher = underSubject + teacher.length * smallLine
  // What nobody has entered is a dash, and never "none", which would be a judgement.
  const figures = [
    [line.mark, markEdge],
    [line.grade, gradeEdge],
    [line.effort, effortEdge],
  ] as const
  return {
    height: underTeacher + 13 + commentHeight,
    isRow: true,
    draw(to, top) {
      to.within('TR', () => {
        to.cell('TH', () => to.lines(subject, margin, top + 4, subjectLine, heading), { scope: 'Row' })
        for (const [value, edge] of figures)
          to.cell(
            'TD',
            () => to.writeFitting(value ?? '–', edge, top + 4, columnWidth, figure),
            value ? {} : { actual: 'not entered' },
          )
      })
      to.within('TR', () =>
        to.cell(
          'TD',
          () => {
            to.lines(teacher, margin, top + underSubject + 4, smallLine, small)
            to.lines(comment, margin, top + underTeacher + 6, bodyLine, body)
          },
          { columns: 4 },
        ),
      )
      to.line(top + underTeacher + 9 + commentHeight, 0.5, rule)
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
      to.tag('P', () => to.lines(lines, margin, top + 10, smallLine, small))
    },
  }
}
