'use client'
import { useMemo, useSyncExternalStore } from 'react'
import { useSchool } from './school-context'

/** The acts that one key alone does, which whoever steers by voice or strikes keys by accident can switch off. */
export interface KeyChoice {
  /** `?` lists the keys. */
  readonly help: boolean
  /** `.` marks the rest present. */
  readonly rest: boolean
}

const all: KeyChoice = { help: true, rest: true }
const heard = new Set<() => void>()
const subscribe = (call: () => void) => {
  heard.add(call)
  window.addEventListener('storage', call)
  return () => {
    heard.delete(call)
    window.removeEventListener('storage', call)
  }
}

function read(key: string): string {
  try {
    return localStorage.getItem(key) ?? ''
  } catch {
    // A browser that keeps nothing: all keys do what they do.
    return ''
  }
}

const useStored = () => {
  const { actor } = useSchool()
  const key = `kedge.keys.${actor.accountId}`
  return {
    key,
    text: useSyncExternalStore(
      subscribe,
      () => read(key),
      () => '',
    ),
  }
}

/** Which single keys act, for this person on this device. */
export function useKeyChoice(): KeyChoice {
  const { text } = useStored()
  return useMemo(() => {
    const off = new Set(text.split(' '))
    return { help: !off.has('help'), rest: !off.has('rest') }
  }, [text])
}

/** Switches a single key on or off. */
export function useSetKeyChoice(): (name: keyof KeyChoice, on: boolean) => void {
  const { key } = useStored()
  const now = useKeyChoice()
  return (name, on) => {
    const next = { ...now, [name]: on }
    const off = (Object.keys(all) as (keyof KeyChoice)[]).filter((k) => !next[k])
    localStorage.setItem(key, off.join(' '))
    for (const call of heard) call()
  }
}
