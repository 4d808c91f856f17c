import { sql, type RawBuilder, type Transaction } from 'kysely'
import { cycleDay, cycleDayNames, halfOf, type Cycle } from '@/core/timetable/timetable'
import {
  dayKind,
  nearestSchoolDay,
  schoolDays,
  type DayKind,
  type SchoolYear,
} from '@/core/calendar/school-year'
import type { Tables } from '@/db/tables'
import type { Context } from '@/server/platform/context'
import { gather } from '@/server/platform/gather'
import { isTeacherOf, sizeByClass, teachersByClass } from '@/server/school/facts'
import { loadYear } from '@/server/school/load-year'

/** HH:MM of a time column. */
export const clockTime = (column: string) => sql<string>`to_char(${sql.ref(column)}, 'HH24:MI')`

export interface TimetableInUse {
  readonly id: string
  readonly firstDay: string
  readonly lastDay: string | null
  readonly cycle: Cycle
  readonly cycleDays: number
}

/** The timetable in use on a date. */
async function timetableOn(db: Transaction<Tables>, date: string): Promise<TimetableInUse | undefined> {
  return db
    .selectFrom('timetable')
    .select(['id', 'firstDay', 'lastDay', 'cycle', 'cycleDays'])
    .where('firstDay', '<=', date)
    .where((eb) => eb.or([eb('lastDay', 'is', null), eb('lastDay', '>=', date)]))
    .executeTakeFirst()
}

export interface DayLesson {
  readonly classId: string
  readonly name: string
  readonly yearGroup: string
  /** Whether its year group takes registers in lessons. */
  readonly register: boolean
  readonly period: number
  readonly starts: string
  readonly ends: string
  readonly room: string | null
  readonly roomId: string | null
  /** The teachers of the class. */
  readonly teacher: string | null
  /** The same as in lists, the family name first. */
  readonly teacherListed: string | null
  /** Who covers the lesson on this day. */
  readonly cover: string | null
  readonly coverListed: string | null
  readonly coverId: string | null
  readonly cancelled: boolean
  readonly roomChanged: boolean
  readonly note: string | null
  /** The version of the day's change; 0 where nothing is different. */
  readonly version: number
  /** The actor gives the lesson: covers it, or teaches the class and nobody covers. */
  readonly own: boolean
  readonly onRoll: number
}

export interface LessonsOfDay {
  readonly day: DayKind | undefined
  /** What the day is called in the timetable; undefined where none is in use or there is no school. */
  readonly cycleDay: string | undefined
  readonly lessons: readonly DayLesson[]
}

/**
 * The lessons of a date in the order of their periods, with what is different on that day.
 * @param only those of one class, or those the actor gives
 */
export async function lessonsOnDay(
  context: Context,
  date: string,
  only: { readonly classId?: string; readonly own?: boolean } = {},
): Promise<LessonsOfDay> {
  const { db, actor } = context
  const own = sql<boolean>`case when x.staff_id is null then ${isTeacherOf(sql.ref('l.class_id'), actor.staffId, date)}
    else x.staff_id is not distinct from ${actor.staffId}::uuid end`
  const [year, timetable] = await Promise.all([loadYear(db, date), timetableOn(db, date)])
  const day = year && dayKind(year, date)
  const n = year && timetable && cycleDay(timetable, year, date)
  if (!year || !timetable || n === undefined) return { day, cycleDay: undefined, lessons: [] }
  const ofThem = sql`select class_id from chosen`
  // In two steps: planned as one join of nine tables it took longer to plan than to do.
  const { rows } = await sql<DayLesson>`
    with chosen as materialized (
      select l.school_id, l.class_id, l.period, coalesce(x.room_id, l.room_id) as room_id, x.room_id is not null as room_changed,
        x.staff_id as cover_id, coalesce(x.cancelled, false) as cancelled, x.note, coalesce(x.version, 0) as version, ${own} as own
      from lesson l
      left join lesson_change x on x.school_id = l.school_id and x.class_id = l.class_id and x.on_date = ${date} and x.period = l.period
      where l.timetable_id = ${timetable.id} and l.cycle_day = ${n} and l.days @> ${date}::date
        and ${only.classId ? sql`l.class_id = ${only.classId}` : sql`true`} and ${only.own ? own : sql`true`} and exists (
          select 1 from class_term t join term w on w.school_id = t.school_id and w.id = t.term_id
          where t.school_id = l.school_id and t.class_id = l.class_id and ${date} between w.first_day and w.last_day)
    ), named as materialized (
      select l.*, c.name, g.name as year_group, g.registers <> 'half-days' as register
      from chosen l join class c on c.school_id = l.school_id and c.id = l.class_id
      join course k on k.school_id = c.school_id and k.id = c.course_id
      join year_group g on g.school_id = k.school_id and g.id = k.year_group_id
    ), teachers as materialized ${teachersByClass(date, ofThem)}, sizes as materialized ${sizeByClass(date, ofThem)}
    select l.class_id, l.name, l.year_group, l.register, l.period, ${clockTime('p.starts')} as starts, ${clockTime('p.ends')} as ends,
      r.name as room, r.id as room_id, l.room_changed, a.names as teacher, a.listed as teacher_listed,
      f.given_name || ' ' || f.family_name as cover, f.sort_name as cover_listed, l.cover_id, l.cancelled, l.note, l.version, l.own,
      coalesce(n.students, 0) as on_roll
    from named l left join teachers a on a.class_id = l.class_id left join sizes n on n.class_id = l.class_id
    join timetable_period p on p.school_id = l.school_id and p.timetable_id = ${timetable.id} and p.number = l.period
    left join room r on r.school_id = l.school_id and r.id = l.room_id
    left join staff_member f on f.school_id = l.school_id and f.id = l.cover_id
    order by l.period, l.name`.execute(db)
  return { day, cycleDay: cycleDayNames(timetable, year.weekdays)[n - 1], lessons: rows }
}

/** When each half of a day starts by the timetable: with its first period, and with the first from noon. */
export async function halfDayStarts(
  context: Context,
  date: string,
): Promise<{ readonly morning: string | undefined; readonly afternoon: string | undefined }> {
  const periods = sql<{ starts: string }>`
    select ${clockTime('p.starts')} as starts from timetable t
    join timetable_period p on p.school_id = t.school_id and p.timetable_id = t.id
    where ${date} between t.first_day and coalesce(t.last_day, 'infinity') order by p.number`
  const rows = await gather(context, periods)
  const first = (half: 'morning' | 'afternoon') => rows.find((p) => halfOf(p) === half)?.starts
  return { morning: first('morning'), afternoon: first('afternoon') }
}

/** The lessons that are held on some days and in which registers are taken, for joins. */
export type HeldLessons = RawBuilder<{ classId: string; day: string; period: number; starts: string }>

/** Each lesson of the timetables on some days: with its day; those of a class only in its terms, none that is cancelled. */
async function placedOn(
  { db }: Context,
  years: readonly SchoolYear[],
  daysOf: (year: SchoolYear) => readonly string[],
  classes: RawBuilder<unknown>,
): Promise<HeldLessons> {
  const timetables = await db
    .selectFrom('timetable')
    .select(['id', 'firstDay', 'lastDay', 'cycle', 'cycleDays'])
    .execute()
  const placed = years.flatMap((year) =>
    daysOf(year).flatMap((day) =>
      timetables.flatMap((t) => {
        const n = cycleDay(t, year, day)
        return n === undefined ? [] : [{ day, id: t.id, n }]
      }),
    ),
  )
  return sql`
    with running as materialized (
      select t.class_id, w.first_day, w.last_day from class_term t
      join term w on w.school_id = t.school_id and w.id = t.term_id ${classes}
    )
    select l.class_id, d.day, l.period, p.starts
    from unnest(${placed.map((p) => p.day)}::date[], ${placed.map((p) => p.id)}::uuid[], ${placed.map((p) => p.n)}::int[])
      as d(day, timetable_id, cycle_day)
    join lesson l on l.timetable_id = d.timetable_id and l.cycle_day = d.cycle_day and l.days @> d.day
    join timetable_period p on p.school_id = l.school_id and p.timetable_id = l.timetable_id and p.number = l.period
    join running r on r.class_id = l.class_id and d.day between r.first_day and r.last_day
    where not exists (select 1 from lesson_change x where x.school_id = l.school_id and x.class_id = l.class_id
      and x.on_date = d.day and x.period = l.period and x.cancelled)`
}

/** All lessons that take place between two dates, whichever registers their year groups take now. */
export const lessonsPlaced = (
  context: Context,
  years: readonly SchoolYear[],
  from: string,
  to: string,
): Promise<HeldLessons> => placedOn(context, years, (year) => schoolDays(year, from, to), sql``)

/**
 * The lessons held on some days, of classes whose year group takes registers in them: as the timetables in use have
 * them, without those cancelled.
 * @param days school days of the year
 * @returns a select of `class_id`, `day`, `period` and the time of day at which it `starts`
 */
export const lessonsHeld = (
  context: Context,
  year: SchoolYear,
  days: readonly string[],
): Promise<HeldLessons> =>
  placedOn(
    context,
    [year],
    () => days,
    sql`join class c on c.school_id = t.school_id and c.id = t.class_id
      join course k on k.school_id = c.school_id and k.id = c.course_id
      join year_group g on g.school_id = k.school_id and g.id = k.year_group_id and g.registers <> 'half-days'`,
  )

interface Slot {
  readonly date: string
  readonly period: number
}

/** The lessons of a class before and after one, as days and sessions; undefined where the timetable has none. */
export async function nearestLessons(
  { db }: Context,
  classId: string,
  at: Slot,
): Promise<Record<'previous' | 'next', { readonly date: string; readonly session: string } | undefined>> {
  const [year, timetable] = await Promise.all([loadYear(db, at.date), timetableOn(db, at.date)])
  if (!year || !timetable) return { previous: undefined, next: undefined }
  const slots = await db
    .selectFrom('lesson')
    .select(['cycleDay', 'period'])
    .select([
      sql<string | null>`lower(days)::text`.as('from'),
      sql<string | null>`upper(days)::text`.as('until'),
    ])
    .where('timetableId', '=', timetable.id)
    .where('classId', '=', classId)
    .orderBy('period')
    .execute()
  const of = (date: string | undefined, direction: 1 | -1): Slot | undefined => {
    if (date === undefined) return undefined
    const n = cycleDay(timetable, year, date)
    const own = slots
      .filter((l) => l.cycleDay === n && (l.from ?? date) <= date && (l.until === null || date < l.until))
      .map(({ period }) => ({ date, period }))
      .filter((s) => s.date !== at.date || (direction === 1 ? s.period > at.period : s.period < at.period))
    return direction === 1 ? own[0] : own.at(-1)
  }
  const look = (direction: 1 | -1) => {
    let date: string | undefined = at.date
    // A class without a lesson in a whole cycle has none.
    for (let left = timetable.cycleDays + 1; date !== undefined && left > 0; left--) {
      const found = of(date, direction)
      if (found) return { date: found.date, session: String(found.period) }
      date = nearestSchoolDay(year, date, direction)
    }
    return undefined
  }
  return { previous: look(-1), next: look(1) }
}
