'use client'
import { createContext, useCallback, useContext, useMemo, useState, type ReactNode } from 'react'

interface Announcement {
  readonly say: (words: string) => void
}

const AnnounceContext = createContext<Announcement>({ say: () => {} })

/** One quiet place where a screen reader hears what an act has done. */
export function AnnounceProvider({ children }: { children: ReactNode }) {
  const [words, setWords] = useState('')
  // The same words twice are two announcements.
  const say = useCallback((next: string) => setWords((now) => (now === next ? `${next}\u00a0` : next)), [])
  const value = useMemo(() => ({ say }), [say])
  return (
    <AnnounceContext.Provider value={value}>
      {children}
      <p role="status" className="sr-only" data-testid="announced">
        {words}
      </p>
    </AnnounceContext.Provider>
  )
}

export const useAnnounce = () => useContext(AnnounceContext).say
