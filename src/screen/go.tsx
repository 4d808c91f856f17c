'use client'
// eslint-disable-next-line @typescript-eslint/no-restricted-imports -- the one place that asks first
import { useRouter } from 'next/navigation'
import { useEffect, useMemo, useState, useSyncExternalStore } from 'react'
import { Button } from '@/ui/button'
import { live } from './live-hub'

const timeout = 4000

/** Whether it is likely that the server cannot be reached; costs nothing to ask. */
export const isDoubtful = () => !navigator.onLine || live.isBroken()

/** Whether the server answers at all. */
async function isReachable(): Promise<boolean> {
  try {
    await fetch('/api/health', { cache: 'no-store', signal: AbortSignal.timeout(timeout) })
    return true
  } catch {
    return false
  }
}

// What was asked for while the server was away.
let missed: (() => void) | undefined
const listeners = new Set<() => void>()
function miss(next: (() => void) | undefined): void {
  missed = next
  for (const listener of listeners) listener()
}
const subscribe = (listener: () => void) => {
  listeners.add(listener)
  return () => void listeners.delete(listener)
}

async function whenReachable(act: () => void, quiet: boolean): Promise<void> {
  if (!isDoubtful() || (await isReachable())) {
    miss(undefined)
    act()
  } else if (!quiet) miss(() => void whenReachable(act, false))
}

/**
 * Going to another page, and making this one again. Where the server cannot be reached the page stays, with all that
 * is on it: the router would give it up for the browser's own page of an error.
 */
export function useGo() {
  const router = useRouter()
  return useMemo(
    () => ({
      push: (href: string, options?: { readonly scroll: boolean }) =>
        void whenReachable(() => router.push(href, options), false),
      /** Says nothing where it cannot be done: nobody asked for it. */
      refresh: () => void whenReachable(() => router.refresh(), true),
    }),
    [router],
  )
}

/** Says that a page could not be gone to, and goes there when Kedge is back and one asks again. */
export function NotGone() {
  const again = useSyncExternalStore(
    subscribe,
    () => missed,
    () => undefined,
  )
  const [busy, setBusy] = useState(false)
  useEffect(() => setBusy(false), [again])
  if (!again) return null
  return (
    <div
      role="alert"
      className="fixed inset-x-4 bottom-4 z-50 mx-auto flex max-w-xl flex-wrap items-center gap-3 border border-l-4 border-line border-l-port bg-panel px-4 py-3 text-left shadow-lg no-print"
    >
      <span className="flex-1 basis-60">
        <span aria-hidden className="text-port">
          ▲{' '}
        </span>
        Kedge cannot be reached, so the page was not opened. This page stays as it is.
      </span>
      <Button
        kind="plain"
        busy={busy}
        onClick={() => {
          setBusy(true)
          again()
        }}
      >
        Try again
      </Button>
      <Button kind="quiet" onClick={() => miss(undefined)}>
        Close
      </Button>
    </div>
  )
}
