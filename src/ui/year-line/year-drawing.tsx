import { useMemo, type Ref } from 'react'
import { monthsBetween, toDate, toDay } from './days'

export interface YearSpan {
  readonly name: string
  readonly firstDay: string
  readonly lastDay: string
}

/** Where a day stands between the first and the last of a drawing, in thousandths of its width. */
export const placeOf = (day: string, first: number, last: number): number =>
  ((toDay(day) - first) / (last - first)) * 1000

/** The year as a chart: terms as water, closures as land, weeks as ticks, deadlines as flags, today and the chosen date. */
export function YearDrawing({
  ref,
  first,
  last,
  water,
  land,
  flags,
  today,
  shown,
  labelOf,
}: {
  ref: Ref<SVGSVGElement>
  /** Days since 1970. */
  first: number
  last: number
  water: readonly YearSpan[]
  land: readonly YearSpan[]
  flags: readonly { readonly name: string; readonly date: string }[]
  today: string
  shown: string
  labelOf: (date: string) => string
}) {
  const at = (d: string) => placeOf(d, first, last)
  const ticks = useMemo(() => {
    const monday = first + ((8 - (new Date(`${toDate(first)}T00:00:00Z`).getUTCDay() || 7)) % 7)
    return Array.from({ length: Math.ceil((last - monday) / 7) }, (_, i) => toDate(monday + 7 * i))
  }, [first, last])
  const months = useMemo(() => monthsBetween(first, last), [first, last])

  return (
    <>
      <svg
        ref={ref}
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
    </>
  )
}
