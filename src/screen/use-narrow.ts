'use client'
import { useSyncExternalStore } from 'react'

const phone = '(max-width: 639px)'
const subscribe = (call: () => void) => {
  const query = window.matchMedia(phone)
  query.addEventListener('change', call)
  return () => query.removeEventListener('change', call)
}

/** Whether the page is as narrow as on a phone; never so where the server draws it. */
export const useNarrow = () =>
  useSyncExternalStore(
    subscribe,
    () => window.matchMedia(phone).matches,
    () => false,
  )
