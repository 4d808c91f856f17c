import { shortDate } from '@/core/calendar/date-words'
import type { CardContents } from '@/core/reports/card'
import {
  attendanceBlock,
  footBlock,
  headBlock,
  subjectBlock,
  subjectHeadsBlock,
  subjectsBlock,
  type Block,
} from './card-blocks'
import { margin, muted, pageHeight, pageWidth, Paper, textWidth, type Style } from './paper'

const bottom = pageHeight - 62
const frame: Style = { font: 'regular', size: 8.5, colour: muted }

interface Placed {
  readonly block: Block
  readonly page: number
  readonly top: number
}

/**
 * Lays blocks on pages before any is drawn, so that each page can say how many there are. A page that begins within the
 * table of subjects begins with its heads.
 */
function paginate(blocks: readonly Block[]): readonly Placed[] {
  const placed: Placed[] = []
  let page = 1
  let top = margin
  const place = (block: Block) => {
    placed.push({ block, page, top })
    top += block.height
  }
  for (const block of blocks) {
    if (top + block.height > bottom && top > margin) {
      page++
      top = margin
      if (block.isRow) place(subjectHeadsBlock(true))
    }
    place(block)
  }
  return placed
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
    const which = `${shortDate(card.printedOn, true)}, page ${page} of ${pages}`
    paper.writeWithin(what, margin, top, textWidth - paper.widthOf(which, frame) - 12, frame)
    paper.writeTo(which, margin + textWidth, top, frame)
    doc.page.margins.bottom = margin
  }, 'Pagination')
}

function drawCard(paper: Paper, card: CardContents): number {
  const placed = paginate([
    headBlock(card, paper),
    attendanceBlock(card),
    ...(card.lines.length > 0 ? [subjectsBlock(), subjectHeadsBlock(false)] : []),
    ...card.lines.map((line) => subjectBlock(line, paper)),
    footBlock(card, paper),
  ])
  const count = placed.at(-1)?.page ?? 1
  let page = 0
  const draw = ({ block, page: wanted, top }: Placed) => {
    if (wanted > page) {
      paper.doc.addPage()
      page = wanted
      drawPageFrame(paper, card, page, count)
    }
    block.draw(paper, top)
  }
  const isRow = ({ block }: Placed) => block.isRow === true
  paper.part(card.student.name, () => {
    const first = placed.findIndex(isRow)
    const last = placed.findLastIndex(isRow)
    placed.slice(0, first < 0 ? undefined : first).forEach(draw)
    if (first < 0) return
    // One table, on however many pages.
    paper.within('Table', () => placed.slice(first, last + 1).forEach(draw))
    placed.slice(last + 1).forEach(draw)
  })
  return count
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
