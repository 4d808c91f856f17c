import { sql } from 'kysely'
import { z } from 'zod'
import type { Meaning } from '@/core/attendance/codes'
import { dayKind, nearestSchoolDay, schoolDays, termShownOn } from '@/core/calendar/school-year'
import { civilDate, id } from '@/server/platform/inputs'
import { defineQuery, type Context } from '@/server/platform/registry'
import { loadYear } from '@/server/year/load-year'
import { sessionsBegun } from '@/server/today/due-items'
import { loadFigures } from './load-figures'
import { mayMarkRegister } from './policy'

export const session = z.enum(['morning', 'afternoon'])

export interface RegisterMark {
  readonly codeId: string | null
  readonly minutesLate: number | null
  readonly note: string | null
  readonly version: number
  readonly changedBy: string
  readonly changedAt: string
}

/** The topic of a homeroom's register; everyone looking at it hears of each mark. */
export const registerTopic = (homeroomId: string) => `homeroom:${homeroomId}`

interface RollRow {
  id: string
  name: string
  number: number | null
  expected: boolean
  since: string
}

async function rollOn({ db }: Context, homeroomId: string, date: string): Promise<readonly RollRow[]> {
  const { rows } = await sql<RollRow>`
    select s.id, s.sort_name as name, s.number, false as expected, lower(m.period)::text as since
    from homeroom_member m join student s on s.school_id = m.school_id and s.id = m.student_id
    where m.homeroom_id = ${homeroomId} and m.period @> ${date}::date
    union all
    select s.id, s.sort_name, s.number, true, s.expected_from::text from student s
    where s.expected_in = ${homeroomId} and s.expected_from <= ${date} and s.number is null
    order by name, number`.execute(db)
  return rows
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

async function guardiansOf({ db }: Context, studentIds: readonly string[]) {
  if (studentIds.length === 0) return []
  return db
    .selectFrom('guardianship as gs')
    .innerJoin('guardian as g', 'g.id', 'gs.guardian_id')
    .select(['gs.student_id', 'g.given_name', 'g.family_name', 'g.phone', 'gs.relation'])
    .where('gs.student_id', 'in', [...studentIds])
    .orderBy('gs.contact_order')
    .execute()
}

/** A homeroom's register for one half-day: who is on roll that date in name order, their marks, and their last twenty half-days. */
export const register = defineQuery({
  name: 'attendance.register',
  input: z.object({ homeroomId: id, date: civilDate, session }),
  allow: mayMarkRegister,
  topic: ({ homeroomId }) => registerTopic(homeroomId),
  run: async (context, { homeroomId, date, session: half }) => {
    const { db, today, actor, now } = context
    const [homeroom, year, codes, roll] = await Promise.all([
      db.selectFrom('homeroom').select(['id', 'name']).where('id', '=', homeroomId).executeTakeFirstOrThrow(),
      loadYear(db, date),
      db
        .selectFrom('attendance_code')
        .select(['id', 'code', 'label', 'meaning'])
        .where('first_day', '<=', date)
        .where((eb) => eb.or([eb('last_day', 'is', null), eb('last_day', '>=', date)]))
        .orderBy('position')
        .execute(),
      rollOn(context, homeroomId, date),
    ])
    const day = year && dayKind(year, date)
    const sessions = year ? recentSessions(schoolDays(year, year.firstDay, date), date, half) : []
    const studentIds = roll.map((r) => r.id)
    const from = sessions[0]?.date ?? date
    const term = year && termShownOn(year, date)
    const [marks, guardians, figures] = await Promise.all([
      studentIds.length === 0
        ? []
        : db
            .selectFrom('attendance_mark as m')
            .leftJoin('attendance_code as c', 'c.id', 'm.code_id')
            .select([
              'm.student_id',
              'm.session_date',
              'm.session',
              'm.code_id',
              'm.minutes_late',
              'm.note',
              'm.version',
              'm.changed_by',
              'm.changed_at',
              'c.meaning',
              'c.code',
            ])
            .where('m.student_id', 'in', studentIds)
            .where('m.session_date', '>=', from)
            .where('m.session_date', '<=', date)
            .execute(),
      guardiansOf(context, studentIds),
      year && term ? loadFigures(db, year, studentIds, term.firstDay, date) : undefined,
    ])
    const markAt = new Map(marks.map((m) => [`${m.student_id} ${m.session_date} ${m.session}`, m]))
    const begun = date < today || (date === today && sessionsBegun(now, actor.timeZone).includes(half))
    return {
      homeroom,
      date,
      session: half,
      day,
      begun,
      nearest: year && { previous: nearestSchoolDay(year, date, -1), next: nearestSchoolDay(year, date, 1) },
      codes,
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
          recent: sessions.map((s): { meaning: Meaning | 'no mark' | 'not on roll'; code: string | null } => {
            const past = markAt.get(`${r.id} ${s.date} ${s.session}`)
            return {
              meaning: past?.meaning ?? (s.date < r.since ? 'not on roll' : 'no mark'),
              code: past?.code ?? null,
            }
          }),
          guardians: guardians
            .filter((g) => g.student_id === r.id)
            .map((g) => ({ name: `${g.given_name} ${g.family_name}`, relation: g.relation, phone: g.phone })),
        }
      }),
    }
  },
})

/** A mark as it travels to the screen. */
export function toMark(m: {
  code_id: string | null
  minutes_late: number | null
  note: string | null
  version: number
  changed_by: string
  changed_at: Date
}): RegisterMark {
  return {
    codeId: m.code_id,
    minutesLate: m.minutes_late,
    note: m.note,
    version: m.version,
    changedBy: m.changed_by,
    changedAt: m.changed_at.toISOString(),
  }
}
