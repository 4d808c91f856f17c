/* eslint-disable no-await-in-loop -- parts of a large act, one after the other */
import { sql } from 'kysely'
import { z } from 'zod'
import { correctionInput } from '@/core/attendance/inputs'
import type { Meaning } from '@/core/attendance/codes'
import { sessionsBegun } from '@/core/attendance/sessions'
import { daysBetween, schoolDays } from '@/core/calendar/school-year'
import { civilDate } from '@/core/inputs'
import { limits } from '@/core/limits'
import { localTime } from '@/server/platform/clock'
import type { Context } from '@/server/platform/context'
import { defineCommand, defineQuery } from '@/server/platform/define'
import { notFound, Refusal } from '@/server/platform/failure'
import { yearsBetween } from '@/server/school/load-year'
import { holdStill } from '@/server/school/one-at-a-time'
import {
  codesTopic,
  homeroomTopic,
  lessonTopic,
  lessonsTopic,
  registersTopic,
  rollTopic,
} from '@/server/school/topics'
import { codesOn } from './codes-on'
import { correctMarks } from './rights'
import { refuse, refuseField } from './messages'

interface Correctable {
  readonly id: string
  readonly name: string
  readonly number: number
  readonly yearGroup: string
  readonly homeroom: string
  readonly transport: string | null
  readonly groups: readonly string[]
  /** Their marks of the day, as they stand in its registers. */
  readonly morning: string | null
  readonly afternoon: string | null
}

/** Everyone in a homeroom on a date, with their marks of that day and what they can be chosen by. */
export const correctable = defineQuery({
  input: z.object({ date: civilDate }),
  right: correctMarks,
  topics: () => [codesTopic(), registersTopic(), rollTopic()],
  run: async (context, { date }) => {
    const { db } = context
    const [codes, { rows: students }] = await Promise.all([
      codesOn(context, date),
      sql<Correctable>`
        with mark as (
          select m.student_id, max(c.code) filter (where m.session = 'morning') as morning,
            max(c.code) filter (where m.session = 'afternoon') as afternoon
          from attendance_mark m join attendance_code c on c.school_id = m.school_id and c.id = m.code_id
          where m.session_date = ${date} group by m.student_id
        ), in_group as (
          select a.student_id, array_agg(x.name order by x.name) as names from analysis_group_member a
          join analysis_group x on x.school_id = a.school_id and x.id = a.group_id
          where a.period @> ${date}::date group by a.student_id
        )
        select s.id, s.sort_name as name, s.number, g.name as year_group, h.name as homeroom, s.transport,
          coalesce(i.names, '{}') as groups, k.morning, k.afternoon
        from homeroom_member m join student s on s.school_id = m.school_id and s.id = m.student_id
        join homeroom h on h.school_id = m.school_id and h.id = m.homeroom_id
        join year_group g on g.school_id = h.school_id and g.id = h.year_group_id
        left join mark k on k.student_id = s.id left join in_group i on i.student_id = s.id
        where m.period @> ${date}::date order by s.sort_name, s.number`.execute(db),
    ])
    return { codes: codes.map(({ id, code, label, meaning }) => ({ id, code, label, meaning })), students }
  },
})

/** The sessions of the days that have begun; today's afternoon cannot be marked in the morning. */
async function begunSessions(
  { db, today, actor }: Context,
  { firstDay, lastDay, sessions }: Pick<z.infer<typeof correctionInput>, 'firstDay' | 'lastDay' | 'sessions'>,
) {
  if (lastDay > today) throw refuseField('lastDay', 'future', { date: lastDay })
  // Holidays before a year or after it belong to none; days of school in two years are corrected one after the other.
  const years = (await yearsBetween(db, firstDay, lastDay)).filter(
    (year) => schoolDays(year, firstDay, lastDay).length > 0,
  )
  const [year, next] = years
  if (year && next) throw refuseField('lastDay', 'pastYear', { year: year.name, lastDay: year.lastDay })
  const days = year ? schoolDays(year, firstDay, lastDay) : []
  if (days.length === 0) throw refuseField('firstDay', 'noSchoolDays', { firstDay, lastDay })
  const begun = sessionsBegun(localTime(actor.timeZone).time)
  const halfDays = sessions.filter((s) => s !== 'lessons')
  return {
    days,
    slots: days.flatMap((day) =>
      halfDays.filter((s) => day < today || begun.includes(s)).map((session) => ({ day, session })),
    ),
  }
}

/** The code of each day, by its name: a correction may reach over the start of another set. */
async function codeOfDays({ db }: Context, codeId: string, days: readonly string[]) {
  const { rows } = await sql<{ code: string; day: string; codeId: string | null; meaning: Meaning }>`
    select o.code, d.day::text, n.id as code_id, n.meaning from attendance_code o cross join unnest(${days}::date[]) as d(day)
    left join attendance_code_set s on s.school_id = o.school_id and d.day between s.first_day and coalesce(s.last_day, 'infinity')
    left join attendance_code n on n.school_id = s.school_id and n.set_id = s.id and n.code = o.code
    where o.id = ${codeId} order by d.day`.execute(db)
  const missing = rows.find((r) => r.codeId === null)
  if (missing) throw refuseField('codeId', 'codeMissingOn', { code: missing.code, date: missing.day })
  const [first] = days
  if (rows.length === 0) throw refuseField('codeId', 'codeNotInUse', { date: first ?? '' })
  return rows
}

type Marked = Pick<z.infer<typeof correctionInput>, 'studentIds' | 'note' | 'reason' | 'replace'> & {
  readonly codes: readonly { readonly day: string; readonly codeId: string | null }[]
}

/**
 * Marks of lessons that were taken already. A lesson that is still to be taken needs no correction: its register takes
 * over what the half-day says.
 */
async function correctLessons(context: Context, { studentIds, codes, note, reason, replace }: Marked) {
  const { db, actor, now } = context
  const of = sql`m.class_id is not null and m.student_id = any(${studentIds}::uuid[]) and m.session_date = k.day`
  const asked = sql`jsonb_to_recordset(${JSON.stringify(codes)}::jsonb) as k(day date, "codeId" uuid)`
  const { rows: all } = await sql<{
    n: number
  }>`select count(*)::int as n from attendance_mark m, ${asked} where ${of}`.execute(db)
  const { rows } = await sql<{ classId: string }>`
    update attendance_mark m set code_id = k."codeId", minutes_late = null, note = coalesce(${note}::text, m.note),
      reason = ${reason}, changed_by = ${actor.name}, changed_at = ${now}
    from ${asked} where ${of} and (m.code_id is null or (${replace} and m.code_id is distinct from k."codeId"))
    returning m.class_id`.execute(db)
  if (rows.length > 0)
    context.changed(lessonsTopic(), ...[...new Set(rows.map((r) => r.classId))].map(lessonTopic))
  return { changed: rows.length, kept: (all[0]?.n ?? 0) - rows.length }
}

type Slot = Awaited<ReturnType<typeof begunSessions>>['slots'][number]

/** Marks of half-days, in one statement. */
async function correctHalfDays(
  context: Context,
  { studentIds, codes, note, reason, replace, slots }: Marked & { readonly slots: readonly Slot[] },
) {
  const { db, actor, now } = context
  const { rows } = await sql<{ asked: number; changed: number; homerooms: readonly string[] | null }>`
    with asked as (
      select r.student_id, r.homeroom_id, x.day, x.session, k."codeId" as code_id
      from jsonb_to_recordset(${JSON.stringify(slots)}::jsonb) as x(day date, session text)
      join jsonb_to_recordset(${JSON.stringify(codes)}::jsonb) as k(day date, "codeId" uuid) on k.day = x.day
      join homeroom_member r on r.period @> x.day and r.student_id = any(${studentIds}::uuid[])
    ), marked as (
      insert into attendance_mark as m (school_id, student_id, session_date, session, homeroom_id, code_id, note, reason,
        changed_by, changed_at)
      select ${actor.schoolId}, a.student_id, a.day, a.session, a.homeroom_id, a.code_id, ${note}::text, ${reason}::text,
        ${actor.name}, ${now}
      from asked a
      on conflict (school_id, student_id, session_date, session) do update
        set code_id = excluded.code_id, minutes_late = null, note = coalesce(excluded.note, m.note), reason = excluded.reason,
          changed_by = excluded.changed_by, changed_at = excluded.changed_at
        where m.code_id is null or (${replace} and m.code_id is distinct from excluded.code_id)
      returning homeroom_id
    )
    select (select count(*)::int from asked) as asked, count(*)::int as changed, array_agg(distinct homeroom_id) as homerooms
    from marked`.execute(db)
  const { asked = 0, changed = 0, homerooms } = rows[0] ?? {}
  if (homerooms) context.changed(registersTopic(), ...homerooms.map(homeroomTopic))
  return { changed, kept: asked - changed }
}

interface Corrected {
  readonly changed: number
  readonly kept: number
}

/** A day of lessons has about as many marks of one student. */
const lessonsOfDay = 5

/**
 * Goes through half-days or days in parts of as many marks as one statement writes, with progress.
 * @param marks about how many marks one of them has
 */
async function inParts<T>(
  { progress }: Context,
  all: readonly T[],
  { marks, before, total }: { readonly marks: number; readonly before: number; readonly total: number },
  step: (part: readonly T[]) => Promise<Corrected>,
): Promise<Corrected> {
  const atOnce = Math.max(1, Math.floor(limits.actAtOnce / marks))
  let changed = 0
  let kept = 0
  for (let from = 0; from < all.length; from += atOnce) {
    await progress(before + from * marks, total)
    const done = await step(all.slice(from, from + atOnce))
    changed += done.changed
    kept += done.kept
  }
  return { changed, kept }
}

/**
 * Gives many students the same mark in many sessions, only on days on which they are in a homeroom. Marks that exist
 * are kept unless they are to be replaced.
 * @returns how many marks were entered or changed, and how many were kept
 */
export const correct = defineCommand({
  input: correctionInput,
  right: correctMarks,
  needsNoVersion: 'after a preview, whose fingerprint it takes',
  undo: { days: 30, whenChangedSince: 'leave', topics: () => [registersTopic()] },
  large: {
    // Every half-day may be one of school; whether it is shows when it is done.
    rows: ({ today }, { studentIds, firstDay, lastDay, sessions }) =>
      Promise.resolve(
        studentIds.length *
          Math.ceil((daysBetween(firstDay, lastDay < today ? lastDay : today) + 1) * (5 / 7)) *
          sessions.reduce((sum, session) => sum + (session === 'lessons' ? lessonsOfDay : 1), 0),
      ),
    title: async ({ db }, { codeId, studentIds }) => {
      const code = await db
        .selectFrom('attendanceCode')
        .select('code')
        .where('id', '=', codeId)
        .executeTakeFirst()
      return `${code?.code ?? 'A code'} for ${studentIds.length} students`
    },
  },
  run: async (context, { studentIds, codeId, note, reason, replace, ...span }) => {
    const { db } = context
    const found = await db.selectFrom('student').select('id').where('id', 'in', studentIds).execute()
    if (found.length < new Set(studentIds).size) throw new Refusal(notFound)
    await holdStill(context, 'attendanceCodeSet')
    const { days, slots } = await begunSessions(context, span)
    const ofLessons = span.sessions.includes('lessons')
    if (slots.length === 0 && !ofLessons) throw refuse('notBegun', { date: span.firstDay })
    const codes = await codeOfDays(context, codeId, ofLessons ? days : [...new Set(slots.map((s) => s.day))])
    const half = { marks: studentIds.length, before: 0 }
    const whole = { marks: studentIds.length * lessonsOfDay, before: slots.length * half.marks }
    const total = whole.before + (ofLessons ? days.length * whole.marks : 0)
    const marked = { studentIds, note, reason, replace, codes }
    const done = await inParts(context, slots, { ...half, total }, (part) =>
      correctHalfDays(context, { ...marked, slots: part }),
    )
    const lessons = await inParts(context, ofLessons ? codes : [], { ...whole, total }, (part) =>
      correctLessons(context, { ...marked, codes: part }),
    )
    return { changed: done.changed + lessons.changed, kept: done.kept + lessons.kept }
  },
})
