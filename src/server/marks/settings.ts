import { v7 as uuid } from 'uuid'
import type { z } from 'zod'
import { settingsInput } from '@/core/marks/inputs'
import type { Context } from '@/server/platform/context'
import { defineCommand } from '@/server/platform/define'
import { conflict } from '@/server/platform/failure'
import { updateIfUnchanged } from '@/server/platform/write'
import { gradebookTopic } from './load-gradebooks'
import { enterScores } from './rights'
import { refuse, refuseField } from './messages'

type Settings = z.infer<typeof settingsInput>

/** Writes the rules where they still have the version seen; 0 creates the gradebook. */
async function writeRules(context: Context, asked: Settings): Promise<number> {
  const { db, actor } = context
  const { classId, termId, decimals, emptyCounts, missingCounts } = asked
  const rules = { decimals, emptyCounts, missingCounts }
  if (asked.expectedVersion > 0)
    return updateIfUnchanged(context, 'gradebook', { classId, termId }, asked.expectedVersion, rules, {
      what: 'these settings',
    })
  const runs = await db
    .selectFrom('classTerm')
    .select('termId')
    .where('classId', '=', classId)
    .where('termId', '=', termId)
    .executeTakeFirst()
  if (!runs) throw refuse('termOfOther', {})
  const made = await db
    .insertInto('gradebook')
    .values({ schoolId: actor.schoolId, classId, termId, ...rules })
    .onConflict((c) => c.doNothing())
    .returning('version')
    .executeTakeFirst()
  if (!made)
    throw conflict(
      'Someone else has set up this gradebook in the meantime. Nothing was overwritten. Open it again to see their version.',
      [],
    )
  return made.version
}

/** Categories that are not in the list any more are deleted, unless they hold assignments. */
async function writeCategories(
  { db, actor }: Context,
  { classId, termId, categories }: Settings,
): Promise<void> {
  const own = await db
    .selectFrom('category as c')
    .select((eb) => [
      'c.id',
      'c.name',
      eb
        .exists(eb.selectFrom('assignment as a').select('a.id').whereRef('a.categoryId', '=', 'c.id'))
        .as('used'),
    ])
    .where('c.classId', '=', classId)
    .where('c.termId', '=', termId)
    .execute()
  const ownIds = new Set(own.map((c) => c.id))
  const foreign = categories.find((c) => c.id !== undefined && !ownIds.has(c.id))
  if (foreign) throw refuseField('categories', 'foreignCategory', { name: foreign.name })
  const kept = new Set(categories.map((c) => c.id))
  const gone = own.filter((c) => !kept.has(c.id))
  const used = gone.find((c) => c.used)
  if (used) throw refuseField('categories', 'categoryInUse', { name: used.name })
  if (gone.length > 0)
    await db
      .deleteFrom('category')
      .where(
        'id',
        'in',
        gone.map((c) => c.id),
      )
      .execute()
  await db
    .insertInto('category')
    .values(
      categories.map(({ id: categoryId = uuid(), name, weight, dropLowest }, i) => ({
        schoolId: actor.schoolId,
        classId,
        termId,
        id: categoryId,
        name,
        weight,
        dropLowest,
        position: i + 1,
      })),
    )
    .onConflict((c) =>
      c.columns(['schoolId', 'id']).doUpdateSet((eb) => ({
        name: eb.ref('excluded.name'),
        weight: eb.ref('excluded.weight'),
        dropLowest: eb.ref('excluded.dropLowest'),
        position: eb.ref('excluded.position'),
      })),
    )
    .execute()
}

/** Sets categories, weights and what counts. A category that holds assignments cannot be deleted. */
export const saveSettings = defineCommand({
  input: settingsInput,
  right: enterScores,
  run: async (context, asked) => {
    const version = await writeRules(context, asked)
    await writeCategories(context, asked)
    context.changed(gradebookTopic(asked.classId))
    return { version }
  },
})
