'use client'
import { createContext, useContext, useMemo, type ReactNode } from 'react'

interface Clock {
  /** The school's time of day of a moment of this device's clock, as 09:04:12. */
  readonly time: (moment: number) => string
}

const ClockContext = createContext<Clock>({ time: () => '' })

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
    const format = new Intl.DateTimeFormat('en-GB', { timeStyle: 'medium', timeZone })
    return { time: (moment: number) => format.format(moment + offset) }
  }, [now, timeZone])
  return <ClockContext.Provider value={clock}>{children}</ClockContext.Provider>
}

export const useClock = () => useContext(ClockContext)
