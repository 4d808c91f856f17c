import type { Edit } from './edit'
import { Outbox, type SendResult } from './outbox'
import { Recorded, type Stored } from './recorded'

/** One page with one record, `cell r`, at version 5 holding "a". */
function setUp() {
  const sent: Edit[] = []
  const answers: ((result: SendResult) => void)[] = []
  let ids = 0
  const newId = () => `${++ids}`
  const outbox = new Outbox({
    send: (edit) => {
      sent.push(edit)
      return new Promise((resolve) => answers.push(resolve))
    },
    shelf: { load: () => Promise.resolve([]), put: () => true, drop: () => {} },
    newId,
    now: () => 0,
    later: () => {},
  })
  const recorded = new Recorded<string>(
    outbox,
    {
      command: 'set',
      record: 'cell {id}',
      scope: 'page',
      place: { name: 'Page', href: '/' },
      input: {},
      empty: '',
      bulk: { fill: (_input, now) => (now('cell r') === '' ? [['cell r', 'filled']] : []) },
    },
    { newId, refresh: () => Promise.resolve(), undoCommand: 'undo' },
  )
  recorded.open()
  let stored = new Map<string, Stored<string>>()
  const show = (value: string, version: number) => {
    stored = new Map([['cell r', { value, version }]])
    recorded.show(stored)
  }
  show('a', 5)
  const save = (value: string) => recorded.save([{ key: { id: 'r' }, value }], `r: ${value}`)
  const expectedVersion = () =>
    (sent.at(-1)?.input as { cells: { expectedVersion: number }[] }).cells[0]?.expectedVersion
  const settle = () => new Promise((resolve) => setImmediate(resolve))
  return {
    recorded,
    outbox,
    sent,
    show,
    save,
    expectedVersion,
    begin: () => recorded.begin({ id: 'r' }),
    shown: () => recorded.values(stored, outbox.read()).get('cell r') ?? stored.get('cell r')?.value,
    answer: async (result: SendResult) => {
      answers.shift()?.(result)
      await settle()
    },
    saved: (version: number): SendResult => ({
      kind: 'done',
      value: [{ key: { id: 'r' }, version }],
      run: 'run 1',
    }),
  }
}

test('an edit replaces the version that was in sight when its typing began, whatever came in meanwhile', () => {
  const page = setUp()
  page.begin()
  page.show('of Remi', 6)
  page.save('mine')
  expect(page.expectedVersion()).toBe(5)
})
test('typing that was cancelled leaves nothing behind', () => {
  const page = setUp()
  page.begin()
  page.recorded.cancel({ id: 'r' })
  page.show('of Remi', 6)
  page.save('mine')
  expect(page.expectedVersion()).toBe(6)
})
test('typing begun over an own edit that is then saved goes on from what that left', async () => {
  const page = setUp()
  page.save('b')
  page.begin()
  await page.answer(page.saved(7))
  page.save('c')
  expect(page.expectedVersion()).toBe(7)
})
test('what was typed stays in sight until an answer shows it, and an older answer cannot take it back', async () => {
  const page = setUp()
  page.save('b')
  expect(page.shown()).toBe('b')
  await page.answer(page.saved(7))
  page.show('a', 5)
  expect(page.shown()).toBe('b')
  page.show('of Remi', 8)
  expect(page.shown()).toBe('of Remi')
})
test('nothing is sent for a value that is there already', () => {
  const page = setUp()
  expect(page.save('a')).toBe(0)
  expect(page.sent).toEqual([])
})

describe('undo', () => {
  test('carries the version that the edit left, not the one that is saved by now', async () => {
    const page = setUp()
    page.save('b')
    await page.answer(page.saved(7))
    page.show('of Remi', 8)
    expect(page.recorded.undo()?.label).toBe('r: b')
    expect(page.expectedVersion()).toBe(7)
    expect(page.sent.at(-1)?.input).toMatchObject({ cells: [{ value: 'a' }] })
  })
  test('can be done again, and there is nothing before the first', async () => {
    const page = setUp()
    page.save('b')
    await page.answer(page.saved(7))
    page.recorded.undo()
    await page.answer(page.saved(8))
    expect(page.shown()).toBe('a')
    expect(page.recorded.redo()?.label).toBe('r: b')
    expect(page.expectedVersion()).toBe(8)
    await page.answer(page.saved(9))
    expect(page.shown()).toBe('b')
    page.recorded.undo()
    expect(page.recorded.undo()).toBeUndefined()
  })
  test('of what was refused does not exist', async () => {
    const page = setUp()
    page.save('b')
    await page.answer({ kind: 'refused', message: 'no' })
    expect(page.recorded.undo()).toBeUndefined()
  })
  test('of a bulk act goes by its run', async () => {
    const page = setUp()
    page.show('', 0)
    page.recorded.act('fill', { fill: 'filled' }, 'everyone')
    expect(page.shown()).toBe('filled')
    await page.answer(page.saved(7))
    expect(page.shown()).toBe('filled')
    page.recorded.undo()
    expect(page.sent.at(-1)).toMatchObject({ command: 'undo', input: { run: 'run 1' } })
  })
  test('that deletes a record lets typing begin from nothing', async () => {
    const page = setUp()
    page.save('b')
    await page.answer(page.saved(7))
    await page.answer(page.saved(0))
    page.recorded.act('undo', { run: 'x' }, 'undo')
    await page.answer({ kind: 'done', value: { restored: [{ key: { id: 'r' }, version: 0 }] } })
    expect(page.recorded.versionOf({ id: 'r' })).toBe(5)
  })
})
