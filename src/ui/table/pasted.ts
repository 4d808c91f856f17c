import { asText, type CsvValue } from './as-text'

/** A list for pasting: values between tabs, a line for each row; none of them becomes a formula where it is pasted. */
export const pasted = (header: readonly string[], rows: readonly (readonly CsvValue[])[]): string =>
  [header, ...rows]
    .map((row) => row.map((value) => String(asText(value)).replace(/[\t\r\n]+/g, ' ')).join('\t'))
    .join('\n')
