/** What every statement answers behind one that failed: not the reason, only its echo. */
const isEcho = (error: unknown) => (error as { code?: string } | null)?.code === '25P02'

/** Waits for checks that were asked side by side; of several that refuse, the first in order is told. */
export async function allOf(...checks: readonly Promise<unknown>[]): Promise<void> {
  const reasons = (await Promise.allSettled(checks)).flatMap((done) =>
    done.status === 'rejected' ? [done.reason as unknown] : [],
  )
  if (reasons.length > 0) throw reasons.find((reason) => !isEcho(reason)) ?? reasons[0]
}
