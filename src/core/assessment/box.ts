/** A part of a page, as shares of its width and height from its upper left corner. */
export interface Box {
  readonly x: number
  readonly y: number
  readonly width: number
  readonly height: number
}

const steps = 10_000
const within = (value: number) => Math.min(steps, Math.max(0, value * steps))

/** A part of a page between two corners, on the page and in steps of a ten-thousandth, as it is kept. */
export function boxBetween(a: { x: number; y: number }, b: { x: number; y: number }): Box {
  const side = (one: number, other: number) => {
    const from = Math.min(steps - 1, Math.round(within(Math.min(one, other))))
    const to = Math.round(within(Math.max(one, other)))
    return [from / steps, Math.max(1, to - from) / steps] as const
  }
  const [x, width] = side(a.x, b.x)
  const [y, height] = side(a.y, b.y)
  return { x, y, width, height }
}
