'use client'
import { Tick } from '@/ui/field'

interface Offered {
  readonly id: string
  readonly name: string
}

/** A checkbox for each class; answers the ids of those that are checked. */
export function ClassTicks<C extends Offered>({
  classes,
  chosen,
  onChange,
  detail,
  isOut,
}: {
  classes: readonly C[]
  chosen: readonly string[]
  onChange: (classIds: string[]) => void
  /** What to know about a class before choosing it. */
  detail?: (schoolClass: C) => string | undefined
  /** Whether a class does not go with those already chosen. */
  isOut?: (schoolClass: C) => boolean
}) {
  return classes.map((c) => (
    <Tick
      key={c.id}
      label={c.name}
      detail={detail?.(c)}
      disabled={isOut?.(c)}
      checked={chosen.includes(c.id)}
      onChange={(e) => onChange(e.target.checked ? [...chosen, c.id] : chosen.filter((x) => x !== c.id))}
    />
  ))
}
