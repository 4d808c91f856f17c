import { Busy, turns } from './turns'

/** A piece of work that ends when it is told to. */
function held() {
  let end = () => {}
  const done = new Promise<void>((resolve) => (end = resolve))
  return { work: () => done, end }
}

test('so many are done at once, the next wait, and those beyond hear so at once', async () => {
  const own = turns('tests', { atOnce: 1, mostWaiting: 2 })
  const running = held()
  const order: string[] = []
  const all = [own.take(running.work)]
  for (const name of ['a', 'b']) all.push(own.take(async () => void order.push(name)))
  await expect(own.take(async () => undefined)).rejects.toBeInstanceOf(Busy)
  running.end()
  await Promise.all(all)
  expect(order).toEqual(['a', 'b'])
  expect(await own.take(async () => 'again')).toBe('again')
})

test('those who go first wait behind no others, and a full room of others does not turn them away', async () => {
  const own = turns('tests', { atOnce: 1, mostWaiting: 1 })
  const running = held()
  const order: string[] = []
  const all = [own.take(running.work)]
  all.push(own.take(async () => void order.push('stranger')))
  all.push(own.take(async () => void order.push('known'), { first: true }))
  running.end()
  await Promise.all(all)
  expect(order).toEqual(['known', 'stranger'])
})

test('work that fails gives its turn on', async () => {
  const own = turns('tests', { atOnce: 1, mostWaiting: 1 })
  await expect(own.take(() => Promise.reject(new Error('no')))).rejects.toThrow('no')
  expect(await own.take(async () => 1)).toBe(1)
})
