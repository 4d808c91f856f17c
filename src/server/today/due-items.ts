import { sql } from 'kysely'
import { dayKind } from '@/core/calendar/school-year'
import { hasRole } from '@/server/platform/actor'
import type { Context } from '@/server/platform/registry'
import { loadYear } from '@/server/year/load-year'

/** One thing that waits for somebody, and the address at which it is done. */
export interface DueItem {
  readonly what: string
  readonly detail: string
  readonly href: string
  /** When it is due; a date, or a half-day today. */
  readonly due: string
  readonly overdue: boolean
  /** The date is when it began to wait, not a deadline. */
  readonly since?: boolean
  readonly act: string
}

interface OpenRegister {
  id: string
  name: string
  teacher: string | null
  own: boolean
  on_roll: number
  morning: number
  afternoon: number
}

/** Registers of a day with how many are on roll and how many are marked in each half. */
export async function registersOf({ db, actor }: Context, date: string): Promise<readonly OpenRegister[]> {
  const { rows } = await sql<OpenRegister>`
    with roll as (
      select homeroom_id, count(*)::int as n from homeroom_member where period @> ${date}::date group by homeroom_id
    ), marked as (
      select homeroom_id, count(*) filter (where session = 'morning')::int as morning, count(*) filter (where session = 'afternoon')::int as afternoon
      from attendance_mark where session_date = ${date} and code_id is not null
        and exists (select 1 from homeroom_member m where m.school_id = attendance_mark.school_id and m.homeroom_id = attendance_mark.homeroom_id
          and m.student_id = attendance_mark.student_id and m.period @> ${date}::date)
      group by homeroom_id
    )
    select h.id, h.name, roll.n as on_roll, coalesce(marked.morning, 0) as morning, coalesce(marked.afternoon, 0) as afternoon,
      (select string_agg(s.given_name || ' ' || s.family_name, ', ') from homeroom_teacher t join staff_member s on s.school_id = t.school_id and s.id = t.staff_id
        where t.school_id = h.school_id and t.homeroom_id = h.id and t.period @> ${date}::date) as teacher,
      exists (select 1 from homeroom_teacher t where t.school_id = h.school_id and t.homeroom_id = h.id and t.staff_id = ${actor.personId} and t.period @> ${date}::date) as own
    from homeroom h join roll on roll.homeroom_id = h.id left join marked on marked.homeroom_id = h.id
    join year_group g on g.school_id = h.school_id and g.id = h.year_group_id
    order by g.position, h.name`.execute(db)
  return rows
}

/** Sessions of today that have begun: the afternoon's from noon, where the school is. */
export function sessionsBegun(now: Date, timeZone: string): readonly ('morning' | 'afternoon')[] {
  const hour = Number(
    new Intl.DateTimeFormat('en-GB', { hour: '2-digit', hourCycle: 'h23', timeZone }).format(now),
  )
  return hour >= 12 ? ['morning', 'afternoon'] : ['morning']
}

async function registersDue(context: Context, date: string): Promise<DueItem[]> {
  const { db, actor, now } = context
  const [year, all] = await Promise.all([loadYear(db, date), registersOf(context, date)])
  if (!year || dayKind(year, date).kind !== 'school day') return []
  const office = hasRole(actor, 'administrator', 'head', 'office', 'records')
  return sessionsBegun(now, actor.timeZone).flatMap((session) => {
    const open = all.filter((r) => r[session] < r.on_roll)
    const mine = open
      .filter((r) => r.own)
      .map((r) => ({
        what: `${r.name}, ${session} register`,
        detail:
          r[session] === 0
            ? `${r.on_roll} on roll, not begun`
            : `${r.on_roll - r[session]} of ${r.on_roll} without a mark`,
        href: `/homerooms/${r.id}/register?session=${session}`,
        due: `this ${session}`,
        overdue: false,
        act: 'Take the register',
      }))
    if (!office || open.length === 0) return mine
    const names =
      open
        .slice(0, 6)
        .map((r) => r.name)
        .join(', ') + (open.length > 6 ? ` and ${open.length - 6} more` : '')
    return [
      ...mine,
      {
        what:
          open.length === 1
            ? `1 ${session} register is not complete`
            : `${open.length} ${session} registers are not complete`,
        detail: names,
        href: `/classes?session=${session}`,
        due: `this ${session}`,
        overdue: false,
        act: 'See which',
      },
    ]
  })
}

async function entriesDue({ db, actor }: Context, date: string): Promise<DueItem[]> {
  const teacher = hasRole(actor, 'teacher')
  const lead = hasRole(actor, 'administrator', 'head')
  if (!teacher && !lead) return []
  const rows = await db
    .selectFrom('class_entries as e')
    .innerJoin('report_round as r', 'r.id', 'e.round_id')
    .innerJoin('class as c', 'c.id', 'e.class_id')
    .select([
      'e.round_id',
      'e.class_id',
      'e.state',
      'e.remark',
      'r.name as round',
      'r.due_on',
      'c.name as class_name',
    ])
    .select(
      sql<boolean>`exists (select 1 from class_teacher t where t.school_id = e.school_id and t.class_id = e.class_id
      and t.staff_id = ${actor.personId} and t.period @> ${date}::date)`.as('own'),
    )
    .where('e.state', 'in', ['writing', 'sent back', 'handed in'])
    .orderBy('r.due_on')
    .orderBy('c.name')
    .execute()
  const mine = rows
    .filter((r) => r.own && r.state !== 'handed in')
    .map((r) => ({
      what: `${r.class_name}, report entries`,
      detail: r.state === 'sent back' ? `Sent back: ${r.remark ?? ''}` : `${r.round}, still being written`,
      href: `/reports/${r.round_id}/classes/${r.class_id}`,
      due: r.due_on,
      overdue: r.due_on < date,
      act: r.state === 'sent back' ? 'See the remark' : 'Write',
    }))
  const waiting = lead ? rows.filter((r) => r.state === 'handed in') : []
  return [
    ...mine,
    ...waiting.map((r) => ({
      what: `${r.class_name}, entries to check`,
      detail: `${r.round}, handed in`,
      href: `/reports/${r.round_id}/classes/${r.class_id}`,
      due: r.due_on,
      overdue: r.due_on < date,
      act: 'Read and check',
    })),
  ]
}

async function sheetsDue({ db, actor }: Context, date: string): Promise<DueItem[]> {
  if (!hasRole(actor, 'teacher')) return []
  const { rows } = await sql<{ id: string; name: string; given_on: string; missing: number }>`
    select a.id, a.name, a.given_on, count(*)::int as missing
    from assessment a join assessment_class ac on ac.school_id = a.school_id and ac.assessment_id = a.id
    join class_member m on m.school_id = ac.school_id and m.class_id = ac.class_id and m.period @> a.given_on
    left join answer_sheet s on s.school_id = a.school_id and s.assessment_id = a.id and s.student_id = m.student_id and s.answered
    where a.owner_id = ${actor.personId} and a.given_on <= ${date} and s.student_id is null
    group by a.id, a.name, a.given_on order by a.given_on`.execute(db)
  return rows.map((r) => ({
    what: `${r.name}, answers`,
    detail: r.missing === 1 ? '1 student has no answers yet' : `${r.missing} students have no answers yet`,
    href: `/assessments/${r.id}/answers`,
    due: r.given_on,
    since: true,
    overdue: false,
    act: 'Type answers',
  }))
}

async function arrivalsDue({ db, actor }: Context, date: string): Promise<DueItem[]> {
  if (!hasRole(actor, 'administrator', 'office', 'records')) return []
  const rows = await db
    .selectFrom('student as s')
    .innerJoin('homeroom as h', 'h.id', 's.expected_in')
    .select(['s.id', 's.sort_name', 's.expected_from', 'h.name as homeroom'])
    .where('s.number', 'is', null)
    .where('s.expected_from', '<=', date)
    .orderBy('s.sort_name')
    .execute()
  return rows.map((r) => ({
    what: `${r.sort_name}, accepted and expected`,
    detail: `In ${r.homeroom}, not yet enrolled`,
    href: `/people/enrol?applicant=${r.id}`,
    due: r.expected_from ?? date,
    since: true,
    overdue: false,
    act: 'Enrol',
  }))
}

/** Everything that waits for the actor on a date, registers first, then by due date. */
export async function dueItems(context: Context, date: string): Promise<readonly DueItem[]> {
  const [registers, ...others] = await Promise.all([
    registersDue(context, date),
    arrivalsDue(context, date),
    entriesDue(context, date),
    sheetsDue(context, date),
  ])
  return [...registers, ...others.flat().sort((a, b) => a.due.localeCompare(b.due))]
}
