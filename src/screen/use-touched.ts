'use client'
import { useEffect, useMemo, useRef, useState } from 'react'

/** How long what others changed is pointed out, in milliseconds. */
const shown = 2400

/**
 * Records whose value others have just changed, so that the screen can show where. Each is pointed out for a moment
 * and then put out, without fading: a fade is drawn sixty times a second, and holds up the keys of whoever types.
 * @param values each record's value in the server's answer, as text
 * @param isOwn whether the value was written from here
 */
export function useTouched(
  values: ReadonlyMap<string, string>,
  isOwn: (record: string) => boolean,
): ReadonlySet<string> {
  // Each record with when it is put out.
  const [touched, setTouched] = useState<ReadonlyMap<string, number>>(new Map())
  const before = useRef(values)
  const own = useRef(isOwn)
  useEffect(() => {
    own.current = isOwn
  })
  useEffect(() => {
    if (before.current === values) return
    const was = before.current
    before.current = values
    const changed = [...values.keys()].filter(
      (record) => (was.get(record) ?? '') !== values.get(record) && !own.current(record),
    )
    if (changed.length === 0) return
    const until = Date.now() + shown
    setTouched((now) => new Map([...now, ...changed.map((record) => [record, until] as const)]))
  }, [values])
  useEffect(() => {
    if (touched.size === 0) return
    const next = Math.min(...touched.values()) - Date.now()
    const timer = setTimeout(
      () => setTouched((now) => new Map([...now].filter(([, until]) => until > Date.now()))),
      Math.max(0, next),
    )
    return () => clearTimeout(timer)
  }, [touched])
  return useMemo(() => new Set(touched.keys()), [touched])
}
