'use client'
import {
  closestCenter,
  DndContext,
  KeyboardSensor,
  PointerSensor,
  useSensor,
  useSensors,
  type Announcements,
} from '@dnd-kit/core'
import {
  arrayMove,
  SortableContext,
  sortableKeyboardCoordinates,
  useSortable,
  verticalListSortingStrategy,
} from '@dnd-kit/sortable'
import { CSS } from '@dnd-kit/utilities'

interface Item {
  readonly id: string
  readonly name: string
}

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

/** A list that is put into another order by dragging, or by keys: Space lifts, the arrows move, Space sets down. */
export function SortableList<T extends Item>({
  label,
  items,
  onChange,
}: {
  label: string
  items: readonly T[]
  onChange: (items: readonly T[]) => void
}) {
  const sensors = useSensors(
    useSensor(PointerSensor, { activationConstraint: { distance: 4 } }),
    useSensor(KeyboardSensor, { coordinateGetter: sortableKeyboardCoordinates }),
  )
  const nameOf = (id: string | number) => items.find((item) => item.id === id)?.name ?? ''
  const placeOf = (id: string | number) => items.findIndex((item) => item.id === id) + 1
  const said: Announcements = {
    onDragStart: ({ active }) =>
      `${nameOf(active.id)} lifted, at place ${placeOf(active.id)} of ${items.length}.`,
    onDragOver: ({ active, over }) =>
      over ? `${nameOf(active.id)} at place ${placeOf(over.id)}.` : undefined,
    onDragEnd: ({ active, over }) =>
      over ? `${nameOf(active.id)} set down at place ${placeOf(over.id)}.` : `${nameOf(active.id)} stays.`,
    onDragCancel: ({ active }) => `${nameOf(active.id)} stays where it was.`,
  }
  return (
    <DndContext
      sensors={sensors}
      collisionDetection={closestCenter}
      accessibility={{
        announcements: said,
        screenReaderInstructions: {
          draggable: 'Press Space to lift, the arrow keys to move, Space to set down, Escape to leave it.',
        },
      }}
      onDragEnd={({ active, over }) => {
        if (!over || active.id === over.id) return
        onChange(arrayMove([...items], placeOf(active.id) - 1, placeOf(over.id) - 1))
      }}
    >
      <SortableContext items={items.map((item) => item.id)} strategy={verticalListSortingStrategy}>
        <p className="mb-2 text-[13px] text-muted">
          Drag an entry, or press Space on it, move it with the arrow keys, and press Space again.
        </p>
        <ol className="grid gap-1" aria-label={label}>
          {items.map((item) => (
            <Row key={item.id} {...item} />
          ))}
        </ol>
      </SortableContext>
    </DndContext>
  )
}
