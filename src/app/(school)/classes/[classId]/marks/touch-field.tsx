'use client'
import type { KeyboardEvent, RefObject } from 'react'
import { Button } from '@/ui/button'
import type { Fill } from './fill-range'
import type { Range } from './use-range'

const standingKeys = [
  ['Missing', 'm'],
  ['Excused', 'e'],
  ['Incomplete', 'i'],
  ['Late', 'l'],
] as const

/** The acts of a cell that have no digit, for fingers; in all chosen cells where there are several. */
export function TouchKeys({
  onPress,
  range,
  typed,
  onFill,
  reaches,
  onReaching,
}: {
  onPress: (key: string) => void
  range: Range | undefined
  typed: string | undefined
  onFill: (fill: Fill) => void
  /** Whether the next tap reaches to a further cell. */
  reaches: boolean
  onReaching: (next: boolean) => void
}) {
  // Enter keeps what was typed and goes down.
  const type = (key: string) => () => {
    onPress(key)
    if (!range) onPress('Enter')
  }
  return (
    <div
      className="my-2 hidden flex-wrap gap-2 pointer-coarse:flex no-print"
      role="group"
      aria-label="The selected cell"
    >
      <Button kind="plain" aria-pressed={reaches} onClick={() => onReaching(!reaches)}>
        {reaches ? 'Done with several' : 'Choose several'}
      </Button>
      {standingKeys.map(([words, key]) => (
        <Button key={key} kind="plain" onClick={type(key)}>
          {words}
        </Button>
      ))}
      <Button kind="plain" onClick={() => onPress('Backspace')}>
        Empty
      </Button>
      {range ? (
        <>
          {typed !== undefined && (
            <Button kind="plain" onClick={() => onFill({ text: typed })}>
              {typed} in all
            </Button>
          )}
          <Button kind="plain" onClick={() => onFill('down')}>
            Fill down
          </Button>
          <Button kind="plain" onClick={() => onFill('right')}>
            Fill right
          </Button>
        </>
      ) : (
        <>
          <Button kind="plain" onClick={() => onPress('ArrowUp')}>
            Up
          </Button>
          <Button kind="plain" onClick={() => onPress('Enter')}>
            Down
          </Button>
        </>
      )}
    </div>
  )
}

/** The keys that are the grid's also while a field has them. */
const ofGrid = new Set(['Enter', 'ArrowUp', 'ArrowDown', 'Escape', 'Tab'])

export interface Touch {
  readonly press: (key: string) => boolean
  readonly onKeyDown: (event: KeyboardEvent) => void
}

/**
 * A field over the chosen cell, so that a tablet or phone opens its keyboard. What is typed into it goes to the grid
 * key by key.
 */
export function TouchField({
  fieldRef,
  label,
  typed,
  present,
  touch,
  place,
}: {
  fieldRef: RefObject<HTMLInputElement | null>
  label: string
  typed: string | undefined
  /** What the cell holds. */
  present: string
  touch: Touch
  /** In pixels, within the grid. */
  place: { readonly top: number; readonly left: number; readonly width: number; readonly height: number }
}) {
  function change(next: string) {
    const now = typed ?? ''
    const kept = next.startsWith(now) ? now : ''
    if (kept === '') for (let i = 0; i < now.length; i++) touch.press('Backspace')
    for (const key of next.slice(kept.length)) touch.press(key)
  }
  function onKeyDown(event: KeyboardEvent) {
    if (event.key === 'Backspace' && !typed) touch.press('Backspace')
    else if (ofGrid.has(event.key)) touch.onKeyDown(event)
    event.stopPropagation()
  }
  return (
    <div role="row" className="contents">
      <div role="gridcell" className="contents">
        <input
          ref={fieldRef}
          aria-label={label}
          inputMode="decimal"
          enterKeyHint="next"
          autoComplete="off"
          value={typed ?? ''}
          placeholder={present}
          onChange={(e) => change(e.target.value)}
          onKeyDown={onKeyDown}
          style={place}
          className="absolute bg-panel px-[8px] text-right text-[15px] outline-[2.5px] -outline-offset-2 outline-magenta no-print"
        />
      </div>
    </div>
  )
}
