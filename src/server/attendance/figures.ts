import { sql, type RawBuilder } from 'kysely'
import { z } from 'zod'
import type { Meaning } from '@/core/attendance/codes'
import { attendanceFigures, smallestGroup, type AttendanceFigures } from '@/core/attendance/figures'
import { figuresInput, sessionsBehindInput } from '@/core/attendance/inputs'
import { addDays, type SchoolYear } from '@/core/calendar/school-year'
import { civilDate } from '@/core/inputs'
import { seeGroups } from '@/server/people'
import type { Context } from '@/server/platform/context'
import { defineQuery } from '@/server/platform/define'
import { whereMay } from '@/server/platform/rights'
import { loadYear } from '@/server/school/load-year'
import { lessonsTopic, registersTopic, rollTopic, yearTopic } from '@/server/school/topics'
import { noOpenSessions, openHalfDays, openLessonsOf, type OpenSessions } from './open-sessions'
import { openFigures, seeFigures, watchRegisters } from './rights'
import { attendanceThreshold } from './threshold'

type Scope = z.infer<typeof figuresInput>

/** Who belonged to what figures are of, and when: one row for each stay, `student_id` and `period`. */
function membersOf({ kind, id }: Pick<Scope, 'kind' | 'id'>): RawBuilder<unknown> {
  switch (kind) {
    case 'student':
      return sql`select student_id, period from enrolment where student_id = ${id}`
    case 'class':
      return sql`select student_id, period from class_member where class_id = ${id}`
    case 'homeroom':
      return sql`select student_id, period from homeroom_member where homeroom_id = ${id}`
    case 'year group':
      return sql`select m.student_id, m.period from homeroom_member m
        join homeroom h on h.school_id = m.school_id and h.id = m.homeroom_id where h.year_group_id = ${id}`
    case 'group':
      return sql`select student_id, period from analysis_group_member where group_id = ${id}`
    case 'school':
      return sql`select student_id, period from enrolment`
  }
}

const earlier = (a: string, b: string) => (a < b ? a : b)

/**
 * The marks that count: of sessions that take place in the period until the day asked for, of students while they belonged to what the
 * figures are of. Of a class's lessons only its own.
 */
const marksOf = (scope: Scope): RawBuilder<unknown> => sql`
  select m.student_id, m.session_date, m.session, m.homeroom_id, m.class_id, m.code_id, m.minutes_late, m.note, m.changed_by
  from attendance_mark m where m.session_date between ${scope.from} and ${earlier(scope.to, scope.date)}
    and m.code_id is not null and not m.kept
    and ${scope.sessions === 'half-days' ? sql`m.homeroom_id is not null` : scope.kind === 'class' ? sql`m.class_id = ${scope.id}` : sql`m.class_id is not null`}
    and exists (select 1 from member b where b.student_id = m.student_id and b.period @> m.session_date)`

interface Counted {
  readonly studentId: string | null
  readonly recent: boolean | null
  readonly weekday: number | null
  readonly session: string | null
  readonly week: string | null
  readonly homeroomId: string | null
  readonly meaning: Meaning
  readonly n: number
}

/** Weeks until the day asked for that are compared with those before, to see whose attendance is falling. */
const recentDays = 28

const figuresBy = <K extends string | number>(
  rows: readonly Counted[],
  key: (row: Counted) => K,
): readonly (readonly [K, AttendanceFigures])[] => {
  const counts = new Map<K, Partial<Record<Meaning, number>>>()
  for (const row of rows) {
    const own = counts.get(key(row)) ?? {}
    own[row.meaning] = (own[row.meaning] ?? 0) + row.n
    counts.set(key(row), own)
  }
  return [...counts]
    .sort(([a], [b]) => (a < b ? -1 : a > b ? 1 : 0))
    .map(([k, own]) => [k, attendanceFigures(own, 0)] as const)
}

/** What each student's sessions without a mark and to come are. */
function openOf(context: Context, year: SchoolYear, scope: Scope) {
  return scope.sessions === 'half-days'
    ? openHalfDays(context, year, membersOf(scope), scope)
    : openLessonsOf(context, year, membersOf(scope), {
        ...scope,
        classId: scope.kind === 'class' ? (scope.id ?? undefined) : undefined,
      })
}

/**
 * Attendance of a student, class, homeroom, year group, analysis group or the school in a period: of each student, by
 * weekday and session, by week, and by homeroom; with how the last four weeks were beside those before. All in one pass
 * over the marks.
 */
export const figures = defineQuery({
  input: figuresInput,
  isHeavy: true,
  right: seeFigures,
  topics: () => [registersTopic(), lessonsTopic(), rollTopic(), yearTopic()],
  run: async (context, scope) => {
    const { db } = context
    const until = earlier(scope.to, scope.date)
    const year = await loadYear(db, until)
    const halfDays = scope.sessions === 'half-days'
    const [{ rows: counted }, { rows: names }, openSessions] = await Promise.all([
      sql<Counted>`
        with member as materialized (${membersOf(scope)}), counted as (
          select m.*, extract(isodow from m.session_date)::int as weekday, date_trunc('week', m.session_date)::date as week,
            m.session_date > ${addDays(until, -recentDays)} as recent from (${marksOf(scope)}) m
        ), summed as (
          select student_id, recent, weekday, session, week, homeroom_id, code_id, count(*)::int as n from counted
          group by grouping sets ((student_id, recent, code_id), (weekday, session, code_id), (week, code_id), (homeroom_id, code_id))
        )
        select u.student_id, u.recent, u.weekday, u.session, u.week::text, u.homeroom_id, c.meaning, sum(u.n)::int as n
        from summed u join attendance_code c on c.id = u.code_id
        group by u.student_id, u.recent, u.weekday, u.session, u.week, u.homeroom_id, c.meaning`.execute(db),
      sql<{ id: string; name: string; homeroom: string | null; now: boolean }>`
        with member as (${membersOf(scope)})
        select s.id, s.sort_name as name, h.name as homeroom, bool_or(b.period @> ${until}::date) as now
        from member b join student s on s.id = b.student_id
        left join homeroom_member m on m.school_id = s.school_id and m.student_id = s.id and m.period @> ${until}::date
        left join homeroom h on h.school_id = m.school_id and h.id = m.homeroom_id
        where ${scope.from} <= ${until} and b.period && daterange(${earlier(scope.from, until)}::date, ${until}::date, '[]')
        group by s.id, s.sort_name, h.name order by s.sort_name, s.id`.execute(db),
      year ? openOf(context, year, scope) : new Map<string, OpenSessions>(),
    ])
    if (scope.kind !== 'student' && names.length < smallestGroup)
      return { hidden: true as const, students: names.length }
    const { rows: homerooms } = await sql<{ id: string; name: string }>`
      select h.id, h.name from homeroom h join year_group g on g.school_id = h.school_id and g.id = h.year_group_id
      order by g.position, h.name`.execute(db)
    const ofStudents = counted.filter((r) => r.studentId !== null)
    const own = new Map<string, Counted[]>()
    for (const row of ofStudents) {
      const list = own.get(row.studentId ?? '') ?? []
      list.push(row)
      own.set(row.studentId ?? '', list)
    }
    const all = (rows: readonly Counted[], unmarked = 0): AttendanceFigures =>
      withUnmarked(figuresBy(rows, () => 0)[0]?.[1] ?? attendanceFigures({}, 0), unmarked)
    const students = names.map((student) => {
      const rows = own.get(student.id) ?? []
      const { unmarked, left } = openSessions.get(student.id) ?? noOpenSessions
      const marked = halfDays ? rows.reduce((sum, r) => sum + r.n, 0) : 0
      return {
        ...student,
        /** Sessions still to come until the last day of the period. */
        left,
        figures: all(rows, Math.max(0, unmarked - marked)),
        recent: all(rows.filter((r) => r.recent)),
        before: all(rows.filter((r) => !r.recent)),
      }
    })
    const nameOf = new Map(homerooms.map((h) => [h.id, h.name]))
    const inRooms = new Map<string, number>()
    for (const { homeroom } of names) if (homeroom) inRooms.set(homeroom, (inRooms.get(homeroom) ?? 0) + 1)
    const bySlot = counted.filter((r) => r.weekday !== null)
    return {
      hidden: false as const,
      until,
      total: all(
        ofStudents,
        students.reduce((sum, s) => sum + s.figures.unmarked, 0),
      ),
      students,
      byWeekday: figuresBy(bySlot, (r) => r.weekday ?? 0).map(([weekday, f]) => ({ weekday, figures: f })),
      bySession: figuresBy(bySlot, (r) => r.session ?? '')
        .map(([session, f]) => ({ session, figures: f }))
        // Mornings before afternoons, lessons by the number of their period.
        .sort(
          (a, b) => (Number(a.session) || 0) - (Number(b.session) || 0) || b.session.localeCompare(a.session),
        ),
      byWeek: figuresBy(
        counted.filter((r) => r.week !== null),
        (r) => r.week ?? '',
      ).map(([week, f]) => ({ week, figures: f })),
      byHomeroom:
        scope.kind === 'school' || scope.kind === 'year group'
          ? figuresBy(
              counted.filter((r) => r.homeroomId !== null && r.studentId === null),
              (r) => r.homeroomId ?? '',
            )
              .map(([id, f]) => ({
                id,
                name: nameOf.get(id) ?? '',
                figures: (inRooms.get(nameOf.get(id) ?? '') ?? 0) < smallestGroup ? null : f,
              }))
              .sort(
                (a, b) =>
                  homerooms.findIndex((h) => h.id === a.id) - homerooms.findIndex((h) => h.id === b.id),
              )
          : [],
    }
  },
})

const withUnmarked = (f: AttendanceFigures, unmarked: number): AttendanceFigures => ({ ...f, unmarked })

/** Sessions listed behind a figure at most. */
const mostSessions = 500

/** The sessions behind a figure, the latest first, with the code of each and who entered it. */
export const sessionsBehind = defineQuery({
  isHeavy: true,
  input: sessionsBehindInput,
  right: seeFigures,
  run: async ({ db }, { studentId, homeroomId, weekday, session, week, ...scope }) => {
    const narrowed = [
      studentId ? sql`m.student_id = ${studentId}` : undefined,
      homeroomId ? sql`m.homeroom_id = ${homeroomId}` : undefined,
      weekday ? sql`extract(isodow from m.session_date) = ${weekday}` : undefined,
      session ? sql`m.session = ${session}` : undefined,
      week ? sql`m.session_date between ${week} and ${addDays(week, 6)}` : undefined,
    ].filter((part) => part !== undefined)
    const { rows } = await sql<{
      studentId: string
      name: string
      date: string
      session: string
      homeroomId: string | null
      classId: string | null
      code: string
      label: string
      meaning: Meaning
      minutesLate: number | null
      note: string | null
      by: string
      all: number
    }>`
      with member as materialized (${membersOf(scope)})
      select m.student_id, s.sort_name as name, m.session_date::text as date, m.session, m.homeroom_id, m.class_id, c.code, c.label, c.meaning,
        m.minutes_late, m.note, m.changed_by as by, count(*) over ()::int as all
      from (${marksOf(scope)}) m join attendance_code c on c.id = m.code_id join student s on s.id = m.student_id
      where ${narrowed.length > 0 ? sql.join(narrowed, sql` and `) : sql`true`}
      order by c.meaning = 'present', m.session_date desc, m.session desc, s.sort_name limit ${mostSessions}`.execute(
      db,
    )
    return { sessions: rows, all: rows[0]?.all ?? 0 }
  },
})

/**
 * What figures can be asked of by the actor: homerooms, classes and, for the office, year groups and analysis groups;
 * with the school's threshold.
 */
export const figureChoices = defineQuery({
  input: z.object({ date: civilDate }),
  right: openFigures,
  topics: () => [yearTopic(), rollTopic()],
  run: async (context, { date }) => {
    const { db } = context
    const [year, threshold, all, groups] = await Promise.all([
      loadYear(db, date),
      attendanceThreshold(context),
      context.may(watchRegisters, {}),
      context.may(seeGroups, {}),
    ])
    const { rows } = await sql<{ kind: Scope['kind']; id: string; name: string }>`
      select 'homeroom' as kind, h.id, h.name, 1 as rank, g.position as at from homeroom h
        join year_group g on g.school_id = h.school_id and g.id = h.year_group_id
        where h.year_id = ${year?.id ?? null} and ${whereMay(context, seeFigures, sql.ref('h.id'))}
      union all select 'class', c.id, c.name, 2, 0 from class c
        where c.year_id = ${year?.id ?? null} and ${whereMay(context, seeFigures, sql.ref('c.id'))}
      union all select 'year group', g.id, g.name, 3, g.position from year_group g where ${all}
      union all select 'group', a.id, a.name, 4, 0 from analysis_group a where ${all && groups}
      order by rank, at, name`.execute(db)
    return { choices: rows, whole: all, year, threshold }
  },
})
