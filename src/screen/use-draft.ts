'use client'
import { useCallback, useEffect, useState } from 'react'

/** A form's values, kept in this browser tab until it is sent, so that a closed or reloaded page loses nothing. */
export function useDraft<T extends object>(
  name: string,
  initial: T,
): readonly [T, (part: Partial<T>) => void, () => void] {
  const key = `kedge.draft.${name}`
  const [values, setValues] = useState(initial)
  useEffect(() => {
    const kept = sessionStorage.getItem(key)
    if (kept) setValues((now) => ({ ...now, ...(JSON.parse(kept) as Partial<T>) }))
  }, [key])
  const change = useCallback(
    (part: Partial<T>) =>
      setValues((now) => {
        const next = { ...now, ...part }
        sessionStorage.setItem(key, JSON.stringify(next))
        return next
      }),
    [key],
  )
  const forget = useCallback(() => sessionStorage.removeItem(key), [key])
  return [values, change, forget]
}
