/** A seeded source of numbers, so that the demo school is the same every time (mulberry32). */
export interface Random {
  /** In [0, 1). */
  readonly next: () => number
  /** A whole number from 0 to n - 1. */
  readonly below: (n: number) => number
  readonly pick: <T>(items: readonly T[]) => T
  /** Normally distributed with mean 0 and deviation 1 (Box-Muller). */
  readonly normal: () => number
  readonly uuid: () => string
}

/** Makes a source from a seed. */
export function seeded(seed: number): Random {
  let state = seed >>> 0
  const next = () => {
    state = (state + 0x6d2b79f5) >>> 0
    let t = state
    t = Math.imul(t ^ (t >>> 15), t | 1)
    t ^= t + Math.imul(t ^ (t >>> 7), t | 61)
    return ((t ^ (t >>> 14)) >>> 0) / 4294967296
  }
  const below = (n: number) => Math.floor(next() * n)
  let made = 0
  return {
    next,
    below,
    pick: (items) => items[below(items.length)] as (typeof items)[number],
    normal: () => Math.sqrt(-2 * Math.log(1 - next())) * Math.cos(2 * Math.PI * next()),
    // Version 7 with a counter in place of the clock: in order of making, and the same every time.
    uuid: () => {
      const hex = (n: number, length: number) => n.toString(16).padStart(length, '0')
      const count = hex(made++, 12)
      return `${count.slice(0, 8)}-${count.slice(8)}-7${hex(below(4096), 3)}-${hex(0x8000 + below(0x4000), 4)}-${hex(below(0x1000000), 6)}${hex(below(0x1000000), 6)}`
    },
  }
}
