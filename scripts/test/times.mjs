// The seconds that each part and test file took when they were last recorded (npm test -- record).
import { existsSync, readFileSync, writeFileSync } from 'node:fs'
import { join } from 'node:path'
import { root } from '../lib/fingerprint.mjs'

const file = join(root, 'scripts/test/times.json')

/** @returns {Readonly<Record<string, number>>} seconds by the name of a part or test file */
export const readTimes = () => (existsSync(file) ? JSON.parse(readFileSync(file, 'utf8')) : {})

/** Keeps new times of what ran; what did not run keeps its own, what no longer exists is forgotten. */
export function recordTimes(times, exists) {
  const merged = Object.entries({ ...readTimes(), ...times }).filter(([name]) => exists(name))
  const rounded = merged.map(([name, seconds]) => [name, Math.round(seconds * 10) / 10])
  const sorted = rounded.sort(([a], [b]) => (a < b ? -1 : 1))
  writeFileSync(file, `${JSON.stringify(Object.fromEntries(sorted), null, 2)}\n`)
}
