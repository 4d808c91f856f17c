import type { CardContents } from '@/core/reports/card'

/** Every key that occurs anywhere, so that two texts of the same data do not differ by the order of keys. */
function keysIn(value: unknown, keys: Record<string, true> = {}): Record<string, true> {
  if (Array.isArray(value)) for (const item of value) keysIn(item, keys)
  else if (value && typeof value === 'object')
    for (const [key, inner] of Object.entries(value)) {
      keys[key] = true
      keysIn(inner, keys)
    }
  return keys
}

/** Whether two cards say the same; the day of printing, the issue and attendance, which moves daily, aside. */
export function sameCard(a: CardContents, b: CardContents): boolean {
  const bare = ({ printedOn: _printedOn, issue: _issue, attendance: _attendance, ...rest }: CardContents) =>
    JSON.stringify(rest, Object.keys(keysIn(rest)).sort())
  return bare(a) === bare(b)
}
