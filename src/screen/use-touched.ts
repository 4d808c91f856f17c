'use client'
import { useEffect, useRef, useState } from 'react'

/**
 * Records whose value others have just changed, so that the screen can show where.
 * @param values each record's value in the server's answer, as text
 * @param isOwn whether the value was written from here
 */
export function useTouched(
  values: ReadonlyMap<string, string>,
  isOwn: (record: string) => boolean,
): ReadonlySet<string> {
  const [touched, setTouched] = useState<ReadonlySet<string>>(new Set())
  const before = useRef(values)
  const own = useRef(isOwn)
  useEffect(() => {
    own.current = isOwn
  })
  useEffect(() => {
    if (before.current === values) return
    const was = before.current
    before.current = values
    const changed = [...values].filter(([record, value]) => (was.get(record) ?? '') !== value)
    setTouched(new Set(changed.map(([record]) => record).filter((record) => !own.current(record))))
  }, [values])
  return touched
}
