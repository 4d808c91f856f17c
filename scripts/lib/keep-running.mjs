// Keeps the parts of a demo running: a part that ends by itself is started again, at most three times in a minute.
import { connect } from 'node:net'

/** How often a part may end within which time, in milliseconds, before it is given up. */
export const most = { times: 3, within: 60_000 }

/** Counts ends; answers whether there have been too many of late. */
function tooOften() {
  let ends = []
  return () => {
    const now = Date.now()
    ends = [...ends.filter((at) => now - at < most.within), now]
    return ends.length > most.times
  }
}

/**
 * Keeps a process running.
 * @param {object} part
 * @param {string} part.name as people know it: "The web application"
 * @param {() => Promise<import('node:child_process').ChildProcess>} part.start starts it and answers its process
 * @param {string} part.log where its log is, for the message when it is given up
 * @param {(message: string) => void} part.say
 * @param {(message: string) => void} part.giveUp told once, when it is not started again
 * @returns {Promise<{ stop: () => void, child: () => import('node:child_process').ChildProcess }>} `stop` leaves it be from now on
 */
export async function keepRunning({ name, start, log, say, giveUp }) {
  const isTooOften = tooOften()
  let stopped = false
  let child = await start()
  const watch = () => child.once('exit', (code, signal) => void again(code, signal))
  async function again(code, signal) {
    if (stopped) return
    const how = `${name} ended by itself (${signal ?? `exit code ${code}`})`
    if (isTooOften()) return giveUp(`${how}, more than ${most.times} times in a minute. Its log: ${log}`)
    say(`${how} and is started again.`)
    try {
      child = await start()
    } catch (error) {
      if (!stopped) giveUp(`${name} could not be started again: ${error.message}. Its log: ${log}`)
      return
    }
    watch()
  }
  watch()
  return { stop: () => void (stopped = true), child: () => child }
}

function answers(port) {
  return new Promise((resolve) => {
    const socket = connect({ port, host: '127.0.0.1', timeout: 2000 })
    const end = (answer) => {
      socket.destroy()
      resolve(answer)
    }
    socket.once('connect', () => end(true))
    socket.once('timeout', () => end(false))
    socket.once('error', () => end(false))
  })
}

/**
 * Keeps a database server running: looks every second whether it answers.
 * @param {{ port: number, log: string, isRunning: () => boolean, restart: () => Promise<void> }} cluster
 */
export function keepServer(cluster, { say, giveUp }) {
  const isTooOften = tooOften()
  let stopped = false
  async function look() {
    if (stopped) return
    if (!(await answers(cluster.port)) && !stopped && !cluster.isRunning()) {
      if (isTooOften())
        return giveUp(
          `The database ended by itself more than ${most.times} times in a minute. Its log: ${cluster.log}`,
        )
      say('The database ended by itself and is started again.')
      try {
        await cluster.restart()
      } catch (error) {
        return giveUp(`The database could not be started again: ${error.message}. Its log: ${cluster.log}`)
      }
    }
    setTimeout(() => void look(), 1000)
  }
  void look()
  return { stop: () => void (stopped = true) }
}
