import { parentPort, workerData } from 'node:worker_threads'
import { drawPages, readDocx } from './convert'
import { Unreadable } from './unpack'

// Turns one word-processor file into pages, in a thread that can be ended when it takes too long or too much memory.

try {
  const read = await readDocx(workerData as Uint8Array)
  parentPort?.postMessage({ bytes: await drawPages(read), leftOut: read.leftOut })
} catch (error) {
  parentPort?.postMessage({ problem: error instanceof Unreadable ? error.message : undefined })
}
