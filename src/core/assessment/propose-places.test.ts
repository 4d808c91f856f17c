import fc from 'fast-check'
import { proposePlaces, type Line } from './propose-places'

const line = (page: number, y: number, text: string): Line => ({ page, y, text, x: 0.1, height: 0.02 })

test('a question reaches from its number to the next, or to the end of its page', () => {
  const [first, second, third] = proposePlaces(
    [
      line(1, 0.05, 'Heat and ice, 2026'),
      line(1, 0.2, '1. Which freezes first?'),
      line(1, 0.24, 'A fresh water'),
      line(1, 0.5, '2) Which melts first?'),
      line(1, 0.54, '17 metals melt below 0 °C.'),
      line(2, 0.1, 'Question 3 Why does salt melt ice?'),
      line(2, 0.3, 'Write two sentences.'),
    ],
    3,
  )
  expect(first).toMatchObject({ page: 1, box: { y: 0.194 } })
  expect((first?.box.y ?? 0) + (first?.box.height ?? 0)).toBeCloseTo(0.494)
  expect((second?.box.y ?? 0) + (second?.box.height ?? 0)).toBeCloseTo(0.566)
  expect(third).toMatchObject({ page: 2 })
  expect((third?.box.y ?? 0) + (third?.box.height ?? 0)).toBeCloseTo(0.326)
})

test('a number that is missing leaves out its question alone', () => {
  const places = proposePlaces([line(1, 0.1, '1. a'), line(1, 0.2, '3. c')], 4)
  expect(places.map((p) => p !== undefined)).toEqual([true, false, true, false])
})

test('every place is on its page, whatever the lines say', () => {
  const some = fc.array(
    fc.record({
      page: fc.integer({ min: 1, max: 3 }),
      text: fc.oneof(
        fc.string(),
        fc.integer({ min: 0, max: 12 }).map((n) => `${n}. x`),
      ),
      x: fc.double({ min: 0, max: 0.9, noNaN: true }),
      y: fc.double({ min: 0, max: 0.99, noNaN: true }),
      height: fc.double({ min: 0.001, max: 0.5, noNaN: true }),
    }),
    { maxLength: 30 },
  )
  fc.assert(
    fc.property(some, fc.integer({ min: 1, max: 12 }), (lines, count) => {
      const places = proposePlaces(lines, count)
      expect(places).toHaveLength(count)
      for (const place of places) {
        if (!place) continue
        expect(place.box.height).toBeGreaterThan(0)
        expect(place.box.y + place.box.height).toBeLessThanOrEqual(1)
        expect(place.box.y).toBeGreaterThanOrEqual(0)
      }
    }),
  )
})
