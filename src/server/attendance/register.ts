import { sql } from 'kysely'
import { sessionsBegun } from '@/core/attendance/sessions'
import { dayKind, nearestSchoolDay, schoolDays } from '@/core/calendar/school-year'
import { localTime } from '@/server/platform/clock'
import type { Context } from '@/server/platform/context'
import { defineQuery } from '@/server/platform/define'
import { loadYear } from '@/server/school/load-year'
import { codesTopic, homeroomTopic } from '@/server/school/topics'
import { halfDayStarts, type DayLesson } from '@/server/timetable'
import { codesOn } from './codes-on'
import { plannedOn } from './planned'
import { registerRows, type RegisterSession } from './register-rows'
import { endPlans, markRegister, planAbsences, watchRegisters } from './rights'
import { rollOn, sessionInput, type RollRow } from './roll'

/** The homeroom's recent half-days before a session, oldest first, at most twenty. */
function recentSessions(days: readonly string[], date: string, of: 'morning' | 'afternoon') {
  const before = days.flatMap((day) => [
    { date: day, session: 'morning' as const },
    { date: day, session: 'afternoon' as const },
  ])
  return before
    .filter((s) => s.date < date || (s.date === date && s.session === 'morning' && of === 'afternoon'))
    .slice(-20)
}

/** What a lesson's register says of the lesson itself. */
export type LessonNow = Pick<
  DayLesson,
  'starts' | 'ends' | 'room' | 'teacher' | 'cover' | 'cancelled' | 'note'
>

/** Codes of a date as a register offers them. Marks of the office are shown to everyone; a teacher cannot enter them. */
export async function registerCodes(context: Context, date: string) {
  const [codes, office] = await Promise.all([codesOn(context, date), context.may(watchRegisters, {})])
  return codes.map(({ officeOnly, ...code }) => ({ ...code, usable: office || !officeOnly }))
}

/** A homeroom's register for one half-day: who is on roll that date in name order, their marks, and their last twenty half-days. */
export const register = defineQuery({
  input: sessionInput,
  right: markRegister,
  topics: (_context, { homeroomId }) => [homeroomTopic(homeroomId), codesTopic()],
  run: async (context, { homeroomId, date, session: half }) => {
    const { db, today, actor } = context
    const [{ registers, ...homeroom }, year, codes, starts, { rows: roll }, mayPlan, mayEnd] =
      await Promise.all([
        db
          .selectFrom('homeroom as h')
          .innerJoin('yearGroup as g', (j) =>
            j.onRef('g.schoolId', '=', 'h.schoolId').onRef('g.id', '=', 'h.yearGroupId'),
          )
          .select(['h.id', 'h.name', 'g.registers'])
          .where('h.id', '=', homeroomId)
          .executeTakeFirstOrThrow(),
        loadYear(db, date),
        registerCodes(context, date),
        halfDayStarts(context, date),
        sql<RollRow>`select * from (${rollOn(homeroomId, date)}) r order by name, number`.execute(db),
        context.may(planAbsences, {}),
        context.may(endPlans, { homeroomId }),
      ])
    const sessions = year ? recentSessions(schoolDays(year, year.firstDay, date), date, half) : []
    const begun =
      date < today || (date === today && sessionsBegun(localTime(actor.timeZone).time).includes(half))
    const known = plannedOn(date, half)
    return {
      place: homeroom,
      date,
      session: half as string,
      /** Whether registers are taken in such sessions: not in half-days where a year group takes lessons alone. */
      taken: registers !== 'lessons',
      day: year && dayKind(year, date),
      begun,
      /** Whether the actor ends a planned absence of somebody who is here. */
      mayEndPlans: mayPlan || (date === today && mayEnd),
      /** When the session starts, where the timetable says so. */
      starts: starts[half],
      lesson: null as LessonNow | null,
      nearest: {
        previous: year && nearest(nearestSchoolDay(year, date, -1), half),
        next: year && nearest(nearestSchoolDay(year, date, 1), half),
      },
      codes,
      sessions: sessions as readonly RegisterSession[],
      rows: await registerRows(context, { date, session: half, year, roll, recent: sessions, known }),
    }
  },
})

const nearest = (date: string | undefined, session: string): RegisterSession | undefined =>
  date === undefined ? undefined : { date, session }
