import { sessionWords } from './sessions'

/** How a call to a family ended. */
export const callOutcomes = ['reached', 'no answer', 'message left', 'wrong number'] as const
export type CallOutcome = (typeof callOutcomes)[number]

/** What is known of the calls about one absence; the latest first. */
interface Called {
  readonly calls: readonly { readonly callAgain: string | null }[]
}

/**
 * Whether a family is to be called now: nobody has called yet, or the time to call again has come.
 * @param time HH:MM where the school is
 */
export function isToCall({ calls }: Called, time: string): boolean {
  const [last] = calls
  return last === undefined || (last.callAgain !== null && last.callAgain <= time)
}

const order = (called: Called, time: string) =>
  isToCall(called, time) ? 0 : called.calls[0]?.callAgain ? 1 : 2

/** A call list in the order of work: to call now, to call again later by its time, done; each by name as it comes. */
export function inCallOrder<T extends Called>(list: readonly T[], time: string): readonly T[] {
  return [...list].sort(
    (a, b) =>
      order(a, time) - order(b, time) ||
      (order(a, time) === 1 ? (a.calls[0]?.callAgain ?? '').localeCompare(b.calls[0]?.callAgain ?? '') : 0),
  )
}

/** What a student missed of a day, in words: the whole day, a half of it, or lessons by their periods. */
export function missedWords(sessions: readonly string[]): string {
  if (sessions.includes('morning') && sessions.includes('afternoon')) return 'whole day'
  const halves = sessions.filter((s) => !/^\d/.test(s))
  return (halves.length > 0 ? halves : sessions).map(sessionWords).join(', ')
}
