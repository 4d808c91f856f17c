import fc from 'fast-check'
import { addDays } from '@/core/calendar/school-year'
import { endedAfter, heldOn, joined, movedTo, type Membership } from './memberships'

const first = '2026-08-31'
const day = (n: number) => addDays(first, n)

/** Memberships one after another, with gaps, the last with or without an end. */
const arbitrary = fc
  .record({
    starts: fc.uniqueArray(fc.integer({ min: 0, max: 300 }), { maxLength: 6 }),
    places: fc.array(fc.constantFrom('tern', 'plover', 'skua'), { minLength: 6, maxLength: 6 }),
    gaps: fc.array(fc.integer({ min: 0, max: 5 }), { minLength: 6, maxLength: 6 }),
    open: fc.boolean(),
  })
  .map(({ starts, places, gaps, open }) =>
    [...starts]
      .sort((a, b) => a - b)
      .map((from, i, all): Membership => {
        const next = all[i + 1]
        const last =
          next === undefined ? (open ? null : from + 20) : Math.max(from + 1, next - (gaps[i] ?? 0))
        return {
          placeId: places[i] ?? 'tern',
          from: day(from),
          until: last === null ? null : day(last),
        }
      }),
  )
const someDay = fc.integer({ min: 0, max: 330 }).map(day)
const days = Array.from({ length: 340 }, (_, n) => day(n))
const placeOn = (all: readonly Membership[], date: string) => heldOn(all, date)?.placeId
const placesBefore = (all: readonly Membership[], date: string) =>
  days.filter((d) => d < date).map((d) => placeOn(all, d))
const isSound = (all: readonly Membership[]) =>
  all.every(
    (m, i) =>
      (m.until === null || m.until > m.from) &&
      all.every(
        (o, j) =>
          i === j || (m.until !== null && m.until <= o.from) || (o.until !== null && o.until <= m.from),
      ),
  )

test('after a move the student is there on that day, is where they were before it, and never in two places', () => {
  fc.assert(
    fc.property(arbitrary, someDay, fc.constantFrom('tern', 'plover', 'skua'), (all, from, place) => {
      const moved = movedTo(all, place, from)
      expect(isSound(moved)).toBe(true)
      expect(placeOn(moved, from)).toBe(place)
      expect(placesBefore(moved, from)).toEqual(placesBefore(all, from))
      // Moves that are planned for later stay.
      for (const later of all.filter((m) => m.from > from)) expect(moved).toContainEqual(later)
      expect(movedTo(moved, place, from)).toEqual(moved)
    }),
  )
})

test('after a last day the student is nowhere, and where they were until then', () => {
  fc.assert(
    fc.property(arbitrary, someDay, (all, away) => {
      const ended = endedAfter(all, away)
      expect(isSound(ended)).toBe(true)
      expect(placesBefore(ended, away)).toEqual(placesBefore(all, away))
      expect(days.filter((d) => d >= away && placeOn(ended, d) !== undefined)).toEqual([])
      expect(endedAfter(ended, away)).toEqual(ended)
    }),
  )
})

test('who joins a class is in it from that day until the next membership, and nobody is in it twice', () => {
  fc.assert(
    fc.property(arbitrary, someDay, (some, from) => {
      const all = some.map((m) => ({ ...m, placeId: 'science' }))
      const after = joined(all, 'science', from)
      expect(isSound(after)).toBe(true)
      expect(placeOn(after, from)).toBe('science')
      expect(placesBefore(after, from)).toEqual(placesBefore(all, from))
    }),
  )
})
