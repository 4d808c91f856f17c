import { boxBetween, type Box } from './box'

/** A line of text on a page; lengths are shares of the page's width and height from its upper left corner. */
export interface Line {
  readonly page: number
  readonly text: string
  readonly x: number
  /** Its upper edge. */
  readonly y: number
  readonly height: number
}

export interface Place {
  readonly page: number
  readonly box: Box
}

/** The number a line begins with: "3.", "3)", "(3)", "Question 3". */
const numbered = /^\s*(?:question\s+|q\.?\s*)?\(?(\d{1,3})[.):]?(?=\s|$)/i

/** Room above and below a question's text. */
const air = 0.006
const margin = 0.04

/**
 * Where questions stand on a document, by the numbers their lines begin with: each from its own number to the next, or
 * to the end of its page. Numbers that are missing leave out their question; what merely looks like one, such as a year
 * or a number in a table, is passed over, since the numbers have to follow each other.
 * @param lines in the order in which they are read
 * @param count how many questions there are
 * @returns a place for each question, by its position from 0 on; undefined where none was found
 */
export function proposePlaces(lines: readonly Line[], count: number): readonly (Place | undefined)[] {
  const starts: (number | undefined)[] = []
  let after = -1
  for (let position = 1; position <= count; position++) {
    const at = lines.findIndex((line, i) => i > after && Number(numbered.exec(line.text)?.[1]) === position)
    starts.push(at < 0 ? undefined : at)
    if (at >= 0) after = at
  }
  return starts.map((at, i) => {
    const line = at === undefined ? undefined : lines[at]
    if (at === undefined || !line) return undefined
    const nextAt = starts.slice(i + 1).find((other) => other !== undefined)
    const next = nextAt === undefined ? undefined : lines[nextAt]
    const top = Math.max(0, line.y - air)
    const onPage = lines.slice(at, nextAt).filter((l) => l.page === line.page)
    const end = Math.max(...onPage.map((l) => l.y + l.height)) + air
    const bottom = next?.page === line.page ? Math.max(end, next.y - air) : end
    const to = { x: 1 - margin, y: Math.max(bottom, top + line.height) }
    return { page: line.page, box: boxBetween({ x: margin, y: top }, to) }
  })
}
