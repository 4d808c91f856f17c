import { sql } from 'kysely'
import { dayKind } from '@/core/calendar/school-year'
import { lessonChangeInput } from '@/core/timetable/inputs'
import type { Context } from '@/server/platform/context'
import { defineCommand } from '@/server/platform/define'
import { updateIfUnchanged } from '@/server/platform/write'
import { loadYear } from '@/server/school/load-year'
import { marksOfLesson } from '@/server/school/registers-taken'
import { sessionsMoved } from '@/server/school/sessions-moved'
import { coverTopic, lessonTopic, lessonsTopic } from '@/server/school/topics'
import { goneBy } from '@/server/school/leaving-staff'
import { lessonsOnDay } from './on-day'
import { arrangeLessons } from './rights'
import { refuse, refuseField } from './messages'

const topicsOf = ({ classId }: { classId: string }) => [lessonsTopic(), lessonTopic(classId), coverTopic()]

/** Arranges one lesson of one day: who covers it, another room, or that it is cancelled. */
export const changeLesson = defineCommand({
  input: lessonChangeInput,
  right: arrangeLessons,
  undo: {
    days: 30,
    whenChangedSince: 'stop',
    topics: topicsOf,
    after: (context: Context, { date }: { date: string }) => sessionsMoved(context, date, date),
  },
  run: async (context, { classId, date, period, expectedVersion: version, confirmed, ...asked }) => {
    const { db, actor, now } = context
    // Two who arrange the same day come one after the other, so that nobody is given two lessons at once unseen.
    await sql`select pg_advisory_xact_lock(hashtextextended(${`lessons ${actor.schoolId} ${date}`}, 5))`.execute(
      db,
    )
    const [year, { lessons }] = await Promise.all([loadYear(db, date), lessonsOnDay(context, date)])
    const lesson = lessons.find((l) => l.classId === classId && l.period === period)
    if (!lesson || !year || dayKind(year, date).kind !== 'school day') throw refuse('noLesson', { date })
    const { cancelled, staffId = null, roomId = null, note } = asked
    const gone = staffId && !cancelled ? await goneBy(context, [staffId], date) : undefined
    if (gone) throw refuseField('staffId', 'staffGone', gone)
    if (!confirmed && !cancelled) {
      const { rows } = await sql<{ name: string | null; teaches: readonly string[] }>`
        select (select given_name || ' ' || family_name from staff_member where id = ${staffId}::uuid) as name,
          array(select t.class_id::text from class_teacher t where t.staff_id = ${staffId}::uuid and t.period @> ${date}::date) as teaches`.execute(
        db,
      )
      const teaches = new Set(rows[0]?.teaches)
      const at = lessons.filter((l) => l.period === period && l.classId !== classId && !l.cancelled)
      const taught = at.find(
        (l) => staffId !== null && (l.coverId === staffId || (l.coverId === null && teaches.has(l.classId))),
      )
      if (taught)
        throw refuseField('confirmed', 'clash', {
          words: `${rows[0]?.name ?? 'This person'} has ${taught.name} in this period.`,
        })
      const inRoom = at.find((l) => roomId !== null && l.roomId === roomId)
      if (inRoom)
        throw refuseField('confirmed', 'clash', {
          words: `${inRoom.name} is in ${inRoom.room ?? 'this room'} in this period.`,
        })
    }
    if (cancelled && !confirmed && !lesson.cancelled) {
      const marks = await marksOfLesson(context, { classId, date, period })
      if (marks > 0) throw refuseField('confirmed', 'marksAreKept', { marks })
    }
    const columns = { cancelled, staffId, roomId, note, changedBy: actor.name, changedAt: now }
    const key = { classId, onDate: date, period }
    const made =
      version === 0
        ? await db
            .insertInto('lessonChange')
            .values({ schoolId: actor.schoolId, ...key, ...columns })
            .onConflict((c) => c.doNothing())
            .returning('version')
            .executeTakeFirst()
        : undefined
    if (!made)
      await updateIfUnchanged(context, 'lessonChange', key, version, columns, { what: 'this lesson' })
    if (!cancelled && !staffId && !roomId && !note)
      await db
        .deleteFrom('lessonChange')
        .where('classId', '=', classId)
        .where('onDate', '=', date)
        .where('period', '=', period)
        .execute()
    await sessionsMoved(context, date, date)
    context.changed(...topicsOf({ classId }))
    return null
  },
})
