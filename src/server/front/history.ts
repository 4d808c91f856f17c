import { sql } from 'kysely'
import { z } from 'zod'
import { camelKeys } from '@/db/names'
import { seeStudentHistory } from '@/server/people'
import { staffRoles } from '@/server/platform/actor'
import {
  defineCommand,
  defineDomain,
  defineQuery,
  nameOf,
  type AnyCommand,
  type Domain,
} from '@/server/platform/define'
import { refusals } from '@/server/platform/failure'
import { id } from '@/core/inputs'
import { limits } from '@/core/limits'
import { rowsOf } from '@/server/platform/history-rows'
import type { Relation, Right } from '@/server/platform/rights'
import { defineRecurring } from '@/server/platform/recurring'
import { forgetAnswers } from '@/server/platform/run'
import { undoRun, type Undone } from '@/server/platform/undo'
import { isRuleViolation } from '@/server/platform/database-errors'
import { firstBroken } from '@/server/platform/invariants'
import type { Context } from '@/server/platform/context'
import { all, fromAll } from './all'
import { carry } from './carry'
import { describeChange, namesIn, rowsInSight } from './describe'
import { record } from './record'
import { setUp } from './set-up'
import { staffing } from './staffing'

const { refuse } = refusals('history', {
  cannotUndo: () => 'This cannot be undone.',
  tooOld: ({ days }: { days: number }) =>
    days === 1 ? 'This can be undone on the same day only.' : `This can only be undone within ${days} days.`,
  alreadyUndone: () => 'This has already been undone.',
  placeTaken: () =>
    'Something else was entered in the meantime that takes the place of this, so it cannot be undone. Nothing was changed.',
  wouldBreak: ({ words, which }: { words: string; which: readonly string[] }) =>
    `${words} (${which.join(', ')}), so this cannot be undone. Nothing was changed.`,
  noLongerAllowed: () => 'You no longer have the right to make this change, so you cannot undo it.',
  changedSince: ({ rows }: { rows: readonly { kind: string; which: string }[] }) =>
    `Some of these records have been changed since, so nothing was undone: ${rows
      .slice(0, 5)
      .map((r) => [r.kind, r.which].filter(Boolean).join(' '))
      .join(', ')}${rows.length > 5 ? ` and ${rows.length - 5} more` : ''}.`,
})

/** The key of a row as the screen compares it. */
const textsOf = (key: Readonly<Record<string, unknown>>): Record<string, string> =>
  camelKeys(Object.fromEntries(Object.entries(key).map(([name, value]) => [name, String(value)])))

const page = 200
/** Above every line of the history. */
const latest = '9223372036854775807'

/**
 * The latest lines about a student, and about those who are or were the student's guardians: their records are shared
 * with siblings, so that they name no student themselves.
 */
const ofRecord = (studentId: string, before: string | undefined) => sql<string>`(
  with family as (
    select jsonb_build_object('id', g.guardian_id) as key from guardianship g where g.student_id = ${studentId}
    union
    select jsonb_build_object('id', h.row_key ->> 'guardian_id') from history h
    where h.student_id = ${studentId} and h.table_name = 'guardianship'
  )
  (select h.id from history h where h.student_id = ${studentId} and h.id < ${before ?? latest} order by h.id desc limit ${page})
  union all
  (select h.id from family f join history h on h.table_name = 'guardian' and h.row_key = f.key
    where h.id < ${before ?? latest} order by h.id desc limit ${page}))`

/** Everything that happened to a student's data, newest first: who, when, from what to what. */
const ofStudent = defineQuery({
  input: z.object({
    studentId: id,
    before: z
      .string()
      .regex(/^\d{1,18}$/)
      .optional(),
  }),
  right: seeStudentHistory,
  run: async (context, { studentId, before }) => {
    const { db } = context
    const rows = await db
      .selectFrom('history')
      .select(['id', 'at', 'actor', 'command', 'tableName', 'operation', 'rowKey', 'before', 'after'])
      .where('id', 'in', ofRecord(studentId, before))
      .orderBy('id', 'desc')
      .limit(page)
      .execute()
    const [names, student] = await Promise.all([
      namesIn(context, rows),
      db
        .selectFrom('student')
        .select(['id', 'sortName', 'number'])
        .where('id', '=', studentId)
        .executeTakeFirstOrThrow(),
    ])
    return {
      student,
      changes: rows.map((row) => ({
        id: row.id,
        at: row.at,
        actor: row.actor,
        ...describeChange(row, names),
      })),
      more: rows.length === page,
    }
  },
})

const ranIt: Relation = {
  words: 'did it',
  holds: ({ actor }, run) =>
    sql<boolean>`exists (select 1 from command_run r where r.id = ${run} and r.account_id = ${actor.accountId})`,
}

/** Whoever did something undoes it; an administrator undoes what anybody did. The command's own right is asked, too. */
const undoRight: Right<{ run: string }> = {
  words: 'undo what was done, while they may still do it',
  grants: [{ roles: ['administrator'] }, { roles: staffRoles, when: ranIt }],
  object: 'commandRun',
  of: ({ run }) => run,
}

const millisecondsOfDay = 86_400_000

/** Undoes a run; refused where rows that come back would break a rule that holds by now. */
async function backTogether(context: Context, run: string): Promise<Undone> {
  try {
    await sql`set constraints all deferred`.execute(context.db)
    const undone = await undoRun(context, run)
    await sql`set constraints all immediate`.execute(context.db)
    const broken = await firstBroken(
      context,
      fromAll((domain) => domain.invariants),
      new Set(undone.restored.map(({ table }) => table)),
    )
    if (broken) throw refuse('wouldBreak', broken)
    return undone
  } catch (error) {
    if (isRuleViolation(error)) throw refuse('placeTaken', {})
    throw error
  }
}

/** Takes back a run of a command: every row it changed, created or deleted is as it was before. */
export const undo = defineCommand({
  input: z.object({ run: id }),
  right: undoRight,
  needsNoVersion: 'compares every row with what the run left',
  moment: 'one',
  large: {
    rows: (context, { run }) => rowsOf(context, run),
    title: async ({ db }, { run }) => {
      const job = await db.selectFrom('job').select('title').where('runId', '=', run).executeTakeFirst()
      return job ? `Undo: ${job.title}` : 'Undo of a large change'
    },
  },
  run: async (context, { run }) => {
    const { db, now } = context
    const done = await db
      .selectFrom('commandRun')
      .select(['command', 'input', 'at', 'undoneAt'])
      .where('id', '=', run)
      .forUpdate()
      .executeTakeFirstOrThrow()
    const command = undoable().find((c) => nameOf(c) === done.command)
    if (!command?.undo) throw refuse('cannotUndo', {})
    if (done.undoneAt) throw refuse('alreadyUndone', {})
    const { days, whenChangedSince, topics, after } = command.undo
    if (now.getTime() - Date.parse(done.at) > days * millisecondsOfDay) throw refuse('tooOld', { days })
    // The right may be judged by something that the run removed, and that is there again only after the undo.
    const before = await context.may(command.right, done.input)
    await sql`select set_config('kedge.undoes', ${run}, true)`.execute(db)
    const undone = await backTogether(context, run)
    if (!before && !(await context.may(command.right, done.input))) throw refuse('noLongerAllowed', {})
    if (whenChangedSince === 'stop' && undone.left.length > 0) {
      const rows = undone.left.map(({ table, key }) => ({
        tableName: table,
        operation: 'update' as const,
        rowKey: key,
        before: null,
        after: null,
      }))
      const seen = await rowsInSight(context, rows)
      const names = await namesIn(context, seen)
      throw refuse('changedSince', {
        rows: seen.map((row) => {
          const { kind, which } = describeChange(row, names)
          return { kind, which }
        }),
      })
    }
    await db.updateTable('commandRun').set({ undoneAt: now }).where('id', '=', run).execute()
    await after?.(context, done.input as never)
    context.changed(...(topics?.(done.input as never) ?? []))
    // Nobody shows thousands of rows one by one.
    const shown = undone.restored.length > limits.actAtOnce ? [] : undone.restored
    return {
      restored: shown.map(({ table, key, version }) => ({ table, key: textsOf(key), version })),
      left: undone.left.length,
    }
  },
})

const undoable = (): readonly AnyCommand[] =>
  [...all, carry, record, setUp, staffing]
    .flatMap((domain: Domain): readonly AnyCommand[] => Object.values(domain.commands))
    .filter((command) => command.undo)

/** A repetition comes within days, and an undo within a month: older notes of both are deleted. */
const forget = defineRecurring({
  at: '03:20',
  on: 'every day',
  run: async (context) => {
    await forgetAnswers(context)
    const monthsAgo = sql<string>`${context.now}::timestamptz - interval '60 days'`
    await context.db.deleteFrom('commandRun').where('at', '<', monthsAgo).execute()
    await context.db
      .deleteFrom('occurrence')
      .where('day', '<', sql<string>`${context.today}::date - 60`)
      .execute()
  },
})

/** The history of what was done, and its undo. */
export const history = defineDomain({
  name: 'history',
  tables: ['history', 'commandRun', 'answeredCommand'],
  reads: ['people', 'work'],
  queries: { ofStudent },
  commands: { undo },
  recurring: { forget },
})
