import { cellsOf, type Edit } from '@/ui/saving/edit'
import { Outbox } from '@/ui/saving/outbox'
import { Recorded, type Stored } from '@/ui/saving/recorded'
import { chance, Device, Network, Server, settle } from './world'

/** Ways in which a client could do its work wrongly; each must be noticed. */
export interface Mistakes {
  /** Reads the version when typing ends instead of when it begins. */
  readonly seesLate?: boolean
  /** Undo replaces whatever is saved by now. */
  readonly undoesBlindly?: boolean
  /** The server does not compare the account of the page with the one signed in. */
  readonly anyAccount?: boolean
  /** What was not saved is dropped without a word. */
  readonly dropsRefused?: boolean
}

const records = ['r1', 'r2', 'r3']
const scope = 'sheet'

interface Act {
  readonly account: string
  readonly label: string
  readonly record: string
  /** What was in sight when typing began, and what the server's answer held below it. */
  readonly sight: string | null
  readonly below: string | null
}

/** A page of one person in one tab of a browser. */
class Page {
  readonly outbox: Outbox
  readonly recorded: Recorded<string | null>
  stored: ReadonlyMap<string, Stored<string | null>> = new Map()
  typing: Pick<Act, 'record' | 'sight' | 'below'> | undefined
  private saves = 0
  private readonly leave: () => void
  closed = false

  constructor(
    private readonly world: World,
    readonly browser: Browser,
    readonly account: string,
    readonly tab: number,
  ) {
    browser.device.open.add(tab)
    const shelf = browser.device.shelf(tab, account)
    this.outbox = new Outbox({
      shelf: world.mistakes.dropsRefused
        ? { ...shelf, put: (k) => (k.rejected ? true : shelf.put(k)) }
        : shelf,
      newId: world.newId,
      now: () => world.network.time,
      later: (call, ms) => world.network.later(() => !this.closed && call(), ms),
      send: (edit) =>
        world.network.carry(() => world.server.handle(edit, browser.account, account), {
          kind: 'unreachable' as const,
        }),
    })
    this.recorded = new Recorded<string | null>(
      this.outbox,
      {
        command: 'set',
        record: '{id}',
        table: 'cell',
        scope,
        place: { name: 'Sheet', href: '/sheet' },
        input: {},
        empty: null,
        bulk: {
          fill: (input, now) =>
            records
              .filter((r) => (now(r) ?? null) === null)
              .map((r) => [r, (input as { fill: string }).fill] as const),
        },
      },
      { newId: world.newId, refresh: () => this.refresh(), undoCommand: 'undo' },
    )
    this.leave = this.recorded.open()
    this.outbox.onEnd((ended) => {
      if (ended.kind === 'rejected' && world.mistakes.dropsRefused) this.outbox.discard(ended.edit.id)
      if (ended.kind === 'replaced') world.replacedBy.set(ended.edit.label, ended.by.label)
      if (ended.kind !== 'done') return
      this.saves++
      for (const version of ended.versions.values()) world.own.add(`${account} ${version}`)
    })
    void this.outbox.adopt()
    void this.refresh()
  }

  async refresh(): Promise<void> {
    const answer = await this.world.network.carry(
      () =>
        this.browser.account === this.account && !this.world.server.away
          ? new Map(this.world.server.rows)
          : undefined,
      undefined,
    )
    if (!answer || this.closed) return
    this.stored = answer
    this.recorded.show(this.stored)
  }

  shows(record: string): string | null {
    const values = this.recorded.values(this.stored, this.outbox.read())
    return (values.has(record) ? values.get(record) : this.stored.get(record)?.value) ?? null
  }

  begin(record: string): void {
    if (this.typing) this.recorded.cancel({ id: this.typing.record })
    if (this.world.mistakes.seesLate !== true) this.recorded.begin({ id: record })
    this.typing = { record, sight: this.shows(record), below: this.stored.get(record)?.value ?? null }
  }

  end(text: string | null): void {
    if (!this.typing) return
    const { record, sight, below } = this.typing
    const label = `act ${this.world.newId()}`
    this.typing = undefined
    const value = text && `${this.account} ${record} ${text} ${label}`
    if (this.recorded.save([{ key: { id: record }, value }], label) > 0)
      this.world.acts.push({ account: this.account, label, record, sight, below })
    else this.recorded.cancel({ id: record })
  }

  undo(): void {
    if (this.world.mistakes.undoesBlindly && this.outbox.read().waiting.length === 0)
      for (const record of records) this.blind(record)
    this.recorded.undo()
  }

  /** Undo as it would be without versions: whatever is saved is replaced. */
  private blind(record: string): void {
    const row = this.world.server.rows.get(record)
    if (!row || this.saves === 0) return
    this.outbox.add({
      ...editOf(this.world.newId(), 'undo without versions'),
      input: { cells: [{ key: { id: record }, value: null, expectedVersion: row.version }] },
    })
  }

  close(): void {
    this.closed = true
    this.outbox.stop()
    this.leave()
    this.browser.device.open.delete(this.tab)
  }
}

const editOf = (id: string, label: string): Edit => ({
  id,
  command: 'set',
  input: {},
  record: '{id}',
  table: 'cell',
  scope,
  label,
  madeOn: { name: 'Sheet', href: '/sheet' },
  at: 0,
})

interface Browser {
  readonly device: Device
  account: string | undefined
}

class World {
  readonly acts: Act[] = []
  /** Versions that a conflict showed and a person chose to replace. */
  readonly decided = new Set<number>()
  /** Versions that an account was told its own edits left behind. */
  readonly own = new Set<string>()
  readonly replacedBy = new Map<string, string>()
  readonly network: Network
  readonly server: Server
  private ids = 0
  constructor(
    readonly random: () => number,
    readonly mistakes: Mistakes,
  ) {
    this.network = new Network(random)
    this.server = new Server(mistakes.anyAccount !== true)
    for (const record of records) this.server.rows.set(record, { value: null, version: 0, by: '' })
  }
  newId = () => `${++this.ids}`
}

/**
 * Two browsers and up to four pages edit the same three records while answers come late, twice, in another order or
 * not at all, sessions end, accounts change, the server restarts and pages are closed; everything follows from the seed.
 * @returns what went wrong, in words; empty when nothing did
 */
export async function simulate(seed: number, mistakes: Mistakes = {}): Promise<readonly string[]> {
  const random = chance(seed)
  const world = new World(random, mistakes)
  const pick = <T>(of: readonly T[]): T => of[Math.floor(random() * of.length)] as T
  const browsers: Browser[] = [
    { device: new Device(), account: 'ann' },
    { device: new Device(), account: 'ben' },
  ]
  let tabs = 0
  const openPage = (browser: Browser) => new Page(world, browser, browser.account ?? 'ann', ++tabs)
  let pages = browsers.map(openPage)
  const problems: string[] = []

  const deeds: readonly (() => void)[] = [
    ...Array<() => void>(5).fill(() => pick(pages).begin(pick(records))),
    ...Array<() => void>(6).fill(() => pick(pages).end(pick(['a', 'b', 'c', null, 'poison', 'forbidden']))),
    () => pick(pages).recorded.act('fill', { fill: 'filled' }, `fill ${world.newId()}`),
    () => pick(pages).undo(),
    () => pick(pages).undo(),
    () => void pick(pages).recorded.redo(),
    () => decide(pick(pages)),
    () => void pick(pages).refresh(),
    () => pick(pages).outbox.resume(),
    () => {
      const page = pick(pages)
      page.close()
      pages = [...pages.filter((p) => p !== page), openPage(page.browser)]
    },
    () => void (pages.length < 4 && pages.push(openPage(pick(browsers)))),
    () => {
      const browser = pick(browsers)
      browser.account = pick(['ann', 'ben', 'cal', undefined])
    },
    () => world.network.drop(),
    () => void (world.server.away = !world.server.away),
  ]
  function decide(page: Page): void {
    const [rejected] = page.recorded.rejectedOf(page.outbox.read())
    if (!rejected) return
    for (const s of rejected.standing) world.decided.add(s.version)
    if (random() < 0.5) page.outbox.tryAgain(rejected.edit.id)
    else discard(page, rejected.edit)
  }
  const discarded = new Set<string>()
  function discard(page: Page, edit: Edit): void {
    discarded.add(edit.label)
    page.outbox.discard(edit.id)
  }

  for (let n = 0; n < 45; n++) {
    pick(deeds)()
    for (let m = random() * 4; m > 0; m--) {
      world.network.step(0.15)
      await settle()
    }
  }
  // Everything heals: the server is there, everybody is signed in again where they began, nothing is lost any more.
  world.server.away = false
  browsers.forEach((browser, i) => (browser.account = i === 0 ? 'ann' : 'ben'))
  for (let round = 0; round < 4; round++) {
    for (const page of pages)
      if (page.account !== page.browser.account || page.outbox.read().trouble === 'other account')
        page.close()
    pages = pages.filter((p) => !p.closed)
    for (const browser of browsers)
      if (!pages.some((p) => p.browser === browser)) pages.push(openPage(browser))
    for (const page of pages) {
      page.end('last')
      await page.outbox.adopt()
      page.outbox.resume()
    }
    for (let n = 0; n < 400 && world.network.busy; n++) {
      world.network.step(0)
      await settle()
    }
  }
  for (const page of pages) void page.refresh()
  for (let n = 0; n < 200 && world.network.busy; n++) {
    world.network.step(0)
    await settle()
  }
  check(world, browsers, pages, discarded, problems)
  for (const page of pages) page.close()
  return problems
}

function check(
  world: World,
  browsers: readonly Browser[],
  pages: readonly Page[],
  discarded: ReadonlySet<string>,
  problems: string[],
): void {
  const { server } = world
  const acts = new Map(world.acts.map((a) => [a.label, a]))
  const times = new Map<string, number>()
  for (const { edit, record, by, replaced } of server.writes) {
    const act = acts.get(edit.label)
    const first = !times.has(edit.id)
    times.set(edit.id, (times.get(edit.id) ?? 0) + 1)
    if (!act || !first) continue
    const value = cellsOf(edit).find((c) => c.record === record)?.value
    if (typeof value === 'string' && value.endsWith(act.label) && act.account !== by)
      problems.push(`${act.label} of ${act.account} is stored under ${by}`)
    if (typeof value === 'string' && value.endsWith(act.label) && act.record !== record)
      problems.push(`${act.label} on ${act.record} is stored on ${record}`)
    // Whoever types over an own edit that still waits has seen what that one was typed over.
    const before = world.acts.filter((a) => a.account === act.account && a.record === record)
    const inSight = before.some((a) => replaced.value === a.sight || replaced.value === a.below)
    const own = replaced.by === by || world.own.has(`${by} ${replaced.version}`)
    if (!inSight && !own && replaced.version > 0 && !world.decided.has(replaced.version))
      problems.push(`${act.label} replaced ${replaced.value} unseen; ${act.sight} was in sight`)
  }
  for (const write of server.writes)
    if (write.edit.label === 'undo without versions' && write.replaced.by !== write.by)
      problems.push(`an undo of ${write.by} replaced what someone else had saved`)
  const kept = browsers.flatMap((b) => ['ann', 'ben', 'cal'].flatMap((a) => b.device.of(a)))
  const visible = new Set([
    ...kept.map((k) => k.edit.label),
    ...pages
      .flatMap((p) => [...p.outbox.read().waiting, ...p.outbox.read().rejected.map((a) => a.edit)])
      .map((e) => e.label),
  ])
  for (const act of world.acts) {
    // Whoever replaced it answers for it; an act and its own undo may replace each other.
    const labels = [act.label]
    for (let n = 0; n < 50; n++) labels.push(world.replacedBy.get(labels.at(-1) ?? '') ?? act.label)
    if (!labels.some((label) => server.taken.has(label) || visible.has(label) || discarded.has(label)))
      problems.push(`${act.label} of ${act.account} is neither saved nor visible`)
  }
  for (const page of pages) {
    const { waiting, rejected } = page.outbox.read()
    if (waiting.length > 0) problems.push(`${waiting.length} edits of ${page.account} wait for ever`)
    if (waiting.length + rejected.length > 0) continue
    for (const [record, row] of server.rows)
      if (page.shows(record) !== row.value)
        problems.push(`${page.account} sees ${page.shows(record)} in ${record}, where ${row.value} is saved`)
  }
}
