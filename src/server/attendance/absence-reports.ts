import { sql } from 'kysely'
import { v7 as uuid } from 'uuid'
import { z } from 'zod'
import { limits } from '@/core/limits'
import { absenceReportInput, declineInput } from '@/core/attendance/inputs'
import { id, expectedVersion } from '@/core/inputs'
import type { Context } from '@/server/platform/context'
import { gather } from '@/server/platform/gather'
import { defineCommand, defineQuery, type DueSource } from '@/server/platform/define'
import { updateIfUnchanged } from '@/server/platform/write'
import { isGuardianOf } from '@/server/school/relations'
import { absenceReportsTopic } from '@/server/school/topics'
import { checkSchoolDays } from './check-school-days'
import { planAbsences, reportAbsences, seeOwnAbsences } from './rights'
import { refuse, refuseField } from './messages'

interface Report {
  readonly id: string
  readonly studentId: string
  readonly student: string
  readonly homeroom: string | null
  readonly guardian: string
  readonly firstDay: string
  readonly lastDay: string
  readonly sessions: 'whole day' | 'morning' | 'afternoon'
  readonly reason: string
  readonly reportedAt: string
  readonly version: number
}

const waiting = ({ today }: Context) => sql<Report>`
    select r.id, r.student_id, s.sort_name as student, h.name as homeroom, g.given_name || ' ' || g.family_name as guardian,
      r.first_day::text, r.last_day::text, r.sessions, r.reason, r.reported_at, r.version
    from absence_report r join student s on s.school_id = r.school_id and s.id = r.student_id
    join guardian g on g.school_id = r.school_id and g.id = r.guardian_id
    left join homeroom_member m on m.school_id = s.school_id and m.student_id = s.id and m.period @> ${today}::date
    left join homeroom h on h.school_id = m.school_id and h.id = m.homeroom_id
    where r.state = 'waiting' order by r.first_day, s.sort_name`

/** Absences that guardians have reported and nobody has answered yet, the nearest first. */
export async function waitingReports(context: Context): Promise<readonly Report[]> {
  const { rows } = await waiting(context).execute(context.db)
  return rows
}

/** The report is entered as a planned absence; somebody else may have answered it meanwhile. */
export async function confirmReport(
  context: Context,
  { reportId, expectedVersion: version }: { readonly reportId: string; readonly expectedVersion: number },
  studentId: string,
): Promise<void> {
  await updateIfUnchanged(
    context,
    'absenceReport',
    { id: reportId, studentId, state: 'waiting' },
    version,
    { state: 'confirmed', answeredBy: context.actor.name },
    { what: 'this report' },
  )
  context.changed(absenceReportsTopic())
}

/** The report is not entered, with the reason that the guardian reads. */
export const declineReport = defineCommand({
  input: declineInput,
  right: planAbsences,
  undo: { days: 30, whenChangedSince: 'stop', topics: () => [absenceReportsTopic()] },
  run: async (context, { reportId, expectedVersion: version, answer }) => {
    await updateIfUnchanged(
      context,
      'absenceReport',
      { id: reportId, state: 'waiting' },
      version,
      { state: 'declined', answer, answeredBy: context.actor.name },
      { what: 'this report' },
    )
    context.changed(absenceReportsTopic())
    return null
  },
})

/** A guardian's children, and what the guardian has reported of them. */
export const ownReports = defineQuery({
  input: z.object({}),
  right: seeOwnAbsences,
  topics: () => [absenceReportsTopic()],
  run: async (context) => {
    const { db, actor, today } = context
    const [{ rows: children }, { rows: reports }] = await Promise.all([
      sql<{ id: string; name: string }>`select s.id, s.sort_name as name from student s
        join enrolment e on e.school_id = s.school_id and e.student_id = s.id and e.period @> ${today}::date
        where ${isGuardianOf.holds(context, sql.ref('s.id'))} order by s.sort_name`.execute(db),
      sql<
        Omit<Report, 'homeroom' | 'guardian'> & {
          state: 'waiting' | 'confirmed' | 'declined'
          answer: string | null
        }
      >`select r.id, r.student_id, s.sort_name as student, r.first_day::text, r.last_day::text, r.sessions, r.reason,
          r.reported_at, r.state, r.answer, r.version
        from absence_report r join student s on s.school_id = r.school_id and s.id = r.student_id
        where r.guardian_id = ${actor.guardianId}::uuid and ${isGuardianOf.holds(context, sql.ref('r.student_id'))}
        order by r.first_day desc, r.id desc limit ${limits.reportsShown}`.execute(db),
    ])
    return { children, reports }
  },
})

/** A guardian reports that a child will be absent. It counts once the office has confirmed it. */
export const reportAbsence = defineCommand({
  input: absenceReportInput,
  right: reportAbsences,
  needsNoVersion: 'creates',
  run: async (context, asked) => {
    const { db, actor, today, now } = context
    if (asked.lastDay < today) throw refuseField('lastDay', 'reportPast', {})
    await checkSchoolDays(context, asked)
    await sql`select pg_advisory_xact_lock(hashtextextended(${`report ${asked.studentId}`}, 5))`.execute(db)
    const same = await db
      .selectFrom('absenceReport')
      .select('id')
      .where('studentId', '=', asked.studentId)
      .where('state', '!=', 'declined')
      .where('firstDay', '=', asked.firstDay)
      .where('lastDay', '=', asked.lastDay)
      .where('sessions', '=', asked.sessions)
      .executeTakeFirst()
    if (same) throw refuseField('firstDay', 'reportedAlready', {})
    const reportId = uuid()
    await db
      .insertInto('absenceReport')
      .values({
        schoolId: actor.schoolId,
        id: reportId,
        guardianId: actor.guardianId ?? '',
        reportedAt: now,
        ...asked,
      })
      .execute()
    context.changed(absenceReportsTopic())
    return { reportId }
  },
})

/** A guardian takes a report back that nobody has answered yet. */
export const withdrawReport = defineCommand({
  input: z.object({ reportId: id, expectedVersion }),
  right: seeOwnAbsences,
  run: async (context, { reportId, expectedVersion: version }) => {
    const { db, actor } = context
    const gone = await db
      .deleteFrom('absenceReport')
      .where('id', '=', reportId)
      .where('guardianId', '=', actor.guardianId)
      .where('state', '=', 'waiting')
      .where('version', '=', version)
      .returning('id')
      .executeTakeFirst()
    if (!gone) throw refuse('reportAnswered', {})
    context.changed(absenceReportsTopic())
    return null
  },
})

/** Reports of guardians that wait for an answer, in one line. */
export const reportsDue: DueSource = {
  topics: async (context) => ((await context.may(planAbsences, {})) ? [absenceReportsTopic()] : []),
  items: async (context, date) => {
    if (!(await context.may(planAbsences, {}))) return []
    const reports = await gather(
      context,
      sql<{ student: string; firstDay: string }>`select student, first_day from (${waiting(context)}) w`,
    )
    const [first] = reports
    if (!first) return []
    return [
      {
        what:
          reports.length === 1
            ? '1 absence reported by a guardian'
            : `${reports.length} absences reported by guardians`,
        detail: reports
          .slice(0, 4)
          .map((r) => r.student)
          .join('; '),
        href: '/attendance/planned',
        due: first.firstDay,
        overdue: first.firstDay < date,
        act: 'Confirm',
        count: reports.length,
      },
    ]
  },
}
