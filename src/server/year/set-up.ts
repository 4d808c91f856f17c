import { v7 as uuid } from 'uuid'
import { z } from 'zod'
import { checkYear } from '@/core/calendar/check-year'
import { Refusal, refuse, refuseField } from '@/server/platform/failure'
import { id, named } from '@/server/platform/inputs'
import { defineCommand, onlyRoles } from '@/server/platform/registry'

const day = z.string().max(10)

/** Makes an academic year with its terms. */
export const createYear = defineCommand({
  name: 'year.create',
  input: z.object({
    name: z.string().trim().max(20),
    firstDay: day,
    lastDay: day,
    weekdays: z.array(z.number().int().min(1).max(7)).min(1, 'Choose the days on which there is school.'),
    terms: z.array(z.object({ name: z.string().trim().max(40), firstDay: day, lastDay: day })).max(6),
  }),
  allow: onlyRoles('administrator'),
  run: async (context, year) => {
    const { db, actor } = context
    const fields = checkYear(year)
    if (fields.length > 0)
      throw new Refusal({ kind: 'invalid', message: fields.map((f) => f.message).join(' '), fields })
    const clash = await db
      .selectFrom('academic_year')
      .select('name')
      .where('first_day', '<=', year.lastDay)
      .where('last_day', '>=', year.firstDay)
      .executeTakeFirst()
    if (clash)
      throw refuseField(
        'firstDay',
        `These days are part of ${clash.name} already. Somebody may have made this year before you.`,
      )
    const yearId = uuid()
    const own = { school_id: actor.schoolId }
    await db
      .insertInto('academic_year')
      .values({
        ...own,
        id: yearId,
        name: year.name,
        first_day: year.firstDay,
        last_day: year.lastDay,
        weekdays: year.weekdays,
      })
      .execute()
    await db
      .insertInto('term')
      .values(
        year.terms.map((t, i) => ({
          ...own,
          id: uuid(),
          year_id: yearId,
          name: t.name,
          position: i + 1,
          first_day: t.firstDay,
          last_day: t.lastDay,
        })),
      )
      .execute()
    await context.changed('today')
    return { yearId }
  },
})

/** Adds year groups after the last one, each with homerooms; a homeroom is named by the year group's number and a word. */
export const addYearGroups = defineCommand({
  name: 'year.addYearGroups',
  input: z.object({
    yearId: id,
    names: z.array(named('The name of a year group', 40)).min(1, 'Type at least one year group.').max(20),
    homerooms: z.array(named('The name of a homeroom', 40)).max(12),
  }),
  allow: onlyRoles('administrator'),
  run: async (context, { yearId, names, homerooms }) => {
    const { db, actor } = context
    const own = { school_id: actor.schoolId }
    const year = await db.selectFrom('academic_year').select('id').where('id', '=', yearId).executeTakeFirst()
    if (!year) throw refuse('This academic year is not there any more.')
    const there = await db.selectFrom('year_group').select(['name', 'position']).execute()
    const twice = names.find((n, i) => names.indexOf(n) !== i || there.some((g) => g.name === n))
    if (twice)
      throw refuseField('names', `${twice} is there already. Nothing was added; take it off the list.`)
    const last = Math.max(0, ...there.map((g) => g.position))
    const groups = names.map((name, i) => ({ ...own, id: uuid(), name, position: last + i + 1 }))
    await db.insertInto('year_group').values(groups).execute()
    const rooms = groups.flatMap((g) =>
      homerooms.map((room) => ({
        ...own,
        id: uuid(),
        year_id: yearId,
        year_group_id: g.id,
        name: `${g.name.replace(/^Year /, '')} ${room}`,
      })),
    )
    if (rooms.length > 0) await db.insertInto('homeroom').values(rooms).execute()
    return { yearGroups: groups.length, homerooms: rooms.length }
  },
})
