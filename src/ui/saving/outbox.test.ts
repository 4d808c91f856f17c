import { Outbox, type Edit, type SendResult } from './outbox'

function setUp(kept: Edit[] = []) {
  const shelf = new Map(kept.map((e) => [e.id, e]))
  const sent: Edit[] = []
  const answers: ((result: SendResult) => void)[] = []
  const timers: (() => void)[] = []
  const outbox = new Outbox({
    send: (edit) => {
      sent.push(edit)
      return new Promise((resolve) => answers.push(resolve))
    },
    shelf: {
      load: () => [...shelf.values()],
      put: (e) => shelf.set(e.id, e),
      drop: (id) => shelf.delete(id),
    },
    rebase: (waiting, done, value) =>
      waiting.slot === done.slot
        ? { ...waiting, input: { ...(waiting.input as object), version: value } }
        : waiting,
    now: () => 1000,
    later: (call) => timers.push(call),
  })
  const answer = async (result: SendResult) => {
    answers.shift()?.(result)
    await new Promise((resolve) => setImmediate(resolve))
  }
  return { outbox, shelf, sent, answer, timers }
}
const edit = (id: string, slot = id): Edit => ({
  id,
  slot,
  command: 'attendance.setMarks',
  input: { value: id },
  label: id,
  at: Number(id.replace(/\D/g, '')),
})
const done = (value: unknown = 1): SendResult => ({ kind: 'done', value })

test('sends one after another, in the order made, and says when all is saved', async () => {
  const { outbox, sent, answer, shelf } = setUp()
  outbox.add(edit('e1'))
  outbox.add(edit('e2'))
  expect(sent.map((e) => e.id)).toEqual(['e1'])
  expect(outbox.read().waiting).toHaveLength(2)
  await answer(done())
  expect(sent.map((e) => e.id)).toEqual(['e1', 'e2'])
  await answer(done())
  expect(outbox.read()).toMatchObject({ waiting: [], trouble: 'none', savedAt: 1000 })
  expect(shelf.size).toBe(0)
})

test('a newer edit of the same slot replaces the waiting one, never the one on its way', async () => {
  const { outbox, sent, answer } = setUp()
  outbox.add(edit('e1', 'ilse'))
  outbox.add(edit('e2', 'ilse'))
  outbox.add(edit('e3', 'ilse'))
  expect(outbox.read().waiting.map((e) => e.id)).toEqual(['e1', 'e3'])
  await answer(done(7))
  expect(sent.map((e) => e.id)).toEqual(['e1', 'e3'])
  expect(sent[1]?.input).toEqual({ value: 'e3', version: 7 })
})

test('keeps what cannot be sent, tries again, and sends it with the same key', async () => {
  const { outbox, sent, answer, timers, shelf } = setUp()
  outbox.add(edit('e1'))
  await answer({ kind: 'unreachable' })
  expect(outbox.read()).toMatchObject({ trouble: 'unreachable', waiting: [{ id: 'e1' }] })
  expect(shelf.has('e1')).toBe(true)
  timers.shift()?.()
  expect(sent.map((e) => e.id)).toEqual(['e1', 'e1'])
  await answer(done())
  expect(outbox.read()).toMatchObject({ trouble: 'none', waiting: [] })
})

test('edits of a page that was closed are taken up again, oldest first', async () => {
  const { outbox, sent, answer } = setUp([edit('e9'), edit('e4')])
  outbox.resume()
  await answer(done())
  expect(sent.map((e) => e.id)).toEqual(['e4', 'e9'])
})

test('a session that ended holds everything until one has signed in again', async () => {
  const { outbox, sent, answer } = setUp()
  outbox.add(edit('e1'))
  await answer({ kind: 'signed out' })
  outbox.add(edit('e2'))
  expect(sent).toHaveLength(1)
  expect(outbox.read()).toMatchObject({ trouble: 'signed out' })
  outbox.resume()
  await answer(done())
  expect(sent.map((e) => e.id)).toEqual(['e1', 'e1', 'e2'])
})

test('what is refused is told, kept in sight until dismissed, and does not stop the rest', async () => {
  const { outbox, sent, answer } = setUp()
  const ended: string[] = []
  outbox.onEnd((e, outcome) =>
    ended.push(`${e.id} ${'refused' in outcome ? outcome.refused.message : 'done'}`),
  )
  outbox.add(edit('e1'))
  outbox.add(edit('e2'))
  await answer({ kind: 'refused', message: 'changed meanwhile', conflict: true, current: 'A1' })
  expect(outbox.read().refused).toMatchObject([
    { message: 'changed meanwhile', conflict: true, current: 'A1' },
  ])
  expect(sent.map((e) => e.id)).toEqual(['e1', 'e2'])
  await answer(done())
  outbox.dismiss('e1')
  expect(outbox.read().refused).toEqual([])
  expect(ended).toEqual(['e1 changed meanwhile', 'e2 done'])
})

test('knows which slots are still waiting', async () => {
  const { outbox, answer } = setUp()
  outbox.add(edit('e1', 'ilse'))
  expect([outbox.isWaiting('ilse'), outbox.isWaiting('tobias')]).toEqual([true, false])
  await answer(done())
  expect(outbox.isWaiting('ilse')).toBe(false)
})
