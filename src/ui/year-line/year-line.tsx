'use client'
import { useEffect, useMemo, useRef, useState, type KeyboardEvent, type PointerEvent } from 'react'
import { clamp, monthsBetween, toDate, toDay } from './days'

export interface YearSpan {
  readonly name: string
  readonly firstDay: string
  readonly lastDay: string
}

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
  const [wrong, setWrong] = useState(false)
  const svg = useRef<SVGSVGElement>(null)
  const dragging = useRef(false)
  const first = toDay(firstDay) - 4
  const last = toDay(lastDay) + 4
  useEffect(() => setShown(date), [date])

  const at = (d: string) => ((toDay(d) - first) / (last - first)) * 1000
  const bound = (n: number) => toDate(clamp(n, toDay(firstDay), toDay(lastDay)))
  const ticks = useMemo(() => {
    const monday = first + ((8 - (new Date(`${toDate(first)}T00:00:00Z`).getUTCDay() || 7)) % 7)
    return Array.from({ length: Math.ceil((last - monday) / 7) }, (_, i) => toDate(monday + 7 * i))
  }, [first, last])
  const months = useMemo(() => monthsBetween(first, last), [first, last])

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
  function submitTyped() {
    const to = readTyped(typing ?? '')
    if (!to || to !== bound(toDay(to))) return setWrong(true)
    setTyping(undefined)
    setWrong(false)
    finish(to)
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
        <svg
          ref={svg}
          aria-hidden
          viewBox="0 0 1000 64"
          preserveAspectRatio="none"
          className="absolute inset-0 size-full"
        >
          {[
            ...water.map((t) => ({
              x: at(t.firstDay),
              width: at(t.lastDay) - at(t.firstDay),
              fill: 'fill-shoal',
              y: 16,
            })),
            ...land.map((c) => ({
              x: at(c.firstDay),
              // A single day is still to be seen.
              width: Math.max(2, at(c.lastDay) - at(c.firstDay) + 3),
              fill: 'fill-buff',
              // Lower than the term around it, so that it is not told by its tint alone.
              y: 27,
            })),
          ].map(({ x, width, fill, y }) => (
            <rect
              key={`${fill} ${x}`}
              x={x}
              width={width}
              y={y}
              height={46 - y}
              className={`${fill} stroke-line`}
              strokeWidth={1}
              vectorEffect="non-scaling-stroke"
            />
          ))}
          {ticks.map((t) => (
            <line
              key={t}
              x1={at(t)}
              x2={at(t)}
              y1={months.some((m) => Math.abs(toDay(m.date) - toDay(t)) < 4) ? 38 : 42}
              y2={46}
              className="stroke-ink"
              strokeWidth={1}
              vectorEffect="non-scaling-stroke"
            />
          ))}
          <line
            x1={at(today)}
            x2={at(today)}
            y1={16}
            y2={46}
            className="stroke-magenta"
            strokeDasharray="2 3"
            strokeWidth={1}
            vectorEffect="non-scaling-stroke"
          />
          <line
            x1={at(shown)}
            x2={at(shown)}
            y1={4}
            y2={50}
            className="stroke-magenta"
            strokeWidth={2.5}
            vectorEffect="non-scaling-stroke"
          />
        </svg>
        {water.map((t) => (
          <span
            key={t.firstDay}
            aria-hidden
            className="absolute top-[2px] text-[10px] leading-[13px] text-muted"
            style={{ left: `${at(t.firstDay) / 10}%` }}
          >
            {t.name}
          </span>
        ))}
        {months.map((m, i) => (
          <span
            key={m.date}
            aria-hidden
            className={`absolute bottom-[1px] text-[10px] leading-[13px] text-muted ${i % 2 ? 'max-md:hidden' : ''}`}
            style={{ left: `${at(m.date) / 10}%` }}
          >
            {m.name}
          </span>
        ))}
        {flags.map((f) => (
          <span
            key={f.name + f.date}
            title={`${f.name}, ${labelOf(f.date)}`}
            className="absolute top-[14px] h-[32px] border-l-[1.5px] border-ink"
            style={{ left: `${at(f.date) / 10}%` }}
          >
            <span
              aria-hidden
              className="block size-0 border-y-[5px] border-l-[10px] border-y-transparent border-l-ink"
            />
          </span>
        ))}
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
        <form
          method="post"
          className="absolute top-[15px] z-10 flex"
          style={beside}
          onSubmit={(e) => {
            e.preventDefault()
            submitTyped()
          }}
        >
          <input
            autoFocus
            aria-label="Date, for example 20 Nov"
            aria-invalid={wrong || undefined}
            value={typing}
            onChange={(e) => {
              setTyping(e.target.value)
              setWrong(false)
            }}
            onKeyDown={(e) => e.key === 'Escape' && setTyping(undefined)}
            onBlur={() => setTyping(undefined)}
            className="w-32 border-2 border-magenta bg-panel px-1 aria-invalid:border-port"
          />
          {wrong && (
            <span role="alert" className="bg-panel px-2 text-port">
              No such day in this year
            </span>
          )}
        </form>
      )}
    </div>
  )
}
