'use client'
import { Button } from '@/ui/button'

/** Rows that are ticked, for an act on many. */
export interface Ticked<T> {
  readonly keys: ReadonlySet<string>
  readonly onChange: (keys: ReadonlySet<string>) => void
  /** What the tick of a row is called. */
  readonly nameOf: (row: T) => string
  /** Whether a row can be ticked; all can without. */
  readonly can?: (row: T) => boolean
}

const tick = 'size-4 accent-ink align-middle pointer-coarse:size-6'

/** Ticks every row that is shown, or none of them. */
export function TickAll<T>({
  ticked,
  rows,
}: {
  ticked: Ticked<T>
  rows: readonly { id: string; original: T }[]
}) {
  const able = rows.filter((row) => ticked.can?.(row.original) ?? true).map((row) => row.id)
  const on = able.filter((id) => ticked.keys.has(id)).length
  return (
    <input
      type="checkbox"
      className={tick}
      aria-label={`All ${able.length} shown`}
      disabled={able.length === 0}
      checked={on > 0 && on === able.length}
      ref={(box) => {
        if (box) box.indeterminate = on > 0 && on < able.length
      }}
      onChange={() => {
        const others = [...ticked.keys].filter((id) => !able.includes(id))
        ticked.onChange(new Set(on === able.length ? others : [...others, ...able]))
      }}
    />
  )
}

/** The tick of one row. */
export function TickRow<T>({ ticked, id, row }: { ticked: Ticked<T>; id: string; row: T }) {
  if (ticked.can && !ticked.can(row)) return null
  return (
    <input
      type="checkbox"
      className={tick}
      aria-label={ticked.nameOf(row)}
      checked={ticked.keys.has(id)}
      onClick={(e) => e.stopPropagation()}
      onChange={(e) => {
        const keys = new Set(ticked.keys)
        if (e.target.checked) keys.add(id)
        else keys.delete(id)
        ticked.onChange(keys)
      }}
    />
  )
}

/** Says how many of those that are ticked the list does not show at the moment, since an act takes them along. */
export function HiddenTicks<T>({
  ticked,
  ids,
  shown,
}: {
  ticked: Ticked<T>
  /** All rows of the list, and those that are shown. */
  ids: readonly string[]
  shown: readonly string[]
}) {
  const visible = new Set(shown)
  const hidden = ids.filter((id) => ticked.keys.has(id) && !visible.has(id)).length
  if (hidden === 0) return null
  return (
    <p role="status" className="hint mb-2 flex flex-wrap items-center gap-x-3">
      {hidden} of those chosen {hidden === 1 ? 'is' : 'are'} not in the list as it is narrowed now.
      <Button
        kind="quiet"
        onClick={() => ticked.onChange(new Set([...ticked.keys].filter((id) => visible.has(id))))}
      >
        Keep only those shown
      </Button>
    </p>
  )
}
