import { sql } from 'kysely'
import { z } from 'zod'
import { sessionsBegun, type HalfDay } from '@/core/attendance/sessions'
import { dayKind } from '@/core/calendar/school-year'
import { localTime } from '@/server/platform/clock'
import type { Context } from '@/server/platform/context'
import { defineQuery, type DueItem, type DueSource } from '@/server/platform/define'
import { civilDate } from '@/core/inputs'
import { homeroomTeachersListed, isHomeroomTeacherOf } from '@/server/school/facts'
import { loadYear } from '@/server/school/load-year'
import { registersTopic } from '@/server/school/topics'
import { remindedWords, remindersOf, type Noted } from './reminded'
import { ownTopics } from './own-topics'
import { lessonsDue, lessonStates, openLessons } from './lessons-of-day'
import { remindTeachers, seeRegisters, watchRegisters } from './rights'

interface DayRegister {
  readonly id: string
  readonly name: string
  readonly teacher: string | null
  readonly own: boolean
  readonly onRoll: number
  readonly morning: number
  readonly afternoon: number
  /** When the first mark of a session was entered, and who was asked to complete it. */
  readonly begun: Partial<Record<HalfDay, Noted>>
  readonly reminded: Partial<Record<HalfDay, Noted>>
}

/** When the first mark of each session was entered, and by whom. */
const begunAt = (date: string) => sql`
  (select coalesce(jsonb_object_agg(b.session, jsonb_build_object('by', b.changed_by, 'at', b.changed_at)), '{}') from (
        select distinct on (x.session) x.session, x.changed_by, x.changed_at from attendance_mark x
        where x.school_id = h.school_id and x.homeroom_id = h.id and x.session_date = ${date} and x.code_id is not null
        order by x.session, x.changed_at) b)`

/**
 * Registers of a day with how many are on roll and how many of them are marked in each half, wherever that was; a mark
 * that lacks the minutes or the note its code asks for is not complete.
 * @param begun also since when each is begun
 * @param own those of the actor's homerooms alone
 */
export async function registersOf(
  { db, actor }: Context,
  date: string,
  { begun = false, own = false } = {},
): Promise<readonly DayRegister[]> {
  const { rows } = await sql<DayRegister>`
    with roll as (
      select m.homeroom_id, count(distinct m.student_id)::int as n,
        (count(*) filter (where x.session = 'morning'))::int as morning, (count(*) filter (where x.session = 'afternoon'))::int as afternoon
      from homeroom_member m left join attendance_mark x
        on x.school_id = m.school_id and x.student_id = m.student_id and x.session_date = ${date}
          and exists (select 1 from attendance_code c where c.school_id = x.school_id and c.id = x.code_id
            and (not c.needs_minutes or x.minutes_late is not null) and (not c.needs_note or x.note is not null))
      where m.period @> ${date}::date
        and ${own ? isHomeroomTeacherOf(sql.ref('m.homeroom_id'), actor.staffId, date) : sql`true`} group by m.homeroom_id
    )
    select h.id, h.name, roll.n as on_roll, roll.morning, roll.afternoon,
      ${begun ? begunAt(date) : sql`'{}'::jsonb`} as begun,
      ${remindersOf('homeroom_id', 'h.id', date)} as reminded,
      ${homeroomTeachersListed('h.id', date)} as teacher, ${isHomeroomTeacherOf(sql.ref('h.id'), actor.staffId, date)} as own
    from homeroom h join roll on roll.homeroom_id = h.id
    join year_group g on g.school_id = h.school_id and g.id = h.year_group_id and g.registers <> 'lessons'
    order by g.position, h.name`.execute(db)
  return rows
}

/** The day's registers of every homeroom: which are taken and which have gaps. */
export const registersOfDay = defineQuery({
  input: z.object({ date: civilDate }),
  right: seeRegisters,
  topics: () => [registersTopic()],
  run: async (context, { date }) => {
    const [year, open, mayRemind] = await Promise.all([
      loadYear(context.db, date),
      registersOf(context, date, { begun: true }),
      context.may(remindTeachers, {}),
    ])
    return {
      day: year && dayKind(year, date),
      registers: open,
      /** The half-days of the date that have begun. */
      begun:
        date < context.today
          ? (['morning', 'afternoon'] as const)
          : date > context.today
            ? []
            : sessionsBegun(localTime(context.actor.timeZone).time),
      mayRemind,
    }
  },
})

const dueOf = (r: DayRegister, session: HalfDay): DueItem => ({
  what: `${r.name}, ${session} register`,
  detail:
    (r[session] === 0
      ? `${r.onRoll} on roll, not started`
      : `${r.onRoll - r[session]} of ${r.onRoll} not marked`) + remindedWords(r.reminded[session]),
  href: `/attendance/registers/${r.id}?session=${session}`,
  due: `this ${session}`,
  overdue: false,
  act: 'Take the register',
})

function openRegisters(open: readonly DayRegister[], session: 'morning' | 'afternoon'): DueItem {
  const names = open.slice(0, 6).map((r) => r.name)
  return {
    what:
      open.length === 1
        ? `1 ${session} register is not complete`
        : `${open.length} ${session} registers are not complete`,
    detail: names.join(', ') + (open.length > 6 ? ` and ${open.length - 6} more` : ''),
    href: `/attendance/registers?session=${session}`,
    due: `this ${session}`,
    overdue: false,
    act: 'View registers',
    count: open.length,
  }
}

/** Registers of today that are not complete: the person's own, and for the office all in one line. */
export const registersDue: DueSource = {
  first: true,
  topics: ownTopics,
  items: async (context, date) => {
    const watches = await context.may(watchRegisters, {})
    const [year, all, { lessons }] = await Promise.all([
      loadYear(context.db, date),
      // Asked for with every page: who looks after their own alone needs no others.
      registersOf(context, date, { own: !watches }),
      lessonStates(context, date, { own: !watches }),
    ])
    if (!year || dayKind(year, date).kind !== 'school day') return []
    const { time } = localTime(context.actor.timeZone)
    const halfDays = sessionsBegun(time).flatMap((session) => {
      const open = all.filter((r) => r[session] < r.onRoll)
      const mine = open.filter((r) => r.own).map((r) => dueOf(r, session))
      return watches && open.length > 0 ? [...mine, openRegisters(open, session)] : mine
    })
    return [
      ...halfDays,
      ...lessonsDue(date, lessons, date === context.today ? time : undefined),
      ...(watches ? openLessons(date, lessons) : []),
    ]
  },
}
