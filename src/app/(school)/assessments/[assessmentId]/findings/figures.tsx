'use client'
import type { ReactNode } from 'react'
import type { StudentResult } from '@/core/assessment/findings'
import type { Level } from '@/core/assessment/levels'
import { LevelShape } from '@/app/(school)/assessments/[assessmentId]/level-mark'

/** A figure that shows its students when selected. */
export function Opens({
  children,
  of,
  onOpen,
}: {
  children: ReactNode
  /** What the figure is of, for those who hear it alone. */
  of?: string
  onOpen: () => void
}) {
  return (
    <button
      type="button"
      onClick={onOpen}
      className="min-h-6 min-w-6 font-bold underline decoration-line underline-offset-3 hover:decoration-magenta"
    >
      {children}
      {of && <span className="sr-only"> {of}</span>}
    </button>
  )
}

/** From dark to light. */
const toneOf = (place: number, of: number) =>
  place === 0 ? 'bg-ink text-panel' : place === of - 1 ? 'bg-panel text-ink' : 'bg-shoal text-ink'

/** The levels as one bar: as wide as there are students, dark to light, each with its word. */
export function LevelBar({
  levels,
  byLevel,
  onOpen,
}: {
  levels: readonly Level[]
  byLevel: readonly (readonly string[])[]
  onOpen: (place: number) => void
}) {
  const all = byLevel.reduce((sum, students) => sum + students.length, 0)
  return (
    <div className="flex max-w-[640px] border border-ink">
      {levels.map(({ name }, place) => {
        const n = byLevel[place]?.length ?? 0
        return (
          n > 0 && (
            <button
              key={name}
              type="button"
              onClick={() => onOpen(place)}
              style={{ flexGrow: n, flexBasis: 0 }}
              className={`min-w-[92px] border-r border-ink px-2 py-[5px] text-left last:border-r-0 ${toneOf(place, levels.length)}`}
            >
              <span className="inline-block rounded-[2px] bg-panel px-[2px]">
                <LevelShape place={place} of={levels.length} />
              </span>{' '}
              <strong>{n}</strong> {name} <span className="text-[12px]">{Math.round((100 * n) / all)}%</span>
            </button>
          )
        )
      })}
    </div>
  )
}

/** Each student a small square over the points they reached. */
export function ScoreLine({
  results,
  total,
  onOpen,
}: {
  results: readonly StudentResult[]
  total: number
  onOpen: (points: number, students: readonly string[]) => void
}) {
  const columns = new Map<number, string[]>()
  for (const r of results)
    columns.set(Number(r.points), [...(columns.get(Number(r.points)) ?? []), r.studentId])
  const tallest = Math.max(...[...columns.values()].map((c) => c.length))
  const points = Array.from({ length: Math.floor(total) + 1 }, (_, i) => i)
  return (
    <figure className="mt-3 max-w-[640px] overflow-x-auto">
      <div className="flex items-end border-b border-ink" style={{ height: Math.min(120, tallest * 11 + 4) }}>
        {points.map((p) => {
          // Half points stand with the whole point below.
          const students = [...columns].filter(([points]) => Math.floor(points) === p).flatMap(([, s]) => s)
          return (
            <span key={p} className="flex min-w-6 flex-1 flex-col items-center justify-end self-stretch">
              {students.length > 0 && (
                <button
                  type="button"
                  onClick={() => onOpen(p, students)}
                  aria-label={`${students.length} with ${p} points`}
                  title={`${students.length} with ${p} points`}
                  className="flex w-full flex-col-reverse items-center gap-px hover:bg-shoal"
                >
                  {students.map((s) => (
                    <span key={s} className="h-[10px] w-[70%] max-w-5 bg-line" />
                  ))}
                </button>
              )}
            </span>
          )
        })}
      </div>
      <div aria-hidden className="flex text-[11px] text-muted">
        {points.map((p) => (
          <span key={p} className="min-w-6 flex-1 text-center">
            {points.length <= 21 || p % 5 === 0 ? p : ''}
          </span>
        ))}
      </div>
      <figcaption className="text-[12px] text-muted">Students by points</figcaption>
    </figure>
  )
}
