/** How much of a level's square is filled: all for the highest, none for the lowest. */
const fillOf = (place: number, of: number) => (of < 2 ? 1 : 1 - place / (of - 1))

/** The shape of a level: full, in parts, hollow; one hue. */
export function LevelShape({ place, of }: { place: number; of: number }) {
  const height = Math.round(10 * fillOf(place, of))
  return (
    <svg aria-hidden width={12} height={12} className="inline-block align-[-1px]">
      <path d="M1.5 1.5h9v9h-9z" className="fill-panel stroke-ink" />
      {height > 0 && <path d={`M1 ${11 - height}h10v${height}H1z`} className="fill-ink" />}
    </svg>
  )
}

/** A level as shape and word. */
export function LevelMark({ name, place, of }: { name: string; place: number; of: number }) {
  return (
    <span className="whitespace-nowrap">
      <LevelShape place={place} of={of} /> {name}
    </span>
  )
}
