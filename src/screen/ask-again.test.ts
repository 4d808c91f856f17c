import { askAgain } from './ask-again'

/** Questions that are answered when the test says so. */
function questions() {
  const open: { answer: () => void; fail: () => void }[] = []
  const ask = () =>
    new Promise<void>((resolve, reject) =>
      open.push({ answer: resolve, fail: () => reject(new Error('away')) }),
    )
  return { open, ask }
}
const settled = () => new Promise((resolve) => setImmediate(resolve))

test('what is asked for while an answer is under way is asked once more, however often', async () => {
  const { open, ask } = questions()
  const first = askAgain('a', ask)
  const later = [1, 2, 3].map(() => askAgain('a', ask))
  expect(open).toHaveLength(1)
  open[0]?.answer()
  await first
  await settled()
  expect(open).toHaveLength(2)
  open[1]?.answer()
  await Promise.all(later)
  await askAgain('b', () => Promise.resolve())
  expect(open).toHaveLength(2)
})

test('an answer is no older than the call it is for: one that comes during the second asks a third time', async () => {
  const { open, ask } = questions()
  void askAgain('c', ask)
  void askAgain('c', ask)
  open[0]?.answer()
  await settled()
  void askAgain('c', ask)
  open[1]?.answer()
  await settled()
  expect(open).toHaveLength(3)
  open[2]?.answer()
})

test('one that is stuck is asked anew at once', async () => {
  const { open, ask } = questions()
  void askAgain('e', ask)
  const anew = askAgain('e', ask, () => true)
  expect(open).toHaveLength(2)
  open[1]?.answer()
  await anew
})

test('a question that fails does not keep the next from being asked', async () => {
  const { open, ask } = questions()
  const failed = askAgain('d', ask)
  const next = askAgain('d', ask)
  open[0]?.fail()
  await expect(failed).rejects.toThrow('away')
  await settled()
  open[1]?.answer()
  await next
})
