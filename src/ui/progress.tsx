/** How far something is; without `done` it is only known to be under way. */
export function Progress({ label, done, total }: { label: string; done?: number; total: number }) {
  return (
    <progress
      aria-label={label}
      max={total}
      value={done}
      className="h-2 w-40 appearance-none overflow-hidden rounded-full border border-ink bg-panel [&::-moz-progress-bar]:bg-ink [&::-webkit-progress-bar]:bg-panel [&::-webkit-progress-value]:bg-ink"
    />
  )
}
