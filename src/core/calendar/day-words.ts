import type { DayKind } from './school-year'

/** What a day is, in a few words. */
export function dayWords(day: DayKind | undefined): string {
  switch (day?.kind) {
    case 'school day':
      return `${day.term.name} term`
    case 'closed':
      return `${day.closure.name}, no sessions`
    case 'weekend':
      return 'no school at weekends'
    case 'between terms':
      return 'between terms'
    case 'outside the year':
      return 'outside the academic year'
    default:
      return 'no academic year yet'
  }
}
