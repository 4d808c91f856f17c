import { addDays, isCivilDate } from '@/core/calendar/school-year'
import { comparableName } from './names'

/** A student as typed, and one on record. */
interface Typed {
  readonly givenName: string
  readonly familyName: string
  readonly birthDate: string
}
interface OnRecord {
  readonly legalGivenName: string
  readonly legalFamilyName: string
  readonly preferredName: string | null
  readonly birthDate: string | null
}

/** How many letters must be typed, left out or exchanged for their neighbour to make one text of the other. */
function distance(a: string, b: string): number {
  let before: number[] = []
  let last = Array.from({ length: b.length + 1 }, (_, i) => i)
  for (let i = 1; i <= a.length; i++) {
    const row = [i]
    for (let j = 1; j <= b.length; j++) {
      const isSame = a[i - 1] === b[j - 1]
      row[j] = Math.min((last[j] ?? 0) + 1, (row[j - 1] ?? 0) + 1, (last[j - 1] ?? 0) + (isSame ? 0 : 1))
      if (i > 1 && j > 1 && a[i - 1] === b[j - 2] && a[i - 2] === b[j - 1])
        row[j] = Math.min(row[j] ?? 0, (before[j - 2] ?? 0) + 1)
    }
    before = last
    last = row
  }
  return last[b.length] ?? 0
}

const parts = (name: string) => name.split(/[^\p{L}\p{N}]+/u).filter(Boolean)

/** Whether two names may be the same one: a slip in typing, or a part of a double name. */
function isNear(a: string, b: string): boolean {
  if (a === b) return true
  const [few, many] = [parts(a), parts(b)].sort((x, y) => x.length - y.length)
  if (few && many && few.length > 0 && few.length < many.length && few.every((p) => many.includes(p)))
    return true
  const length = Math.min(a.length, b.length)
  return length >= 4 && distance(a, b) <= (length >= 8 ? 2 : 1)
}

/** The dates that may have been meant: the day itself, day and month exchanged, and a year or a day beside it. */
export function nearDates(date: string): readonly string[] {
  const [year = '', month = '', day = ''] = date.split('-')
  const years = [-1, 1].map((by) => `${Number(year) + by}-${month}-${day}`)
  return [date, `${year}-${day}-${month}`, ...years, addDays(date, -1), addDays(date, 1)].filter(isCivilDate)
}

/**
 * Whether a student about to be enrolled may be one on record: `same` name (marks and case aside) and birth date, or
 * `similar`: one of both the same and the other nearly so, names the other way round, or the same name at any birth
 * date.
 */
export function likeness(typed: Typed, record: OnRecord): 'same' | 'similar' | undefined {
  const family = comparableName(typed.familyName)
  const given = comparableName(typed.givenName)
  const families = comparableName(record.legalFamilyName)
  const givens = [record.legalGivenName, record.preferredName ?? ''].map(comparableName).filter(Boolean)
  const isSameName = families === family && givens.includes(given)
  const isSameDate = record.birthDate === typed.birthDate
  if (isSameName) return isSameDate ? 'same' : 'similar'
  if (!isSameDate) return undefined
  const isTurned = families === given && givens.includes(family)
  const isSlip = isNear(families, family) && givens.some((name) => isNear(name, given))
  return isTurned || isSlip ? 'similar' : undefined
}
