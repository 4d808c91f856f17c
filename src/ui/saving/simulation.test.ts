import { cases } from '@tests/cases'
import { simulate, type Mistakes } from './simulation/simulate'

// Thousands of seeds; KEDGE_SEED=123 replays one alone.
const only = process.env.KEDGE_SEED
const seeds = only ? [Number(only)] : Array.from({ length: cases(3000) }, (_, i) => i + 1)

test('whatever the network, the server and other people do, no edit is lost, doubled, misplaced or unseen', async () => {
  const failed: string[] = []
  for (const seed of seeds) {
    const problems = await simulate(seed)
    if (problems.length > 0) failed.push(`KEDGE_SEED=${seed}: ${problems.join('; ')}`)
    if (failed.length >= 5) break
  }
  expect(failed).toEqual([])
})

describe('a client that works wrongly is noticed', () => {
  const wrong: Readonly<Record<string, Mistakes>> = {
    'reading the version when typing ends': { seesLate: true },
    'undoing whatever is saved': { undoesBlindly: true },
    'sending under whoever is signed in': { anyAccount: true },
    'dropping what was refused': { dropsRefused: true },
  }
  test.each(Object.entries(wrong))('%s', async (_, mistakes) => {
    let found = false
    for (let seed = 1; seed <= 400 && !found; seed++) found = (await simulate(seed, mistakes)).length > 0
    expect(found).toBe(true)
  })
})
