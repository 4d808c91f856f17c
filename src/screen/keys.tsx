'use client'
import { createContext, useContext, useEffect, useMemo, useState, type ReactNode } from 'react'

/** The keys of a page or a part of it, each with what it does. */
export interface KeyGroup {
  readonly title: string
  readonly keys: readonly (readonly [key: string, act: string])[]
}

interface Keys {
  readonly groups: readonly KeyGroup[]
  readonly set: (change: (groups: readonly KeyGroup[]) => readonly KeyGroup[]) => void
}

const KeysContext = createContext<Keys>({ groups: [], set: () => {} })

/** Holds the keys that the parts on the page have told. */
export function KeysProvider({ children }: { children: ReactNode }) {
  const [groups, set] = useState<readonly KeyGroup[]>([])
  const value = useMemo(() => ({ groups, set }), [groups])
  return <KeysContext.Provider value={value}>{children}</KeysContext.Provider>
}

/** Tells the key help what this part's keys do, while it is on the page. */
export function useKeys(group: KeyGroup): void {
  const { set } = useContext(KeysContext)
  useEffect(() => {
    set((all) => [...all, group])
    return () => set((all) => all.filter((g) => g !== group))
  }, [group, set])
}

/** The keys of everything on the page. */
export const useKeyGroups = () => useContext(KeysContext).groups
