import { sealer } from './sealed'

const key = '07'.repeat(32)
const other = '08'.repeat(32)

test('a sealed text is read with its key alone, and never twice the same', () => {
  const { seal, open } = sealer(key)
  const text = 'Tove Rask: late, bus — “fog” 🌫'
  expect(open(seal(text))).toBe(text)
  expect(seal(text)).not.toBe(seal(text))
  expect(seal(text)).not.toContain(Buffer.from('Tove').toString('hex'))
  expect(sealer(other).open(seal(text))).toBeUndefined()
})

test('what was changed or was never sealed is nothing', () => {
  const { seal, open } = sealer(key)
  const sealed = seal('A')
  const last = sealed.endsWith('0') ? '1' : '0'
  expect(open(sealed.slice(0, -1) + last)).toBeUndefined()
  for (const damaged of ['', '{"edit":{}}', 'zz', sealed.slice(0, 10)]) expect(open(damaged)).toBeUndefined()
})
