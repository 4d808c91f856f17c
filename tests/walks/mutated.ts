import { seeded } from '@/demo/random'

/** What happens to files on their way: cut short, bytes changed, parts taken out, doubled or swapped. */
export function mutated(bytes: Buffer, seed: number): Buffer {
  const random = seeded(seed)
  let made = Buffer.from(bytes)
  for (let n = 1 + random.below(4); n > 0; n--) {
    const at = random.below(made.length + 1)
    const length = random.below(Math.min(64, made.length - at) + 1)
    const kind = random.below(6)
    if (kind === 0) made = made.subarray(0, at)
    else if (kind === 1) for (let i = 0; i < length; i++) made[at + i] = random.below(256)
    else if (kind === 2) made = Buffer.concat([made.subarray(0, at), made.subarray(at + length)])
    else if (kind === 3)
      made = Buffer.concat([made.subarray(0, at), made.subarray(at, at + length), made.subarray(at)])
    else if (kind === 4) {
      // A number within becomes another: lengths, counts, offsets.
      const digits = [...made.subarray(at, at + 400).entries()].filter(([, b]) => b >= 48 && b <= 57)
      for (const [i] of digits.slice(0, 1 + random.below(6))) made[at + i] = 48 + random.below(10)
    } else made = Buffer.concat([made, made.subarray(at, at + length)])
  }
  return made
}
