/**
 * How many live streams there may be. A page holds one; nobody has more pages open than this by intent, and a process
 * keeps memory and a socket for each.
 */
export const streamLimits = { account: 40, process: 2000 } as const

const shared = globalThis as typeof globalThis & { kedgeStreams?: Map<string, number> }
const open = (shared.kedgeStreams ??= new Map())

/**
 * Takes a place for a stream of an account.
 * @returns what gives the place back, once; undefined when there is none
 */
export function takeStream(accountId: string): (() => void) | undefined {
  const own = open.get(accountId) ?? 0
  const all = [...open.values()].reduce((sum, n) => sum + n, 0)
  if (own >= streamLimits.account || all >= streamLimits.process) return undefined
  open.set(accountId, own + 1)
  let held = true
  return () => {
    if (!held) return
    held = false
    const left = (open.get(accountId) ?? 1) - 1
    if (left > 0) open.set(accountId, left)
    else open.delete(accountId)
  }
}
