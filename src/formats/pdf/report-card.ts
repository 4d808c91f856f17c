import { shortDate } from '@/core/calendar/date-words'
import type { CardContents } from '@/core/reports/card'
import {
  attendanceBlock,
  footBlock,
  headBlock,
  subjectBlock,
  subjectsHeadBlock,
  type Block,
} from './card-blocks'
import { margin, muted, pageHeight, pageWidth, Paper, textWidth, type Style } from './paper'

const bottom = pageHeight - 62
const frame: Style = { font: 'regular', size: 8.5, colour: muted }

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

function drawPageFrame(paper: Paper, card: CardContents, page: number, pages: number): void {
  const { doc } = paper
  paper.artifact(() => {
    if (!card.final) {
      doc.save().rotate(-38, { origin: [pageWidth / 2, pageHeight / 2] })
      doc.font('bold').fontSize(96).fillColor('#b3361e').fillOpacity(0.13)
      doc.text('not final', 0, pageHeight / 2 - 56, { width: pageWidth, align: 'center', lineBreak: false })
      doc.restore().fillOpacity(1)
    }
    const top = pageHeight - 44
    doc.page.margins.bottom = 0
    const what = `${card.student.name}, ${card.round}${card.final ? '' : ', not final'}`
    paper.write(what, margin, top, frame)
    const which = `${shortDate(card.printedOn, true)}, page ${page} of ${pages}`
    paper.writeTo(which, margin + textWidth, top, frame)
    doc.page.margins.bottom = margin
  }, 'Pagination')
}

function drawCard(paper: Paper, card: CardContents): number {
  const pages = paginate([
    headBlock(card),
    attendanceBlock(card),
    subjectsHeadBlock(),
    ...card.lines.map((line) => subjectBlock(line, paper)),
    footBlock(card, paper),
  ])
  paper.part(card.student.name, () =>
    pages.forEach((placed, i) => {
      paper.doc.addPage()
      drawPageFrame(paper, card, i + 1, pages.length)
      for (const { block, top } of placed) block.draw(paper, top)
    }),
  )
  return pages.length
}

/** Told how many cards are done; may stop the print between two. */
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
  const paper = new Paper(title, 'en')
  let pageCount = 0
  let stopped = false
  for (const [i, card] of cards.entries()) {
    pageCount += drawCard(paper, card)
    if (pageCount % 2 === 1 && i < cards.length - 1) {
      paper.doc.addPage()
      pageCount++
    }
    await paper.pause()
    if (watch && (await watch(i + 1)) === 'stop') {
      stopped = true
      break
    }
  }
  if (cards.length === 0) paper.doc.addPage()
  return { bytes: await paper.end(), pageCount, stopped }
}
