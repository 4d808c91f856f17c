/**
 * How long ago something was, in whole minutes or hours: "just now", "1 minute ago", "3 hours ago".
 * @param minutes 0 or more
 */
export function agoInWords(minutes: number): string {
  if (minutes < 1) return 'just now'
  if (minutes < 60) return minutes === 1 ? '1 minute ago' : `${minutes} minutes ago`
  const hours = Math.floor(minutes / 60)
  return hours === 1 ? '1 hour ago' : `${hours} hours ago`
}
