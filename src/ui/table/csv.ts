import { stringify } from 'csv-stringify/browser/esm/sync'

export type CsvValue = string | number | null | undefined

/** Spreadsheet programs take a text that begins so for a formula, or may. */
const formula = /^[=+\-@\t\r]/

/** A text that stays a text in a spreadsheet program. */
const asText = (value: CsvValue): string | number =>
  typeof value === 'string' && formula.test(value) ? `'${value}` : (value ?? '')

/**
 * A list as CSV (RFC 4180) for a spreadsheet program: UTF-8 with a byte order mark, commas, CRLF, a header row. A text
 * that such a program would take for a formula gets an apostrophe in front.
 * @param header the titles of the columns
 * @param rows a value for each column
 */
export function toCsv(header: readonly string[], rows: readonly (readonly CsvValue[])[]): string {
  return stringify(
    [header, ...rows].map((row) => row.map(asText)),
    { bom: true, record_delimiter: '\r\n' },
  )
}
