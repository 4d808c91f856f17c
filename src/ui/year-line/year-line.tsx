'use client'
import { useEffect, useRef, useState, type KeyboardEvent, type PointerEvent } from 'react'
import { clamp, toDate, toDay } from './days'
import { TypedDate } from './typed-date'
import { placeOf, YearDrawing, type YearSpan } from './year-drawing'

export interface YearLineProps {
  readonly firstDay: string
  readonly lastDay: string
  readonly water: readonly YearSpan[]
  readonly land: readonly YearSpan[]
  readonly flags: readonly { readonly name: string; readonly date: string }[]
  readonly date: string
  readonly today: string
  readonly labelOf: (date: string) => string
  /** Reads what was typed; undefined when it is no date. */
  readonly readTyped: (text: string) => string | undefined
  readonly onMove: (date: string) => void
}

const steps: Readonly<Record<string, number>> = {
  ArrowLeft: -1,
  ArrowRight: 1,
  ArrowDown: -1,
  ArrowUp: 1,
  PageDown: -7,
  PageUp: 7,
}

/** The drawing of the academic year: terms as water, closures as land, weeks as ticks, deadlines as flags. Its date is the chosen date. */
export function YearLine({
  firstDay,
  lastDay,
  water,
  land,
  flags,
  date,
  today,
  labelOf,
  readTyped,
  onMove,
}: YearLineProps) {
  const [shown, setShown] = useState(date)
  const [typing, setTyping] = useState<string>()
  const svg = useRef<SVGSVGElement>(null)
  const dragging = useRef(false)
  const first = toDay(firstDay) - 4
  const last = toDay(lastDay) + 4
  useEffect(() => setShown(date), [date])

  const at = (d: string) => placeOf(d, first, last)
  const bound = (n: number) => toDate(clamp(n, toDay(firstDay), toDay(lastDay)))
  const fromPointer = (event: PointerEvent) => {
    const box = svg.current?.getBoundingClientRect()
    if (!box) return shown
    return bound(Math.round(first + ((event.clientX - box.left) / box.width) * (last - first)))
  }
  const finish = (to: string) => {
    setShown(to)
    if (to !== date) onMove(to)
  }
  function onKeyDown(event: KeyboardEvent) {
    const step = steps[event.key]
    const to = step !== undefined ? bound(toDay(shown) + step) : event.key === 'Home' ? today : undefined
    if (to) {
      event.preventDefault()
      setShown(to)
    } else if (event.key === 'Enter') finish(shown)
    else if (event.key === 'Escape') setShown(date)
    else if (/^[0-9a-z+-]$/i.test(event.key) && !event.ctrlKey && !event.metaKey && !event.altKey) {
      event.preventDefault()
      setTyping(event.key)
    }
  }
  const left = at(shown) / 10
  // The label stands where it hides no deadline and does not run off the edge.
  const labelLeft = left > 82 || flags.some((f) => at(f.date) / 10 > left && at(f.date) / 10 < left + 11)
  const beside = labelLeft ? { right: `calc(${100 - left}% + 5px)` } : { left: `calc(${left}% + 5px)` }
  return (
    <div className="relative h-full bg-buff/45 select-none">
      <div
        role="slider"
        tabIndex={0}
        aria-label="Date you are working in"
        aria-valuemin={toDay(firstDay)}
        aria-valuemax={toDay(lastDay)}
        aria-valuenow={toDay(shown)}
        aria-valuetext={labelOf(shown)}
        title="Click or drag, use the arrow keys and Enter, or type a date"
        className="absolute inset-0 cursor-pointer"
        onKeyDown={onKeyDown}
        onBlur={() => shown !== date && !dragging.current && typing === undefined && finish(shown)}
        onPointerDown={(e) => {
          dragging.current = true
          e.currentTarget.setPointerCapture(e.pointerId)
          setShown(fromPointer(e))
        }}
        onPointerMove={(e) => dragging.current && setShown(fromPointer(e))}
        onPointerUp={(e) => {
          dragging.current = false
          finish(fromPointer(e))
        }}
      >
        <YearDrawing ref={svg} {...{ first, last, water, land, flags, today, shown, labelOf }} />
        {typing === undefined && (
          <span
            aria-hidden
            className="absolute top-[19px] rounded-[2px] bg-magenta px-2 py-[2px] text-[11px] leading-[18px] font-bold whitespace-nowrap text-panel"
            style={beside}
          >
            {labelOf(shown)}
          </span>
        )}
      </div>
      {typing !== undefined && (
        <TypedDate
          begun={typing}
          style={beside}
          onClose={() => setTyping(undefined)}
          onTyped={(text) => {
            const to = readTyped(text)
            if (!to || to !== bound(toDay(to))) return false
            setTyping(undefined)
            finish(to)
            return true
          }}
        />
      )}
    </div>
  )
}
