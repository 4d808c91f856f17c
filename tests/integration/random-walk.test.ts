import { isDeepStrictEqual } from 'node:util'
import pg from 'pg'
import type { Role } from '@/server/platform/actor'
import type { Failure, Result, Standing } from '@/server/platform/failure'
import { seeded, type Random } from '@/demo/random'
import { allEntries } from '../domains/all'
import type { Entry } from '../domains/entry'
import { draw, Undrawable } from '../walks/draw'
import { lookAround, type World } from '../walks/world'
import { brokenRules, openSchool, type TestSchool } from './school'

/**
 * People of all roles carry out commands with drawn inputs, look at previews, undo and repeat each other's acts. Whatever
 * they do: nothing is a fault, what always holds holds, an undo restores exactly what was there, a preview shows what then
 * happens, the same sent twice happens once, and nobody sees or moves what is not theirs.
 * `KEDGE_WALKS=2000 npm test -- random-walk` walks further; `KEDGE_WALK=17` walks one alone.
 */
const count = Number(process.env.KEDGE_WALKS ?? 60)
const only = process.env.KEDGE_WALK || undefined
const steps = 8

/** Those that have nothing to draw from, take long because they hash a password, or send somebody away from their own account. */
const left = new Set([
  'account.setOwnPassword',
  'staff.create',
  'staff.resetPassword',
  'staff.mailSignIn',
  'year.create',
])
/** Those by which people's days are changed, drawn more often than the rest. */
const oftener =
  /^(people\.(place|leave|enrol|setStudent|saveGuardian)|attendance\.(set|mark|correct|savePlanned|removePlanned|endPlanned|saveCodeSet)|year\.(save|remove|close)|timetable|marks|assessment|reports|record|staff\.(reactivate|setRoles)|staffing|setUp|carry)/
const people: readonly (readonly [username: string, role: Role])[] = [
  ['m.vester', 'administrator'],
  ['s.kirkness', 'head'],
  ['e.leask', 'office'],
  ['p.ilves', 'records'],
  ['r.achterberg', 'teacher'],
  ['h.tulloch', 'teacher'],
  ['hana.marsh@islandmail.example', 'guardian'],
]

let school: TestSchool
let past: pg.Client
let present: pg.Client
let entries: ReadonlyMap<string, Entry>
let anchors: { readonly students: readonly string[] }
const done = new Map<string, number>()
const tried = new Map<string, number>()
const undrawable = new Set<string>()
const refused = new Map<string, string>()
let undone = 0
let previews = 0

beforeAll(async () => {
  entries = await allEntries()
  school = await openSchool()
  const { superuser } = JSON.parse(process.env.KEDGE_TEST_DATABASES ?? '{}') as { superuser: string }
  const looking = async () => {
    const client = new pg.Client({ connectionString: superuser.replace('{database}', school.name) })
    await client.connect()
    return client
  }
  past = await looking()
  present = await looking()
  // A few weeks are enough, and everything is looked at again and again.
  await school.rows("delete from attendance_mark where session_date < '2026-11-09'")
  // A homeroom that is still empty can be closed.
  await school.rows(
    "insert into homeroom (school_id, id, year_id, year_group_id, name) select school_id, gen_random_uuid(), year_id, year_group_id, '7 Skua' from homeroom where name = '7 Tern'",
  )
  // Another school in the same database, which nobody here belongs to.
  await school.rows(
    "insert into school (id, name, short_name) values ('00000000-0000-7000-8000-00000000beef', 'Other Isle School', 'other-isle')",
  )
  await school.rows(
    "insert into subject (school_id, id, name, position) values ('00000000-0000-7000-8000-00000000beef', gen_random_uuid(), 'Music', 1)",
  )
  const ids = async (statement: string) => (await school.rows<{ id: string }>(statement)).map((r) => r.id)
  anchors = { students: await ids('select id from student') }
})
afterAll(async () => {
  if (process.env.KEDGE_WALK_TOLD)
    console.log(
      [...tried]
        .map(([name, n]) => `${name} ${done.get(name) ?? 0}/${n} ${refused.get(name) ?? ''}`)
        .join('\n'),
      `\nundone ${undone}, previews ${previews}, not drawn: ${[...undrawable].join(', ')}`,
    )
  await past.end()
  await present.end()
  await school.close()
})

const commandNames = async () => {
  const { commands } = await import('@/server/registry')
  const names = [...commands]
    .filter(([name, { by }]) => by === undefined && !left.has(name) && !name.startsWith('work.'))
    .map(([name]) => name)
  return names.flatMap((name) => (oftener.test(name) ? [name, name, name, name] : [name]))
}

/** What was seen of what is edited: the versions that a conflict tells of, as somebody who chose to keep theirs. */
function withVersions(input: Record<string, unknown>, standing: readonly Standing[]): object {
  const [first] = standing
  if (Array.isArray(input.cells))
    return {
      ...input,
      cells: input.cells.map((cell: { key: unknown }) => ({
        ...cell,
        expectedVersion: standing.find((s) => same(s.key, cell.key))?.version ?? 0,
      })),
    }
  if (Array.isArray(input.students))
    return {
      ...input,
      students: input.students.map((s: { studentId: string }) => ({
        ...s,
        expectedVersion:
          standing.find((x) => same(x.key, { studentId: s.studentId }))?.version ?? first?.version ?? 0,
      })),
    }
  return { ...input, expectedVersion: first?.version ?? 0 }
}
const same = isDeepStrictEqual

interface Act {
  readonly name: string
  readonly input: object
  readonly username: string
}

/** Something that one of the people could ask for just now. */
async function anAct(random: Random, world: World, names: readonly string[]): Promise<Act | undefined> {
  const { commands } = await import('@/server/registry')
  const name = random.pick(names)
  const may = people.filter(([, role]) => entries.get(name)?.who[role])
  // Mostly somebody who may.
  const [username] = random.pick(may.length > 0 && random.below(6) > 0 ? may : people)
  const command = commands.get(name)
  if (!command) return undefined
  const own = entries.get(name)?.draw
  try {
    const drawn = draw(command.input, random, world) as object
    return { name, input: { ...drawn, ...own?.(random, world, drawn) }, username }
  } catch (error) {
    if (!(error instanceof Undrawable)) throw error
    if (own) return { name, input: own(random, world, {}), username }
    undrawable.add(`${name}: ${error.message}`)
    return undefined
  }
}

/** The children whose guardian the guardian of the walk is just now. */
const ownChildren = async () =>
  new Set(
    (
      await school.rows<{ id: string }>(
        `select g.student_id as id from guardianship g join membership m on m.person_id = g.guardian_id
         join auth."user" u on u.id = m.account_id where u.email = 'hana.marsh@islandmail.example'`,
      )
    ).map(({ id }) => id),
  )

const actorOf = (username: string) => school.actor(username).catch(() => undefined)

/**
 * Carries it out as a person would: what a colleague has saved meanwhile is seen, and one's own kept. Not with a key: the
 * same is sent as it is.
 */
async function carryOut(act: Act, key?: string): Promise<Result<unknown> | undefined> {
  const actor = await actorOf(act.username)
  if (!actor) return undefined
  tried.set(act.name, (tried.get(act.name) ?? 0) + 1)
  let input = act.input
  let result: Result<unknown> = await school.execute(
    act.name as never,
    actor,
    input as never,
    key ? { key } : {},
  )
  for (let again = 0; !key && again < 2 && !result.ok && result.failure.kind === 'conflict'; again++) {
    input = withVersions(input as never, result.failure.standing)
    result = await school.execute(act.name as never, actor, input as never)
  }
  if (result.ok) done.set(act.name, (done.get(act.name) ?? 0) + 1)
  else
    refused.set(
      act.name,
      JSON.stringify('fields' in result.failure ? result.failure.fields : result.failure.message),
    )
  return result
}

/** Some tables by what stands in them, without what only says who wrote it last. */
async function whatStands(
  look: pg.Client,
  tables: readonly string[],
): Promise<Readonly<Record<string, string>>> {
  const parts = tables.map(
    // A cell that was emptied stays, so that its version goes on; it says nothing.
    (
      name,
    ) => `select '${name}' as name, coalesce(sum(hashtextextended(x.row::text, 0)), 0)::text as sum from (
        select to_jsonb(t) - kedge_unkept() as row from ${name} t) x
        where not (x.row ->> 'code_id' is null and '${name}' = 'attendance_mark')
          and not (x.row ->> 'points' is null and x.row ->> 'standing' is null and '${name}' = 'score')
          and not (x.row ->> 'state' = 'taken back' and '${name}' = 'attempt')
          and not ('${name}' = 'report_entry' and x.row ->> 'effort' is null and x.row ->> 'comment' = '')`,
  )
  const { rows } = await look.query<{ name: string; sum: string }>(parts.join(' union all '))
  return Object.fromEntries(rows.map((row) => [row.name, row.sum]))
}

/** The tables in which a run has changed something that stays within the school. */
const tablesOf = async (run: string) =>
  (
    await school.rows<{ name: string }>(
      "select distinct table_name as name from history where run_id = $1 and table_name not in ('mail', 'invitation')",
      [run],
    )
  ).map((row) => row.name)

const isFault = (failure: Failure) => failure.kind === 'fault' || failure.kind === 'unavailable'
const told = (act: Act) => `${act.username} ${act.name} ${JSON.stringify(act.input)}`

async function walk(seed: number): Promise<void> {
  const random = seeded(seed)
  const names = await commandNames()
  const { commands } = await import('@/server/registry')
  const undoable = names.filter((name) => commands.get(name)?.undo)
  const world = await lookAround(school)
  const path: string[] = []
  const runs: { run: string; username: string }[] = []
  const fails = (what: string, more: unknown = '') =>
    new Error(
      `walk ${seed}: ${what} ${typeof more === 'string' ? more : JSON.stringify(more)}\n${path.join('\n')}`,
    )
  const check = (act: Act, result: Result<unknown> | undefined) => {
    if (!result) return
    path.push(
      `${result.ok ? 'did' : result.failure.kind}: ${told(act)}${result.ok ? '' : ` (${result.failure.message})`}`,
    )
    if (!result.ok && isFault(result.failure)) throw fails('a fault', result.failure)
    if (result.ok && result.run) runs.push({ run: result.run, username: act.username })
  }
  async function undo(run: string, username: string): Promise<Result<unknown> | undefined> {
    const actor = await actorOf(username)
    if (!actor) return undefined
    const result = await school.execute('history.undo', actor, { run })
    path.push(`${result.ok ? 'undid' : `undo ${result.failure.kind}`}: ${run} by ${username}`)
    if (!result.ok && isFault(result.failure)) throw fails('an undo is a fault', result.failure)
    return result
  }

  for (let step = 0; step < steps; step++) {
    const kind = random.below(100)
    const backed = (kind >= 45 && kind < 60) || (kind >= 82 && kind < 92)
    let act = await anAct(random, world, backed ? undoable : names)
    if (!act) continue
    if (kind < 45) check(act, await carryOut(act))
    else if (kind < 60) {
      // Done and taken back at once: everything is as before, which somebody goes on seeing who began to look then.
      await past.query('begin isolation level repeatable read')
      await past.query('select 1')
      try {
        let result = await carryOut(act)
        check(act, result)
        for (let again = 0; again < 4 && !result?.ok; again++) {
          act = (await anAct(random, world, undoable)) ?? act
          result = await carryOut(act)
          check(act, result)
        }
        if (!result?.ok || !result.run) continue
        const back = await undo(result.run, random.below(2) === 0 ? act.username : 'm.vester')
        if (!back?.ok || (back.value as { left?: readonly unknown[] }).left?.length) continue
        undone++
        const tables = await tablesOf(result.run)
        if (tables.length === 0) continue
        const before = await whatStands(past, tables)
        const after = await whatStands(present, tables)
        const differs = tables.filter((table) => before[table] !== after[table])
        if (differs.length > 0) throw fails('an undo did not restore', differs)
      } finally {
        await past.query('rollback')
      }
    } else if (kind < 72) {
      const one = runs[random.below(Math.max(1, runs.length))]
      if (one) await undo(one.run, random.below(3) === 0 ? random.pick(people)[0] : one.username)
    } else if (kind < 82) {
      // The same from two people, or twice from one, at the same time.
      const other = random.below(2) === 0 ? act : { ...act, username: random.pick(people)[0] }
      const key = act === other ? crypto.randomUUID() : undefined
      const both = await Promise.all([carryOut(act, key), carryOut(other, key)])
      for (const [i, result] of both.entries()) check(i === 0 ? act : other, result)
      if (key && both[0]?.ok && both[1]?.ok && !same(both[0].value, both[1].value))
        throw fails('the same sent twice was answered differently', both)
    } else if (kind < 92) {
      // What a preview shows is what happens, when nobody comes between.
      const actor = await actorOf(act.username)
      if (!actor) continue
      const { preview, executeCommand } = await import('@/server/platform/run')
      const { describeRun } = await import('@/server/front/describe')
      const command = commands.get(act.name)
      if (!command) continue
      const shown = await preview(command, actor, act.input, describeRun)
      if (!shown.ok) {
        if (isFault(shown.failure)) throw fails(`a preview is a fault: ${told(act)}`, shown.failure)
        continue
      }
      previews++
      const result = await executeCommand(command, actor, act.input, {
        expecting: { fingerprint: shown.value.fingerprint, describe: describeRun },
      })
      check(act, result)
      if (!result.ok) throw fails('what a preview had shown was not done', result.failure)
    } else {
      // A guardian sees nobody but their own children.
      const guardian = await actorOf('hana.marsh@islandmail.example')
      if (!guardian) continue
      const { queries } = await import('@/server/registry')
      const name = random.pick([...queries.keys()])
      const query = queries.get(name)
      if (!query || query.by === 'server') continue
      let input: unknown
      try {
        input = draw(query.input, random, world)
      } catch {
        continue
      }
      const answer = await school.query(name as never, guardian, input as never)
      path.push(`asked: ${name} ${JSON.stringify(input)}`)
      if (!answer.ok && isFault(answer.failure)) throw fails('a query is a fault', answer.failure)
      const text = answer.ok ? JSON.stringify(answer.value) : ''
      // Somebody may have made the guardian one of another child's meanwhile.
      const children = await ownChildren()
      const others = anchors.students.filter((id) => text.includes(id) && !children.has(id))
      if (others.length > 0) throw fails(`a guardian sees another's child by ${name}`, others)
      const clerk = await actorOf(random.pick(people)[0])
      if (!clerk) continue
      const theirs = await school.query(name as never, clerk, input as never)
      if (!theirs.ok && isFault(theirs.failure))
        throw fails(`a query is a fault: ${name} ${JSON.stringify(input)}`, theirs.failure)
    }
  }
  const broken = await brokenRules(school)
  if (broken.length > 0) throw fails('rules are broken', broken)
  const moved = await school.row(
    "select count(*)::int as n from history where school_id = '00000000-0000-7000-8000-00000000beef'",
  )
  if (moved.n !== 0) throw fails('another school moved')
}

const seeds = only ? [Number(only)] : Array.from({ length: count }, (_, i) => i + 1)
let isBroken = false
test.each(seeds)('walk %i', async (seed) => {
  // What one walk has broken would be found by all after it.
  if (isBroken) throw new Error('not walked: an earlier walk failed')
  isBroken = true
  await walk(seed)
  isBroken = false
})

test('every record is as its history has kept it, after all of them', async () => {
  const { database } = await import('@/server/platform/database')
  const { inSchool } = await import('@/server/platform/in-school')
  const { notAsKept } = await import('@/server/platform/history-replay')
  const admin = await school.actor('m.vester')
  const found = await database()
    .transaction()
    .execute((db) => inSchool(db, admin, { command: 'check' }, (context) => notAsKept(context, 20)))
  expect(found).toEqual([])
})
