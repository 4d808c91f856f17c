const days = (from: string, to: string) => (Date.parse(to) - Date.parse(from)) / 86_400_000

interface Stay {
  readonly kind: string
  readonly id: string
  readonly name: string
  /** The first day after it; null while it has no end. */
  readonly until: string | null
}

interface Offer {
  readonly year: { readonly firstDay: string } | undefined
  /** The youngest first. */
  readonly yearGroups: readonly { readonly id: string; readonly name: string }[]
  readonly homerooms: readonly { readonly id: string; readonly name: string; readonly yearGroupId: string }[]
}

/** `Tern` of `7 Tern`: what a homeroom keeps when it moves up. */
const ownName = (homeroom: string) => homeroom.replace(/^[\d\s]+/, '').toLowerCase()

/**
 * Where a student who left and comes back would be now: the former year group, as many years on as have begun since,
 * and there the homeroom of the same name.
 * @returns undefined where nothing is known of a former year group, or the school ends before
 */
export function formerPlace(
  stays: readonly Stay[],
  { year, yearGroups, homerooms }: Offer,
):
  | {
      readonly yearGroupId: string
      readonly homeroomId: string
      readonly was: string
      readonly until: string
    }
  | undefined {
  const lastOf = (kind: string) =>
    stays
      .filter((s) => s.kind === kind && s.until !== null)
      .sort((a, b) => ((a.until ?? '') < (b.until ?? '') ? 1 : -1))[0]
  const group = lastOf('year group')
  if (!group?.until || !year) return undefined
  const at = yearGroups.findIndex((g) => g.id === group.id)
  const since = days(group.until, year.firstDay)
  const yearsOn = since <= 0 ? 0 : Math.floor(since / 365) + 1
  const now = at < 0 ? undefined : yearGroups[at + yearsOn]
  if (!now) return undefined
  const room = lastOf('homeroom')
  const open = homerooms.filter((h) => h.yearGroupId === now.id)
  const homeroom =
    open.find((h) => h.id === room?.id) ?? open.find((h) => room && ownName(h.name) === ownName(room.name))
  return {
    yearGroupId: now.id,
    homeroomId: homeroom?.id ?? '',
    was: [group.name, room?.name].filter(Boolean).join(', '),
    until: group.until,
  }
}
