import { shortDate } from '@/core/calendar/date-words'
import type { CardContents, CardLine } from '@/core/reports/card'
import {
  artifact,
  ink,
  margin,
  muted,
  openPaper,
  pageHeight,
  pageWidth,
  rule,
  shoal,
  textWidth,
} from './paper'
import { widthsIn, wrap } from './wrap'

type Doc = PDFKit.PDFDocument
type WidthOf = (text: string) => number

const bottom = pageHeight - 62
const markColumn = margin + textWidth - 190
const gradeColumn = margin + textWidth - 135
const effortColumn = margin + textWidth - 80

/** Something of a known height that is drawn at a place on the page and says what it is to a screen reader. */
interface Block {
  readonly height: number
  readonly draw: (doc: Doc, section: PDFKit.PDFStructureElement, top: number) => void
}

const facts = (card: CardContents): readonly (readonly [string, string])[] => [
  ['Year group', card.student.yearGroup],
  ['Homeroom', `${card.student.homeroom}${card.homeroomTeacher ? `, ${card.homeroomTeacher}` : ''}`],
  [
    'Student number',
    card.student.number === null ? 'not enrolled' : String(card.student.number).padStart(4, '0'),
  ],
  ['Term', `${card.term}, ${card.year}`],
]

/** Draws one line that ends at `right`; without a width the package need not look for places to break it. */
function textTo(doc: Doc, text: string, right: number, top: number): void {
  doc.text(text, right - doc.widthOfString(text), top, { lineBreak: false })
}

function headBlock(card: CardContents): Block {
  return {
    height: 132,
    draw(doc, section, top) {
      section.add(
        doc.struct('P', {}, () => {
          doc.font('bold').fontSize(11).fillColor(ink).text(card.school, margin, top, { lineBreak: false })
        }),
      )
      section.add(
        doc.struct('P', {}, () => {
          const issue = card.issue > 1 ? `, issue ${card.issue}` : ''
          doc.font('regular').fontSize(10).fillColor(muted)
          textTo(doc, `${card.round}${issue}`, margin + textWidth, top + 1)
        }),
      )
      artifact(doc, () =>
        doc
          .moveTo(margin, top + 20)
          .lineTo(margin + textWidth, top + 20)
          .lineWidth(1)
          .strokeColor(ink)
          .stroke(),
      )
      section.add(
        doc.struct('H1', {}, () => {
          doc
            .font('bold')
            .fontSize(22)
            .fillColor(ink)
            .text(card.student.name, margin, top + 34, { width: textWidth, height: 28, ellipsis: true })
        }),
      )
      facts(card).forEach(([name, value], i) => {
        const x = margin + (i % 2) * (textWidth / 2)
        const y = top + 70 + Math.floor(i / 2) * 18
        section.add(
          doc.struct('P', {}, () => {
            doc
              .font('regular')
              .fontSize(9.5)
              .fillColor(muted)
              .text(`${name}: `, x, y, { continued: true, width: textWidth / 2 - 8 })
            doc.fillColor(ink).text(value)
          }),
        )
      })
    },
  }
}

function attendanceBlock({ attendance }: CardContents): Block {
  const figures: readonly (readonly [string, string])[] = [
    ['Half-days', String(attendance.possible)],
    [
      'Present',
      attendance.percentPresent === undefined
        ? 'none yet'
        : `${attendance.present}, ${attendance.percentPresent}%`,
    ],
    ['Late', String(attendance.late)],
    ['Absent with reason', String(attendance.withReason)],
    ['Absent, no reason', String(attendance.withoutReason)],
  ]
  const width = textWidth / figures.length
  return {
    height: 74,
    draw(doc, section, top) {
      section.add(
        doc.struct('H2', {}, () => {
          doc.font('bold').fontSize(11).fillColor(ink).text('Attendance', margin, top)
        }),
      )
      artifact(doc, () => doc.rect(margin, top + 18, textWidth, 40).fill(shoal))
      const table = doc.struct('Table')
      section.add(table)
      const heads = doc.struct('TR')
      const values = doc.struct('TR')
      table.add(heads)
      table.add(values)
      figures.forEach(([name], i) =>
        heads.add(
          doc.struct('TH', {}, () => {
            doc
              .font('regular')
              .fontSize(8.5)
              .fillColor(muted)
              .text(name, margin + 8 + i * width, top + 24, { lineBreak: false })
          }),
        ),
      )
      figures.forEach(([, value], i) =>
        values.add(
          doc.struct('TD', {}, () => {
            doc
              .font('bold')
              .fontSize(11)
              .fillColor(ink)
              .text(value, margin + 8 + i * width, top + 38, { lineBreak: false })
          }),
        ),
      )
      table.end()
    },
  }
}

function linesHeadBlock(): Block {
  return {
    height: 24,
    draw(doc, section, top) {
      section.add(
        doc.struct('H2', {}, () => {
          doc.font('bold').fontSize(11).fillColor(ink).text('Subjects', margin, top)
        }),
      )
      section.add(
        doc.struct('P', {}, () => {
          doc.font('regular').fontSize(8.5).fillColor(muted)
          textTo(doc, 'Mark', markColumn + 45, top + 3)
          textTo(doc, 'Grade', gradeColumn + 45, top + 3)
          textTo(doc, 'Effort', effortColumn + 80, top + 3)
        }),
      )
      artifact(doc, () =>
        doc
          .moveTo(margin, top + 19)
          .lineTo(margin + textWidth, top + 19)
          .lineWidth(0.7)
          .strokeColor(ink)
          .stroke(),
      )
    },
  }
}

const commentSize = 9.5
const commentLine = 13.2

function lineBlock(line: CardLine, widthOf: WidthOf): Block {
  const comment = line.comment ? wrap(line.comment, textWidth - 12, widthOf) : []
  const commentHeight = comment.length > 0 ? comment.length * commentLine + 4 : 0
  return {
    height: 40 + commentHeight,
    draw(to, section, top) {
      section.add(
        to.struct('H3', {}, () => {
          to.font('bold')
            .fontSize(11)
            .fillColor(ink)
            .text(line.subject, margin, top + 4, { lineBreak: false })
        }),
      )
      const value = (name: string, text: string, x: number, width: number) =>
        section.add(
          to.struct('P', { actual: `${name}: ${text}` }, () => {
            to.font('bold').fontSize(11).fillColor(ink)
            textTo(to, text, x + width, top + 4)
          }),
        )
      value('Mark', line.mark ?? 'none', markColumn, 45)
      value('Grade', line.grade ?? 'none', gradeColumn, 45)
      value('Effort', line.effort ?? 'none', effortColumn, 80)
      section.add(
        to.struct('P', {}, () => {
          to.font('regular')
            .fontSize(8.5)
            .fillColor(muted)
            .text(line.teacher, margin, top + 19, { lineBreak: false })
        }),
      )
      if (comment.length > 0)
        section.add(
          to.struct('P', {}, () => {
            to.font('regular').fontSize(commentSize).fillColor(ink)
            comment.forEach((words, i) =>
              to.text(words, margin, top + 33 + i * commentLine, { lineBreak: false }),
            )
          }),
        )
      const end = top + 36 + commentHeight
      artifact(to, () =>
        to
          .moveTo(margin, end)
          .lineTo(margin + textWidth, end)
          .lineWidth(0.5)
          .strokeColor(rule)
          .stroke(),
      )
    },
  }
}

function footBlock(doc: Doc, card: CardContents): Block {
  const sentences = [
    card.toFollow.length > 0 && `Still to follow: ${card.toFollow.join(', ')}.`,
    card.scale.length > 0 &&
      `Grades: ${card.scale.map((b, i) => (i === card.scale.length - 1 && Number(b.fromPercent) === 0 ? `${b.grade} below` : `${b.grade} from ${b.fromPercent}`)).join(', ')}.`,
    'Present counts late arrivals and school activities elsewhere; one school day has two half-days.',
  ].filter((s) => s !== false)
  const text = sentences.join(' ')
  const height = doc.font('regular').fontSize(8.5).heightOfString(text, { width: textWidth, lineGap: 1 })
  return {
    height: height + 16,
    draw(to, section, top) {
      section.add(
        to.struct('P', {}, () => {
          to.font('regular')
            .fontSize(8.5)
            .fillColor(muted)
            .text(text, margin, top + 10, { width: textWidth, lineGap: 1 })
        }),
      )
    },
  }
}

/** Lays blocks on pages before any is drawn, so that each page can say how many there are. */
function paginate(blocks: readonly Block[]): readonly (readonly { block: Block; top: number }[])[] {
  const pages: { block: Block; top: number }[][] = [[]]
  let top = margin
  for (const block of blocks) {
    if (top + block.height > bottom && pages.at(-1)?.length) {
      pages.push([])
      top = margin
    }
    pages.at(-1)?.push({ block, top })
    top += block.height
  }
  return pages
}

function drawPageFrame(doc: Doc, card: CardContents, page: number, pages: number) {
  artifact(
    doc,
    () => {
      if (!card.final) {
        doc.save().rotate(-38, { origin: [pageWidth / 2, pageHeight / 2] })
        doc.font('bold').fontSize(96).fillColor('#b3361e').fillOpacity(0.13)
        doc.text('not final', 0, pageHeight / 2 - 56, { width: pageWidth, align: 'center', lineBreak: false })
        doc.restore().fillOpacity(1)
      }
      const y = pageHeight - 44
      doc.page.margins.bottom = 0
      doc.font('regular').fontSize(8.5).fillColor(muted)
      doc.text(`${card.student.name}, ${card.round}${card.final ? '' : ', not final'}`, margin, y, {
        lineBreak: false,
      })
      textTo(doc, `${shortDate(card.printedOn, true)}, page ${page} of ${pages}`, margin + textWidth, y)
      doc.page.margins.bottom = margin
    },
    'Pagination',
  )
}

function drawCard(doc: Doc, root: PDFKit.PDFStructureElement, card: CardContents, widthOf: WidthOf): number {
  const blocks = [
    headBlock(card),
    attendanceBlock(card),
    linesHeadBlock(),
    ...card.lines.map((l) => lineBlock(l, widthOf)),
    footBlock(doc, card),
  ]
  const pages = paginate(blocks)
  const section = doc.struct('Sect', { title: card.student.name })
  root.add(section)
  pages.forEach((placed, i) => {
    doc.addPage()
    drawPageFrame(doc, card, i + 1, pages.length)
    for (const { block, top } of placed) block.draw(doc, section, top)
  })
  section.end()
  return pages.length
}

/** Stops a print between two cards when it answers true. */
type Watch = (cardsDone: number) => Promise<'go on' | 'stop'>

/**
 * Prints cards into one tagged PDF. Each card starts on a new sheet, also when printed on both sides: after an odd
 * number of pages an empty one follows.
 * @param watch called after every card, for progress and for stopping early
 * @returns the bytes and number of pages; `stopped` when `watch` asked for it
 */
export async function printCards(
  cards: readonly CardContents[],
  watch?: Watch,
): Promise<{ bytes: Buffer; pageCount: number; stopped: boolean }> {
  const title =
    cards.length === 1
      ? `${cards[0]?.student.name}, ${cards[0]?.round}`
      : `${cards[0]?.round ?? 'Report cards'}, ${cards.length} cards`
  const doc = openPaper(title, 'en')
  const chunks: Buffer[] = []
  const ended = new Promise<void>((resolve, reject) => {
    doc.on('data', (chunk: Buffer) => chunks.push(chunk))
    doc.on('end', resolve)
    doc.on('error', reject)
  })
  const root = doc.struct('Document')
  doc.addStructure(root)
  const widthOf = widthsIn(doc, 'regular', commentSize)
  let pageCount = 0
  let stopped = false
  for (const [i, card] of cards.entries()) {
    pageCount += drawCard(doc, root, card, widthOf)
    if (pageCount % 2 === 1 && i < cards.length - 1) {
      doc.addPage()
      pageCount++
    }
    if (watch && (await watch(i + 1)) === 'stop') {
      stopped = true
      break
    }
  }
  if (cards.length === 0) doc.addPage()
  root.end()
  doc.end()
  await ended
  return { bytes: Buffer.concat(chunks), pageCount, stopped }
}
