import { Busy, turns } from './turns'

/** Reading a PDF or a picture takes a core and up to hundreds of megabytes: one at a time in a process. */
const files = turns('an uploaded file to be read', { atOnce: 1, mostWaiting: 6 })

/** Reads an uploaded file when its turn comes; undefined when too many wait. */
export async function inspecting<T>(work: () => Promise<T>): Promise<T | undefined> {
  try {
    return await files.take(work)
  } catch (error) {
    if (error instanceof Busy) return undefined
    throw error
  }
}
