import { sql } from 'kysely'
import { v7 as uuid } from 'uuid'
import { z } from 'zod'
import { checkHolds, checkTerm, checkYearDays, movedAlong } from '@/core/calendar/check-term'
import { termInput, yearDaysInput } from '@/core/calendar/inputs'
import { id, expectedVersion } from '@/core/inputs'
import type { Context } from '@/server/platform/context'
import { defineCommand } from '@/server/platform/define'
import { notFound, Refusal, refuseProblems } from '@/server/platform/failure'
import { checkUnchanged, updateIfUnchanged } from '@/server/platform/write'
import { anyTaken, firstTaken } from '@/server/school/registers-taken'
import { sessionsMoved } from '@/server/school/sessions-moved'
import { registersTopic, rollTopic, yearTopic } from '@/server/school/topics'
import { setUpYear } from './rights'
import { refuse, refuseField } from './messages'

const undo = {
  days: 30,
  whenChangedSince: 'stop',
  topics: () => [yearTopic(), registersTopic()],
  after: (context: Context) => allSessionsMoved(context),
} as const

/** Terms and years decide which days have school at all; they change rarely. */
async function allSessionsMoved(context: Context): Promise<void> {
  const from = await firstTaken(context)
  if (from) await sessionsMoved(context, from)
}

/** A year with its terms; two who change them at once come one after the other. */
async function yearOf({ db }: Context, yearId: string) {
  const year = await db
    .selectFrom('academicYear')
    .select(['id', 'name', 'firstDay', 'lastDay', 'weekdays'])
    .where('id', '=', yearId)
    .forUpdate()
    .executeTakeFirst()
  if (!year) throw new Refusal(notFound)
  const terms = await db
    .selectFrom('term')
    .select(['id', 'name', 'firstDay', 'lastDay', 'position'])
    .where('yearId', '=', yearId)
    .orderBy('firstDay')
    .execute()
  return { ...year, terms }
}

/** Takes the periods that begin or end with a term along; refuses when another would lie outside. */
async function movePeriods(
  { db }: Context,
  term: { readonly id: string; readonly firstDay: string; readonly lastDay: string } | undefined,
  becomes: { readonly firstDay: string; readonly lastDay: string },
): Promise<void> {
  if (!term) return
  const periods = await db
    .selectFrom('termPeriod')
    .select(['id', 'name', 'firstDay', 'lastDay'])
    .where('termId', '=', term.id)
    .orderBy('firstDay')
    .execute()
  const moved = movedAlong(periods, term, becomes)
  refuseProblems(checkHolds(moved, becomes))
  const changed = moved.filter((p, i) => {
    const before = periods[i]
    return before?.firstDay !== p.firstDay || before.lastDay !== p.lastDay
  })
  if (changed.length === 0) return
  await sql`update term_period p set first_day = m."firstDay", last_day = m."lastDay"
    from jsonb_to_recordset(${JSON.stringify(changed)}::jsonb) as m(id uuid, "firstDay" date, "lastDay" date)
    where p.id = m.id`.execute(db)
}

/** Adds a term to a year, or changes its name and days. What lies on days that it loses stays. */
export const saveTerm = defineCommand({
  input: termInput,
  right: setUpYear,
  undo,
  run: async (context, { termId, expectedVersion: version, yearId, name, firstDay, lastDay }) => {
    const year = await yearOf(context, yearId)
    const others = year.terms.filter((t) => t.id !== termId)
    refuseProblems(checkTerm(year, others, { firstDay, lastDay }))
    if (termId)
      await movePeriods(
        context,
        year.terms.find((t) => t.id === termId),
        { firstDay, lastDay },
      )
    if (others.some((t) => t.name.toLowerCase() === name.toLowerCase()))
      throw refuseField('name', 'termExists', { name })
    const savedId = termId ?? uuid()
    if (termId)
      await updateIfUnchanged(
        context,
        'term',
        { id: termId, yearId },
        version,
        { name, firstDay, lastDay },
        { what: 'this term' },
      )
    else
      await context.db
        .insertInto('term')
        .values({
          schoolId: context.actor.schoolId,
          id: savedId,
          yearId,
          name,
          firstDay,
          lastDay,
          position: Math.max(0, ...year.terms.map((t) => t.position)) + 1,
        })
        .execute()
    await allSessionsMoved(context)
    context.changed(yearTopic(), registersTopic())
    return { termId: savedId }
  },
})

/** Removes a term in which no class runs. */
export const removeTerm = defineCommand({
  input: z.object({ termId: id, expectedVersion }),
  right: setUpYear,
  undo,
  run: async (context, { termId, expectedVersion: version }) => {
    const { db } = context
    await checkUnchanged(context, 'term', { id: termId }, version, 'this term')
    const { rows } = await sql<{ classes: number; terms: number; name: string }>`select t.name,
      (select count(*)::int from class_term c where c.term_id = t.id) as classes,
      (select count(*)::int from term o where o.year_id = t.year_id) as terms
      from term t where t.id = ${termId}`.execute(db)
    const term = rows[0]
    if (term && term.classes > 0) throw refuse('termHasClasses', { name: term.name, classes: term.classes })
    if (term?.terms === 1) throw refuse('lastTerm', {})
    await db.deleteFrom('termPeriod').where('termId', '=', termId).execute()
    await db.deleteFrom('term').where('id', '=', termId).execute()
    await allSessionsMoved(context)
    context.changed(yearTopic())
    return null
  },
})

/** Opens a term to teachers, or closes it: classes that run only in closed terms leave their lists. */
export const setTermOpen = defineCommand({
  input: z.object({ termId: id, expectedVersion, open: z.boolean() }),
  right: setUpYear,
  undo: { ...undo, topics: () => [yearTopic(), rollTopic()] },
  run: async (context, { termId, expectedVersion: version, open }) => {
    await updateIfUnchanged(context, 'term', { id: termId }, version, { open }, { what: 'this term' })
    context.changed(yearTopic(), rollTopic())
    return null
  },
})

/** Changes the name, the days and the working week of a year; the week stays once a register was taken in it. */
export const saveYear = defineCommand({
  input: yearDaysInput,
  right: setUpYear,
  undo,
  run: async (context, { yearId, expectedVersion: version, name, firstDay, lastDay, weekdays }) => {
    const { db } = context
    const year = await yearOf(context, yearId)
    const [closures, others] = await Promise.all([
      db.selectFrom('closure').select(['name', 'firstDay', 'lastDay']).where('yearId', '=', yearId).execute(),
      db
        .selectFrom('academicYear')
        .select(['name', 'firstDay', 'lastDay'])
        .where('id', '!=', yearId)
        .execute(),
    ])
    refuseProblems(checkYearDays([...year.terms, ...closures], others, { firstDay, lastDay }))
    const week = [...new Set(weekdays)].sort()
    if (week.join() !== year.weekdays.join() && (await anyTaken(context, year)))
      throw refuseField('weekdays', 'weekHasRegisters', {})
    await updateIfUnchanged(
      context,
      'academicYear',
      { id: yearId },
      version,
      { name, firstDay, lastDay, weekdays: week },
      { what: 'this year' },
    )
    await allSessionsMoved(context)
    context.changed(yearTopic(), registersTopic())
    return null
  },
})
