'use client'
import { useMemo, useRef, useState, type PointerEvent } from 'react'
import { clamp, monthsBetween, toDate, toDay } from './days'

/** A part of a year that is drawn: a term, days without school, a period within a term. */
export interface YearPart {
  readonly key: string
  readonly name: string
  readonly look: 'water' | 'land' | 'upper' | 'lower'
  readonly firstDay: string
  readonly lastDay: string
}

interface Days {
  readonly firstDay: string
  readonly lastDay: string
}

const looks: Readonly<Record<YearPart['look'], string>> = {
  water: 'top-[22px] h-[64px] bg-shoal border-line',
  land: 'top-[22px] h-[64px] bg-buff border-line land',
  upper: 'top-[90px] h-[16px] bg-shoal-light border-ink',
  lower: 'top-[110px] h-[16px] bg-panel border-magenta',
}

/**
 * The year line enlarged, for changing it with the pointer: an edge is dragged to another day, a part is opened by
 * clicking, and days are drawn on empty ground. For those who use keys the same stands in the tables beside it.
 */
export function YearEditor({
  firstDay,
  lastDay,
  parts,
  labelOf,
  onDays,
  onOpen,
  onDraw,
}: {
  firstDay: string
  lastDay: string
  parts: readonly YearPart[]
  labelOf: (date: string) => string
  /** Called when an edge was dragged to another day. */
  onDays?: (key: string, days: Days) => void
  onOpen?: (key: string) => void
  /** Called with days that were drawn over a term. */
  onDraw?: (days: Days) => void
}) {
  const box = useRef<HTMLDivElement>(null)
  const [first, last] = [toDay(firstDay) - 3, toDay(lastDay) + 3]
  const [drag, setDrag] = useState<{
    key: string
    from: number
    edge: 'first' | 'last' | 'new'
    days: Days
  }>()
  const months = useMemo(() => monthsBetween(first, last), [first, last])
  const left = (date: string, later = 0) => `${((toDay(date) + later - first) / (last - first)) * 100}%`
  const width = (days: Days) =>
    `${((toDay(days.lastDay) - toDay(days.firstDay) + 1) / (last - first)) * 100}%`
  const dayAt = (event: PointerEvent) => {
    const area = box.current?.getBoundingClientRect()
    if (!area) return first
    const n = Math.floor(first + ((event.clientX - area.left) / area.width) * (last - first))
    return clamp(n, toDay(firstDay), toDay(lastDay))
  }
  const begin = (event: PointerEvent, key: string, edge: 'first' | 'last' | 'new', days: Days) => {
    event.preventDefault()
    event.stopPropagation()
    box.current?.setPointerCapture(event.pointerId)
    setDrag({ key, from: dayAt(event), edge, days })
  }
  function move(event: PointerEvent) {
    if (!drag) return
    const at = dayAt(event)
    const { edge, from, days } = drag
    const next =
      edge === 'new'
        ? { firstDay: toDate(Math.min(from, at)), lastDay: toDate(Math.max(from, at)) }
        : edge === 'first'
          ? { ...days, firstDay: toDate(Math.min(at, toDay(days.lastDay))) }
          : { ...days, lastDay: toDate(Math.max(at, toDay(days.firstDay))) }
    setDrag({ ...drag, days: next })
  }
  function end(event: PointerEvent) {
    if (!drag) return
    const { key, edge, days, from } = drag
    setDrag(undefined)
    if (edge === 'new') return dayAt(event) === from ? undefined : onDraw?.(days)
    const before = parts.find((p) => p.key === key)
    if (before && (before.firstDay !== days.firstDay || before.lastDay !== days.lastDay)) onDays?.(key, days)
  }
  /** Too short for its name, which then stands beside it. */
  const isShort = (p: Days & { readonly name: string }) =>
    (toDay(p.lastDay) - toDay(p.firstDay) + 1) / (last - first) < p.name.length / 130
  const shown = parts.map((p) => (drag?.key === p.key ? { ...p, ...drag.days } : p))
  return (
    <div
      ref={box}
      aria-hidden
      className={`relative h-[150px] overflow-hidden border border-rule bg-buff/45 select-none max-md:hidden no-print ${onDraw ? 'cursor-crosshair' : ''}`}
      onPointerDown={(e) => {
        if (!onDraw || e.button !== 0) return
        const at = toDate(dayAt(e))
        begin(e, 'new', 'new', { firstDay: at, lastDay: at })
      }}
      onPointerMove={move}
      onPointerUp={end}
      onPointerCancel={() => setDrag(undefined)}
    >
      {months.map(({ date, name }) => (
        <span
          key={date}
          className="absolute bottom-0 h-[20px] border-l border-line pl-1 text-[12px] text-muted"
          style={{ left: left(date) }}
        >
          {name}
        </span>
      ))}
      {shown.map((p) => (
        <div
          key={p.key}
          title={`${p.name}, ${labelOf(p.firstDay)}${p.lastDay === p.firstDay ? '' : ` to ${labelOf(p.lastDay)}`}`}
          className={`absolute border ${looks[p.look]} ${onOpen ? 'cursor-pointer hover:border-ink' : ''}`}
          style={{ left: left(p.firstDay), width: width(p) }}
          onPointerDown={(e) => p.look !== 'water' && e.stopPropagation()}
          onClick={() => p.look !== 'water' && onOpen?.(p.key)}
          onDoubleClick={() => onOpen?.(p.key)}
        >
          {p.look !== 'water' && p.look !== 'land' && (
            <span
              className={`block px-1 text-[11px] leading-[14px] whitespace-nowrap ${isShort(p) ? 'absolute top-0 left-full' : 'truncate'}`}
            >
              {p.name}
            </span>
          )}
          {onDays &&
            (['first', 'last'] as const).map((edge) => (
              <span
                key={edge}
                data-edge={`${p.name} ${edge}`}
                className={`absolute inset-y-0 z-10 w-[7px] cursor-ew-resize hover:bg-magenta ${edge === 'first' ? '-left-[3px]' : '-right-[3px]'}`}
                onPointerDown={(e) => begin(e, p.key, edge, p)}
              />
            ))}
        </div>
      ))}
      {parts
        .filter((p) => p.look === 'water')
        .map((p) => (
          <span
            key={p.key}
            className="absolute top-[3px] text-[13px] font-bold"
            style={{ left: left(p.firstDay) }}
          >
            {p.name}
          </span>
        ))}
      {drag && (
        <>
          {drag.edge === 'new' && (
            <span
              className="absolute top-[22px] h-[64px] border-2 border-magenta bg-magenta/10"
              style={{ left: left(drag.days.firstDay), width: width(drag.days) }}
            />
          )}
          <span
            className="pointer-events-none absolute top-[44px] z-20 -translate-x-1/2 bg-magenta px-2 py-[2px] text-[12px] font-bold whitespace-nowrap text-panel"
            style={{ left: left(drag.edge === 'first' ? drag.days.firstDay : drag.days.lastDay) }}
          >
            {drag.edge === 'new'
              ? `${labelOf(drag.days.firstDay)} to ${labelOf(drag.days.lastDay)}`
              : labelOf(drag.edge === 'first' ? drag.days.firstDay : drag.days.lastDay)}
          </span>
        </>
      )}
    </div>
  )
}
