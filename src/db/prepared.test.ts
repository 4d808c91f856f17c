import { isOutdatedPlan, preparedName } from './prepared'

describe('a statement is prepared', () => {
  test('from its second time on, always under the same name', () => {
    expect(preparedName('select 1 as ebb')).toBeUndefined()
    const name = preparedName('select 1 as ebb')
    expect(name).toMatch(/^[\w-]{32}$/)
    expect(preparedName('select 1 as ebb')).toBe(name)
  })
  test('under a name of its own', () => {
    const twice = (text: string) => preparedName(text) ?? preparedName(text)
    expect(twice('select 1 as flood')).not.toBe(twice('select 1 as neap'))
  })
  test('unless it is as long as the rows it holds', () => {
    const long = `select ${'1, '.repeat(10_000)}1`
    for (let n = 0; n < 3; n++) expect(preparedName(long)).toBeUndefined()
  })
  test('as one of at most four hundred: those after it are sent as they are, and what is known stays known', () => {
    const known = preparedName('select 1 as ebb')
    for (let n = 0; n < 500; n++) for (let m = 0; m < 2; m++) preparedName(`select ${n} as buoy`)
    const names = new Set(
      Array.from({ length: 500 }, (_, n) => preparedName(`select ${n} as buoy`)).filter(Boolean),
    )
    expect(names.size).toBeLessThanOrEqual(400)
    expect(names.size).toBeGreaterThan(300)
    expect(preparedName('select 1 as spring')).toBeUndefined()
    expect(preparedName('select 1 as spring')).toBeUndefined()
    expect(preparedName('select 1 as ebb')).toBe(known)
  })
})

test('a plan is outdated where the database says so, and nowhere else', () => {
  expect(isOutdatedPlan({ code: '0A000', message: 'cached plan must not change result type' })).toBe(true)
  expect(isOutdatedPlan({ code: '0A000', message: 'cross-database references are not implemented' })).toBe(
    false,
  )
  for (const other of [undefined, null, {}, new Error('cached plan')])
    expect(isOutdatedPlan(other)).toBe(false)
})
