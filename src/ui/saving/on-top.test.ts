import fc from 'fast-check'
import { land, onTop, versionOf, type Landed, type Source } from './on-top'
import { Outbox, type Edit, type SendResult } from './outbox'

interface Put {
  readonly record: string
  readonly value: string
  readonly expected: number
}
interface FillRest {
  readonly records: readonly string[]
  readonly value: string
}
type Written = readonly { record: string; version: number }[]

const put: Source<string> = {
  command: 'put',
  typed: (input) => [[(input as Put).record, (input as Put).value]],
  written: (input, answer) => (answer as Written).map((w) => [w.record, (input as Put).value, w.version]),
}
/** Fills the records that were empty when it was typed. */
const fillRest: Source<string> = {
  command: 'fill rest',
  typed: (input, before) =>
    (input as FillRest).records
      .filter((r) => (before(r) ?? '') === '')
      .map((r) => [r, (input as FillRest).value]),
  written: (input, answer) =>
    (answer as Written).map((w) => [w.record, (input as FillRest).value, w.version]),
}
const sources = [put, fillRest]
const edit = (id: string, input: unknown, command = 'put'): Edit => ({
  id,
  slot: id,
  command,
  input,
  label: id,
  at: 0,
})
const none: Landed<string> = new Map()

describe('what stands on top of the server’s answer', () => {
  test('an edit on its way stands on top, the later over the earlier', () => {
    const waiting = [
      edit('1', { record: 'a', value: 'P', expected: 0 }),
      edit('2', { record: 'b', value: 'L', expected: 0 }),
      edit('3', { record: 'a', value: 'A1', expected: 0 }),
    ]
    expect([...onTop(new Map(), none, sources, waiting)]).toEqual([
      ['a', 'A1'],
      ['b', 'L'],
    ])
  })

  test('an edit that was taken stays on top until an answer is as new as it', () => {
    const taken = edit('1', { record: 'a', value: 'P', expected: 3 })
    const landed = land(none, sources, taken, [{ record: 'a', version: 4 }])
    expect(onTop(new Map([['a', 3]]), landed, sources, []).get('a')).toBe('P')
    expect(onTop(new Map([['a', 4]]), landed, sources, []).has('a')).toBe(false)
    expect(onTop(new Map([['a', 9]]), landed, sources, []).has('a')).toBe(false)
  })

  test('a stroke over all that are empty leaves what was typed before it, and fills only what the server filled', () => {
    const typed = edit('1', { record: 'a', value: 'L', expected: 0 })
    const stroke = edit('2', { records: ['a', 'b', 'c'], value: 'P' }, 'fill rest')
    expect(Object.fromEntries(onTop(new Map(), none, sources, [typed, stroke]))).toEqual({
      a: 'L',
      b: 'P',
      c: 'P',
    })
    const landed = land(none, sources, stroke, [{ record: 'b', version: 1 }])
    expect(Object.fromEntries(onTop(new Map(), landed, sources, []))).toEqual({ b: 'P' })
  })

  test('what the server filled counts, whatever the page thought was empty by then', () => {
    const stroke = edit('1', { records: [], value: 'P' }, 'fill rest')
    const landed = land(none, sources, stroke, [{ record: 'a', version: 3 }])
    expect(versionOf(new Map([['a', 1]]), landed, 'a')).toBe(3)
    expect(onTop(new Map([['a', 1]]), landed, sources, []).get('a')).toBe('P')
  })

  test('edits of other commands are no business of it', () => {
    const other = edit('1', { record: 'a', value: 'P', expected: 0 }, 'something else')
    expect(onTop(new Map(), none, sources, [other]).size).toBe(0)
    expect(land(none, sources, other, [{ record: 'a', version: 1 }])).toBe(none)
  })

  test('an answer without a version for the record changes nothing', () => {
    expect(land(none, sources, edit('1', { record: 'a', value: 'P', expected: 0 }), [])).toBe(none)
  })

  test('a new edit builds on the newer of what was seen and what was written', () => {
    const landed: Landed<string> = new Map([['a', { value: 'P', version: 5 }]])
    expect(versionOf(new Map([['a', 3]]), landed, 'a')).toBe(5)
    expect(versionOf(new Map([['a', 8]]), landed, 'a')).toBe(8)
    expect(versionOf(new Map(), none, 'b')).toBe(0)
  })
})

/**
 * A page with an outbox before a server that answers when it likes. Answers of the page's own query are old ones now
 * and then. Whatever happens, the page shows the last thing typed into a record, from the key on.
 */
type Step =
  | { readonly kind: 'type'; readonly record: string; readonly value: string }
  | { readonly kind: 'server answers' }
  | { readonly kind: 'look, as it is' }
  | { readonly kind: 'look, as it was' }

const record = fc.constantFrom('a', 'b', 'c')
const step: fc.Arbitrary<Step> = fc.oneof(
  {
    weight: 3,
    arbitrary: fc.record({ kind: fc.constant('type' as const), record, value: fc.stringMatching(/^[A-Z]$/) }),
  },
  { weight: 3, arbitrary: fc.constant({ kind: 'server answers' } as const) },
  { weight: 1, arbitrary: fc.constant({ kind: 'look, as it is' } as const) },
  { weight: 1, arbitrary: fc.constant({ kind: 'look, as it was' } as const) },
)

test('what was typed never blinks back to what it was, however answers come in', async () => {
  await fc.assert(
    fc.asyncProperty(fc.array(step, { maxLength: 40 }), async (steps) => {
      const table = new Map<string, { value: string; version: number }>()
      const snapshots: ReadonlyMap<string, { value: string; version: number }>[] = [new Map()]
      const unanswered: (() => void)[] = []
      const outbox = new Outbox({
        now: () => 0,
        later: () => {},
        shelf: { load: () => [], put: () => {}, drop: () => {} },
        rebase: (waiting, done, value) =>
          (waiting.input as Put).record === (done.input as Put).record
            ? {
                ...waiting,
                input: { ...(waiting.input as Put), expected: (value as Written)[0]?.version ?? 0 },
              }
            : waiting,
        send: (e) =>
          new Promise<SendResult>((resolve) => {
            unanswered.push(() => {
              const { record: at, value, expected } = e.input as Put
              const version = table.get(at)?.version ?? 0
              if (version !== expected) throw new Error(`${at} is at ${version}, not at ${expected}`)
              snapshots.push(new Map(table))
              table.set(at, { value, version: version + 1 })
              resolve({ kind: 'done', value: [{ record: at, version: version + 1 }] })
            })
          }),
      })
      let landed = none
      let answer: ReadonlyMap<string, { value: string; version: number }> = new Map()
      const stored = () => new Map([...answer].map(([r, { version }]) => [r, version]))
      const lastTyped = new Map<string, string>()
      const check = () => {
        const top = onTop(stored(), landed, sources, outbox.read().waiting)
        for (const [r, value] of lastTyped) expect(top.get(r) ?? answer.get(r)?.value).toBe(value)
      }
      outbox.onEnd((e, outcome) => {
        if ('value' in outcome) landed = land(landed, sources, e, outcome.value)
      })
      outbox.subscribe(check)
      let n = 0
      for (const s of steps) {
        if (s.kind === 'type') {
          lastTyped.set(s.record, s.value)
          const expected = versionOf(stored(), landed, s.record)
          outbox.add({ ...edit(`e${n++}`, { record: s.record, value: s.value, expected }), slot: s.record })
        } else if (s.kind === 'server answers') {
          unanswered.shift()?.()
          await new Promise((resolve) => setImmediate(resolve))
        } else if (s.kind === 'look, as it is') answer = new Map(table)
        else answer = snapshots[snapshots.length - 1] ?? answer
        check()
      }
    }),
    { numRuns: 300 },
  )
})
