'use client'
import { useSortable } from '@dnd-kit/sortable'
import { CSS } from '@dnd-kit/utilities'
import { Sortable, type Item } from './sortable'

function Row({ id, name }: Item) {
  const { attributes, listeners, setNodeRef, transform, transition, isDragging } = useSortable({ id })
  return (
    <li
      ref={setNodeRef}
      style={{ transform: CSS.Translate.toString(transform) ?? '', transition: transition ?? '' }}
      className={isDragging ? 'relative z-10 shadow-lg' : ''}
    >
      <button
        type="button"
        {...attributes}
        {...listeners}
        aria-roledescription="entry to move"
        className={`flex min-h-8 w-full cursor-grab touch-none items-center gap-3 border px-3 text-left ${
          isDragging ? 'border-ink bg-shoal-light' : 'border-rule bg-panel'
        }`}
      >
        <span aria-hidden className="text-muted">
          ⠿
        </span>
        {name}
      </button>
    </li>
  )
}

/** A list that is put into another order by dragging, or by keys. */
export function SortableList<T extends Item>({
  label,
  items,
  onChange,
}: {
  label: string
  items: readonly T[]
  onChange: (items: readonly T[]) => void
}) {
  return (
    <Sortable items={items} onChange={onChange}>
      <p className="mb-2 text-[13px] text-muted">
        Drag an entry, or press Space on it, move it with the arrow keys, and press Space again.
      </p>
      <ol className="grid gap-1" aria-label={label}>
        {items.map((item) => (
          <Row key={item.id} {...item} />
        ))}
      </ol>
    </Sortable>
  )
}
