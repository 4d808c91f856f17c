'use client'
import { useEffect, useState } from 'react'

/** Going through the history of a tab, where the browser lets a page ask first. */
interface Navigation extends EventTarget {
  readonly currentEntry?: unknown
}
interface NavigateEvent extends Event {
  readonly navigationType: string
}

/**
 * How a form in a dialog closes: at once while nothing was typed; else it asks first, also where Back or closing the
 * tab would end it. While it is being saved it stays.
 */
export function useClosing({
  isTyped,
  busy,
  onClose,
}: {
  isTyped: boolean
  busy: boolean
  onClose: () => void
}) {
  const [asks, setAsks] = useState(false)
  useEffect(() => {
    if (!isTyped) return
    const stay = (event: Event) => event.preventDefault()
    const back = (event: Event) => {
      if ((event as NavigateEvent).navigationType !== 'traverse' || !event.cancelable) return
      event.preventDefault()
      setAsks(true)
    }
    const { navigation } = window as { navigation?: Navigation }
    window.addEventListener('beforeunload', stay)
    navigation?.addEventListener('navigate', back)
    return () => {
      window.removeEventListener('beforeunload', stay)
      navigation?.removeEventListener('navigate', back)
    }
  }, [isTyped])
  return {
    asks: asks && isTyped,
    /** Escape, a click outside or Cancel. */
    close() {
      if (busy) return
      if (isTyped) setAsks(true)
      else onClose()
    },
    goOn: () => setAsks(false),
  }
}
