/** The median time of a piece of work over many runs, in milliseconds. */
export function median(work: () => void, runs = 200): number {
  for (let n = 0; n < Math.min(30, runs); n++) work()
  const times = Array.from({ length: runs }, () => {
    const from = performance.now()
    work()
    return performance.now() - from
  }).sort((a, b) => a - b)
  return times[Math.floor(runs / 2)] ?? 0
}
