/** How a stored moment is written in a school's time zone: 23 Nov, 09:04. */
export function momentWords(timeZone: string): (iso: string) => string {
  const format = new Intl.DateTimeFormat('en-GB', {
    day: 'numeric',
    month: 'short',
    hour: '2-digit',
    minute: '2-digit',
    timeZone,
  })
  return (iso) => format.format(new Date(iso))
}
