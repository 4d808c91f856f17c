'use client'
import { createContext, useContext, useEffect, useMemo, useRef, type ReactNode } from 'react'
import { hasSome, staffRoles } from '@/core/people/roles'
import { isAlive, workWords } from '@/core/work'
import type { QueryOutput } from '@/server/registry'
import { useAnnounce } from './announce'
import { useSchool } from './school-context'
import { useLive } from './use-live'

export type OwnWork = QueryOutput<'work.list'>

interface WorkState {
  readonly all: OwnWork
  readonly refresh: () => Promise<void>
}

const WorkContext = createContext<WorkState>({ all: [], refresh: () => Promise.resolve() })

/** Says how work ended that was alive when it was last seen. */
function useSayEnds(all: OwnWork): void {
  const say = useAnnounce()
  const alive = useRef(new Set<string>())
  useEffect(() => {
    const ended = all.filter((work) => !isAlive(work) && alive.current.has(work.id))
    alive.current = new Set(all.filter(isAlive).map((work) => work.id))
    if (ended.length > 0) say(ended.map((work) => `${work.title}: ${workWords(work)}`).join('. '))
  }, [all, say])
}

function LiveWork({ drawn, children }: { drawn: OwnWork; children: ReactNode }) {
  const [all, refresh] = useLive('work.list', {}, drawn)
  useSayEnds(all)
  const value = useMemo(() => ({ all, refresh }), [all, refresh])
  return <WorkContext.Provider value={value}>{children}</WorkContext.Provider>
}

/** Follows the person's background work on every page; guardians and students have none. */
export function WorkProvider({ drawn, children }: { drawn: OwnWork; children: ReactNode }) {
  const { actor } = useSchool()
  return hasSome(actor.roles, ...staffRoles) ? <LiveWork drawn={drawn}>{children}</LiveWork> : children
}

/** The person's background work, and a function that asks for it again. */
export const useWork = (): WorkState => useContext(WorkContext)
