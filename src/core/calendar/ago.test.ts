import { agoInWords } from './ago'

test.each([
  [0, 'just now'],
  [1, '1 minute ago'],
  [59, '59 minutes ago'],
  [60, '1 hour ago'],
  [119, '1 hour ago'],
  [725, '12 hours ago'],
])('%i minutes are %s', (minutes, words) => expect(agoInWords(minutes)).toBe(words))
