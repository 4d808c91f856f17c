/** A student's permanent number as it is written: at least four digits, 0412. */
export function numberWords(number: number | string | null): string {
  return number === null ? '' : String(number).padStart(4, '0')
}
