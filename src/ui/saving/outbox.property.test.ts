import fc from 'fast-check'
import { Outbox, type Edit, type SendResult } from './outbox'

// A server that loses requests and answers, and a person who goes on typing: at the end everything that was typed
// last in each place has arrived, each edit counted once, in the order made.
interface Server {
  readonly taken: Map<string, unknown>
  readonly applied: Edit[]
}

function receive(server: Server, edit: Edit): unknown {
  if (!server.taken.has(edit.id)) {
    server.applied.push(edit)
    server.taken.set(edit.id, server.applied.length)
  }
  return server.taken.get(edit.id)
}

type Fate = 'arrives' | 'request lost' | 'answer lost' | 'signed out'
const fates = fc.constantFrom<Fate>('arrives', 'arrives', 'request lost', 'answer lost', 'signed out')

async function play(
  typed: readonly number[],
  network: readonly Fate[],
  closedAfter: number,
): Promise<{ server: Server; shelf: Map<string, Edit>; last: Map<string, string> }> {
  const server: Server = { taken: new Map(), applied: [] }
  const shelf = new Map<string, Edit>()
  const last = new Map<string, string>()
  let fate = 0
  let later: (() => void)[] = []
  let pageNow = 0
  const open = () => {
    const page = ++pageNow
    return new Outbox({
      send: async (edit): Promise<SendResult> => {
        // A closed page sends nothing more.
        if (page !== pageNow) return new Promise(() => {})
        const now = network[fate++] ?? 'arrives'
        if (now === 'request lost') return { kind: 'unreachable' }
        if (now === 'signed out') return { kind: 'signed out' }
        const value = receive(server, edit)
        return now === 'answer lost' ? { kind: 'unreachable' } : { kind: 'done', value }
      },
      shelf: {
        load: () => [...shelf.values()],
        put: (e) => void shelf.set(e.id, e),
        drop: (id) => void shelf.delete(id),
      },
      rebase: (waiting) => waiting,
      now: () => 0,
      later: (call) => void later.push(call),
    })
  }
  const calm = async () => {
    for (let n = 0; n < 3; n++) await new Promise((resolve) => setImmediate(resolve))
  }
  let outbox = open()
  for (const [n, place] of typed.entries()) {
    if (n === closedAfter) {
      // The page is closed and opened again: only the shelf is left.
      later = []
      outbox = open()
      outbox.resume()
    }
    const id = `e${String(n).padStart(3, '0')}`
    last.set(`place ${place}`, id)
    outbox.add({ id, slot: `place ${place}`, command: 'c', input: n, label: id, at: n })
    if (n % 3 === 0) await calm()
  }
  for (let n = 0; n < network.length + typed.length + 5; n++) {
    outbox.resume()
    for (const call of later.splice(0)) call()
    await calm()
  }
  return { server, shelf, last }
}

test('whatever the network does, nothing is lost, doubled or left behind', async () => {
  await fc.assert(
    fc.asyncProperty(
      fc.array(fc.integer({ min: 0, max: 3 }), { minLength: 1, maxLength: 12 }),
      fc.array(fates, { maxLength: 15 }),
      fc.integer({ min: 0, max: 12 }),
      async (typed, network, closedAfter) => {
        const { server, shelf, last } = await play(typed, network, closedAfter)
        expect([...shelf.keys()]).toEqual([])
        const applied = server.applied.map((e) => e.id)
        expect(new Set(applied).size).toBe(applied.length)
        for (const [place, id] of last)
          expect(server.applied.filter((e) => e.slot === place).at(-1)?.id).toBe(id)
      },
    ),
    { numRuns: 150 },
  )
}, 60000)
