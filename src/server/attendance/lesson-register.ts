import { sql } from 'kysely'
import { z } from 'zod'
import { lessonInput } from '@/core/timetable/inputs'
import { halfOf, lessonBegun, presentLesson } from '@/core/timetable/timetable'
import { localTime } from '@/server/platform/clock'
import { defineQuery } from '@/server/platform/define'
import { loadYear } from '@/server/school/load-year'
import { codesTopic, lessonTopic, timetableTopic } from '@/server/school/topics'
import { lessonsOnDay, nearestLessons } from '@/server/timetable'
import { knownInLesson } from './known-in-lesson'
import { registerCodes, type LessonNow } from './register'
import { registerRows, type RegisterSession } from './register-rows'
import { endPlansInLesson, markLesson, planAbsences } from './rights'
import { classRollOn, type RollRow } from './roll'

/** The register of a lesson: who is in the class on that date, their marks, and their last twenty lessons in it. */
export const lessonRegister = defineQuery({
  // Without a session it is the class's present or next lesson of the day, else its last.
  input: lessonInput.extend({ session: lessonInput.shape.session.nullish().or(z.literal('')) }),
  right: markLesson,
  topics: (_context, { classId }) => [lessonTopic(classId), codesTopic(), timetableTopic()],
  run: async (context, { classId, date, session: asked }) => {
    const { db, today, actor } = context
    const { day, lessons } = await lessonsOnDay(context, date, { classId })
    const { time } = localTime(actor.timeZone)
    const lesson = asked
      ? lessons.find((l) => String(l.period) === asked)
      : date === today
        ? (presentLesson(lessons, time) ?? lessons.at(-1))
        : lessons[0]
    const session = asked ?? (lesson ? String(lesson.period) : '')
    const period = Number(session)
    const [schoolClass, year, codes, { rows: roll }, { rows: recent }, mayPlan, mayEnd] = await Promise.all([
      db.selectFrom('class').select(['id', 'name']).where('id', '=', classId).executeTakeFirstOrThrow(),
      loadYear(db, date),
      registerCodes(context, date),
      sql<RollRow>`select * from (${classRollOn(classId, date)}) r order by name, number`.execute(db),
      sql<RegisterSession>`select session_date::text as date, session from (
        select distinct session_date, session from attendance_mark
        where class_id = ${classId} and not kept and (session_date, session::int) < (${date}::date, ${period}::int)
        order by session_date desc, session desc limit 20) r order by session_date, session::int`.execute(db),
      context.may(planAbsences, {}),
      context.may(endPlansInLesson, { classId }),
    ])
    const begun = date < today || (date === today && lesson !== undefined && lessonBegun(lesson, time))
    const known = knownInLesson(date, period, halfOf(lesson ?? { starts: '' }))
    return {
      place: schoolClass,
      date,
      session,
      taken: lesson === undefined || lesson.register,
      day,
      begun,
      mayEndPlans: mayPlan || (date === today && mayEnd),
      starts: lesson?.starts,
      lesson: (lesson ?? null) as LessonNow | null,
      nearest: await nearestLessons(context, classId, { date, period }),
      codes,
      sessions: recent as readonly RegisterSession[],
      rows: await registerRows(context, { date, session, year, roll, recent, known }),
    }
  },
})
