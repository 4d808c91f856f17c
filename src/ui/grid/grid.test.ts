import * as fc from 'fast-check'
import { cellAt, choose, placed, press, settle, type GridRules, type GridState, type Shape } from './grid'

const shape: Shape = { rows: ['ilse', 'nils', 'noor'], columns: ['quiz', 'essay'] }
const one: Shape = { ...shape, columns: ['mark'] }

/** Codes of a register: P is whole, A may become A1, 1 alone is nothing. */
const codes: GridRules = {
  acts: new Set(['.', 'Ctrl+z']),
  characters: /[a-z0-9]/,
  read: (text) =>
    text === 'p' || text === 'a1'
      ? { kind: 'whole' }
      : text === 'a'
        ? { kind: 'open' }
        : text === 'e'
          ? { kind: 'open', why: 'e is not a code' }
          : { kind: 'impossible', why: `${text} is not a code` },
}
/** Scores: any number up to 10. */
const scores: GridRules = {
  acts: new Set(['Ctrl+d']),
  characters: /\d/,
  read: (text) => ({ kind: 'open', why: Number(text) > 10 ? 'over the maximum' : undefined }),
  locked: ({ column }) => (column === 'essay' ? 'calculated' : undefined),
}

/** Presses keys one after another; answers where the cursor is and everything asked for, in short. */
function type(keys: readonly string[], of: Shape, rules: GridRules, from = cellAt(of, 0, 0)) {
  let state: GridState = from
  const asked: string[] = []
  for (const key of keys) {
    const pressed = press(state, key, of, rules)
    state = pressed.state
    for (const e of pressed.effects)
      asked.push(
        e.kind === 'refuse'
          ? `refuse ${e.why}`
          : [e.kind, e.at.row, e.kind === 'keep' ? e.text : e.kind === 'act' ? e.key : ''].join(' ').trim(),
      )
  }
  return { state, asked }
}

describe('a code that waits for a second key', () => {
  test.each([
    [
      ['a', '.'],
      ['begin ilse', 'keep ilse a', 'act ilse .'],
    ],
    [
      ['a', 'Ctrl+z'],
      ['begin ilse', 'keep ilse a', 'act ilse Ctrl+z'],
    ],
    [
      ['a', 'Enter'],
      ['begin ilse', 'keep ilse a'],
    ],
    [
      ['a', 'End'],
      ['begin ilse', 'keep ilse a'],
    ],
    [
      ['a', 'Home'],
      ['begin ilse', 'keep ilse a'],
    ],
    [
      ['a', 'Tab'],
      ['begin ilse', 'keep ilse a'],
    ],
    [
      ['a', '1'],
      ['begin ilse', 'keep ilse a1'],
    ],
    [
      ['a', 'p'],
      ['begin ilse', 'keep ilse a', 'begin nils', 'keep nils p'],
    ],
    [
      ['a', 'Escape'],
      ['begin ilse', 'cancel ilse'],
    ],
    [
      ['a', 'Backspace'],
      ['begin ilse', 'cancel ilse'],
    ],
    [
      ['e', 'ArrowDown'],
      ['begin ilse', 'refuse e is not a code'],
    ],
    [['x'], ['refuse x is not a code']],
    [['Backspace'], ['clear ilse']],
  ])('%j: %j', (keys, asked) => expect(type(keys, one, codes).asked).toEqual(asked))

  test('is kept when another cell is chosen, and when the page is left', () => {
    const { state } = type(['a'], one, codes)
    expect(choose(state, { row: 'noor', column: 'mark' }, one, codes)).toMatchObject({
      state: { at: { row: 'noor' }, typed: undefined },
      effects: [{ kind: 'keep', text: 'a' }],
    })
    expect(settle(state, one, codes).effects).toMatchObject([{ kind: 'keep', text: 'a' }])
  })
  test('a whole code goes down; at the last row it stays', () => {
    const { state, asked } = type(['p', 'p', 'p', 'p'], one, codes)
    expect(state.at.row).toBe('noor')
    expect(asked.filter((a) => a.startsWith('keep'))).toEqual([
      'keep ilse p',
      'keep nils p',
      'keep noor p',
      'keep noor p',
    ])
  })
})

describe('a score', () => {
  test('that cannot be kept stays to be corrected, wherever one wants to go', () => {
    for (const key of ['Enter', 'ArrowRight', 'Home', 'Tab', 'Ctrl+d']) {
      const { state, asked } = type(['1', '2', key], shape, scores)
      expect(state).toMatchObject({ at: { row: 'ilse', column: 'quiz' }, typed: '12' })
      expect(asked.at(-1)).toBe('refuse over the maximum')
    }
  })
  test('is not typed where nothing can be', () => {
    expect(type(['ArrowRight', '1'], shape, scores).asked).toEqual(['refuse calculated'])
    expect(type(['ArrowRight', 'Delete'], shape, scores).asked).toEqual(['refuse calculated'])
  })
  test('is kept before an act', () => {
    expect(type(['7', 'Ctrl+d'], shape, scores).asked).toEqual([
      'begin ilse',
      'keep ilse 7',
      'act ilse Ctrl+d',
    ])
  })
})

describe('the cursor', () => {
  test('stays with its student and column when others come before them', () => {
    const { state } = type(['ArrowDown', '7'], shape, scores)
    const more: Shape = { rows: ['asta', 'ilse', 'nils', 'noor'], columns: ['new', 'quiz', 'essay'] }
    expect(press(state, 'Enter', more, scores).effects).toEqual([
      { kind: 'keep', at: { row: 'nils', column: 'quiz' }, text: '7' },
    ])
  })
  test('a grid without rows or columns has one state, however often it is drawn', () => {
    const none = { rows: [], columns: [], end: '' }
    const state = cellAt(none, 0, 0)
    expect(placed(state, none)).toBe(state)
    expect(placed(placed(cellAt(shape, 1, 1), none), none)).toEqual(state)
  })
  test('goes to the nearest when its own are gone', () => {
    const { state } = type(['ArrowDown', 'ArrowDown'], shape, scores)
    expect(placed(state, { rows: ['ilse'], columns: ['quiz'] }).at).toEqual({ row: 'ilse', column: 'quiz' })
  })
  test('never leaves the grid, and every text typed is kept, cancelled, refused or still there', () => {
    const key = fc.constantFrom(
      '1',
      '9',
      'Enter',
      'ArrowUp',
      'ArrowDown',
      'ArrowLeft',
      'ArrowRight',
      'Home',
      'End',
      'Escape',
      'Backspace',
      'Tab',
      'Ctrl+d',
      'Delete',
    )
    fc.assert(
      fc.property(fc.array(key, { maxLength: 40 }), (keys) => {
        const { state, asked } = type(keys, shape, scores)
        expect(shape.rows).toContain(state.at.row)
        expect(shape.columns).toContain(state.at.column)
        const begun = asked.filter((a) => a.startsWith('begin')).length
        const ended = asked.filter((a) => /^(keep|cancel)/.test(a)).length
        expect(begun - ended).toBe(state.typed === undefined ? 0 : 1)
      }),
    )
  })
})
