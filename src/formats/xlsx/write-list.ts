import { PassThrough } from 'node:stream'
import { buffer } from 'node:stream/consumers'
import exceljs from 'exceljs'
import { inSlices } from '@/formats/slices'

export type ListValue = string | number | null

const civilDate = /^\d{4}-\d\d-\d\d$/
const widest = 60

/** A value as a typed cell: an ISO date is a real date, a number a number, any other text stays a text. */
function cellOf(value: ListValue): string | number | Date | null {
  return typeof value === 'string' && civilDate.test(value) ? new Date(`${value}T00:00:00Z`) : value
}

/**
 * A list as an Office Open XML workbook (ISO/IEC 29500) with one sheet: a frozen header row, typed cells, real dates.
 * Made in slices, so that a long list holds up nobody.
 * @param name of the sheet; characters that a sheet's name cannot have are left out
 * @param rows read once; what it throws is thrown
 */
export async function xlsxOf(
  name: string,
  header: readonly string[],
  rows: Iterable<readonly ListValue[]>,
): Promise<Uint8Array<ArrayBuffer>> {
  const widths = header.map((title) => title.length)
  const all: (readonly ListValue[])[] = []
  await inSlices(rows, (row) => {
    all.push(row)
    for (const [i, value] of row.entries())
      widths[i] = Math.max(
        widths[i] ?? 0,
        typeof value === 'string' ? value.length : String(value ?? '').length,
      )
  })
  const out = new PassThrough()
  const made = buffer(out)
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
  sheet.columns = header.map((title, i) => ({ header: title, width: Math.min(widest, widths[i] ?? 0) + 2 }))
  sheet.getRow(1).font = { bold: true }
  sheet.getRow(1).commit()
  await inSlices(all, (row) => {
    const added = sheet.addRow(row.map(cellOf))
    for (const [i, value] of row.entries())
      if (typeof value === 'string' && civilDate.test(value)) added.getCell(i + 1).numFmt = 'yyyy-mm-dd'
    added.commit()
  })
  sheet.commit()
  await book.commit()
  return new Uint8Array(await made)
}
