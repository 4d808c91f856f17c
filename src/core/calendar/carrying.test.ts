import fc from 'fast-check'
import { afterCarrying, canBeCarried, carryState, type CarryFacts } from './carrying'

const facts: fc.Arbitrary<CarryFacts> = fc.record({
  there: fc.constantFrom('none', 'same course', 'other course'),
  inTerm: fc.boolean(),
  hasMarks: fc.boolean(),
  categories: fc.nat(4),
})

test.each<[string, CarryFacts]>([
  ['new class', { there: 'none', inTerm: false, hasMarks: false, categories: 3 }],
  ['new term', { there: 'same course', inTerm: false, hasMarks: false, categories: 0 }],
  ['marks settings', { there: 'same course', inTerm: true, hasMarks: false, categories: 3 }],
  ['exists', { there: 'same course', inTerm: true, hasMarks: false, categories: 0 }],
  ['exists', { there: 'same course', inTerm: true, hasMarks: true, categories: 3 }],
  ['name taken', { there: 'other course', inTerm: false, hasMarks: false, categories: 3 }],
])('%s: %j', (state, of) => expect(carryState(of)).toBe(state))

test('what was carried once is not carried again', () => {
  fc.assert(
    fc.property(facts, (of) => {
      const state = carryState(afterCarrying(of))
      expect(canBeCarried(state)).toBe(false)
      expect(state).toBe(of.there === 'other course' ? 'name taken' : 'exists')
    }),
  )
})
