'use client'
import { useCallback, useEffect, useState } from 'react'
import { useSchool } from './school-context'

function kept<T>(key: string): T | undefined {
  try {
    const text = sessionStorage.getItem(key)
    return text ? (JSON.parse(text) as T) : undefined
  } catch {
    // Blocked or damaged: the form begins empty.
    return undefined
  }
}

function keep(key: string, value: unknown): void {
  try {
    if (value === undefined) sessionStorage.removeItem(key)
    else sessionStorage.setItem(key, JSON.stringify(value))
  } catch {
    // Full or blocked: the draft lives as long as the page.
  }
}

/**
 * What was typed and not yet sent, kept in this browser tab for the person signed in, so that a closed or reloaded
 * page loses nothing and nobody else finds it.
 * @returns the draft kept from before, and a function that keeps one, or deletes it with undefined
 */
export function useDraft<T>(name: string): readonly [T | undefined, (draft: T | undefined) => void] {
  const { actor } = useSchool()
  const key = `kedge.draft.${actor.accountId}.${name}`
  const [found, setFound] = useState<T>()
  useEffect(() => {
    const mine = `kedge.draft.${actor.accountId}.`
    for (const other of Object.keys(sessionStorage))
      if (other.startsWith('kedge.draft.') && !other.startsWith(mine)) keep(other, undefined)
    setFound(kept<T>(key))
  }, [key, actor.accountId])
  const change = useCallback((draft: T | undefined) => keep(key, draft), [key])
  return [found, change]
}
