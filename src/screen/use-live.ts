'use client'
import { useEffect, useRef, useState } from 'react'
import type { QueryInput, QueryName, QueryOutput } from '@/server/registry'
import { follow } from './live-hub'
import { askServer } from './server'

/**
 * A query's answer that follows every change others make. Begins with what the page was drawn with.
 * @param options.every follows what this page itself changes too, and asks at most once in so many milliseconds: for
 *   what every page shows and many changes touch
 * @returns the answer now, and a function that asks again at once
 */
export function useLive<N extends QueryName>(
  name: N,
  input: QueryInput<N>,
  initial: QueryOutput<N>,
  { every }: { every?: number } = {},
): readonly [QueryOutput<N>, () => Promise<void>] {
  const [answer, setAnswer] = useState(initial)
  const [drawnWith, setDrawnWith] = useState(initial)
  if (drawnWith !== initial) {
    setDrawnWith(initial)
    setAnswer(initial)
  }
  const inputText = JSON.stringify(input)
  const refresh = useRef(async () => {})
  useEffect(() => {
    let gone = false
    let asking = false
    let askedMeanwhile = false
    const parsed = JSON.parse(inputText) as QueryInput<N>
    refresh.current = async () => {
      askedMeanwhile = asking
      if (asking) return
      asking = true
      do {
        askedMeanwhile = false
        const result = await askServer(name, parsed)
        if (result.ok && !gone) setAnswer(result.value)
      } while (askedMeanwhile)
      asking = false
    }
    let rest: ReturnType<typeof setTimeout> | undefined
    const afterRest = () => {
      rest ??= setTimeout(() => {
        rest = undefined
        void refresh.current()
      }, every)
    }
    const stop = every
      ? follow(name, parsed, afterRest, afterRest)
      : follow(name, parsed, () => void refresh.current())
    return () => {
      gone = true
      clearTimeout(rest)
      stop()
    }
  }, [name, inputText, every])
  return [answer, () => refresh.current()]
}
