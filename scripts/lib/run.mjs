// Runs commands for the scripts; plain Node, so that it works before anything is installed.
import { spawn, spawnSync } from 'node:child_process'

/** Runs a command to its end, passing its output through. Throws with the command's name when it fails. */
export function run(command, args, options = {}) {
  const result = spawnSync(command, args, { stdio: 'inherit', ...options })
  if (result.error) throw result.error
  if (result.status !== 0)
    throw new Error(`${command} ${args.join(' ')} ended with ${result.status ?? result.signal}`)
}

/** What a command printed, or undefined when it is missing or failed. */
export function output(command, args, options = {}) {
  const result = spawnSync(command, args, { encoding: 'utf8', ...options })
  return result.status === 0 ? result.stdout.trim() : undefined
}

const children = new Set()
/** Ends a child; one that leads a group of its own, with all that it started. */
function kill(child) {
  if (!child.leadsGroup) return child.kill()
  try {
    process.kill(-child.pid, 'SIGTERM')
  } catch (error) {
    // It ended by itself just now.
    if (error.code !== 'ESRCH') throw error
  }
}
// However a script ends, nothing it started outlives it.
process.once('exit', () => {
  for (const child of children) kill(child)
})

/** Starts a long-running child and answers it; the caller ends it. */
export function start(command, args, options = {}) {
  const child = spawn(command, args, { stdio: 'inherit', ...options })
  child.leadsGroup = options.detached === true
  children.add(child)
  child.once('exit', () => children.delete(child))
  return child
}

/**
 * Runs a command while others run, and keeps what it prints.
 * @returns {Promise<{ ok: boolean, printed: string }>} once it has ended; `printed` is both its outputs as they came
 */
export function runBeside(command, args, options = {}) {
  return new Promise((resolve, reject) => {
    const child = start(command, args, { ...options, stdio: ['ignore', 'pipe', 'pipe'] })
    let printed = ''
    for (const stream of [child.stdout, child.stderr]) stream.on('data', (text) => (printed += text))
    child.once('error', reject)
    child.once('close', (code) => resolve({ ok: code === 0, printed }))
  })
}

/** Ends a child by its id and waits until it is gone; after `patience` milliseconds it is killed. */
export async function end(child, signal = 'SIGTERM', patience = 12_000) {
  if (!child || child.exitCode !== null || child.signalCode !== null) return
  const gone = new Promise((resolve) => child.once('exit', resolve))
  child.kill(signal)
  const timer = setTimeout(() => child.kill('SIGKILL'), patience)
  await gone
  clearTimeout(timer)
}
