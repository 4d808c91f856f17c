import type { Level } from '@/core/assessment/findings'

const shapes: Readonly<Record<Level, { readonly fill: string; readonly d: string }>> = {
  secure: { fill: 'fill-ink', d: 'M1 1h10v10H1z' },
  nearly: { fill: 'fill-line', d: 'M1 6h10v5H1z' },
  'not yet': { fill: 'fill-none stroke-ink', d: 'M1.5 1.5h9v9h-9z' },
}

/** The shape of a level: full, half, hollow; one hue from dark to light. */
export function LevelShape({ level }: { level: Level }) {
  return (
    <svg aria-hidden width={12} height={12} className="inline-block align-[-1px]">
      <path d={shapes[level].d} className={shapes[level].fill} />
    </svg>
  )
}

/** A level as shape and word. */
export function LevelMark({ level }: { level: Level }) {
  return (
    <span className="whitespace-nowrap">
      <LevelShape level={level} /> {level}
    </span>
  )
}
