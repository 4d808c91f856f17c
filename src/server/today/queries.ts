import { z } from 'zod'
import { dayKind, nearestSchoolDay } from '@/core/calendar/school-year'
import { civilDate } from '@/server/platform/inputs'
import { defineQuery, onlyRoles } from '@/server/platform/registry'
import { staffRoles } from '@/server/platform/relations'
import { loadYear } from '@/server/year/load-year'
import { dueItems, registersOf } from './due-items'

/** What is due for the actor on a date, and what kind of day it is. */
export const due = defineQuery({
  name: 'today.due',
  input: z.object({ date: civilDate }),
  allow: onlyRoles(...staffRoles),
  topic: () => 'today',
  run: async (context, { date }) => {
    const [year, items] = await Promise.all([loadYear(context.db, date), dueItems(context, date)])
    return {
      items,
      day: year && dayKind(year, date),
      next: year && nearestSchoolDay(year, date, 1),
      previous: year && nearestSchoolDay(year, date, -1),
      empty: !year,
    }
  },
})

/** The day's registers of every homeroom: which are taken and which have gaps. */
export const registers = defineQuery({
  name: 'today.registers',
  input: z.object({ date: civilDate }),
  allow: onlyRoles(...staffRoles),
  topic: () => 'today',
  run: async (context, { date }) => {
    const [year, open] = await Promise.all([loadYear(context.db, date), registersOf(context, date)])
    return { day: year && dayKind(year, date), registers: open }
  },
})
