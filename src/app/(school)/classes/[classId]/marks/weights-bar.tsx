import { fromHundredths, hundredths } from '@/core/marks/rational'
import type { Book } from './use-gradebook'

export const categoryTones = ['bg-shoal', 'bg-buff', 'bg-panel', 'bg-shoal-light', 'bg-rule'] as const
export const categoryEdges = ['bg-line', 'bg-ochre', 'bg-ink', 'bg-muted', 'bg-rule'] as const

/** The rules of a gradebook in sentences. */
export function rulesInWords({ categories, rules }: Book): string {
  const total = categories.reduce((sum, c) => sum + hundredths(c.weight), 0)
  const dropped = categories
    .filter((c) => c.dropLowest > 0)
    .map((c) =>
      c.dropLowest === 1
        ? `The lowest in ${c.name} is dropped.`
        : `The lowest ${c.dropLowest} in ${c.name} are dropped.`,
    )
  return [
    total === 10000
      ? ''
      : `The weights add up to ${fromHundredths(total)}, not 100: each counts as a share of ${fromHundredths(total)}.`,
    ...dropped,
    rules.emptyCounts === 'nothing'
      ? 'Empty scores are ignored.'
      : 'Empty scores count as zero after the due date.',
    rules.missingCounts === 'zero' ? 'Missing work counts as zero.' : 'Missing work is ignored.',
  ]
    .filter(Boolean)
    .join(' ')
}

/** The categories as wide as their weights, as far as their names allow. */
export function WeightsBar({ book }: { book: Book }) {
  return (
    <div
      className="flex w-[450px] max-w-full overflow-hidden rounded-[3px] border border-ink text-[12px]"
      role="img"
      aria-label={book.categories.map((c) => `${c.name} ${c.weight}%`).join(', ')}
    >
      {book.categories.map((c, i) => (
        <span
          key={c.id}
          style={{ flex: `${Number(c.weight)} 1 0`, minWidth: 'max-content' }}
          className={`border-r border-ink px-[6px] py-[5px] last:border-r-0 ${categoryTones[i % categoryTones.length]}`}
        >
          {c.name} {c.weight}%
        </span>
      ))}
    </div>
  )
}
