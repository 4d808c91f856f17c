/* eslint-disable no-await-in-loop -- two dates */
import { schoolDays } from '@/core/calendar/school-year'
import type { Context } from '@/server/platform/context'
import { loadYear } from '@/server/school/load-year'
import { refuseField } from './messages'

export interface Days {
  readonly firstDay: string
  readonly lastDay: string
}

/** Refuses days of which none has school; of a year that is not set up yet nobody knows. */
export async function checkSchoolDays({ db }: Context, { firstDay, lastDay }: Days): Promise<void> {
  for (const date of [firstDay, lastDay]) {
    const year = await loadYear(db, date)
    if (!year || firstDay > year.lastDay || lastDay > year.lastDay) return
    if (schoolDays(year, firstDay, lastDay).length > 0) return
  }
  throw refuseField('firstDay', 'noSchoolDays', { firstDay, lastDay })
}
