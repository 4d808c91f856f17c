import { v7 as uuid } from 'uuid'
import { z } from 'zod'
import { checkPeriod } from '@/core/calendar/check-period'
import { periodInput } from '@/core/calendar/inputs'
import { id, expectedVersion } from '@/core/inputs'
import { defineCommand } from '@/server/platform/define'
import { notFound, Refusal, refuseProblems } from '@/server/platform/failure'
import { updateIfUnchanged } from '@/server/platform/write'
import { yearTopic } from '@/server/school/topics'
import { setUpYear } from './rights'

const undo = { days: 30, whenChangedSince: 'stop', topics: () => [yearTopic()] } as const
const what = { what: 'this period' }

/** Adds a marking or exam period to a term, or moves it. */
export const savePeriod = defineCommand({
  input: periodInput,
  right: setUpYear,
  undo,
  run: async (context, { periodId, expectedVersion: version, termId, kind, name, firstDay, lastDay }) => {
    const { db, actor } = context
    // Whoever moves the term or adds another period comes before or after.
    const term = await db
      .selectFrom('term')
      .select(['name', 'firstDay', 'lastDay'])
      .where('id', '=', termId)
      .forUpdate()
      .executeTakeFirst()
    if (!term) throw new Refusal(notFound)
    const others = await db
      .selectFrom('termPeriod')
      .select(['id', 'name', 'firstDay', 'lastDay'])
      .where('termId', '=', termId)
      .where('kind', '=', kind)
      .where('id', '!=', periodId ?? uuid())
      .execute()
    refuseProblems(checkPeriod(term, others, { firstDay, lastDay }))
    const columns = { termId, kind, name, firstDay, lastDay }
    const savedId = periodId ?? uuid()
    if (periodId) await updateIfUnchanged(context, 'termPeriod', { id: periodId }, version, columns, what)
    else
      await db
        .insertInto('termPeriod')
        .values({ schoolId: actor.schoolId, id: savedId, ...columns })
        .execute()
    context.changed(yearTopic())
    return { periodId: savedId }
  },
})

/** Removes a marking or exam period. */
export const removePeriod = defineCommand({
  input: z.object({ periodId: id, expectedVersion }),
  right: setUpYear,
  undo,
  run: async (context, { periodId, expectedVersion: version }) => {
    await updateIfUnchanged(context, 'termPeriod', { id: periodId }, version, {}, what)
    await context.db.deleteFrom('termPeriod').where('id', '=', periodId).execute()
    context.changed(yearTopic())
    return null
  },
})
