import { sql } from 'kysely'
import { v7 as uuid } from 'uuid'
import { z } from 'zod'
import { callInput } from '@/core/attendance/inputs'
import type { CallOutcome } from '@/core/attendance/calls'
import { civilDate } from '@/core/inputs'
import type { Context } from '@/server/platform/context'
import { defineCommand, defineQuery } from '@/server/platform/define'
import { notFound, Refusal } from '@/server/platform/failure'
import { holdStill } from '@/server/school/one-at-a-time'
import { codesTopic, lessonsTopic, registersTopic } from '@/server/school/topics'
import { codesOn } from './codes-on'
import { callFamilies } from './rights'
import { registerTopic } from './roll'
import { refuse, refuseField } from './messages'

interface Call {
  readonly id: string
  readonly guardian: string | null
  readonly outcome: CallOutcome
  readonly note: string | null
  /** HH:MM */
  readonly callAgain: string | null
  readonly by: string
  readonly at: string
}

interface Unexplained {
  readonly studentId: string
  readonly name: string
  readonly homeroomId: string | null
  readonly homeroom: string | null
  /** Half-days, then lessons by the number of their period. */
  readonly sessions: readonly string[]
  /** Half-days without a reason yet on the thirty days before. */
  readonly before: number
  readonly guardians: readonly {
    readonly id: string
    readonly name: string
    readonly relation: string
    readonly phone: string | null
    /** Where it is not English. */
    readonly language: string | null
  }[]
  /** The latest first. */
  readonly calls: readonly Call[]
}

/** Who is absent on a date without a reason yet, with guardians in the order to call and the calls made so far. */
export const callList = defineQuery({
  input: z.object({ date: civilDate }),
  right: callFamilies,
  topics: () => [registersTopic(), lessonsTopic(), codesTopic()],
  run: async (context, { date }) => {
    const [codes, { rows: students }] = await Promise.all([
      codesOn(context, date),
      sql<Unexplained>`
        with away as (
          select m.student_id, array_agg(m.session order by m.homeroom_id is null, m.session desc) as sessions
          from attendance_mark m join attendance_code c on c.school_id = m.school_id and c.id = m.code_id
          where m.session_date = ${date} and not m.kept and c.meaning = 'absent without reason' group by m.student_id
        )
        select a.student_id, s.sort_name as name, h.id as homeroom_id, h.name as homeroom, a.sessions,
          (select count(*)::int from attendance_mark m join attendance_code c on c.school_id = m.school_id and c.id = m.code_id
            where m.student_id = a.student_id and m.session_date >= ${date}::date - 30 and m.session_date < ${date}
              and m.homeroom_id is not null and not m.kept and c.meaning = 'absent without reason') as before,
          (select coalesce(jsonb_agg(jsonb_build_object('id', g.id, 'name', g.given_name || ' ' || g.family_name,
              'relation', r.relation, 'phone', g.phone, 'language', nullif(g.language, 'en')) order by r.contact_order), '[]')
            from guardianship r join guardian g on g.school_id = r.school_id and g.id = r.guardian_id
            where r.student_id = a.student_id) as guardians,
          (select coalesce(jsonb_agg(jsonb_build_object('id', k.id, 'guardian', g.given_name || ' ' || g.family_name,
              'outcome', k.outcome, 'note', k.note, 'callAgain', to_char(k.call_again, 'HH24:MI'), 'by', k.called_by,
              'at', k.called_at) order by k.called_at desc, k.id desc), '[]')
            from absence_call k left join guardian g on g.school_id = k.school_id and g.id = k.guardian_id
            where k.student_id = a.student_id and k.absent_on = ${date}) as calls
        from away a join student s on s.id = a.student_id
        left join homeroom_member b on b.school_id = s.school_id and b.student_id = s.id and b.period @> ${date}::date
        left join homeroom h on h.school_id = b.school_id and h.id = b.homeroom_id
        order by s.sort_name`.execute(context.db),
    ])
    return {
      students,
      codes: codes
        .filter((c) => c.meaning !== 'absent without reason')
        .map(({ id, code, label }) => ({ id, code, label })),
    }
  },
})

/** A reason that somebody else has given since is not passed over unsaid; the same reason twice is no matter. */
async function checkSameReason(
  { db }: Context,
  studentId: string,
  date: string,
  code: { readonly id: string },
): Promise<void> {
  const given = await db
    .selectFrom('attendanceMark as m')
    .innerJoin('attendanceCode as c', 'c.id', 'm.codeId')
    .select(['c.id', 'c.code', 'm.changedBy as by'])
    .where('m.studentId', '=', studentId)
    .where('m.sessionDate', '=', date)
    .where('m.kept', '=', false)
    .where('c.meaning', 'in', ['absent with reason', 'elsewhere', 'not expected'])
    .orderBy('m.changedAt', 'desc')
    .execute()
  const [other] = given
  if (other && !given.some(({ id }) => id === code.id)) throw refuseField('codeId', 'explainedAlready', other)
}

/**
 * Notes a call to a student's family, and what the student's unexplained marks of that day become. Only marks that are
 * still unexplained change: the register may know more by now. Refused where a colleague has given all of them another
 * reason since.
 * @returns how many marks changed
 */
export const noteCall = defineCommand({
  input: callInput,
  right: callFamilies,
  needsNoVersion: 'adds a call; only unexplained marks change',
  undo: { days: 1, whenChangedSince: 'stop', topics: () => [registersTopic()] },
  run: async (context, { studentId, date, guardianId, outcome, note, callAgain, codeId }) => {
    const { db, actor, now } = context
    if (date > context.today) throw refuseField('date', 'future', { date })
    const student = await db.selectFrom('student').select('id').where('id', '=', studentId).executeTakeFirst()
    if (!student) throw new Refusal(notFound)
    if (guardianId) {
      const own = await db
        .selectFrom('guardianship')
        .select('studentId')
        .where('studentId', '=', studentId)
        .where('guardianId', '=', guardianId)
        .executeTakeFirst()
      if (!own) throw refuse('notTheirGuardian', {})
    }
    await db
      .insertInto('absenceCall')
      .values({
        schoolId: actor.schoolId,
        id: uuid(),
        studentId,
        absentOn: date,
        guardianId: guardianId ?? null,
        outcome,
        note,
        callAgain: callAgain ?? null,
        calledBy: actor.name,
        calledAt: now,
      })
      .execute()
    context.changed(registersTopic())
    if (!codeId) return { changed: 0 }
    await holdStill(context, 'attendanceCodeSet')
    const code = (await codesOn(context, date)).find((c) => c.id === codeId)
    if (!code) throw refuseField('codeId', 'codeNotInUse', { date })
    const { rows } = await sql<{ homeroomId: string | null; classId: string | null }>`
      update attendance_mark m set code_id = ${codeId}, changed_by = ${actor.name}, changed_at = ${now},
        minutes_late = null, note = coalesce(${note}::text, m.note)
      from attendance_code c
      where c.school_id = m.school_id and c.id = m.code_id and c.meaning = 'absent without reason'
        and m.student_id = ${studentId} and m.session_date = ${date} and not m.kept
      returning m.homeroom_id, m.class_id`.execute(db)
    if (rows.length === 0) await checkSameReason(context, studentId, date, code)
    context.changed(...new Set(rows.map(registerTopic)))
    if (rows.some((r) => r.classId !== null)) context.changed(lessonsTopic())
    return { changed: rows.length }
  },
})
