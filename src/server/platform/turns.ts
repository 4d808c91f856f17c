import PQueue from 'p-queue'

/** Thrown when too much waits already for work of one kind: a short answer beats a long wait. */
export class Busy extends Error {
  constructor(readonly what: string) {
    super(`too many wait for ${what}`)
  }
}

/** Work that takes a core or much memory, of which only so much is done at once in this process. */
export interface Turns {
  /**
   * Does a piece of work when its turn comes.
   * @param options.first before those who do not go first; they have a waiting room of their own
   * @throws Busy
   */
  readonly take: <T>(work: () => Promise<T>, options?: { readonly first?: boolean }) => Promise<T>
}

/**
 * Turns at some kind of work.
 * @param what it is, in words, for the log
 * @param options.atOnce how many are done at the same time
 * @param options.mostWaiting how many may wait, of those who go first and of the others each
 */
export function turns(what: string, { atOnce, mostWaiting }: { atOnce: number; mostWaiting: number }): Turns {
  const queue = new PQueue({ concurrency: atOnce })
  return {
    take: async (work, { first = false } = {}) => {
      const priority = first ? 1 : 0
      if (queue.pending >= atOnce && queue.sizeBy({ priority }) >= mostWaiting) throw new Busy(what)
      return queue.add(work, { priority, throwOnTimeout: true })
    },
  }
}
