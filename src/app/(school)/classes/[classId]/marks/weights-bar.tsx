import { fromHundredths } from '@/core/marks/rational'
import { oddWeights } from '@/core/marks/settings'
import type { Book } from './book'

export const categoryTones = ['bg-shoal', 'bg-buff', 'bg-panel', 'bg-shoal-light', 'bg-rule'] as const
export const categoryEdges = ['bg-line', 'bg-ochre', 'bg-ink', 'bg-muted', 'bg-rule'] as const

/** The rules of a gradebook in sentences. */
export function rulesInWords({ categories, rules }: Book): string {
  const odd = oddWeights({ ...rules, categories })
  const { late, most } = rules
  const alike = categories.filter((c) => c.within === 'pieces').map((c) => c.name)
  return [
    rules.method === 'points' && 'All points earned out of all points possible.',
    odd !== undefined &&
      `The weights add up to ${fromHundredths(odd)}, not 100: each counts as a share of ${fromHundredths(odd)}.`,
    rules.method === 'weights' && alike.length > 0 && `Each piece counts alike in ${alike.join(' and ')}.`,
    ...categories
      .filter((c) => c.dropLowest > 0)
      .map((c) =>
        c.dropLowest === 1
          ? `The lowest in ${c.name} is dropped.`
          : `The lowest ${c.dropLowest} in ${c.name} are dropped.`,
      ),
    rules.emptyCounts === 'nothing'
      ? 'Empty scores are ignored.'
      : 'Empty scores count as zero after the due date.',
    rules.missingCounts === 'zero' ? 'Missing work counts as zero.' : 'Missing work is ignored.',
    rules.incompleteCounts === 'zero' && 'Incomplete work counts as zero.',
    late && `Late work loses ${late.percent}% of its ${late.of === 'points scored' ? 'points' : 'maximum'}.`,
    most !== '100' && (most === null ? 'Extra credit has no limit.' : `No mark is above ${most}.`),
  ]
    .filter(Boolean)
    .join(' ')
}

/** The categories as wide as their weights, as far as their names allow. */
export function WeightsBar({ book }: { book: Book }) {
  const isPool = book.rules.method === 'points'
  const words = (c: Book['categories'][number]) => (isPool ? c.name : `${c.name} ${c.weight}%`)
  return (
    <div
      className="flex w-[450px] max-w-full overflow-hidden rounded-[3px] border border-ink text-[12px]"
      role="img"
      aria-label={book.categories.map(words).join(', ')}
    >
      {book.categories.map((c, i) => (
        <span
          key={c.id}
          style={{ flex: `${isPool ? 1 : Number(c.weight)} 1 0`, minWidth: 'max-content' }}
          className={`border-r border-ink px-[6px] py-[5px] last:border-r-0 ${categoryTones[i % categoryTones.length]}`}
        >
          {words(c)}
        </span>
      ))}
    </div>
  )
}
