import { sql } from 'kysely'
import type { Meaning } from '@/core/attendance/codes'
import { sessionsBegun } from '@/core/attendance/sessions'
import { dayKind, nearestSchoolDay, schoolDays, termShownOn } from '@/core/calendar/school-year'
import { localTime } from '@/server/platform/clock'
import type { Context } from '@/server/platform/context'
import { seeContact } from '@/server/people'
import { defineQuery } from '@/server/platform/define'
import { whereMay } from '@/server/platform/rights'
import { loadYear } from '@/server/school/load-year'
import { codesTopic, homeroomTopic } from '@/server/school/topics'
import { codesOn } from './codes-on'
import { loadFigures } from './load-figures'
import { plannedOn, type Planned } from './planned'
import { markRegister, watchRegisters } from './rights'
import { rollOn, sessionInput, type RollRow } from './roll'

export interface RegisterMark {
  readonly codeId: string | null
  readonly minutesLate: number | null
  readonly note: string | null
  readonly version: number
  readonly changedBy: string
  readonly changedAt: string
}

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

/** Guardians of those students whose family the actor may reach; null for the others. */
async function guardiansOf(context: Context, studentIds: readonly string[]) {
  if (studentIds.length === 0) return () => null
  const { db } = context
  const [may, guardians] = await Promise.all([
    db
      .selectFrom('student as s')
      .select('s.id')
      .where('s.id', 'in', [...studentIds])
      .where(whereMay(context, seeContact, sql.ref('s.id')))
      .execute(),
    guardianRows(context, studentIds),
  ])
  const own = new Set(may.map((s) => s.id))
  return (studentId: string) =>
    own.has(studentId)
      ? guardians
          .filter((g) => g.studentId === studentId)
          .map((g) => ({ name: `${g.givenName} ${g.familyName}`, relation: g.relation, phone: g.phone }))
      : null
}

function guardianRows({ db }: Context, studentIds: readonly string[]) {
  return db
    .selectFrom('guardianship as gs')
    .innerJoin('guardian as g', 'g.id', 'gs.guardianId')
    .select(['gs.studentId', 'g.givenName', 'g.familyName', 'g.phone', 'gs.relation'])
    .where('gs.studentId', 'in', [...studentIds])
    .orderBy('gs.contactOrder')
    .execute()
}

/** A homeroom's register for one half-day: who is on roll that date in name order, their marks, and their last twenty half-days. */
export const register = defineQuery({
  input: sessionInput,
  right: markRegister,
  topics: (_context, { homeroomId }) => [homeroomTopic(homeroomId), codesTopic()],
  run: async (context, { homeroomId, date, session: half }) => {
    const { db, today, actor } = context
    const [homeroom, year, codes, office, { rows: roll }] = await Promise.all([
      db.selectFrom('homeroom').select(['id', 'name']).where('id', '=', homeroomId).executeTakeFirstOrThrow(),
      loadYear(db, date),
      codesOn(context, date),
      context.may(watchRegisters, {}),
      sql<RollRow>`select * from (${rollOn(homeroomId, date)}) r order by name, number`.execute(db),
    ])
    const day = year && dayKind(year, date)
    const sessions = year ? recentSessions(schoolDays(year, year.firstDay, date), date, half) : []
    const studentIds = roll.map((r) => r.id)
    const from = sessions[0]?.date ?? date
    const term = year && termShownOn(year, date)
    const [marks, guardians, figures, { rows: planned }] = await Promise.all([
      studentIds.length === 0
        ? []
        : db
            .selectFrom('attendanceMark as m')
            .leftJoin('attendanceCode as c', 'c.id', 'm.codeId')
            .select([
              'm.studentId',
              'm.sessionDate',
              'm.session',
              'm.codeId',
              'm.minutesLate',
              'm.note',
              'm.version',
              'm.changedBy',
              'm.changedAt',
              'c.meaning',
              'c.code',
            ])
            .where('m.studentId', 'in', studentIds)
            .where('m.sessionDate', '>=', from)
            .where('m.sessionDate', '<=', date)
            .execute(),
      guardiansOf(context, studentIds),
      year && term ? loadFigures(db, year, studentIds, term.firstDay, date) : undefined,
      sql<Planned>`select p.* from (${plannedOn(date, half)}) p where p.student_id = any(${studentIds}::uuid[])`.execute(
        db,
      ),
    ])
    const markAt = new Map(marks.map((m) => [`${m.studentId} ${m.sessionDate} ${m.session}`, m]))
    const begun =
      date < today || (date === today && sessionsBegun(localTime(actor.timeZone).time).includes(half))
    return {
      homeroom,
      date,
      session: half,
      day,
      begun,
      nearest: year && { previous: nearestSchoolDay(year, date, -1), next: nearestSchoolDay(year, date, 1) },
      // Marks of the office are shown to everyone; a teacher cannot enter them.
      codes: codes.map(({ officeOnly, ...code }) => ({ ...code, usable: office || !officeOnly })),
      sessions,
      rows: roll.map((r) => {
        const mark = markAt.get(`${r.id} ${date} ${half}`)
        return {
          studentId: r.id,
          name: r.name,
          number: r.number,
          expected: r.expected,
          figures: figures?.get(r.id),
          since: r.since,
          mark: mark ? toMark(mark) : null,
          planned: planned.find((p) => p.studentId === r.id) ?? null,
          recent: sessions.map((s): { meaning: Meaning | 'no mark' | 'not on roll'; code: string | null } => {
            const past = markAt.get(`${r.id} ${s.date} ${s.session}`)
            return {
              meaning: past?.meaning ?? (s.date < r.since ? 'not on roll' : 'no mark'),
              code: past?.code ?? null,
            }
          }),
          guardians: guardians(r.id),
        }
      }),
    }
  },
})

/** A mark as it travels to the screen. */
function toMark(m: RegisterMark): RegisterMark {
  const { codeId, minutesLate, note, version, changedBy, changedAt } = m
  return { codeId, minutesLate, note, version, changedBy, changedAt }
}
