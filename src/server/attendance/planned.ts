import { sql, type RawBuilder } from 'kysely'
import { v7 as uuid } from 'uuid'
import { z } from 'zod'
import { plannedInput } from '@/core/attendance/inputs'
import type { HalfDay } from '@/core/attendance/sessions'
import type { Meaning } from '@/core/attendance/codes'
import { addDays } from '@/core/calendar/school-year'
import { civilDate, id, expectedVersion } from '@/core/inputs'
import type { Context } from '@/server/platform/context'
import { defineCommand, defineQuery } from '@/server/platform/define'
import { notFound, Refusal } from '@/server/platform/failure'
import { checkUnchanged, updateIfUnchanged } from '@/server/platform/write'
import { holdStill } from '@/server/school/one-at-a-time'
import {
  absenceReportsTopic,
  codesTopic,
  homeroomTopic,
  lessonTopic,
  registersTopic,
  rollTopic,
} from '@/server/school/topics'
import { checkSchoolDays, type Days } from './check-school-days'
import { codesOn } from './codes-on'
import { confirmReport, waitingReports } from './absence-reports'
import { endPlans, endPlansInLesson, planAbsences } from './rights'
import { classRollOn, rollOn, type RollRow } from './roll'
import { refuse, refuseField } from './messages'

/** An absence planned for a student on one half-day. */
export interface Planned {
  readonly id: string
  readonly studentId: string
  /** The code of its name in the set of that day. */
  readonly codeId: string
  readonly firstDay: string
  readonly lastDay: string
  readonly note: string | null
  readonly version: number
}

/** The absences planned for a half-day, or for a lesson in it, by the codes in use on that day. */
export const plannedOn = (
  date: string,
  session: HalfDay,
  period?: number,
): RawBuilder<Planned> => sql<Planned>`
  select distinct on (p.student_id) p.id, p.student_id, n.id as code_id, p.first_day::text, p.last_day::text, p.note, p.version
  from planned_absence p join attendance_code o on o.school_id = p.school_id and o.id = p.code_id
  join attendance_code_set s on s.school_id = p.school_id and ${date} between s.first_day and coalesce(s.last_day, 'infinity')
  join attendance_code n on n.school_id = s.school_id and n.set_id = s.id and n.code = o.code
  where ${date} between p.first_day and p.last_day and (p.sessions in ('whole day', ${session})
      or (p.sessions = 'lessons' and ${period ?? null}::int between p.first_period and p.last_period))
  order by p.student_id, p.id desc`

/** Planned absences that have not ended before a date, the earliest first, and the codes they can have. */
export const planned = defineQuery({
  input: z.object({ date: civilDate }),
  right: planAbsences,
  topics: () => [codesTopic(), registersTopic(), rollTopic(), absenceReportsTopic()],
  run: async (context, { date }) => {
    const [codes, reported, { rows }] = await Promise.all([
      codesOn(context, date),
      waitingReports(context),
      sql<{
        id: string
        studentId: string
        name: string
        homeroom: string | null
        firstDay: string
        lastDay: string
        sessions: 'whole day' | HalfDay | 'lessons'
        firstPeriod: number | null
        lastPeriod: number | null
        codeId: string
        code: string
        label: string
        note: string | null
        enteredBy: string
        version: number
      }>`
        select p.id, p.student_id, s.sort_name as name, h.name as homeroom, p.first_day::text, p.last_day::text, p.sessions, p.first_period, p.last_period,
          p.code_id, c.code, c.label, p.note, p.entered_by, p.version
        from planned_absence p join student s on s.school_id = p.school_id and s.id = p.student_id
        join attendance_code c on c.school_id = p.school_id and c.id = p.code_id
        left join homeroom_member m on m.school_id = p.school_id and m.student_id = p.student_id and m.period @> ${date}::date
        left join homeroom h on h.school_id = m.school_id and h.id = m.homeroom_id
        where p.last_day >= ${date} order by p.first_day, s.sort_name`.execute(context.db),
    ])
    return {
      absences: rows,
      reported,
      codes: codes.filter((c) => c.meaning !== 'present' && c.meaning !== 'late'),
    }
  },
})

/** The registers that show a student's planned absence. */
async function announce(context: Context, studentId: string) {
  const { rows } = await sql<
    { homeroomId: string; classId: null } | { homeroomId: null; classId: string }
  >`select homeroom_id, null::uuid as class_id from homeroom_member where student_id = ${studentId}
    union select expected_in, null from student where id = ${studentId} and expected_in is not null
    union select null, class_id from class_member where student_id = ${studentId}`.execute(context.db)
  context.changed(
    registersTopic(),
    ...rows.map((r) => (r.classId === null ? homeroomTopic(r.homeroomId) : lessonTopic(r.classId))),
  )
}

const undo = { days: 30, whenChangedSince: 'stop', topics: () => [registersTopic()] } as const

/** Refuses a code that is not in use on some of the days, or that says there that the student is here. */
async function checkPlannedCode({ db }: Context, { codeId, firstDay, lastDay }: Days & { codeId: string }) {
  const { rows } = await sql<{ code: string; date: string; meaning: Meaning | null }>`
    select o.code, greatest(s.first_day, ${firstDay}::date)::text as date, n.meaning
    from attendance_code o
    join attendance_code_set s on s.school_id = o.school_id and s.first_day <= ${lastDay} and coalesce(s.last_day, 'infinity') >= ${firstDay}
    left join attendance_code n on n.school_id = s.school_id and n.set_id = s.id and n.code = o.code
    where o.id = ${codeId} order by s.first_day`.execute(db)
  if (rows.length === 0) throw refuseField('codeId', 'codeNotInUse', { date: firstDay })
  for (const { code, date, meaning } of rows) {
    if (meaning === null) throw refuseField('codeId', 'plannedCodeMissing', { code, date })
    if (meaning === 'present' || meaning === 'late') throw refuseField('codeId', 'onlyAbsences', {})
  }
}

/** Enters an absence that is known beforehand, or changes one. */
export const savePlanned = defineCommand({
  input: plannedInput,
  right: planAbsences,
  undo,
  run: async (context, { plannedId, expectedVersion: version, studentId, report, ...plan }) => {
    const ofLessons = plan.sessions === 'lessons'
    const asked = {
      ...plan,
      firstPeriod: ofLessons ? (plan.firstPeriod ?? null) : null,
      lastPeriod: ofLessons ? (plan.lastPeriod ?? null) : null,
    }
    const { db, actor } = context
    // Two who plan for the same student come one after the other, so that their absences cannot overlap.
    const student = await db
      .selectFrom('student')
      .select(['sortName', 'mergedInto'])
      .where('id', '=', studentId)
      .forUpdate()
      .executeTakeFirst()
    if (!student) throw new Refusal(notFound)
    if (student.mergedInto) throw refuseField('studentId', 'merged', { name: student.sortName })
    await holdStill(context, 'attendanceCodeSet')
    await checkSchoolDays(context, asked)
    await checkPlannedCode(context, asked)
    const { rows } = await sql<{ firstDay: string; lastDay: string; code: string }>`
      select p.first_day::text, p.last_day::text, c.code from planned_absence p
      join attendance_code c on c.school_id = p.school_id and c.id = p.code_id
      where p.student_id = ${studentId} and p.first_day <= ${asked.lastDay} and p.last_day >= ${asked.firstDay}
        and p.id is distinct from ${plannedId ?? null}::uuid
        and ('whole day' in (p.sessions, ${asked.sessions}) or (p.sessions = ${asked.sessions}
          and (p.sessions <> 'lessons' or (p.first_period <= ${asked.lastPeriod} and p.last_period >= ${asked.firstPeriod})))) limit 1`.execute(
      db,
    )
    const [other] = rows
    if (other) throw refuseField('firstDay', 'plannedAlready', other)
    const savedId = plannedId ?? uuid()
    if (plannedId)
      await updateIfUnchanged(context, 'plannedAbsence', { id: plannedId, studentId }, version, asked, {
        what: 'this absence',
      })
    else
      await db
        .insertInto('plannedAbsence')
        .values({ schoolId: actor.schoolId, id: savedId, studentId, enteredBy: actor.name, ...asked })
        .execute()
    if (report) await confirmReport(context, report, studentId)
    await announce(context, studentId)
    return { plannedId: savedId }
  },
})

/** Removes a planned absence. Marks that were entered because of it stay. */
export const removePlanned = defineCommand({
  input: z.object({ plannedId: id, expectedVersion }),
  right: planAbsences,
  undo,
  run: async (context, { plannedId, expectedVersion: version }) => {
    await checkUnchanged(context, 'plannedAbsence', { id: plannedId }, version, 'this absence')
    const removed = await context.db
      .deleteFrom('plannedAbsence')
      .where('id', '=', plannedId)
      .returning('studentId')
      .executeTakeFirst()
    if (removed) await announce(context, removed.studentId)
    return null
  },
})

const endInput = z.object({ date: civilDate, plannedId: id, expectedVersion })

/** A plan ends the day before a date, or goes if it began on it. */
async function end(
  context: Context,
  { date, plannedId, expectedVersion: version }: z.infer<typeof endInput>,
  roll: RawBuilder<RollRow>,
) {
  const { db } = context
  if (date !== context.today && !(await context.may(planAbsences, {}))) throw refuse('onlyToday', {})
  const plan = await db
    .selectFrom('plannedAbsence')
    .select(['studentId', 'firstDay', 'lastDay'])
    .where('id', '=', plannedId)
    .executeTakeFirst()
  if (!plan || plan.firstDay > date || plan.lastDay < date) throw refuse('notPlanned', {})
  const { rows } = await roll.execute(db)
  if (!rows.some((r) => r.id === plan.studentId)) throw refuse('notOnRoll', { date })
  const ended = plan.firstDay === date ? {} : { lastDay: addDays(date, -1) }
  await updateIfUnchanged(context, 'plannedAbsence', { id: plannedId }, version, ended, {
    what: 'this absence',
  })
  if (plan.firstDay === date) await db.deleteFrom('plannedAbsence').where('id', '=', plannedId).execute()
  await announce(context, plan.studentId)
  return null
}

/** The student is here although an absence was planned, as the homeroom's register shows. */
export const endPlanned = defineCommand({
  input: endInput.extend({ homeroomId: id }),
  right: endPlans,
  undo,
  run: (context, asked) => end(context, asked, rollOn(asked.homeroomId, asked.date)),
})

/** The same as a lesson shows it. */
export const endPlannedInLesson = defineCommand({
  input: endInput.extend({ classId: id }),
  right: endPlansInLesson,
  undo,
  run: (context, asked) => end(context, asked, classRollOn(asked.classId, asked.date)),
})
