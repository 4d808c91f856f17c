const shared = globalThis as typeof globalThis & { kedgeStops?: Set<() => void>; kedgeStopping?: boolean }
const stops = (shared.kedgeStops ??= new Set())

/** Whether the process is about to end: nothing long is begun any more. */
export const isStopping = (): boolean => shared.kedgeStopping === true

/**
 * Notes what is open for long and must be told when the process ends.
 * @returns what takes it out again
 */
export function untilStop(stop: () => void): () => void {
  stops.add(stop)
  return () => stops.delete(stop)
}

/** Ends all that is open for long; its pages come back by themselves. */
export function stopAll(): void {
  shared.kedgeStopping = true
  for (const stop of stops) stop()
}
