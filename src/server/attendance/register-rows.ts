import { sql, type RawBuilder } from 'kysely'
import type { Meaning } from '@/core/attendance/codes'
import { termShownOn, type SchoolYear } from '@/core/calendar/school-year'
import { seeContact } from '@/server/people'
import type { Context } from '@/server/platform/context'
import { whereMay } from '@/server/platform/rights'
import { loadFigures } from './load-figures'
import { seeFigures } from './rights'
import type { Known } from './known-in-lesson'
import type { RollRow } from './roll'

export interface RegisterMark {
  readonly codeId: string | null
  readonly minutesLate: number | null
  readonly note: string | null
  readonly version: number
  readonly changedBy: string
  readonly changedAt: string
}

/** One session, half-day or lesson. */
export interface RegisterSession {
  readonly date: string
  readonly session: string
}

/** Of which students the actor sees more than a register needs: how attendance was, and how to reach the family. */
async function seenOf(context: Context, studentIds: readonly string[]) {
  if (studentIds.length === 0) return { figures: new Set<string>(), contact: new Set<string>() }
  const rows = await context.db
    .selectFrom('student as s')
    .select([
      's.id',
      whereMay(context, seeFigures, sql.ref('s.id')).as('figures'),
      whereMay(context, seeContact, sql.ref('s.id')).as('contact'),
    ])
    .where('s.id', 'in', [...studentIds])
    .execute()
  const those = (what: 'figures' | 'contact') => new Set(rows.filter((r) => r[what]).map((r) => r.id))
  return { figures: those('figures'), contact: those('contact') }
}

/** Guardians of those students whose family the actor may reach; null for the others. */
async function guardiansOf(context: Context, studentIds: readonly string[], sees: ReturnType<typeof seenOf>) {
  const [{ contact }, guardians] = await Promise.all([
    sees,
    studentIds.length === 0 ? [] : guardianRows(context, studentIds),
  ])
  return (studentId: string) =>
    contact.has(studentId)
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

/**
 * The rows of a register: everyone on its roll in name order, with the mark, the marks of recent sessions, what is known
 * beforehand, the term's figures and whom to call.
 * @param recent earlier sessions of the same register, oldest first
 */
export async function registerRows(
  context: Context,
  {
    date,
    session,
    year,
    roll,
    recent,
    known,
  }: RegisterSession & {
    year: SchoolYear | undefined
    roll: readonly RollRow[]
    recent: readonly RegisterSession[]
    known: RawBuilder<Known>
  },
) {
  const { db } = context
  const studentIds = roll.map((r) => r.id)
  const from = recent[0]?.date ?? date
  const term = year && termShownOn(year, date)
  const seen = seenOf(context, studentIds)
  const [sees, marks, guardians, figures, { rows: planned }] = await Promise.all([
    seen,
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
          .where('m.session', 'in', [...new Set([session, ...recent.map((s) => s.session)])])
          .execute(),
    guardiansOf(context, studentIds, seen),
    year && term ? loadFigures(context, year, studentIds, term.firstDay, date) : undefined,
    sql<Known>`select p.* from (${known}) p where p.student_id = any(${studentIds}::uuid[])`.execute(db),
  ])
  const markAt = new Map(marks.map((m) => [`${m.studentId} ${m.sessionDate} ${m.session}`, m]))
  return roll.map((r) => {
    const mark = markAt.get(`${r.id} ${date} ${session}`)
    const plan = planned.find((p) => p.studentId === r.id) ?? null
    // Who covers sees the mark of the session and what is planned for it; how it was before is for those who teach them.
    const more = sees.figures.has(r.id)
    return {
      studentId: r.id,
      name: r.name,
      number: r.number,
      expected: r.expected,
      figures: more ? figures?.get(r.id) : undefined,
      since: r.since,
      mark: mark ? toMark(mark) : null,
      planned: plan && (more ? plan : { ...plan, note: null }),
      recent: (more ? recent : []).map(
        (s): { meaning: Meaning | 'no mark' | 'not on roll'; code: string | null } => {
          const past = markAt.get(`${r.id} ${s.date} ${s.session}`)
          return {
            meaning: past?.meaning ?? (s.date < r.since ? 'not on roll' : 'no mark'),
            code: past?.code ?? null,
          }
        },
      ),
      guardians: guardians(r.id),
    }
  })
}

/** A mark as it travels to the screen. */
function toMark(m: RegisterMark): RegisterMark {
  const { codeId, minutesLate, note, version, changedBy, changedAt } = m
  return { codeId, minutesLate, note, version, changedBy, changedAt }
}
