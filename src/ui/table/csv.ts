import { stringify } from 'csv-stringify/browser/esm/sync'
import { asText, type CsvValue } from './as-text'

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
