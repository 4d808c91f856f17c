export type CsvValue = string | number | null | undefined

/** Spreadsheet programs take a text that begins so for a formula, or may. */
const formula = /^[=+\-@\t\r]/

/** A text that stays a text in a spreadsheet program: one that would be a formula there gets an apostrophe in front. */
export const asText = (value: CsvValue): string | number =>
  typeof value === 'string' && formula.test(value) ? `'${value}` : (value ?? '')
