// How measurements are printed.

/** One line: a name and its figures in columns. */
export function row(name, ...values) {
  console.log(`  ${name.padEnd(34)}${values.map((v) => String(v).padStart(13)).join('')}`)
}

/** The value below which a share of the measurements lies: 0.5 is the median. */
export function at(measured, share) {
  const sorted = [...measured].sort((a, b) => a - b)
  return sorted[Math.min(sorted.length - 1, Math.floor(sorted.length * share))] ?? NaN
}

export const ms = (x) => `${x.toFixed(1)} ms`
