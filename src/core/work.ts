/** Background work as the person who asked for it sees it. */
export interface Work {
  readonly id: string
  readonly title: string
  readonly state: 'waiting' | 'running' | 'done' | 'failed' | 'cancelled'
  /** Steps done, of how many in all; 0 of 0 before it is known. */
  readonly done: number
  readonly total: number
  /** How it ended. */
  readonly message: string | null
  readonly dismissedAt: string | null
}

const words = {
  waiting: 'queued',
  running: 'in progress',
  done: 'done',
  failed: 'failed',
  cancelled: 'cancelled',
} as const

/** Whether it still waits or runs. */
export const isAlive = ({ state }: Pick<Work, 'state'>): boolean => state === 'waiting' || state === 'running'

/** Its status in words: "queued", "40 of 620", "40 %", "done: 28 cards on 56 pages". */
export function workWords({ state, done, total, message }: Work): string {
  if (state === 'running' && total > 0) return total === 100 ? `${done} %` : `${done} of ${total}`
  return isAlive({ state }) || !message ? words[state] : `${words[state]}: ${message}`
}

/**
 * The line in the head of a page about work that was neither fetched nor dismissed; undefined when there is none.
 * What failed comes first, since it needs somebody.
 */
export function summaryOfWork(all: readonly Work[]): string | undefined {
  const shown = all.filter((work) => isAlive(work) || work.dismissedAt === null)
  const failed = shown.filter((work) => work.state === 'failed')
  const alive = shown.filter(isAlive)
  const [group, what] =
    failed.length > 0
      ? [failed, 'tasks failed']
      : alive.length > 0
        ? [alive, 'tasks in progress']
        : [shown, 'tasks have ended']
  const [first, second] = group
  if (!first) return undefined
  if (second) return `${group.length} ${what}`
  return isAlive(first) ? `${first.title}: ${workWords(first)}` : `${first.title}: ${words[first.state]}`
}
