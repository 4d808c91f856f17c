'use client'
import { useQuery, useQueryClient } from '@tanstack/react-query'
import { useCallback, useEffect, useMemo, useRef, useState } from 'react'
import type { QueryInput, QueryName, QueryOutput } from '@/server/registry'
import { askAgain } from './ask-again'
import { follow } from './live-hub'
import { CallError } from './query-client'
import { sendQuery } from './server'

/** A query is asked at most once in so many milliseconds because of what others change. */
const shortest = 250

async function answerOf<N extends QueryName>(name: N, input: QueryInput<N>, signal: AbortSignal) {
  const result = await sendQuery(name, input, { signal })
  if (!result.ok) throw new CallError(result.failure)
  return result.value
}

/**
 * A query's answer that follows every change others make. Begins with what the page was drawn with, and asks again as
 * soon as changes are listened for, since that may be old: a page that Back brings up was drawn long ago.
 * @param options.every follows what this page itself changes too, and asks at most once in so many milliseconds: for
 *   what every page shows and many changes touch
 * @returns the answer now, and a function that asks again at once and settles when the answer is shown
 */
export function useLive<N extends QueryName>(
  name: N,
  input: QueryInput<N>,
  initial: QueryOutput<N>,
  { every }: { every?: number } = {},
): readonly [QueryOutput<N>, () => Promise<void>] {
  const client = useQueryClient()
  const inputText = JSON.stringify(input)
  const key = useMemo(() => [name, inputText] as const, [name, inputText])
  // What the page was drawn with belongs to the input it was drawn for.
  const [drawn, setDrawn] = useState({ initial, inputText })
  if (drawn.initial !== initial) setDrawn({ initial, inputText })
  const { data = initial } = useQuery<unknown>({
    queryKey: key,
    queryFn: ({ signal }) => answerOf(name, JSON.parse(inputText) as QueryInput<N>, signal),
    initialData: drawn.inputText === inputText ? initial : undefined,
    placeholderData: (previous: unknown) => previous ?? initial,
    staleTime: Infinity,
  })
  const drawnWith = useRef(initial)
  useEffect(() => {
    if (drawnWith.current === initial) return
    drawnWith.current = initial
    client.setQueryData(key, initial)
  }, [client, key, initial])

  const isStuck = useCallback(() => (client.getQueryState(key)?.fetchFailureCount ?? 0) > 0, [client, key])
  const refresh = useCallback(
    () =>
      askAgain(
        key.join(' '),
        () => client.refetchQueries({ queryKey: key, exact: true }, { cancelRefetch: isStuck() }),
        isStuck,
      ),
    [client, key, isStuck],
  )
  useEffect(() => {
    let rest: ReturnType<typeof setTimeout> | undefined
    let asked = -Infinity
    const ask = () => {
      asked = performance.now()
      void refresh()
    }
    /** Not sooner than so many milliseconds from now, however many changes come until then. */
    const askIn = (milliseconds: number) => {
      rest ??= setTimeout(() => {
        rest = undefined
        ask()
      }, milliseconds)
    }
    const soon = () => {
      const since = performance.now() - asked
      if (since < shortest) askIn(shortest - since)
      else if (!rest) ask()
    }
    const afterRest = () => askIn(every ?? 0)
    const parsed = JSON.parse(inputText) as QueryInput<N>
    const stop = every ? follow(name, parsed, afterRest, afterRest) : follow(name, parsed, soon)
    return () => {
      clearTimeout(rest)
      stop()
    }
  }, [name, inputText, every, refresh])
  return [data as QueryOutput<N>, refresh]
}

/**
 * A query's answer for a part that opens during work, such as a dialog or the margin.
 * @param input undefined while there is nothing to ask
 * @param options.after asks only once the input has stayed the same for so many milliseconds
 * @param options.keep shows the answer to the previous input until the next is there
 */
export function useAnswer<N extends QueryName>(
  name: N,
  input: QueryInput<N> | undefined,
  { after = 0, keep = false }: { after?: number; keep?: boolean } = {},
) {
  const inputText = JSON.stringify(input)
  const [rested, setRested] = useState(after === 0 ? inputText : undefined)
  useEffect(() => {
    const timer = setTimeout(() => setRested(inputText), after)
    return () => clearTimeout(timer)
  }, [inputText, after])
  const { data, error, isFetching, isPlaceholderData } = useQuery<unknown>({
    queryKey: [name, inputText ?? ''],
    queryFn: ({ signal }) => answerOf(name, JSON.parse(inputText ?? '{}') as QueryInput<N>, signal),
    enabled: inputText !== undefined && rested === inputText,
    placeholderData: keep ? (previous: unknown) => previous : undefined,
  })
  return {
    answer: data as QueryOutput<N> | undefined,
    problem: error?.message,
    /** Whether the answer is not yet that to the input. */
    asking: inputText !== undefined && (isFetching || isPlaceholderData || rested !== inputText),
  }
}
