/* eslint-disable no-await-in-loop -- the version of each gradebook is looked at by itself; an act has few */
import { v7 as uuid } from 'uuid'
import { settingsInput, type Settings } from '@/core/marks/inputs'
import { matchByName } from '@/core/marks/settings'
import type { Context } from '@/server/platform/context'
import { defineCommand } from '@/server/platform/define'
import { conflict } from '@/server/platform/failure'
import { updateIfUnchanged } from '@/server/platform/write'
import { checkNotRead } from './columns'
import { copyColumns } from './copy-columns'
import { gradebookTopic } from './load-gradebooks'
import { enterScoresInAll } from './rights'
import { offeredSources } from './set-up'
import { refuse, refuseField } from './messages'

type Target = Settings['targets'][number] & { readonly className: string }

const rulesOf = ({
  method,
  decimals,
  emptyCounts,
  missingCounts,
  incompleteCounts,
  late,
  most,
}: Settings) => ({
  method,
  decimals,
  emptyCounts,
  missingCounts,
  incompleteCounts,
  latePercent: late?.percent ?? null,
  lateOf: late?.of ?? null,
  most,
})

/** The classes of the targets that run in the term, in an order in which two people never wait for each other. */
async function targetsOf({ db }: Context, { termId, targets }: Settings): Promise<readonly Target[]> {
  const rows = await db
    .selectFrom('classTerm as t')
    .innerJoin('class as c', 'c.id', 't.classId')
    .select(['c.id', 'c.name'])
    .where('t.termId', '=', termId)
    .where(
      'c.id',
      'in',
      targets.map((t) => t.classId),
    )
    .orderBy('c.id')
    .execute()
  if (rows.length < targets.length) throw refuse('termOfOther', {})
  return rows.map(({ id, name }) => ({
    classId: id,
    className: name,
    expectedVersion: targets.find((t) => t.classId === id)?.expectedVersion ?? 0,
  }))
}

/** Writes the rules of one gradebook where they still have the version seen; 0 creates it. */
async function writeRules(
  context: Context,
  { classId, className, expectedVersion }: Target,
  asked: Settings,
): Promise<number> {
  const { db, actor } = context
  const { termId } = asked
  if (expectedVersion > 0)
    return updateIfUnchanged(context, 'gradebook', { classId, termId }, expectedVersion, rulesOf(asked), {
      what: `the settings of ${className}`,
    })
  const made = await db
    .insertInto('gradebook')
    .values({ schoolId: actor.schoolId, classId, termId, ...rulesOf(asked) })
    .onConflict((c) => c.doNothing())
    .returning('version')
    .executeTakeFirst()
  if (!made)
    throw conflict(
      `Someone else has set up the gradebook of ${className} in the meantime. Nothing was overwritten. Open it again to see their version.`,
      [],
    )
  return made.version
}

/** Categories that are not in the list any more are deleted, unless they hold assignments. */
async function writeCategories(
  context: Context,
  { termId, categories }: Settings,
  targets: readonly Target[],
): Promise<void> {
  const { db, actor } = context
  const classIds = targets.map((t) => t.classId)
  const all = await db
    .selectFrom('category as c')
    .select((eb) => [
      'c.id',
      'c.classId',
      'c.name',
      eb
        .exists(eb.selectFrom('assignment as a').select('a.id').whereRef('a.categoryId', '=', 'c.id'))
        .as('used'),
    ])
    .where('c.classId', 'in', classIds)
    .where('c.termId', '=', termId)
    .orderBy('c.position')
    .execute()
  const matched = targets.map((target) => ({
    ...target,
    ...matchByName(
      all.filter((c) => c.classId === target.classId),
      categories,
    ),
  }))
  for (const { className, gone } of matched) {
    const used = gone.find((c) => c.used)
    if (used) throw refuseField('categories', 'categoryInUse', { name: used.name, className })
  }
  const gone = matched.flatMap((m) => m.gone.map((c) => c.id))
  await checkNotRead(context, 'categoryId', gone)
  if (gone.length > 0) await db.deleteFrom('category').where('id', 'in', gone).execute()
  await db
    .insertInto('category')
    .values(
      matched.flatMap(({ classId, lines }) =>
        lines.map(({ line, own }, i) => ({
          schoolId: actor.schoolId,
          classId,
          termId,
          id: own?.id ?? uuid(),
          name: line.name,
          weight: line.weight,
          within: line.within,
          dropLowest: line.dropLowest,
          position: i + 1,
        })),
      ),
    )
    .onConflict((c) =>
      c.columns(['schoolId', 'id']).doUpdateSet((eb) => ({
        name: eb.ref('excluded.name'),
        weight: eb.ref('excluded.weight'),
        within: eb.ref('excluded.within'),
        dropLowest: eb.ref('excluded.dropLowest'),
        position: eb.ref('excluded.position'),
      })),
    )
    .execute()
}

/** The columns of a gradebook that is offered to copy from, for all targets but itself; the names of those that cannot come. */
async function takeColumns(
  context: Context,
  { termId, columnsFrom }: Settings,
  targets: readonly Target[],
): Promise<readonly string[]> {
  if (!columnsFrom) return []
  const { classId: from, termId: fromTerm } = columnsFrom
  const offered = await offeredSources(context, targets[0]?.classId ?? '', termId)
  if (!offered.some((s) => s.classId === from && s.termId === fromTerm)) throw refuse('termOfOther', {})
  const pairs = targets
    .filter((t) => t.classId !== from || fromTerm !== termId)
    .map((t) => ({ from, to: t.classId }))
  return copyColumns(context, pairs, { from: fromTerm, to: termId })
}

/**
 * Sets categories, weights and what counts, for one gradebook or several, all or none. A category that holds
 * assignments cannot be deleted.
 */
export const saveSettings = defineCommand({
  input: settingsInput,
  right: enterScoresInAll,
  undo: {
    days: 30,
    whenChangedSince: 'stop',
    topics: ({ targets }: Settings) => targets.map((t) => gradebookTopic(t.classId)),
  },
  run: async (context, asked) => {
    const targets = await targetsOf(context, asked)
    const versions: { classId: string; version: number }[] = []
    for (const target of targets)
      versions.push({ classId: target.classId, version: await writeRules(context, target, asked) })
    await writeCategories(context, asked, targets)
    const left = await takeColumns(context, asked, targets)
    context.changed(...targets.map((t) => gradebookTopic(t.classId)))
    return { versions, left }
  },
})
