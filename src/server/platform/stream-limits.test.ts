import { streamLimits, takeStream } from './stream-limits'

test('an account has so many streams and no more; each place is given back once', () => {
  const places = Array.from({ length: streamLimits.account }, () => takeStream('ann'))
  expect(places.every(Boolean)).toBe(true)
  expect(takeStream('ann')).toBeUndefined()
  expect(takeStream('ben')).toBeDefined()
  places[0]?.()
  places[0]?.()
  expect(takeStream('ann')).toBeDefined()
  expect(takeStream('ann')).toBeUndefined()
})
