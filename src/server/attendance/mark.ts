import { sql } from 'kysely'
import { z } from 'zod'
import { dayKind } from '@/core/calendar/school-year'
import { shortDate } from '@/core/calendar/date-words'
import { Refusal, refuse, refuseField } from '@/server/platform/failure'
import { civilDate, expectedVersion, id, optionalLine } from '@/server/platform/inputs'
import { defineCommand, type Context } from '@/server/platform/registry'
import { loadYear } from '@/server/year/load-year'
import { mayMarkRegister } from './policy'
import { registerTopic, session, toMark } from './register'

const sessionInput = z.object({ homeroomId: id, date: civilDate, session })
type SessionInput = z.infer<typeof sessionInput>

async function checkSession({ db, today }: Context, { date }: SessionInput) {
  const year = await loadYear(db, date)
  if (!year || dayKind(year, date).kind !== 'school day')
    throw refuse(`There is no session on ${shortDate(date, true)}. Choose a school day on the year line.`)
  if (date > today)
    throw refuse(`${shortDate(date, true)} is still to come. Registers can be taken from the day itself on.`)
}

async function checkCode({ db }: Context, codeId: string, date: string) {
  const code = await db.selectFrom('attendance_code').selectAll().where('id', '=', codeId).executeTakeFirst()
  if (!code || code.first_day > date || (code.last_day !== null && code.last_day < date))
    throw refuseField(
      'codeId',
      `This code is not in use on ${shortDate(date, true)}. Choose one from the list of codes.`,
    )
  return code
}

const onRoll = (homeroomId: string, date: string) => sql<{ student_id: string }>`
  select student_id from homeroom_member where homeroom_id = ${homeroomId} and period @> ${date}::date
  union select id from student where expected_in = ${homeroomId} and expected_from <= ${date} and number is null`

/** Sets or clears one student's mark for a half-day. A mark changed by somebody else meanwhile is never overwritten: both are shown. */
export const setMark = defineCommand({
  name: 'attendance.setMark',
  input: sessionInput.extend({
    studentId: id,
    codeId: id.nullable(),
    minutesLate: z
      .number()
      .int('Minutes late must be a whole number.')
      .min(0)
      .max(600, 'Minutes late must be at most 600.')
      .nullable(),
    note: optionalLine('The note'),
    expectedVersion,
  }),
  allow: mayMarkRegister,
  run: async (context, asked) => {
    const { db, actor } = context
    await checkSession(context, asked)
    const code = asked.codeId ? await checkCode(context, asked.codeId, asked.date) : undefined
    if (asked.minutesLate !== null && code?.meaning !== 'late')
      throw refuseField('minutesLate', 'Minutes late go with a late mark only.')
    const key = {
      school_id: actor.schoolId,
      student_id: asked.studentId,
      session_date: asked.date,
      session: asked.session,
    }
    const values = {
      homeroom_id: asked.homeroomId,
      code_id: asked.codeId,
      minutes_late: asked.minutesLate,
      note: asked.note,
      changed_by: actor.name,
      changed_at: context.now,
    }
    const { rows: roll } = await onRoll(asked.homeroomId, asked.date).execute(db)
    if (!roll.some((r) => r.student_id === asked.studentId))
      throw refuse(`This student is not on the roll of this homeroom on ${shortDate(asked.date, true)}.`)
    const written =
      asked.expectedVersion === 0
        ? await db
            .insertInto('attendance_mark')
            .values({ ...key, ...values })
            .onConflict((c) => c.doNothing())
            .returningAll()
            .executeTakeFirst()
        : await db
            .updateTable('attendance_mark')
            .set((eb) => ({ ...values, version: eb('version', '+', 1) }))
            .where('student_id', '=', key.student_id)
            .where('session_date', '=', key.session_date)
            .where('session', '=', key.session)
            .where('version', '=', asked.expectedVersion)
            .returningAll()
            .executeTakeFirst()
    if (!written) {
      const current = await db
        .selectFrom('attendance_mark')
        .selectAll()
        .where('student_id', '=', key.student_id)
        .where('session_date', '=', key.session_date)
        .where('session', '=', key.session)
        .executeTakeFirst()
      const same =
        current &&
        current.code_id === asked.codeId &&
        current.note === asked.note &&
        current.minutes_late === asked.minutesLate
      if (!same)
        throw new Refusal({
          kind: 'conflict',
          message: `${current?.changed_by ?? 'Somebody'} changed this mark meanwhile.`,
          current: current ? toMark(current) : null,
        })
      return toMark(current)
    }
    await context.changed(registerTopic(asked.homeroomId))
    await context.changed('today')
    return toMark(written)
  },
})

/** Gives everyone on roll who has no mark yet the same one. Marks that are there stay. Answers whom it marked. */
export const markRest = defineCommand({
  name: 'attendance.markRest',
  input: sessionInput.extend({ codeId: id }),
  allow: mayMarkRegister,
  run: async (context, asked) => {
    const { db, actor } = context
    await checkSession(context, asked)
    await checkCode(context, asked.codeId, asked.date)
    const { rows } = await sql<{ student_id: string; version: number }>`
      insert into attendance_mark as m (school_id, student_id, session_date, session, homeroom_id, code_id, changed_by, changed_at)
      select ${actor.schoolId}, r.student_id, ${asked.date}, ${asked.session}, ${asked.homeroomId}, ${asked.codeId}, ${actor.name}, ${context.now}
      from (${onRoll(asked.homeroomId, asked.date)}) r
      where exists (select 1 from student s where s.id = r.student_id and s.number is not null)
      on conflict (school_id, student_id, session_date, session)
        do update set code_id = excluded.code_id, changed_by = excluded.changed_by, changed_at = excluded.changed_at, version = m.version + 1
        where m.code_id is null
      returning student_id, version`.execute(db)
    if (rows.length > 0) {
      await context.changed(registerTopic(asked.homeroomId))
      await context.changed('today')
    }
    return rows.map((r) => ({ studentId: r.student_id, version: r.version }))
  },
})

/** Takes back marks just made, where nobody has changed them since. Answers the versions of those taken back. */
export const clearMarks = defineCommand({
  name: 'attendance.clearMarks',
  input: sessionInput.extend({
    marks: z.array(z.object({ studentId: id, version: expectedVersion })).max(200),
  }),
  allow: mayMarkRegister,
  run: async (context, asked) => {
    const { rows } = await sql<{ student_id: string; version: number }>`
      update attendance_mark m set code_id = null, minutes_late = null, version = m.version + 1, changed_by = ${context.actor.name}, changed_at = ${context.now}
      from jsonb_to_recordset(${JSON.stringify(asked.marks)}::jsonb) as u("studentId" uuid, version int)
      where m.student_id = u."studentId" and m.version = u.version and m.homeroom_id = ${asked.homeroomId}
        and m.session_date = ${asked.date} and m.session = ${asked.session}
      returning m.student_id, m.version`.execute(context.db)
    await context.changed(registerTopic(asked.homeroomId))
    await context.changed('today')
    return rows.map((r) => ({ studentId: r.student_id, version: r.version }))
  },
})
