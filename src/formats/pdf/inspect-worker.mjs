// Reads a PDF in a thread of its own, so that a damaged one holds up nobody else. Plain JavaScript: it is started by
// its path, with and without a build.
import { parentPort, workerData } from 'node:worker_threads'
import { getDocument } from 'pdfjs-dist/legacy/build/pdf.mjs'

const task = getDocument({ data: workerData, isEvalSupported: false, verbosity: 0 })
try {
  const pdf = await task.promise
  parentPort.postMessage({ pageCount: pdf.numPages })
} catch (error) {
  parentPort.postMessage({ problem: error instanceof Error ? error.name : 'unknown' })
}
