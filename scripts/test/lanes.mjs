// Runs commands beside each other, as many at a time as there are cores to spare.
import { runBeside } from '../lib/run.mjs'

/**
 * Runs every command, the longest first, and tells of each as it ends.
 * @param {readonly { name: string, command: [string, string[]], expected: number }[]} tasks `expected` in seconds
 * @param {object} options
 * @param {number} options.lanes how many run at once
 * @param {(done: { name: string, ok: boolean, printed: string, seconds: number }) => void} options.tell
 */
export async function runInLanes(tasks, { lanes, tell, ...options }) {
  const waiting = [...tasks].sort((a, b) => b.expected - a.expected)
  const lane = async () => {
    for (let task = waiting.shift(); task; task = waiting.shift()) {
      const from = Date.now()
      const { ok, printed } = await runBeside(...task.command, options)
      tell({ name: task.name, ok, printed, seconds: (Date.now() - from) / 1000 })
    }
  }
  await Promise.all(Array.from({ length: lanes }, lane))
}
