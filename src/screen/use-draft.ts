'use client'
import { useCallback, useEffect, useMemo, useState } from 'react'
import { sealer, type Sealer } from '@/ui/saving/sealed'
import { useSchool } from './school-context'

function kept<T>(key: string, { open }: Sealer): T | undefined {
  try {
    const text = open(sessionStorage.getItem(key) ?? '')
    return text ? (JSON.parse(text) as T) : undefined
  } catch {
    // Blocked or damaged: the form begins empty.
    return undefined
  }
}

function keep(key: string, text: string | undefined): void {
  try {
    if (text === undefined) sessionStorage.removeItem(key)
    else sessionStorage.setItem(key, text)
  } catch {
    // Full or blocked: the draft lives as long as the page.
  }
}

/**
 * What was typed and not yet sent, kept in this browser tab for the person signed in, so that a closed or reloaded
 * page loses nothing and nobody else finds it or can read it.
 * @returns the draft kept from before, and a function that keeps one, or deletes it with undefined
 */
export function useDraft<T>(name: string): readonly [T | undefined, (draft: T | undefined) => void] {
  const { actor, deviceKey } = useSchool()
  const sealed = useMemo(() => sealer(deviceKey), [deviceKey])
  const key = `kedge.draft.${actor.accountId}.${name}`
  const [found, setFound] = useState<T>()
  useEffect(() => {
    const mine = `kedge.draft.${actor.accountId}.`
    for (const other of Object.keys(sessionStorage))
      if (other.startsWith('kedge.draft.') && !other.startsWith(mine)) keep(other, undefined)
    setFound(kept<T>(key, sealed))
  }, [key, sealed, actor.accountId])
  const change = useCallback(
    (draft: T | undefined) => keep(key, draft === undefined ? undefined : sealed.seal(JSON.stringify(draft))),
    [key, sealed],
  )
  return [found, change]
}
