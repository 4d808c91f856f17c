import type { ClosureKind } from '@/core/calendar/check-year'

/** What the kinds of days without school are called. */
export const closureWords: Readonly<Record<ClosureKind, string>> = {
  break: 'Break',
  holiday: 'Public holiday',
  'staff day': 'Staff-only day',
}
