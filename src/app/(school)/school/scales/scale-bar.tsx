import type { Band } from '@/core/marks/bands'

/** The names of grades narrower than this many per cent would not be read. */
const narrowest = 4

/** A scale as a bar from 0 to 100 per cent, cut where each grade begins; its table or text says the same. */
export function ScaleBar({ bands }: { bands: readonly Band[] }) {
  const cuts = bands
    .map(({ grade, fromPercent }) => ({ grade, from: Number(fromPercent) }))
    .filter(({ from }) => from >= 0 && from <= 100)
    .sort((a, b) => a.from - b.from)
  return (
    <span aria-hidden className="block w-full max-w-xl min-w-60 py-1">
      <span className="flex h-6 border border-ink bg-panel">
        {cuts.map(({ grade, from }, i) => {
          const width = (cuts[i + 1]?.from ?? 100) - from
          return (
            <span
              key={from}
              style={{ width: `${width}%` }}
              className={`overflow-hidden text-center text-[12px] leading-[22px] font-bold ${i > 0 ? 'border-l border-ink' : ''} ${i % 2 ? 'bg-shoal' : ''}`}
            >
              {width >= narrowest ? grade : ''}
            </span>
          )
        })}
      </span>
      <span className="relative block h-4 text-[11px] text-muted">
        {[...cuts.slice(1).map(({ from }) => from), 0, 100].map((at) => (
          <span
            key={at}
            className={`absolute ${at === 100 ? '-translate-x-full' : at === 0 ? '' : '-translate-x-1/2'}`}
            style={{ left: `${at}%` }}
          >
            {at}
          </span>
        ))}
      </span>
    </span>
  )
}
