'use client'
import { useEffect, useState } from 'react'

/** A value as it was when it last rested for a moment: for what explains the work and must not hold up the keys. */
export function useRested<T>(value: T, milliseconds = 120): T {
  const [rested, setRested] = useState(value)
  useEffect(() => {
    const timer = setTimeout(() => setRested(value), milliseconds)
    return () => clearTimeout(timer)
  }, [value, milliseconds])
  return rested
}
