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
  verticalListSortingStrategy,
} from '@dnd-kit/sortable'
import { useId, type ReactNode } from 'react'

export interface Item {
  readonly id: string
  readonly name: string
}

/**
 * What is put into another order by dragging, or by keys: Space lifts, the arrows move, Space sets down. Its children
 * draw the items in their order, each with `useSortable`.
 */
export function Sortable<T extends Item>({
  items,
  onChange,
  children,
}: {
  items: readonly T[]
  onChange: (items: readonly T[]) => void
  children: ReactNode
}) {
  const id = useId()
  const sensors = useSensors(
    useSensor(PointerSensor, { activationConstraint: { distance: 4 } }),
    useSensor(KeyboardSensor, { coordinateGetter: sortableKeyboardCoordinates }),
  )
  const nameOf = (of: string | number) => items.find((item) => item.id === of)?.name ?? ''
  const placeOf = (of: string | number) => items.findIndex((item) => item.id === of) + 1
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
      id={id}
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
        {children}
      </SortableContext>
    </DndContext>
  )
}
