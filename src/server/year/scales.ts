import { sql } from 'kysely'
import { v7 as uuid } from 'uuid'
import { z } from 'zod'
import { civilDate, id, expectedVersion } from '@/core/inputs'
import { scaleInput } from '@/core/marks/scale'
import { isForeignKeyViolation } from '@/server/platform/database-errors'
import { defineCommand, defineQuery } from '@/server/platform/define'
import { checkUnchanged, updateIfUnchanged } from '@/server/platform/write'
import { yearTopic } from '@/server/school/topics'
import { seeStructure, setUpYear } from './rights'
import { refuse, refuseField } from './messages'

const undo = { days: 30, whenChangedSince: 'stop', topics: () => [yearTopic()] } as const

/** A day in the database: one that has no beginning stands for all of the past. */
const day = (startsOn: string | null) => sql`coalesce(${startsOn}::date, '-infinity')`

/** The grading scales with their grades, highest first, from which day they hold, and how many classes use each. */
export const scales = defineQuery({
  input: z.object({}),
  right: seeStructure,
  topics: () => [yearTopic()],
  run: async (context) => {
    const [{ rows }, mayChange] = await Promise.all([
      sql<{
        id: string
        name: string
        version: number
        classes: number
        /** One for each day from which other grades hold, the earliest first; its day is null. */
        changes: readonly {
          readonly startsOn: string | null
          readonly bands: readonly { readonly grade: string; readonly fromPercent: string }[]
        }[]
      }>`
        select s.id, s.name, s.version,
          (select count(*)::int from class c where c.school_id = s.school_id and c.scale_id = s.id) as classes,
          (select jsonb_agg(jsonb_build_object('startsOn', nullif(h.starts_on, '-infinity'), 'bands',
            coalesce((select jsonb_agg(jsonb_build_object('grade', b.grade, 'fromPercent', trim_scale(b.from_percent)::text)
              order by b.from_percent desc) from grading_band b
              where b.school_id = h.school_id and b.scale_id = h.scale_id and b.starts_on = h.starts_on), '[]')) order by h.starts_on)
            from scale_change h where h.school_id = s.school_id and h.scale_id = s.id) as changes
        from grading_scale s order by s.name`.execute(context.db),
      context.may(setUpYear, {}),
    ])
    return { scales: rows, mayChange }
  },
})

/**
 * Makes a grading scale, or changes one from a day: the grades of its classes follow in the terms that end on that day
 * or later, except where marks are confirmed.
 */
export const saveScale = defineCommand({
  input: scaleInput,
  right: setUpYear,
  undo,
  run: async (context, { scaleId: own, expectedVersion: version, name, startsOn, bands }) => {
    const { db, actor } = context
    const scaleId = own ?? uuid()
    const other = await db
      .selectFrom('gradingScale')
      .select('id')
      .where(sql`lower(name)`, '=', name.toLowerCase())
      .where('id', '!=', scaleId)
      .executeTakeFirst()
    if (other) throw refuseField('name', 'partExists', { name })
    if (!own && startsOn !== null) throw refuseField('startsOn', 'scaleBegins', {})
    if (own)
      await updateIfUnchanged(
        context,
        'gradingScale',
        { id: scaleId },
        version,
        { name },
        { what: 'this scale' },
      )
    else await db.insertInto('gradingScale').values({ schoolId: actor.schoolId, id: scaleId, name }).execute()
    await sql`insert into scale_change (school_id, scale_id, starts_on)
      values (${actor.schoolId}, ${scaleId}, ${day(startsOn)}) on conflict do nothing`.execute(db)
    // Only what differs is written, so that the history says what was changed.
    const grades = bands.map((b) => b.grade)
    const asked = sql`jsonb_to_recordset(${JSON.stringify(bands)}::jsonb) as a(grade text, "fromPercent" numeric)`
    await sql`delete from grading_band where scale_id = ${scaleId} and starts_on = ${day(startsOn)} and (grade <> all(${grades}::text[])
      or not exists (select 1 from ${asked} where a.grade = grading_band.grade and a."fromPercent" = from_percent))`.execute(
      db,
    )
    await sql`insert into grading_band (school_id, scale_id, starts_on, grade, from_percent)
      select ${actor.schoolId}, ${scaleId}, ${day(startsOn)}, a.grade, a."fromPercent" from ${asked}
      on conflict (school_id, scale_id, starts_on, grade) do nothing`.execute(db)
    context.changed(yearTopic())
    return { scaleId }
  },
})

/** Takes back that a scale changes on a day: what held before goes on. */
export const removeScaleChange = defineCommand({
  input: z.object({ scaleId: id, startsOn: civilDate, expectedVersion }),
  right: setUpYear,
  undo,
  run: async (context, { scaleId, startsOn, expectedVersion: version }) => {
    const { db } = context
    await checkUnchanged(context, 'gradingScale', { id: scaleId }, version, 'this scale')
    await sql`delete from grading_band where scale_id = ${scaleId} and starts_on = ${day(startsOn)}`.execute(
      db,
    )
    await sql`delete from scale_change where scale_id = ${scaleId} and starts_on = ${day(startsOn)}`.execute(
      db,
    )
    context.changed(yearTopic())
    return null
  },
})

/** Removes a scale that no class uses. */
export const removeScale = defineCommand({
  input: z.object({ scaleId: id, expectedVersion }),
  right: setUpYear,
  undo,
  run: async (context, { scaleId, expectedVersion: version }) => {
    const { db } = context
    await checkUnchanged(context, 'gradingScale', { id: scaleId }, version, 'this scale')
    const { name } = await db
      .selectFrom('gradingScale')
      .select('name')
      .where('id', '=', scaleId)
      .executeTakeFirstOrThrow()
    try {
      await db.deleteFrom('gradingBand').where('scaleId', '=', scaleId).execute()
      await db.deleteFrom('scaleChange').where('scaleId', '=', scaleId).execute()
      await db.deleteFrom('gradingScale').where('id', '=', scaleId).execute()
    } catch (error) {
      if (!isForeignKeyViolation(error)) throw error
      throw refuse('partInUse', { kind: 'scale', name })
    }
    context.changed(yearTopic())
    return null
  },
})
