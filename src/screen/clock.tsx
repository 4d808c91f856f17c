'use client'
import { createContext, useContext, useMemo, useSyncExternalStore, type ReactNode } from 'react'
import { momentWords } from '@/core/calendar/moment-words'

interface Clock {
  /** The school's time of day of a moment of this device's clock, as 09:04. */
  readonly time: (moment: number) => string
  /** The school's date now, YYYY-MM-DD. */
  readonly today: () => string
  /** A stored moment in the school's time, as 23 Nov, 09:04. */
  readonly moment: (iso: string) => string
}

const ClockContext = createContext<Clock>({ time: () => '', today: () => '', moment: () => '' })

/** Gives pages the school's time, which a demo may have set, from the device's own clock. */
export function ClockProvider({
  now,
  timeZone,
  children,
}: {
  now: string
  timeZone: string
  children: ReactNode
}) {
  const clock = useMemo(() => {
    const offset = new Date(now).getTime() - Date.now()
    const time = new Intl.DateTimeFormat('en-GB', { timeStyle: 'short', timeZone })
    const day = new Intl.DateTimeFormat('sv-SE', { dateStyle: 'short', timeZone })
    return {
      time: (moment: number) => time.format(moment + offset),
      today: () => day.format(Date.now() + offset),
      moment: momentWords(timeZone),
    }
  }, [now, timeZone])
  return <ClockContext.Provider value={clock}>{children}</ClockContext.Provider>
}

export const useClock = () => useContext(ClockContext)

function everyHalfMinute(tell: () => void): () => void {
  const timer = setInterval(tell, 30_000)
  return () => clearInterval(timer)
}

/** The school's time of day now, as 09:04; empty until the page has come to life. */
export function useTimeNow(): string {
  const { time } = useClock()
  return useSyncExternalStore(
    everyHalfMinute,
    () => time(Date.now()),
    () => '',
  )
}
