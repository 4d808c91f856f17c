import { v7 as uuid } from 'uuid'
import { checkYear } from '@/core/calendar/check-year'
import { yearGroupsInput, yearInput } from '@/core/calendar/inputs'
import { defineCommand } from '@/server/platform/define'
import { Refusal } from '@/server/platform/failure'
import { yearTopic } from '@/server/school/topics'
import { setUpYear } from './rights'
import { refuse, refuseField } from './messages'

/** Makes an academic year with its terms and the days without school that are known already. */
export const createYear = defineCommand({
  input: yearInput,
  right: setUpYear,
  needsNoVersion: 'creates',
  run: async (context, year) => {
    const { db, actor } = context
    const fields = checkYear(year)
    if (fields.length > 0)
      throw new Refusal({ kind: 'invalid', message: fields.map((f) => f.message).join(' '), fields })
    const clash = await db
      .selectFrom('academicYear')
      .select('name')
      .where('firstDay', '<=', year.lastDay)
      .where('lastDay', '>=', year.firstDay)
      .executeTakeFirst()
    if (clash) throw refuseField('firstDay', 'overlaps', { year: clash.name })
    const yearId = uuid()
    const own = { schoolId: actor.schoolId }
    await db
      .insertInto('academicYear')
      .values({
        ...own,
        id: yearId,
        name: year.name,
        firstDay: year.firstDay,
        lastDay: year.lastDay,
        weekdays: year.weekdays,
      })
      .execute()
    await db
      .insertInto('term')
      .values(
        year.terms.map((t, i) => ({
          ...own,
          id: uuid(),
          yearId,
          name: t.name,
          position: i + 1,
          firstDay: t.firstDay,
          lastDay: t.lastDay,
        })),
      )
      .execute()
    if (year.closures.length > 0)
      await db
        .insertInto('closure')
        .values(year.closures.map((c) => ({ ...own, id: uuid(), yearId, ...c })))
        .execute()
    context.changed(yearTopic())
    return { yearId }
  },
})

/** Adds year groups after the last one, each with homerooms; a homeroom is named by the year group's number and a word. */
export const addYearGroups = defineCommand({
  input: yearGroupsInput,
  right: setUpYear,
  needsNoVersion: 'creates',
  run: async (context, { yearId, names, homerooms }) => {
    const { db, actor } = context
    const own = { schoolId: actor.schoolId }
    const year = await db.selectFrom('academicYear').select('id').where('id', '=', yearId).executeTakeFirst()
    if (!year) throw refuse('yearGone', {})
    const there = await db.selectFrom('yearGroup').select(['name', 'position']).execute()
    const twice = names.find((n, i) => names.indexOf(n) !== i || there.some((g) => g.name === n))
    if (twice) throw refuseField('names', 'nameExists', { name: twice })
    const last = Math.max(0, ...there.map((g) => g.position))
    const groups = names.map((name, i) => ({ ...own, id: uuid(), name, position: last + i + 1 }))
    await db.insertInto('yearGroup').values(groups).execute()
    const rooms = groups.flatMap((g) =>
      homerooms.map((room) => ({
        ...own,
        id: uuid(),
        yearId,
        yearGroupId: g.id,
        name: `${g.name.replace(/^Year /, '')} ${room}`,
      })),
    )
    const roomNames = new Set<string>()
    const repeated = rooms.find((r) => roomNames.size === roomNames.add(r.name).size)
    const taken =
      rooms.length > 0
        ? await db
            .selectFrom('homeroom')
            .select('name')
            .where('yearId', '=', yearId)
            .where(
              'name',
              'in',
              rooms.map((r) => r.name),
            )
            .executeTakeFirst()
        : undefined
    const double = repeated ?? taken
    if (double) throw refuseField('homerooms', 'homeroomExists', { name: double.name })
    if (rooms.length > 0) await db.insertInto('homeroom').values(rooms).execute()
    context.changed(yearTopic())
    return { yearGroups: groups.length, homerooms: rooms.length }
  },
})
