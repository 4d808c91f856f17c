import { PassThrough, Readable } from 'node:stream'
import exceljs from 'exceljs'

export type ListValue = string | number | null

const civilDate = /^\d{4}-\d\d-\d\d$/
const widest = 60

/** A value as a typed cell: an ISO date is a real date, a number a number, any other text stays a text. */
function cellOf(value: ListValue): string | number | Date | null {
  return typeof value === 'string' && civilDate.test(value) ? new Date(`${value}T00:00:00Z`) : value
}

/** A column's width in characters, from its title and its longest value. */
function widthOf(title: string, rows: readonly (readonly ListValue[])[], column: number): number {
  let width = title.length
  for (const row of rows) width = Math.max(width, String(row[column] ?? '').length)
  return Math.min(widest, width) + 2
}

/**
 * A list as an Office Open XML workbook (ISO/IEC 29500) with one sheet: a frozen header row, typed cells, real dates.
 * Written as it is read, row by row.
 * @param name of the sheet; characters that a sheet's name cannot have are left out
 */
export function xlsxOf(
  name: string,
  header: readonly string[],
  rows: readonly (readonly ListValue[])[],
): ReadableStream<Uint8Array> {
  const out = new PassThrough()
  const book = new exceljs.stream.xlsx.WorkbookWriter({ stream: out, useStyles: true })
  const sheet = book.addWorksheet(
    name
      .replace(/[\\/?*[\]:']/g, ' ')
      .slice(0, 31)
      .trim() || 'List',
    {
      views: [{ state: 'frozen', ySplit: 1 }],
    },
  )
  sheet.columns = header.map((title, i) => ({ header: title, width: widthOf(title, rows, i) }))
  sheet.getRow(1).font = { bold: true }
  sheet.getRow(1).commit()
  for (const row of rows) {
    const added = sheet.addRow(row.map(cellOf))
    added.eachCell((cell) => {
      if (cell.value instanceof Date) cell.numFmt = 'yyyy-mm-dd'
    })
    added.commit()
  }
  sheet.commit()
  book.commit().catch((error: unknown) => out.destroy(error as Error))
  return Readable.toWeb(out) as ReadableStream<Uint8Array>
}
