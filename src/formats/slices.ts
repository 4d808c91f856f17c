import { setImmediate } from 'node:timers/promises'

/** Milliseconds of work after which others get their turn. */
const slice = 4

/** Does a piece of work for each item, in slices between which the process answers others. */
export async function inSlices<T>(items: Iterable<T>, work: (item: T) => void): Promise<void> {
  let began = performance.now()
  for (const item of items) {
    work(item)
    if (performance.now() - began < slice) continue
    await setImmediate()
    began = performance.now()
  }
}
