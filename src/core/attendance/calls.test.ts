import fc from 'fast-check'
import { inCallOrder, isToCall } from './calls'

const of = (name: string, ...again: (string | null)[]) => ({
  name,
  calls: again.map((callAgain) => ({ callAgain })),
})

test('a family is to be called until somebody has, and again when the time comes', () => {
  expect(isToCall(of('a'), '09:05')).toBe(true)
  expect(isToCall(of('a', null), '09:05')).toBe(false)
  expect(isToCall(of('a', '09:05'), '09:05')).toBe(true)
  expect(isToCall(of('a', '09:06'), '09:05')).toBe(false)
  // Only the latest call says when.
  expect(isToCall(of('a', null, '09:00'), '09:05')).toBe(false)
})

test('the list goes by what is to be done: now, later by its time, done; names keep their order', () => {
  const list = [
    of('Abara', null),
    of('Bakkum', '11:00'),
    of('Cerny'),
    of('Dhillon', '10:00'),
    of('Eisele', '09:00'),
  ]
  expect(inCallOrder(list, '09:05').map((x) => x.name)).toEqual([
    'Cerny',
    'Eisele',
    'Dhillon',
    'Bakkum',
    'Abara',
  ])
})

test('nobody is lost or doubled by the order, whatever the calls', () => {
  const time = fc.constantFrom(null, '08:00', '09:05', '12:30')
  fc.assert(
    fc.property(fc.array(fc.array(time, { maxLength: 3 }), { maxLength: 12 }), (calls) => {
      const list = calls.map((again, i) => of(String(i), ...again))
      const ordered = inCallOrder(list, '09:05')
      expect(new Set(ordered)).toEqual(new Set(list))
      expect(ordered).toHaveLength(list.length)
      const firstLater = ordered.findIndex((x) => !isToCall(x, '09:05'))
      expect(ordered.slice(firstLater < 0 ? list.length : firstLater).some((x) => isToCall(x, '09:05'))).toBe(
        false,
      )
    }),
  )
})
