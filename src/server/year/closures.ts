import { v7 as uuid } from 'uuid'
import { z } from 'zod'
import { checkClosure } from '@/core/calendar/check-closure'
import { closureInput } from '@/core/calendar/inputs'
import { id, expectedVersion } from '@/core/inputs'
import type { Context } from '@/server/platform/context'
import { defineCommand } from '@/server/platform/define'
import { notFound, Refusal, refuseProblems } from '@/server/platform/failure'
import { checkUnchanged, updateIfUnchanged } from '@/server/platform/write'
import { sessionsMoved } from '@/server/school/sessions-moved'
import { registersTopic, yearTopic } from '@/server/school/topics'
import { setUpYear } from './rights'

/** Refuses days that cannot be; answers the first day on which anything changes. */
async function checked({ db }: Context, asked: z.infer<typeof closureInput>): Promise<string> {
  // Two who add days at once come one after the other, so that they cannot overlap.
  const year = await db
    .selectFrom('academicYear')
    .select(['name', 'firstDay', 'lastDay'])
    .where('id', '=', asked.yearId)
    .forUpdate()
    .executeTakeFirst()
  if (!year) throw new Refusal(notFound)
  const others = await db
    .selectFrom('closure')
    .select(['id', 'name', 'firstDay', 'lastDay'])
    .where('yearId', '=', asked.yearId)
    .execute()
  refuseProblems(
    checkClosure(
      year,
      others.filter((c) => c.id !== asked.closureId),
      asked,
    ),
  )
  const before = others.find((c) => c.id === asked.closureId)
  return before && before.firstDay < asked.firstDay ? before.firstDay : asked.firstDay
}

/** Sessions move from a closure on: a timetable of numbered days counts the days after it anew. */
const yearMoved = async (context: Context, yearId: string): Promise<void> => {
  const year = await context.db
    .selectFrom('academicYear')
    .select('firstDay')
    .where('id', '=', yearId)
    .executeTakeFirst()
  if (year) await sessionsMoved(context, year.firstDay)
}

const undo = {
  days: 30,
  whenChangedSince: 'stop',
  topics: () => [yearTopic(), registersTopic()],
} as const

/** Adds days without school, or moves them. Registers that were taken on such a day are kept, and count nowhere. */
export const saveClosure = defineCommand({
  input: closureInput,
  right: setUpYear,
  undo: {
    ...undo,
    after: (context: Context, { yearId }: z.infer<typeof closureInput>) => yearMoved(context, yearId),
  },
  run: async (context, asked) => {
    const { db, actor } = context
    const from = await checked(context, asked)
    const { kind, name, firstDay, lastDay, yearId } = asked
    const countedUntil = firstDay <= context.today ? context.today : null
    const columns = { kind, name, firstDay, lastDay, countedUntil }
    const closureId = asked.closureId ?? uuid()
    if (asked.closureId)
      await updateIfUnchanged(context, 'closure', { id: closureId }, asked.expectedVersion, columns, {
        what: 'these days',
      })
    else
      await db
        .insertInto('closure')
        .values({ schoolId: actor.schoolId, id: closureId, yearId, ...columns })
        .execute()
    await sessionsMoved(context, from)
    context.changed(yearTopic(), registersTopic())
    return { closureId }
  },
})

/** Makes days without school ordinary days again. */
export const removeClosure = defineCommand({
  input: z.object({ closureId: id, expectedVersion }),
  right: setUpYear,
  undo: {
    ...undo,
    after: async (context: Context, { closureId }: { closureId: string }) => {
      const back = await context.db
        .selectFrom('closure')
        .select('yearId')
        .where('id', '=', closureId)
        .executeTakeFirst()
      if (back) await yearMoved(context, back.yearId)
    },
  },
  run: async (context, { closureId, expectedVersion: version }) => {
    await checkUnchanged(context, 'closure', { id: closureId }, version, 'these days')
    const gone = await context.db
      .deleteFrom('closure')
      .where('id', '=', closureId)
      .returning('firstDay')
      .executeTakeFirst()
    if (gone) await sessionsMoved(context, gone.firstDay)
    context.changed(yearTopic(), registersTopic())
    return null
  },
})
