/** Where a student belongs from a day on: a year group, a homeroom, a class. */
export interface Membership {
  readonly placeId: string
  /** First day, YYYY-MM-DD. */
  readonly from: string
  /** The first day after it, YYYY-MM-DD; null while it has no end. */
  readonly until: string | null
}

const endsAfter = ({ until }: Membership, date: string) => until === null || until > date
const inOrder = (a: Membership, b: Membership) => (a.from < b.from ? -1 : a.from > b.from ? 1 : 0)

/** The membership that holds on a date. */
export const heldOn = (all: readonly Membership[], date: string): Membership | undefined =>
  all.find((m) => m.from <= date && endsAfter(m, date))

/**
 * A student's memberships of a kind of which there is only one at a time, after a move on a date. The one held on
 * that date ends the day before; the new one takes its end, or lasts until the next that is planned.
 * @param all without overlap
 */
export function movedTo(all: readonly Membership[], placeId: string, from: string): readonly Membership[] {
  const held = heldOn(all, from)
  if (held?.placeId === placeId) return all
  const next = all.filter((m) => m.from > from).sort(inOrder)[0]
  const until = held ? held.until : (next?.from ?? null)
  const others = all.filter((m) => m !== held)
  const before = held && held.from < from ? [{ ...held, until: from }] : []
  return [...others, ...before, { placeId, from, until }].sort(inOrder)
}

/** Memberships after the last day somewhere: what would begin later is gone, what is held ends. */
export function endedAfter(all: readonly Membership[], firstDayAway: string): readonly Membership[] {
  return all
    .filter((m) => m.from < firstDayAway)
    .map((m) => (endsAfter(m, firstDayAway) ? { ...m, until: firstDayAway } : m))
}

/** The stretches on which a student is on the roll, whatever the year group: enrolments that follow each other are one. */
function stretches(enrolments: readonly Membership[]): readonly Pick<Membership, 'from' | 'until'>[] {
  const joinedUp: { from: string; until: string | null }[] = []
  for (const { from, until } of [...enrolments].sort(inOrder)) {
    const last = joinedUp.at(-1)
    if (last && (last.until === null || last.until >= from)) last.until = until
    else joinedUp.push({ from, until })
  }
  return joinedUp
}

/**
 * Memberships as far as their student is on the roll: each ends with the stretch in which it begins. Who comes back
 * later is put into classes anew.
 */
export function whileEnrolled(
  all: readonly Membership[],
  enrolments: readonly Membership[],
): readonly Membership[] {
  const held = stretches(enrolments)
  return all.flatMap((m) => {
    const stretch = held.find(({ from, until }) => from <= m.from && (until === null || until > m.from))
    if (!stretch) return []
    const ends = stretch.until !== null && (m.until === null || m.until > stretch.until)
    return [ends ? { ...m, until: stretch.until } : m]
  })
}

/**
 * A student's memberships of one class after joining it on a date: they last until the next that is planned, or have
 * no end. Who is in it already stays as they are.
 */
export function joined(all: readonly Membership[], placeId: string, from: string): readonly Membership[] {
  if (heldOn(all, from)) return all
  return movedTo(all, placeId, from)
}
