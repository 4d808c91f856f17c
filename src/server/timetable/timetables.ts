import { sql, type RawBuilder } from 'kysely'
import { v7 as uuid } from 'uuid'
import { z } from 'zod'
import { civilDate, id, expectedVersion } from '@/core/inputs'
import { lessonCellInput, lessonsInput, timetableInput } from '@/core/timetable/inputs'
import { addDays } from '@/core/calendar/school-year'
import {
  changesFrom,
  clashes,
  cycleDay,
  cycleDayNames,
  cycleLength,
  lessonBegun,
  type Clash,
  type Cycle,
} from '@/core/timetable/timetable'
import { localTime } from '@/server/platform/clock'
import type { Context } from '@/server/platform/context'
import { defineCommand, defineQuery } from '@/server/platform/define'
import { notFound, Refusal } from '@/server/platform/failure'
import { checkUnchanged, updateIfUnchanged } from '@/server/platform/write'
import { loadYear } from '@/server/school/load-year'
import { makeRoomAmong } from '@/server/school/one-at-a-time'
import { firstTaken, keptOfLessons, lessonRegistersTaken } from '@/server/school/registers-taken'
import { sessionsMoved } from '@/server/school/sessions-moved'
import { timetableTopic, yearTopic } from '@/server/school/topics'
import { clockTime } from './on-day'
import { editTimetable, seeTimetable } from './rights'
import { refuse, refuseField } from './messages'

const topics = () => [timetableTopic()]
const undo = {
  days: 30,
  whenChangedSince: 'stop',
  topics,
  after: (context: Context) => timetablesMoved(context),
} as const

interface LessonRow {
  readonly id: string
  readonly cycleDay: number
  readonly period: number
  readonly classId: string
  readonly roomId: string | null
  readonly version: number
}

/** The timetable of a date, else the nearest, with its periods and lessons, and what lessons are made of. */
export const timetable = defineQuery({
  input: z.object({ date: civilDate }),
  right: seeTimetable,
  topics: () => [timetableTopic(), yearTopic()],
  run: async (context, { date }) => {
    const { db } = context
    const [year, { rows: all }, mayChange] = await Promise.all([
      loadYear(db, date),
      sql<{
        id: string
        name: string
        firstDay: string
        lastDay: string | null
        cycle: Cycle
        cycleDays: number
        version: number
      }>`
        select id, name, first_day::text, last_day::text, cycle, cycle_days, version from timetable
        order by first_day <= ${date} and ${date} <= coalesce(last_day, 'infinity') desc, first_day desc`.execute(
        db,
      ),
      context.may(editTimetable, {}),
    ])
    const [shown] = all
    // Who changes it sees what counts from tomorrow on: lessons of today that have begun stay as they were.
    const shownOn = mayChange && date === context.today ? addDays(date, 1) : date
    const [periods, lessons, { rows: classes }, rooms, yearGroups] = await Promise.all([
      shown
        ? db
            .selectFrom('timetablePeriod')
            .select(['number', clockTime('starts').as('starts'), clockTime('ends').as('ends')])
            .where('timetableId', '=', shown.id)
            .orderBy('number')
            .execute()
        : [],
      shown
        ? db
            .selectFrom('lesson')
            .select(['id', 'cycleDay', 'period', 'classId', 'roomId', 'version'])
            .where('timetableId', '=', shown.id)
            .where(sql<boolean>`days @> ${shownOn}::date`)
            .orderBy('cycleDay')
            .orderBy('period')
            .orderBy('id')
            .execute()
        : [],
      sql<{
        id: string
        name: string
        roomId: string | null
        teachers: readonly { readonly id: string; readonly name: string }[]
      }>`
        select c.id, c.name, c.room_id, (select coalesce(json_agg(json_build_object('id', f.id, 'name', f.given_name || ' ' || f.family_name) order by f.sort_name), '[]')
          from class_teacher t join staff_member f on f.school_id = t.school_id and f.id = t.staff_id
          where t.school_id = c.school_id and t.class_id = c.id and t.period @> ${date}::date) as teachers
        from class c where c.year_id = ${year?.id ?? null} order by c.name`.execute(db),
      db.selectFrom('room').select(['id', 'name']).orderBy('name').execute(),
      db.selectFrom('yearGroup').select(['id', 'name', 'registers', 'version']).orderBy('position').execute(),
    ])
    return {
      yearGroups,
      timetables: all,
      periods,
      lessons: lessons as readonly LessonRow[],
      days: shown && year ? cycleDayNames(shown, year.weekdays) : [],
      classes,
      rooms,
      mayChange,
    }
  },
})

/** Lessons may be elsewhere on any day of any timetable; refused where registers that were taken lose theirs. */
async function keepRegisters(context: Context): Promise<void> {
  const before = await keptOfLessons(context)
  await timetablesMoved(context)
  const lost = (await keptOfLessons(context)) - before
  if (lost > 0) throw refuse('registersLost', { n: lost })
}

async function timetablesMoved(context: Context): Promise<void> {
  const from = await firstTaken(context, { lessonsAlone: true })
  if (from) await sessionsMoved(context, from)
}

/** Makes a timetable, or changes its days and periods. A new one ends the one before. */
export const saveTimetable = defineCommand({
  input: timetableInput,
  right: editTimetable,
  undo,
  run: async (context, { timetableId: own, expectedVersion: version, periods, lastDay = null, ...asked }) => {
    const { db, actor } = context
    const timetableId = own ?? uuid()
    const year = await loadYear(db, asked.firstDay)
    if (!year) throw refuse('noYear', {})
    const { name, firstDay, cycle } = asked
    const cycleDays = cycleLength(cycle, year.weekdays, asked.cycleDays)
    await makeRoomAmong(context, 'timetable', { id: timetableId, firstDay, lastDay }, (other) =>
      refuseField('firstDay', 'timetableOverlaps', other),
    )
    const columns = { name, firstDay, lastDay, cycle, cycleDays }
    if (own)
      await updateIfUnchanged(context, 'timetable', { id: timetableId }, version, columns, {
        what: 'this timetable',
      })
    else
      await db
        .insertInto('timetable')
        .values({ schoolId: actor.schoolId, id: timetableId, ...columns })
        .execute()
    const { rows: left } = await sql<{ n: number }>`select count(*)::int as n from lesson
      where timetable_id = ${timetableId} and (cycle_day > ${cycleDays} or period > ${periods.length})`.execute(
      db,
    )
    if (left[0] && left[0].n > 0) throw refuse('daysInUse', { n: left[0].n })
    await sql`delete from timetable_period where timetable_id = ${timetableId} and number > ${periods.length}`.execute(
      db,
    )
    await sql`insert into timetable_period as p (school_id, timetable_id, number, starts, ends)
      select ${actor.schoolId}, ${timetableId}, a.number, a.starts, a.ends
      from jsonb_to_recordset(${JSON.stringify(periods.map((p, i) => ({ ...p, number: i + 1 })))}::jsonb)
        as a(number smallint, starts time, ends time)
      on conflict (school_id, timetable_id, number) do update set starts = excluded.starts, ends = excluded.ends
        where (p.starts, p.ends) is distinct from (excluded.starts, excluded.ends)`.execute(db)
    await keepRegisters(context)
    context.changed(...topics())
    return { timetableId }
  },
})

/** Removes a timetable with which no register was taken. */
export const removeTimetable = defineCommand({
  input: z.object({ timetableId: id, expectedVersion }),
  right: editTimetable,
  undo,
  run: async (context, { timetableId, expectedVersion: version }) => {
    const { db } = context
    await checkUnchanged(context, 'timetable', { id: timetableId }, version, 'this timetable')
    const days = await db
      .selectFrom('timetable')
      .select(['firstDay', 'lastDay'])
      .where('id', '=', timetableId)
      .executeTakeFirstOrThrow()
    const n = await lessonRegistersTaken(context, days)
    if (n > 0) throw refuse('takenWith', { n })
    await db.deleteFrom('lesson').where('timetableId', '=', timetableId).execute()
    await db.deleteFrom('timetablePeriod').where('timetableId', '=', timetableId).execute()
    await db.deleteFrom('timetable').where('id', '=', timetableId).execute()
    context.changed(...topics())
    return null
  },
})

/** The timetable that is written to, held until the end, with its shape. */
async function held({ db }: Context, timetableId: string) {
  const found = await db
    .selectFrom('timetable as t')
    .select((eb) => [
      't.firstDay',
      't.lastDay',
      't.cycle',
      't.cycleDays',
      eb
        .selectFrom('timetablePeriod as p')
        .whereRef('p.timetableId', '=', 't.id')
        .select((x) => x.fn.countAll<number>().as('n'))
        .as('periods'),
    ])
    .where('t.id', '=', timetableId)
    .forUpdate()
    .executeTakeFirst()
  if (!found) throw new Refusal(notFound)
  return { ...found, periods: Number(found.periods) }
}

type Held = Awaited<ReturnType<typeof held>>

/**
 * From which day a change of a slot counts: of today's lessons those that have begun stay. Null for a timetable that is
 * not in use yet, which is changed as a whole.
 */
async function slotFrom(
  context: Context,
  timetableId: string,
  found: Held,
  slot: { readonly cycleDay: number; readonly period: number },
): Promise<string | null> {
  const { db, today, actor } = context
  if (found.firstDay > today) return null
  const [year, { rows }] = await Promise.all([
    loadYear(db, today),
    sql<{ starts: string }>`select ${clockTime('starts')} as starts from timetable_period
      where timetable_id = ${timetableId} and number = ${slot.period}`.execute(db),
  ])
  const isToday = year !== undefined && cycleDay(found, year, today) === slot.cycleDay
  const begun = isToday && rows[0] !== undefined && lessonBegun(rows[0], localTime(actor.timeZone).time)
  return changesFrom(today, begun)
}

/** The days of a lesson that is entered from a day on, or for the whole timetable. */
const daysFrom = (from: string | null): RawBuilder<string> => sql<string>`daterange(${from}::date, null)`

/** Ends lessons with the day before; those that would never have been there go. */
async function endLessons({ db }: Context, condition: RawBuilder<unknown>, from: string | null) {
  const whole = from === null ? sql`true` : sql`lower(days) >= ${from}::date and not lower_inf(days)`
  const { rows: gone } = await sql`delete from lesson l where ${condition} and ${whole} returning 1`.execute(
    db,
  )
  if (from === null) return gone.length
  const { rows: ended } = await sql`update lesson l set days = daterange(lower(days), ${from}::date)
    where ${condition} and days @> ${from}::date returning 1`.execute(db)
  return gone.length + ended.length
}

/** Teachers and rooms that are needed twice in one period of a timetable, in words. */
async function clashesIn(
  { db }: Context,
  timetableId: string,
  on: string,
  slot: { readonly cycleDay: number; readonly period: number },
): Promise<readonly (Clash & { readonly words: string })[]> {
  const [{ rows: lessons }, { rows: teachers }, rooms] = await Promise.all([
    sql<{ cycleDay: number; period: number; classId: string; roomId: string | null; name: string }>`
      select l.cycle_day, l.period, l.class_id, l.room_id, c.name from lesson l
      join class c on c.school_id = l.school_id and c.id = l.class_id where l.timetable_id = ${timetableId}
        and l.days @> ${on}::date and l.cycle_day = ${slot.cycleDay} and l.period = ${slot.period}
      order by c.name`.execute(db),
    sql<{ classId: string; id: string; name: string }>`
      select t.class_id, f.id, f.given_name || ' ' || f.family_name as name from class_teacher t
      join staff_member f on f.school_id = t.school_id and f.id = t.staff_id
      where t.period @> greatest(${on}::date, lower(t.period))
        and coalesce(upper(t.period), 'infinity') > ${on}`.execute(db),
    db.selectFrom('room').select(['id', 'name']).execute(),
  ])
  const teachersOf = new Map<string, string[]>()
  for (const t of teachers) teachersOf.set(t.classId, [...(teachersOf.get(t.classId) ?? []), t.id])
  const nameOf = new Map([...teachers, ...rooms].map((x) => [x.id, x.name]))
  const className = new Map(lessons.map((l) => [l.classId, l.name]))
  return clashes(lessons, teachersOf).map((clash) => ({
    ...clash,
    words: `${nameOf.get(clash.who) ?? ''} ${clash.kind === 'room' ? 'is used' : 'is needed'} twice then, by ${clash.classIds.map((c) => className.get(c) ?? '').join(' and ')}.`,
  }))
}

/** Enters, moves or removes the lesson of one cell of a timetable, from today or tomorrow on: what was stays. */
export const setLesson = defineCommand({
  input: lessonCellInput,
  right: editTimetable,
  needsNoVersion: 'takes the version of the lesson that goes',
  undo,
  run: async (context, { timetableId, cycleDay: n, period, gone, lesson, confirmed }) => {
    const { db, actor } = context
    const found = await held(context, timetableId)
    if (n > found.cycleDays || period > found.periods) throw refuse('outsideTimetable', {})
    const from = await slotFrom(context, timetableId, found, { cycleDay: n, period })
    if (gone) {
      const one = sql`l.id = ${gone.lessonId} and l.timetable_id = ${timetableId} and l.version = ${gone.expectedVersion}`
      if ((await endLessons(context, one, from)) === 0) throw refuse('slotTaken', {})
    }
    if (lesson) {
      const { rows } = await sql<{ name: string | null; room: boolean; there: boolean }>`select
        (select name from class where id = ${lesson.classId}) as name,
        ${lesson.roomId}::uuid is null or exists (select 1 from room where id = ${lesson.roomId}::uuid) as room,
        exists (select 1 from lesson where timetable_id = ${timetableId} and cycle_day = ${n} and period = ${period}
          and class_id = ${lesson.classId} and days && ${daysFrom(from)}) as there`.execute(db)
      const [part] = rows
      if (!part?.name || !part.room) throw refuse('partGone', {})
      if (part.there) throw refuseField('lesson', 'lessonThere', { name: part.name })
      await db
        .insertInto('lesson')
        .values({
          schoolId: actor.schoolId,
          id: uuid(),
          timetableId,
          cycleDay: n,
          period,
          days: daysFrom(from),
          ...lesson,
        })
        .execute()
      const against = await clashesIn(context, timetableId, from ?? found.firstDay, { cycleDay: n, period })
      const own = against.filter((c) => c.classIds.includes(lesson.classId))
      if (!confirmed && own.length > 0)
        throw refuseField('confirmed', 'clash', { words: own.map((c) => c.words).join(' ') })
    }
    await touch(context, timetableId)
    context.changed(...topics())
    return null
  },
})

/** Whoever has the timetable open to replace it by a file finds that lessons were changed since. */
const touch = ({ db }: Context, timetableId: string) =>
  sql`update timetable set version = version where id = ${timetableId}`.execute(db)

/** Replaces all lessons of a timetable, as a file lists them: from tomorrow on, or from its first day if that is later. */
export const replaceLessons = defineCommand({
  input: lessonsInput,
  right: editTimetable,
  undo,
  run: async (context, { timetableId, expectedVersion: version, lessons }) => {
    const { db, actor, today } = context
    const { firstDay, cycleDays, periods } = await held(context, timetableId)
    await checkUnchanged(context, 'timetable', { id: timetableId }, version, 'this timetable')
    if (lessons.some((l) => l.cycleDay > cycleDays || l.period > periods))
      throw refuse('outsideTimetable', {})
    const from = firstDay > today ? null : changesFrom(today, true)
    const asked = sql`jsonb_to_recordset(${JSON.stringify(lessons)}::jsonb)
      as a("cycleDay" smallint, period smallint, "classId" uuid, "roomId" uuid)`
    const { rows: twice } = await sql<{ name: string }>`select c.name from ${asked}
      join class c on c.id = a."classId" group by c.name, a."cycleDay", a.period having count(*) > 1 limit 1`.execute(
      db,
    )
    if (twice[0]) throw refuse('rowTwice', twice[0])
    const { rows: known } = await sql<{ n: number }>`select count(*)::int as n from ${asked}
      join class c on c.id = a."classId" left join room r on r.id = a."roomId"
      where a."roomId" is null or r.id is not null`.execute(db)
    if (known[0]?.n !== lessons.length) throw refuse('partGone', {})
    // Lessons that stay as they are keep their rows, so that the history says what was changed.
    const removed = await endLessons(
      context,
      sql`l.timetable_id = ${timetableId} and (upper(l.days) is null or upper(l.days) > ${from}::date or ${from}::date is null)
        and not exists (select 1 from ${asked} where a."cycleDay" = l.cycle_day and a.period = l.period
          and a."classId" = l.class_id and a."roomId" is not distinct from l.room_id)`,
      from,
    )
    const { rows: came } =
      await sql`insert into lesson (school_id, id, timetable_id, cycle_day, period, class_id, room_id, days)
      select ${actor.schoolId}, gen_random_uuid(), ${timetableId}, a."cycleDay", a.period, a."classId", a."roomId", ${daysFrom(from)}
      from ${asked} where not exists (select 1 from lesson l where l.timetable_id = ${timetableId}
        and l.cycle_day = a."cycleDay" and l.period = a.period and l.class_id = a."classId" and l.days && ${daysFrom(from)})
      returning 1`.execute(db)
    context.changed(...topics())
    return { removed, added: came.length }
  },
})
