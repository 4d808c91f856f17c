import type { Edit } from './edit'
import { Outbox, type Ended, type SendResult } from './outbox'
import type { Kept } from './shelf'

function setUp(kept: readonly Kept[] = [], { full = false } = {}) {
  const shelf = new Map(kept.map((k) => [k.edit.id, k]))
  const sent: Edit[] = []
  const answers: ((result: SendResult) => void)[] = []
  const timers: (() => void)[] = []
  const ended: Ended[] = []
  let ids = 0
  const outbox = new Outbox({
    send: (edit) => {
      sent.push(edit)
      return new Promise((resolve) => answers.push(resolve))
    },
    shelf: {
      load: () => Promise.resolve([...shelf.values()]),
      put: (k) => {
        if (full) return false
        shelf.set(k.edit.id, k)
        return true
      },
      drop: (id) => void shelf.delete(id),
    },
    newId: () => `new ${++ids}`,
    now: () => 1000,
    later: (call) => timers.push(call),
  })
  outbox.onEnd((e) => ended.push(e))
  const settle = () => new Promise((resolve) => setImmediate(resolve))
  const answer = async (result: SendResult) => {
    answers.shift()?.(result)
    await settle()
  }
  const tick = async () => {
    for (const call of timers.splice(0)) call()
    await settle()
  }
  return { outbox, shelf, sent, answer, tick, ended }
}

/** An edit of the marks of some students, typed over the version `expectedVersion`. */
const edit = (id: string, students: string | readonly string[], expectedVersion = 0): Edit => ({
  id,
  command: 'attendance.setMarks',
  record: 'mark {studentId}',
  scope: 'register',
  input: {
    cells: [students].flat().map((studentId) => ({ key: { studentId }, value: id, expectedVersion })),
  },
  label: id,
  madeOn: { name: '7 Tern', href: '/' },
  at: 0,
})
const rest = (id: string): Edit => ({
  ...edit(id, []),
  command: 'attendance.markRest',
  input: { codeId: 'P' },
})
const done = (...versions: readonly (readonly [studentId: string, version: number])[]): SendResult => ({
  kind: 'done',
  value: versions.map(([studentId, version]) => ({ key: { studentId }, version })),
})
const versionOf = (e: Edit | undefined) =>
  (e?.input as { cells: { expectedVersion: number }[] }).cells.map((c) => c.expectedVersion)
const ids = (edits: readonly Edit[]) => edits.map((e) => e.id)

describe('the order of edits', () => {
  test('different records are sent at the same time, one record in order', async () => {
    const { outbox, sent, answer } = setUp()
    outbox.add(edit('e1', 'ilse'))
    outbox.add(edit('e2', 'nils'))
    outbox.add(edit('e3', 'ilse'))
    expect(ids(sent)).toEqual(['e1', 'e2'])
    await answer(done(['ilse', 4]))
    expect(ids(sent)).toEqual(['e1', 'e2', 'e3'])
    expect(versionOf(sent[2])).toEqual([4])
  })
  test('an edit of unknown records waits for all others of its scope, and they for it', async () => {
    const { outbox, sent, answer } = setUp()
    outbox.add(edit('e1', 'ilse'))
    outbox.add(rest('e2'))
    outbox.add(edit('e3', 'nils'))
    expect(ids(sent)).toEqual(['e1'])
    await answer(done(['ilse', 1]))
    await answer(done(['nils', 2]))
    expect(ids(sent)).toEqual(['e1', 'e2', 'e3'])
    expect(versionOf(sent[2])).toEqual([2])
  })
  test('what still waits is replaced; what may have reached the server is not', async () => {
    const { outbox, sent, answer, tick, shelf } = setUp()
    outbox.add(edit('e1', 'ilse', 3))
    outbox.add(edit('e2', 'ilse', 3))
    outbox.add(edit('e3', 'ilse', 3))
    expect(ids(outbox.read().waiting)).toEqual(['e1', 'e3'])
    // The answer is lost, but the server has taken it: the same key is sent again before anything else.
    await answer({ kind: 'unreachable' })
    await tick()
    expect(ids(sent)).toEqual(['e1', 'e1'])
    await answer(done(['ilse', 7]))
    expect(versionOf(sent[2])).toEqual([7])
    await answer(done(['ilse', 8]))
    expect(outbox.read()).toMatchObject({ waiting: [], trouble: 'none', savedAt: 1000 })
    expect(shelf.size).toBe(0)
  })
})

describe('what is not saved', () => {
  test('a refused edit stays, on the device too, and does not hold up the others', async () => {
    const { outbox, answer, shelf, ended } = setUp()
    outbox.add(edit('e1', 'ilse'))
    outbox.add(edit('e2', 'nils'))
    await answer({ kind: 'refused', message: 'not on roll' })
    await answer(done(['nils', 1]))
    expect(outbox.read()).toMatchObject({
      waiting: [],
      rejected: [{ reason: 'refused', message: 'not on roll' }],
    })
    expect(shelf.get('e1')?.rejected?.message).toBe('not on roll')
    expect(ended.map((e) => e.kind)).toEqual(['rejected', 'done'])
    outbox.discard('e1')
    expect(shelf.size).toBe(0)
  })
  test('an error of ours is tried three times, then the edit is set aside and can be sent again as it is', async () => {
    const { outbox, answer, sent, tick } = setUp()
    outbox.add(edit('e1', 'ilse'))
    outbox.add(edit('e2', 'nils'))
    await answer({ kind: 'fault', message: 'bug' })
    await answer(done(['nils', 1]))
    for (let n = 0; n < 2; n++) {
      await tick()
      await answer({ kind: 'fault', message: 'bug' })
    }
    expect(ids(sent)).toEqual(['e1', 'e2', 'e1', 'e1'])
    expect(outbox.read().rejected).toHaveLength(1)
    outbox.tryAgain('e1')
    expect(sent.at(-1)?.id).toBe('e1')
  })
  test('in a conflict only the contested records are set aside, the rest is saved', async () => {
    const { outbox, answer, sent } = setUp()
    outbox.add(edit('e1', ['ilse', 'nils', 'noor']))
    const standing = [{ key: { studentId: 'nils' }, value: 'A', version: 9, by: 'Remi' }]
    await answer({ kind: 'conflict', message: 'changed', standing })
    expect(sent[1]).toMatchObject({
      origin: 'e1',
      input: { cells: [{ key: { studentId: 'ilse' } }, { key: { studentId: 'noor' } }] },
    })
    const [rejected] = outbox.read().rejected
    expect(rejected?.edit.input).toMatchObject({ cells: [{ key: { studentId: 'nils' } }] })
    outbox.tryAgain(rejected?.edit.id ?? '')
    expect(versionOf(sent.at(-1))).toEqual([9])
    expect(outbox.read().rejected).toEqual([])
  })
  test('typing something else in the same place answers what was set aside', async () => {
    const { outbox, answer } = setUp()
    outbox.add(edit('e1', 'ilse'))
    await answer({ kind: 'refused', message: 'no' })
    outbox.add(edit('e2', 'ilse'))
    expect(outbox.read().rejected).toEqual([])
  })
})

describe('trouble', () => {
  test('nothing is sent while signed out, and everything once signed in again', async () => {
    const { outbox, answer, sent } = setUp()
    outbox.add(edit('e1', 'ilse'))
    await answer({ kind: 'signed out' })
    outbox.add(edit('e2', 'nils'))
    expect(ids(sent)).toEqual(['e1'])
    expect(outbox.read().trouble).toBe('signed out')
    outbox.resume()
    expect(ids(sent)).toEqual(['e1', 'e1', 'e2'])
  })
  test('under another account it stops for good and keeps what waits', async () => {
    const { outbox, answer, sent, shelf } = setUp()
    outbox.add(edit('e1', 'ilse'))
    await answer({ kind: 'other account' })
    outbox.resume()
    outbox.add(edit('e2', 'nils'))
    expect(ids(sent)).toEqual(['e1'])
    expect(outbox.read().trouble).toBe('other account')
    expect([...shelf.keys()]).toEqual(['e1', 'e2'])
  })
  test('what a closed page left is sent, and what it had set aside is shown', async () => {
    const rejected = { reason: 'refused', message: 'no', standing: [] } as const
    const { outbox, sent } = setUp([{ edit: edit('e1', 'ilse') }, { edit: edit('e2', 'nils'), rejected }])
    await outbox.adopt()
    expect(ids(sent)).toEqual(['e1'])
    expect(outbox.read().rejected).toMatchObject([{ message: 'no' }])
    await outbox.adopt()
    expect(outbox.read().waiting).toHaveLength(1)
  })
  test('a full device is said, and the edit is sent all the same', async () => {
    const { outbox, sent, answer } = setUp([], { full: true })
    outbox.add(edit('e1', 'ilse'))
    expect(outbox.read().kept).toBe(false)
    expect(ids(sent)).toEqual(['e1'])
    await answer(done(['ilse', 1]))
    expect(outbox.read().kept).toBe(true)
  })
})
