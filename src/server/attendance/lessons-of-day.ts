import { sql } from 'kysely'
import { lessonsOfDayInput } from '@/core/timetable/inputs'
import { lessonBegun, presentLesson } from '@/core/timetable/timetable'
import { localTime } from '@/server/platform/clock'
import type { Context } from '@/server/platform/context'
import { defineQuery, type DueItem } from '@/server/platform/define'
import { once } from '@/server/platform/once'
import { lessonsTopic, rollTopic, timetableTopic } from '@/server/school/topics'
import { arrangeLessons, lessonsOnDay, type DayLesson } from '@/server/timetable'
import { ownTopics } from './own-topics'
import { remindedWords, type Noted } from './reminded'
import { remindTeachers, seeRegisters } from './rights'

/** A lesson of a day, with how many of its roll are marked. */
export type LessonState = DayLesson & {
  readonly marked: number
  readonly begun: boolean
  readonly reminded: Noted | undefined
}

/** The lessons of a date with the state of their registers; a mark that lacks what its code asks for is not complete. */
export function lessonStates(context: Context, date: string, only: { readonly own?: boolean } = {}) {
  return once(context, `lesson states ${date} ${only.own ?? false}`, () => readStates(context, date, only))
}

async function readStates(context: Context, date: string, only: { readonly own?: boolean }) {
  const { db, actor, today } = context
  const { lessons, ...day } = await lessonsOnDay(context, date, only)
  const ofThem = only.own ? sql`x.class_id = any(${lessons.map((l) => l.classId)}::uuid[])` : sql`true`
  const { rows } = await sql<{ classId: string; session: string; n: number } & Partial<Noted>>`
    select x.class_id, x.session, count(*)::int as n, null as by, null as at from attendance_mark x
    join attendance_code c on c.school_id = x.school_id and c.id = x.code_id
      and (not c.needs_minutes or x.minutes_late is not null) and (not c.needs_note or x.note is not null)
    -- One look for each mark: read as a whole, the members of all classes take longer than the marks of a day.
    cross join lateral (select 1 from class_member m where m.school_id = x.school_id and m.class_id = x.class_id
      and m.student_id = x.student_id and m.period @> x.session_date limit 1) m
    where x.session_date = ${date} and x.class_id is not null and ${ofThem} group by x.class_id, x.session
    union all select * from (
      select distinct on (x.class_id, x.session) x.class_id, x.session, 0, x.reminded_by, x.reminded_at
      from register_reminder x where x.session_date = ${date} and x.class_id is not null and ${ofThem}
      order by x.class_id, x.session, x.reminded_at desc) r`.execute(db)
  const reminded = new Map<string, Noted>()
  const count = new Map<string, number>()
  for (const { classId, session, n, by, at } of rows)
    if (by && at) reminded.set(`${classId} ${session}`, { by, at })
    else count.set(`${classId} ${session}`, n)
  const { time } = localTime(actor.timeZone)
  return {
    ...day,
    lessons: lessons.map((lesson): LessonState => ({
      ...lesson,
      marked: count.get(`${lesson.classId} ${lesson.period}`) ?? 0,
      reminded: reminded.get(`${lesson.classId} ${lesson.period}`),
      begun: date < today || (date === today && lessonBegun(lesson, time)),
    })),
  }
}

/** All lessons of a date, whose they are and which registers are taken; with what cover can be chosen from. */
export const lessonsOfDay = defineQuery({
  input: lessonsOfDayInput,
  right: seeRegisters,
  topics: () => [lessonsTopic(), timetableTopic(), rollTopic()],
  run: async (context, { date }) => {
    const { db } = context
    const [states, mayArrange, mayRemind] = await Promise.all([
      lessonStates(context, date),
      context.may(arrangeLessons, {}),
      context.may(remindTeachers, {}),
    ])
    const [rooms, { rows: staff }] = await Promise.all([
      mayArrange ? db.selectFrom('room').select(['id', 'name']).orderBy('name').execute() : [],
      sql<{
        id: string
        name: string
      }>`select f.id, f.sort_name as name from staff_member f where ${mayArrange}
        order by f.sort_name`.execute(db),
    ])
    return { ...states, mayArrange, mayRemind, rooms, staff }
  },
})

const isOpen = (lesson: LessonState) => lesson.register && !lesson.cancelled && lesson.marked < lesson.onRoll

const hrefOf = (date: string, { classId, period }: DayLesson) =>
  `/classes/${classId}/register?session=${period}&date=${date}`

/** The lesson registers that are due on a day: the person's own that have begun, the present one first. */
export function lessonsDue(
  date: string,
  lessons: readonly LessonState[],
  time: string | undefined,
): readonly DueItem[] {
  const open = lessons.filter((l) => l.own && l.begun && isOpen(l))
  const now = time === undefined ? undefined : presentLesson(open, time)
  const ordered = now ? [now, ...open.filter((l) => l !== now)] : open
  return ordered.map((lesson) => ({
    what: `${lesson.name}, period ${lesson.period} register`,
    detail:
      (lesson.marked === 0
        ? `${lesson.onRoll} on roll, not started`
        : `${lesson.onRoll - lesson.marked} of ${lesson.onRoll} not marked`) +
      (lesson.cover ? `, cover for ${lesson.teacher ?? 'no teacher'}` : '') +
      remindedWords(lesson.reminded),
    href: hrefOf(date, lesson),
    due: `from ${lesson.starts}`,
    overdue: false,
    act: 'Take the register',
  }))
}

/** For those who look after all registers: in one line, the lessons over or under way whose registers are not complete. */
export function openLessons(date: string, lessons: readonly LessonState[]): readonly DueItem[] {
  const open = lessons.filter((l) => l.begun && isOpen(l))
  if (open.length === 0) return []
  const names = open.slice(0, 4).map((l) => `${l.name}, period ${l.period}`)
  return [
    {
      what:
        open.length === 1
          ? '1 lesson register is not complete'
          : `${open.length} lesson registers are not complete`,
      detail: names.join('; ') + (open.length > 4 ? ` and ${open.length - 4} more` : ''),
      href: `/attendance/lessons?date=${date}`,
      due: 'today',
      overdue: false,
      act: 'View lessons',
      count: open.length,
    },
  ]
}

/** The actor's own lessons of a date in order, those to come too. */
export const ownLessons = defineQuery({
  input: lessonsOfDayInput,
  right: seeRegisters,
  topics: ownTopics,
  run: async (context, { date }) => {
    const { lessons: own, cycleDay } = await lessonStates(context, date, { own: true })
    const { time } = localTime(context.actor.timeZone)
    const now =
      date === context.today
        ? presentLesson(
            own.filter((l) => !l.cancelled),
            time,
          )
        : undefined
    return {
      cycleDay,
      /** The lesson under way or next: its class and period. */
      present: now && `${now.classId} ${now.period}`,
      lessons: own,
    }
  },
})
