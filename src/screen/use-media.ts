'use client'
import { useCallback, useSyncExternalStore } from 'react'

/** Whether the browser meets a condition; never so where the server draws the page. */
function useMedia(condition: string): boolean {
  const subscribe = useCallback(
    (call: () => void) => {
      const query = window.matchMedia(condition)
      query.addEventListener('change', call)
      return () => query.removeEventListener('change', call)
    },
    [condition],
  )
  return useSyncExternalStore(
    subscribe,
    () => window.matchMedia(condition).matches,
    () => false,
  )
}

/** Whether the page is as narrow as on a phone. */
export const useNarrow = () => useMedia('(max-width: 639px)')

/** Whether this is used by finger. */
export const useIsTouch = () => useMedia('(pointer: coarse)')
