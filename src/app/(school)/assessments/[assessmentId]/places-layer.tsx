'use client'
import { useEffect, useRef, useState, type KeyboardEvent, type PointerEvent } from 'react'
import { boxBetween, type Box } from '@/core/assessment/box'

export interface Placed {
  readonly id: string
  readonly position: number
  readonly page: number | null
  readonly box: Box | null
}

const styleOf = ({ x, y, width, height }: Box) => ({
  left: `${x * 100}%`,
  top: `${y * 100}%`,
  width: `${width * 100}%`,
  height: `${height * 100}%`,
})

/** The places of questions on a page, and the one that is being drawn. */
export function PlacesLayer({
  page,
  questions,
  drawing,
  onDrawn,
  onEnd,
}: {
  page: number
  questions: readonly Placed[]
  /** The question whose place is being drawn. */
  drawing?: Placed | undefined
  onDrawn?: (box: Box) => void
  onEnd?: () => void
}) {
  return (
    <div className="pointer-events-none absolute inset-0">
      {questions.map(
        (q) =>
          q.page === page &&
          q.box &&
          q.id !== drawing?.id && (
            <span key={q.id} className="absolute border border-magenta/60" style={styleOf(q.box)}>
              <span className="absolute top-0 left-0 bg-magenta px-1 text-[11px] text-panel">
                {q.position}
              </span>
            </span>
          ),
      )}
      {drawing && onDrawn && onEnd && (
        <Drawing
          key={drawing.id}
          position={drawing.position}
          box={drawing.page === page ? drawing.box : null}
          onDrawn={onDrawn}
          onEnd={onEnd}
        />
      )}
    </div>
  )
}

const first: Box = { x: 0.04, y: 0.05, width: 0.92, height: 0.12 }
const step = 0.01

/** By dragging over the page, or with the arrow keys: they move the place, with Shift they change its size. */
function Drawing({
  position,
  box,
  onDrawn,
  onEnd,
}: {
  position: number
  box: Box | null
  onDrawn: (box: Box) => void
  onEnd: () => void
}) {
  const layer = useRef<HTMLDivElement>(null)
  const [now, setNow] = useState(box)
  const from = useRef<{ x: number; y: number }>(undefined)
  useEffect(() => layer.current?.focus(), [])
  function at(e: PointerEvent): { x: number; y: number } {
    const { left, top, width, height } = e.currentTarget.getBoundingClientRect()
    return { x: (e.clientX - left) / width, y: (e.clientY - top) / height }
  }
  function onKey(e: KeyboardEvent) {
    if (e.key === 'Enter') {
      e.preventDefault()
      onDrawn(now ?? first)
      return
    }
    if (e.key === 'Escape') {
      e.stopPropagation()
      onEnd()
      return
    }
    const by = { ArrowLeft: [-1, 0], ArrowRight: [1, 0], ArrowUp: [0, -1], ArrowDown: [0, 1] }[e.key]
    if (!by) return
    e.preventDefault()
    const [dx = 0, dy = 0] = by.map((n) => n * step)
    const b = now ?? first
    const start = e.shiftKey ? { x: b.x, y: b.y } : { x: Math.max(0, b.x + dx), y: Math.max(0, b.y + dy) }
    const size = e.shiftKey
      ? { width: Math.max(step, b.width + dx), height: Math.max(step, b.height + dy) }
      : { width: Math.min(b.width, 1 - start.x), height: Math.min(b.height, 1 - start.y) }
    setNow(boxBetween(start, { x: start.x + size.width, y: start.y + size.height }))
  }
  return (
    <div
      ref={layer}
      role="application"
      tabIndex={0}
      aria-label={`Place of question ${position}: arrow keys move it, with Shift they change its size; Enter keeps it, Escape leaves it as it was`}
      className="pointer-events-auto absolute inset-0 cursor-crosshair touch-none bg-shoal/30"
      onKeyDown={onKey}
      onPointerDown={(e) => {
        e.currentTarget.setPointerCapture(e.pointerId)
        from.current = at(e)
      }}
      onPointerMove={(e) => from.current && setNow(boxBetween(from.current, at(e)))}
      onPointerUp={(e) => {
        const begun = from.current
        from.current = undefined
        if (!begun) return
        const drawn = boxBetween(begun, at(e))
        // A click is no place.
        if (drawn.width > 0.01 && drawn.height > 0.005) onDrawn(drawn)
      }}
    >
      {now && <span className="absolute border-2 border-magenta bg-magenta/10" style={styleOf(now)} />}
    </div>
  )
}
