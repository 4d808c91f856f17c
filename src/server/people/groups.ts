import { sql } from 'kysely'
import { v7 as uuid } from 'uuid'
import { z } from 'zod'
import { civilDate, id, expectedVersion } from '@/core/inputs'
import { groupInput, groupsInput } from '@/core/people/inputs'
import type { Context } from '@/server/platform/context'
import { defineCommand, defineQuery } from '@/server/platform/define'
import { checkUnchanged, updateIfUnchanged } from '@/server/platform/write'
import { rollTopic } from '@/server/school/topics'
import { changeGroups, seeGroups } from './rights'
import { refuse, refuseField } from './messages'

/** The analysis groups with how many students are in each on a date. */
export const groups = defineQuery({
  input: z.object({ date: civilDate }),
  right: seeGroups,
  topics: () => [rollTopic()],
  run: async (context, { date }) => {
    const [all, mayChange] = await Promise.all([
      context.db
        .selectFrom('analysisGroup as g')
        .select([
          'g.id',
          'g.name',
          'g.version',
          sql<number>`(select count(*)::int from analysis_group_member m where m.group_id = g.id and m.period @> ${date}::date)`.as(
            'students',
          ),
        ])
        .orderBy('g.name')
        .execute(),
      context.may(changeGroups, {}),
    ])
    return { groups: all, mayChange }
  },
})

/** Refuses a name that a group has already, however it is written. */
async function checkNames({ db }: Context, path: string, names: readonly string[], groupId?: string) {
  const there = await db.selectFrom('analysisGroup').select(['id', 'name']).execute()
  const taken = new Set(there.filter((g) => g.id !== groupId).map((g) => g.name.toLowerCase()))
  for (const name of names) {
    if (taken.has(name.toLowerCase())) throw refuseField(path, 'groupExists', { name })
    taken.add(name.toLowerCase())
  }
}

/** Adds analysis groups. */
export const addGroups = defineCommand({
  input: groupsInput,
  right: changeGroups,
  needsNoVersion: 'creates',
  run: async (context, { names }) => {
    await checkNames(context, 'names', names)
    await context.db
      .insertInto('analysisGroup')
      .values(names.map((name) => ({ schoolId: context.actor.schoolId, id: uuid(), name })))
      .execute()
    context.changed(rollTopic())
    return { added: names.length }
  },
})

const undo = { days: 30, whenChangedSince: 'stop', topics: () => [rollTopic()] } as const

/** Gives a group another name. */
export const saveGroup = defineCommand({
  input: groupInput,
  right: changeGroups,
  undo,
  run: async (context, { groupId, expectedVersion: version, name }) => {
    await checkNames(context, 'name', [name], groupId)
    await updateIfUnchanged(
      context,
      'analysisGroup',
      { id: groupId },
      version,
      { name },
      { what: 'this group' },
    )
    context.changed(rollTopic())
    return null
  },
})

/** Removes a group that nobody was ever in; one with a history stays. */
export const removeGroup = defineCommand({
  input: z.object({ groupId: id, expectedVersion }),
  right: changeGroups,
  undo,
  run: async (context, { groupId, expectedVersion: version }) => {
    await checkUnchanged(context, 'analysisGroup', { id: groupId }, version, 'this group')
    const { rows } = await sql<{ name: string; used: boolean }>`select g.name, exists (
      select 1 from analysis_group_member m where m.group_id = g.id) as used
      from analysis_group g where g.id = ${groupId}`.execute(context.db)
    if (rows[0]?.used) throw refuse('groupHasHistory', { name: rows[0].name })
    await context.db.deleteFrom('analysisGroup').where('id', '=', groupId).execute()
    context.changed(rollTopic())
    return null
  },
})
