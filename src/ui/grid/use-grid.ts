'use client'
import { useCallback, useEffect, useLayoutEffect, useRef, useState, type KeyboardEvent } from 'react'
import {
  cellAt,
  choose,
  placed,
  press,
  settle,
  stepped,
  type At,
  type Effect,
  type GridRules,
  type GridState,
  type Pressed,
  type Shape,
} from './grid'

const isCommand = (event: KeyboardEvent) => event.ctrlKey || event.metaKey

/** The name of a key as the grid's rules know it. */
function keyName(event: KeyboardEvent): string {
  const key = event.key.length === 1 && isCommand(event) ? event.key.toLowerCase() : event.key
  return isCommand(event) ? `Ctrl+${event.shiftKey ? 'Shift+' : ''}${key}` : key
}

/** A grid that is typed into, on the page: its cell, what is being typed, and what its keys do. */
export function useGrid(
  shape: Shape,
  rules: GridRules,
  onEffect: (effect: Effect) => void,
  begin: () => readonly [row: number, column: number] = () => [0, 0],
) {
  const [state, setState] = useState<GridState>(() => cellAt(shape, ...begin()))
  const here = placed(state, shape)
  // Handlers stay the same and always see the newest state, so that rows are drawn again only when they change.
  const latest = useRef({ state: here, shape, rules, onEffect })
  useLayoutEffect(() => {
    latest.current = { state: here, shape, rules, onEffect }
  })
  // A row or column that is gone is not come back to when it returns.
  useEffect(() => {
    // From the newest state: a key may have come between the drawing and this.
    setState((now) => placed(now, shape))
  }, [here.at]) // eslint-disable-line react-hooks/exhaustive-deps -- only when the cell itself is another

  const apply = useCallback(({ state: next, effects, handled }: Pressed): boolean => {
    latest.current.state = next
    setState(next)
    for (const effect of effects) latest.current.onEffect(effect)
    return handled
  }, [])
  const pressKey = useCallback(
    (key: string) => apply(press(latest.current.state, key, latest.current.shape, latest.current.rules)),
    [apply],
  )
  const onKeyDown = useCallback(
    (event: KeyboardEvent) => {
      if (event.altKey) return
      if (pressKey(keyName(event))) event.preventDefault()
    },
    [pressKey],
  )
  /** Goes to a cell; answers whether what was being typed could be kept. */
  const goTo = useCallback(
    (at: At) => {
      apply(choose(latest.current.state, at, latest.current.shape, latest.current.rules))
      const now = latest.current.state.at
      return now.row === at.row && now.column === at.column
    },
    [apply],
  )
  const end = useCallback(
    () => apply(settle(latest.current.state, latest.current.shape, latest.current.rules)),
    [apply],
  )
  /** Ends typing without keeping it, and goes so many rows on. */
  const drop = useCallback(
    (rows = 0) => {
      const { state: now, shape: of } = latest.current
      apply({ state: stepped({ ...now, typed: undefined }, of, [rows, 0]), effects: [], handled: true })
    },
    [apply],
  )
  return { at: here.at, typed: here.typed, onKeyDown, pressKey, goTo, end, drop }
}
