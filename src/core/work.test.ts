import { summaryOfWork, workWords, type Work } from './work'

const work = (state: Work['state'], more: Partial<Work> = {}): Work => ({
  id: '1',
  title: 'Cards of 7 Tern',
  state,
  done: 0,
  total: 0,
  message: null,
  dismissedAt: null,
  ...more,
})

test('work is told by how far it is, and once it has ended by how', () => {
  expect(workWords(work('waiting'))).toBe('queued')
  expect(workWords(work('running'))).toBe('in progress')
  expect(workWords(work('running', { done: 40, total: 620 }))).toBe('40 of 620')
  expect(workWords(work('running', { done: 40, total: 100 }))).toBe('40 %')
  expect(workWords(work('done', { message: '28 cards on 56 pages' }))).toBe('done: 28 cards on 56 pages')
  expect(workWords(work('cancelled'))).toBe('cancelled')
  // A message from an earlier try says nothing about this one.
  expect(workWords(work('waiting', { message: 'no room' }))).toBe('queued')
})

test('the head names one task and counts several, failed ones first', () => {
  expect(summaryOfWork([])).toBeUndefined()
  expect(summaryOfWork([work('done', { dismissedAt: '2026-11-23T09:05:00Z' })])).toBeUndefined()
  expect(summaryOfWork([work('running', { done: 4, total: 28 })])).toBe('Cards of 7 Tern: 4 of 28')
  expect(summaryOfWork([work('running'), work('waiting'), work('done')])).toBe('2 tasks in progress')
  expect(summaryOfWork([work('done'), work('cancelled')])).toBe('2 tasks have ended')
  expect(summaryOfWork([work('done')])).toBe('Cards of 7 Tern: done')
  expect(summaryOfWork([work('running'), work('failed')])).toBe('Cards of 7 Tern: failed')
  // Tried again, it is shown whatever was dismissed before.
  expect(summaryOfWork([work('waiting', { dismissedAt: '2026-11-23T09:05:00Z' })])).toBe(
    'Cards of 7 Tern: queued',
  )
})
