import { sql } from 'kysely'
import { v7 as uuid } from 'uuid'
import { z } from 'zod'
import { expectedVersion, id } from '@/core/inputs'
import { importedSetInput, standardInput, standardSetInput } from '@/core/assessment/standard-inputs'
import { inTree } from '@/core/assessment/standards'
import type { Context } from '@/server/platform/context'
import { defineCommand, defineQuery } from '@/server/platform/define'
import { checkUnchanged } from '@/server/platform/write'
import { standardsTopic } from './changed'
import { changeStandards, seeStandards } from './rights'
import { refuse, refuseField } from './messages'

const undo = { days: 30, whenChangedSince: 'stop', topics: () => [standardsTopic()] } as const

/** The school's sets of learning standards, each as a tree in its order, with how many questions are tagged. */
export const standardSets = defineQuery({
  input: z.object({}),
  right: seeStandards,
  topics: () => [standardsTopic()],
  run: async (context) => {
    const { db } = context
    const [sets, standards, subjects, school, mayChange] = await Promise.all([
      db
        .selectFrom('standardSet as t')
        .leftJoin('subject as s', 's.id', 't.subjectId')
        .select(['t.id', 't.name', 't.version', 't.source', 't.subjectId', 's.name as subject'])
        .orderBy('t.name')
        .orderBy('t.id')
        .execute(),
      db
        .selectFrom('standard as t')
        .select(['t.id', 't.setId', 't.parentId', 't.code', 't.statement', 't.years', 't.source'])
        .select(
          sql<number>`(select count(*)::int from question_standard q where q.school_id = t.school_id and q.standard_id = t.id)`.as(
            'questions',
          ),
        )
        .orderBy('t.position')
        .orderBy('t.id')
        .execute(),
      db.selectFrom('subject').select(['id', 'name']).orderBy('name').execute(),
      db.selectFrom('school').select('name').executeTakeFirstOrThrow(),
      context.may(changeStandards, {}),
    ])
    return {
      sets: sets.map((set) => ({
        ...set,
        standards: inTree(standards.filter((s) => s.setId === set.id)).placed.map(({ standard, depth }) => ({
          ...standard,
          depth,
        })),
      })),
      subjects,
      school: school.name,
      mayChange,
    }
  },
})

async function checkSubject({ db }: Context, subjectId: string | null) {
  if (subjectId === null) return
  const found = await db.selectFrom('subject').select('id').where('id', '=', subjectId).executeTakeFirst()
  if (!found) throw refuseField('subjectId', 'subjectGone', {})
}

/** Creates a set to which standards are added one by one. */
export const createStandardSet = defineCommand({
  input: standardSetInput,
  right: changeStandards,
  needsNoVersion: 'creates',
  undo,
  run: async (context, { name, subjectId }) => {
    await checkSubject(context, subjectId)
    const setId = uuid()
    await context.db
      .insertInto('standardSet')
      .values({ schoolId: context.actor.schoolId, id: setId, name, subjectId })
      .execute()
    context.changed(standardsTopic())
    return { setId }
  },
})

/** Renames a set, or says which subject it is for. */
export const saveStandardSet = defineCommand({
  input: standardSetInput.extend({ setId: id, expectedVersion }),
  right: changeStandards,
  undo,
  run: async (context, { setId, expectedVersion: seen, name, subjectId }) => {
    await checkSubject(context, subjectId)
    const version = await checkUnchanged(context, 'standardSet', { id: setId }, seen, 'this set')
    await context.db.updateTable('standardSet').set({ name, subjectId }).where('id', '=', setId).execute()
    context.changed(standardsTopic())
    return { version }
  },
})

/** How many of some standards are in use: tagged to questions, or with levels of their own. */
async function inUse({ db }: Context, where: ReturnType<typeof sql>): Promise<readonly string[]> {
  const { rows } = await sql<{ id: string }>`
    select s.id from standard s where ${where} and (
      exists (select 1 from question_standard q where q.school_id = s.school_id and q.standard_id = s.id)
      or exists (select 1 from standard_threshold t where t.school_id = s.school_id and t.standard_id = s.id))`.execute(
    db,
  )
  return rows.map((row) => row.id)
}

/** Deletes a set whose standards are tagged to no question. */
export const removeStandardSet = defineCommand({
  input: z.object({ setId: id, expectedVersion }),
  right: changeStandards,
  undo,
  run: async (context, { setId, expectedVersion: seen }) => {
    const { db } = context
    await checkUnchanged(context, 'standardSet', { id: setId }, seen, 'this set')
    const used = await inUse(context, sql`s.set_id = ${setId}`)
    if (used.length > 0) throw refuse('standardsInUse', { standards: used.length })
    await sql`set constraints all deferred`.execute(db)
    await db.deleteFrom('standard').where('setId', '=', setId).execute()
    await db.deleteFrom('standardSet').where('id', '=', setId).execute()
    context.changed(standardsTopic())
    return null
  },
})

/**
 * Puts a whole set from a file in place of what the set holds. What it no longer has is deleted; what is tagged to
 * questions stays, under the same one or at the top. The same file again changes nothing.
 */
export const importStandards = defineCommand({
  input: importedSetInput,
  right: changeStandards,
  undo,
  run: async (context, { setId, expectedVersion: seen, name, subjectId, source, standards }) => {
    const { db, actor } = context
    await checkSubject(context, subjectId)
    if (seen > 0) await checkUnchanged(context, 'standardSet', { id: setId }, seen, 'this set')
    await sql`set constraints all deferred`.execute(db)
    const made = await db
      .insertInto('standardSet')
      .values({ schoolId: actor.schoolId, id: setId, name, subjectId, source })
      .onConflict((c) =>
        c
          .columns(['schoolId', 'id'])
          .doUpdateSet({ name, subjectId, source })
          .where(sql<boolean>`${seen > 0}`),
      )
      .returning('id')
      .executeTakeFirst()
    if (!made) throw refuse('setExists', {})
    const rows = standards.map((s, i) => ({
      id: s.id,
      parent_id: s.parentId,
      position: i + 1,
      code: s.code,
      statement: s.statement,
      years: s.years,
      source: s.source,
    }))
    const given = sql`jsonb_to_recordset(${JSON.stringify(rows)}::jsonb) as g(id uuid, parent_id uuid, position smallint, code text, statement text, years text[], source text)`
    const foreign =
      await sql`select 1 from ${given} join standard s on s.id = g.id and s.set_id <> ${setId} limit 1`.execute(
        db,
      )
    if (foreign.rows.length > 0) throw refuse('foreignStandard', {})
    const gone = sql`s.set_id = ${setId} and not (s.id = any(${standards.map((s) => s.id)}::uuid[]))`
    const kept = await inUse(context, gone)
    await sql`update standard s set parent_id = null, position = ${rows.length + 1} where ${gone} and s.id = any(${kept}::uuid[])
      and (s.parent_id is not null or s.position <> ${rows.length + 1})`.execute(db)
    await sql`delete from standard s where ${gone} and not (s.id = any(${kept}::uuid[]))`.execute(db)
    await sql`
      insert into standard as s (school_id, set_id, id, parent_id, position, code, statement, years, source)
      select ${actor.schoolId}, ${setId}, g.id, g.parent_id, g.position, g.code, g.statement, g.years, g.source from ${given}
      on conflict (school_id, id) do update set parent_id = excluded.parent_id, position = excluded.position, code = excluded.code,
        statement = excluded.statement, years = excluded.years, source = excluded.source
      where (s.parent_id, s.position, s.code, s.statement, s.years, s.source)
        is distinct from (excluded.parent_id, excluded.position, excluded.code, excluded.statement, excluded.years, excluded.source)`.execute(
      db,
    )
    context.changed(standardsTopic())
    return { kept: kept.length }
  },
})

/** Adds a standard at the end of a set. */
export const addStandard = defineCommand({
  input: standardInput,
  right: changeStandards,
  undo,
  run: async (context, { setId, expectedVersion: seen, parentId, code, statement, years }) => {
    const { db, actor } = context
    await checkUnchanged(context, 'standardSet', { id: setId }, seen, 'this set')
    await checkParent(context, setId, parentId, [])
    const { last } = await db
      .selectFrom('standard')
      .select(({ fn }) => fn.max<number | null>('position').as('last'))
      .where('setId', '=', setId)
      .executeTakeFirstOrThrow()
    const standardId = uuid()
    await db
      .insertInto('standard')
      .values({
        schoolId: actor.schoolId,
        id: standardId,
        setId,
        parentId,
        position: (last ?? 0) + 1,
        code,
        statement,
        years,
      })
      .execute()
    context.changed(standardsTopic())
    return { standardId }
  },
})

/** What a standard stands under is in its set, and not under the standard itself. */
async function checkParent({ db }: Context, setId: string, parentId: string | null, own: readonly string[]) {
  if (parentId === null) return
  const standards = await db
    .selectFrom('standard')
    .select(['id', 'parentId'])
    .where('setId', '=', setId)
    .execute()
  const parents = new Map(standards.map((s) => [s.id, s.parentId]))
  if (!parents.has(parentId)) throw refuseField('parentId', 'parentGone', {})
  for (let at: string | null = parentId; at !== null; at = parents.get(at) ?? null)
    if (own.includes(at)) throw refuseField('parentId', 'underItself', {})
}

/** Changes a standard; tags of questions stay. */
export const saveStandard = defineCommand({
  input: standardInput.extend({ standardId: id }),
  right: changeStandards,
  undo,
  run: async (context, { standardId, setId, expectedVersion: seen, parentId, code, statement, years }) => {
    await checkUnchanged(context, 'standardSet', { id: setId }, seen, 'this set')
    await checkParent(context, setId, parentId, [standardId])
    const saved = await context.db
      .updateTable('standard')
      .set({ parentId, code, statement, years })
      .where('id', '=', standardId)
      .where('setId', '=', setId)
      .returning('id')
      .executeTakeFirst()
    if (!saved) throw refuse('standardRemoved', {})
    context.changed(standardsTopic())
    return { standardId }
  },
})

/** Deletes a standard that is tagged to no question and has none under it. */
export const removeStandard = defineCommand({
  input: z.object({ setId: id, standardId: id, expectedVersion }),
  right: changeStandards,
  undo,
  run: async (context, { setId, standardId, expectedVersion: seen }) => {
    const { db } = context
    await checkUnchanged(context, 'standardSet', { id: setId }, seen, 'this set')
    const used = await inUse(context, sql`s.id = ${standardId}`)
    if (used.length > 0) throw refuse('standardsInUse', { standards: 1 })
    const under = await db
      .selectFrom('standard')
      .select('id')
      .where('parentId', '=', standardId)
      .executeTakeFirst()
    if (under) throw refuse('standardHasOthers', {})
    await db.deleteFrom('standard').where('id', '=', standardId).where('setId', '=', setId).execute()
    context.changed(standardsTopic())
    return null
  },
})
