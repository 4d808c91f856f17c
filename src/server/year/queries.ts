import { z } from 'zod'
import { defineQuery } from '@/server/platform/define'
import { civilDate } from '@/core/inputs'
import { homeroomSize, homeroomTeachers } from '@/server/school/facts'
import { loadYear } from '@/server/school/load-year'
import { seeStructure, setUpYear } from './rights'

/** The academic year with its structure: year groups, homerooms and their numbers. */
export const structure = defineQuery({
  input: z.object({ date: civilDate }),
  right: seeStructure,
  run: async (context, { date }) => {
    const { db } = context
    const year = await loadYear(db, date)
    const homerooms = await db
      .selectFrom('yearGroup as g')
      .leftJoin('homeroom as h', (j) =>
        j.onRef('h.yearGroupId', '=', 'g.id').on('h.yearId', '=', year?.id ?? null),
      )
      .select([
        'g.name as yearGroup',
        'h.name as homeroom',
        homeroomTeachers('h.id', date).as('teacher'),
        homeroomSize('h.id', date).as('students'),
      ])
      .orderBy('g.position')
      .orderBy('h.name')
      .execute()
    return { year, homerooms, mayChange: await context.may(setUpYear, {}) }
  },
})
