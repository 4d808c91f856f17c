import type { Context } from './context'

/** Work that the clock does in every school, once for each day on which it is due. */
export interface Recurring {
  /** From this time of day on, where the school is. A worker that was away then does it as soon as it is back. */
  readonly at: `${number}:${number}`
  readonly on: 'every day' | 'school days'
  readonly run: (context: Context, day: string) => Promise<void>
}

/** Declares work of the clock. */
export function defineRecurring(recurring: Recurring): Recurring {
  return recurring
}
