/** Whether a name is a time zone such as Europe/London. */
export function isTimeZone(name: string): boolean {
  try {
    Intl.DateTimeFormat('en-GB', { timeZone: name })
    return /^(UTC|[A-Z][A-Za-z]+\/.+)$/.test(name)
  } catch (error) {
    if (error instanceof RangeError) return false
    throw error
  }
}
