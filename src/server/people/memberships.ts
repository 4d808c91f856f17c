/* eslint-disable no-await-in-loop -- the few kinds of membership */
import { sql } from 'kysely'
import type { z } from 'zod'
import {
  endedAfter,
  heldOn,
  joined,
  movedTo,
  whileEnrolled,
  type Membership,
} from '@/core/people/memberships'
import { addDays, termOn } from '@/core/calendar/school-year'
import { leaveInput, placeInput } from '@/core/people/inputs'
import type { Context } from '@/server/platform/context'
import { defineCommand } from '@/server/platform/define'
import { conflict, notFound, Refusal } from '@/server/platform/failure'
import { loadYear } from '@/server/school/load-year'
import { arrivalsTopic, registersTopic, rollTopic } from '@/server/school/topics'
import { changeGroups, enrolStudents, moveStudents } from './rights'
import { studentTopic } from './topics'
import { refuse, refuseField } from './messages'

type Students = z.infer<typeof placeInput>['students']

interface Kind {
  readonly table: 'enrolment' | 'homeroom_member' | 'class_member' | 'analysis_group_member'
  readonly place: 'year_group_id' | 'homeroom_id' | 'class_id' | 'group_id'
}
const kinds = {
  yearGroup: { table: 'enrolment', place: 'year_group_id' },
  homeroom: { table: 'homeroom_member', place: 'homeroom_id' },
  class: { table: 'class_member', place: 'class_id' },
  group: { table: 'analysis_group_member', place: 'group_id' },
} as const satisfies Record<string, Kind>

type Own = ReadonlyMap<string, readonly Membership[]>

/** Memberships of one kind of some students, in one statement. */
async function membershipsOf({ db }: Context, kind: Kind, studentIds: readonly string[]): Promise<Own> {
  const { rows } = await sql<Membership & { studentId: string }>`
    select student_id, ${sql.ref(kind.place)} as place_id, lower(period)::text as "from", upper(period)::text as until
    from ${sql.table(kind.table)} where student_id = any(${studentIds}::uuid[]) order by lower(period)`.execute(
    db,
  )
  const own = new Map<string, Membership[]>(studentIds.map((id) => [id, []]))
  for (const { studentId, placeId, from, until } of rows) own.get(studentId)?.push({ placeId, from, until })
  return own
}

/**
 * Writes what has changed between two states: three statements, however many students. `yearId` is that of new rows
 * of the year group.
 */
async function writeMemberships(
  { db, actor }: Context,
  kind: Kind,
  before: Own,
  after: Own,
  yearId?: string,
): Promise<void> {
  const gone: object[] = []
  const changed: object[] = []
  const added: object[] = []
  for (const [student, own] of after) {
    const old = before.get(student) ?? []
    const at = (all: readonly Membership[], m: Membership) =>
      all.find((o) => o.placeId === m.placeId && o.from === m.from)
    for (const m of old) if (!at(own, m)) gone.push({ student, place: m.placeId, from: m.from })
    for (const m of own) {
      const was = at(old, m)
      const row = { student, place: m.placeId, from: m.from, until: m.until }
      if (!was) added.push(row)
      else if (was.until !== m.until) changed.push(row)
    }
  }
  const { table, place } = kind
  const asked = (rows: readonly object[]) =>
    sql`jsonb_to_recordset(${JSON.stringify(rows)}::jsonb) as a(student uuid, place uuid, "from" date, until date)`
  const same = sql`t.student_id = a.student and t.${sql.ref(place)} = a.place and lower(t.period) = a."from"`
  if (gone.length > 0)
    await sql`delete from ${sql.table(table)} t using ${asked(gone)} where ${same}`.execute(db)
  if (changed.length > 0)
    await sql`update ${sql.table(table)} t set period = daterange(a."from", a.until) from ${asked(changed)} where ${same}`.execute(
      db,
    )
  if (added.length === 0) return
  const ofYear = kind === kinds.yearGroup
  await sql`insert into ${sql.table(table)} (school_id, student_id, ${sql.ref(place)}, period${ofYear ? sql`, year_id` : sql``})
    select ${actor.schoolId}, a.student, a.place, daterange(a."from", a.until)${ofYear ? sql`, ${yearId}::uuid` : sql``}
    from ${asked(added)}`.execute(db)
}

const mapped = (own: Own, change: (all: readonly Membership[], studentId: string) => readonly Membership[]) =>
  new Map([...own].map(([id, all]) => [id, change(all, id)]))

/** Locks the students in one order and compares the versions of their memberships with what was in sight. */
async function lockStudents({ db }: Context, students: Students): Promise<ReadonlyMap<string, string>> {
  const rows = await db
    .selectFrom('student')
    .select(['id', 'sortName', 'rollVersion', 'mergedInto'])
    .where(
      'id',
      'in',
      students.map((s) => s.studentId),
    )
    .orderBy('id')
    .forUpdate()
    .execute()
  const at = new Map(rows.map((row) => [row.id, row]))
  if (students.some((s) => !at.has(s.studentId))) throw new Refusal(notFound)
  const merged = rows.find((row) => row.mergedInto !== null)
  if (merged) throw refuse('merged', { name: merged.sortName })
  const moved = students.filter((s) => at.get(s.studentId)?.rollVersion !== s.expectedVersion)
  if (moved.length > 0) {
    const names = moved.map((s) => at.get(s.studentId)?.sortName ?? '').slice(0, 3)
    throw conflict(
      `Someone else changed where ${names.join(' and ')}${moved.length > 3 ? ` and ${moved.length - 3} more` : ''} belong in the meantime. Nothing was changed. Close this and look again.`,
      moved.map((s) => ({
        key: { studentId: s.studentId },
        value: null,
        version: at.get(s.studentId)?.rollVersion ?? 0,
        by: '',
      })),
    )
  }
  return new Map(rows.map((row) => [row.id, row.sortName]))
}

/** Draws a new version for the memberships of students. */
async function drawVersions({ db }: Context, studentIds: readonly string[]) {
  await sql`update student set roll_version = nextval('kedge_version') where id = any(${studentIds}::uuid[])`.execute(
    db,
  )
}

/** Refuses a homeroom of another year, or of another year group than all of these. */
export async function checkHomeroom(
  { db }: Context,
  homeroomId: string,
  yearId: string,
  groups: ReadonlySet<string>,
): Promise<void> {
  const homeroom = await db
    .selectFrom('homeroom')
    .select(['name', 'yearGroupId', 'lastDay'])
    .where('id', '=', homeroomId)
    .where('yearId', '=', yearId)
    // Nobody closes it meanwhile.
    .forShare()
    .executeTakeFirst()
  if (!homeroom) throw refuseField('homeroomId', 'homeroomOfOtherYear', {})
  if (homeroom.lastDay !== null)
    throw refuseField('homeroomId', 'homeroomClosed', { homeroom: homeroom.name, lastDay: homeroom.lastDay })
  if ([...groups].some((id) => id !== homeroom.yearGroupId))
    throw refuseField('homeroomId', 'homeroomOfOtherGroup', { homeroom: homeroom.name })
}

/** Refuses classes that are not taught in the term. */
export async function checkClasses(
  { db }: Context,
  path: string,
  classIds: readonly string[],
  yearId: string,
  term: { readonly id: string; readonly name: string },
): Promise<void> {
  if (classIds.length === 0) return
  const classes = await db
    .selectFrom('class as c')
    .leftJoin('classTerm as t', (j) => j.onRef('t.classId', '=', 'c.id').on('t.termId', '=', term.id))
    .select(['c.id', 'c.name', 'c.yearId', 't.termId'])
    .where('c.id', 'in', classIds)
    .execute()
  if (classes.length < new Set(classIds).size) throw refuseField(path, 'classOfOtherSchool', {})
  const elsewhere = classes.filter((c) => c.termId === null || c.yearId !== yearId).map((c) => c.name)
  if (elsewhere.length > 0)
    throw refuseField(path, 'classesNotInTerm', { classes: elsewhere, term: term.name })
}

type Asked = { readonly students: Students }
const idsOf = ({ students }: Asked) => students.map((s) => s.studentId)
const topics = ({ students }: Asked) => [
  rollTopic(),
  registersTopic(),
  arrivalsTopic(),
  ...students.map((s) => studentTopic(s.studentId)),
]

/**
 * Puts students into places of which they can hold several, and takes them out of others, from a day on; as far as they
 * are on the roll.
 */
async function joinAndLeave(
  context: Context,
  kind: Kind,
  enrolled: Own,
  { join, leave: left, from }: { join: readonly string[]; leave: readonly string[]; from: string },
): Promise<void> {
  if (join.length + left.length === 0) return
  const before = await membershipsOf(context, kind, [...enrolled.keys()])
  const after = mapped(before, (all, studentId) => {
    const of = (placeId: string) => all.filter((m) => m.placeId === placeId)
    const other = all.filter((m) => !join.includes(m.placeId) && !left.includes(m.placeId))
    const both = [...new Set([...join, ...left])]
    return whileEnrolled(
      [
        ...other,
        ...both.flatMap((id) => (join.includes(id) ? joined(of(id), id, from) : endedAfter(of(id), from))),
      ],
      enrolled.get(studentId) ?? [],
    )
  })
  await writeMemberships(context, kind, before, after)
}

/** Refuses groups that there are none of, and whoever may not say who is in them. */
async function checkGroups(context: Context, groupIds: readonly string[]): Promise<void> {
  if (groupIds.length === 0) return
  if (!(await context.may(changeGroups, {}))) throw new Refusal(notFound)
  const there = await context.db
    .selectFrom('analysisGroup')
    .select('id')
    .where('id', 'in', groupIds)
    .execute()
  if (there.length < new Set(groupIds).size) throw new Refusal(notFound)
}

/** Puts students into a year group, a homeroom, classes and groups from a day on, or takes them back after they had left. */
export const place = defineCommand({
  input: placeInput,
  right: moveStudents,
  undo: {
    days: 30,
    whenChangedSince: 'stop',
    topics,
    after: (context, asked: Asked) => drawVersions(context, idsOf(asked)),
  },
  run: async (context, asked) => {
    const { students, from, yearGroupId, homeroomId, join, leave: left, joinGroups, leaveGroups } = asked
    const ids = idsOf(asked)
    const names = await lockStudents(context, students)
    const year = await loadYear(context.db, from)
    if (!year) throw refuse('noYear', {})
    if (from < year.firstDay || from > year.lastDay)
      throw refuseField('from', 'dayOutsideYear', {
        year: year.name,
        firstDay: year.firstDay,
        lastDay: year.lastDay,
      })
    const term = termOn(year, from) ?? year.terms.find((t) => t.firstDay > from)
    if (!term && join.length > 0) throw refuseField('from', 'noTermLeft', {})
    const enrolments = await membershipsOf(context, kinds.yearGroup, ids)
    const enrolled = yearGroupId ? mapped(enrolments, (all) => movedTo(all, yearGroupId, from)) : enrolments
    const away = ids.filter((id) => !heldOn(enrolled.get(id) ?? [], from)).map((id) => names.get(id) ?? '')
    if (away.length > 0) throw refuseField('from', 'notOnRoll', { students: away, date: from })
    await writeMemberships(context, kinds.yearGroup, enrolments, enrolled, year.id)
    if (homeroomId) {
      const groups = new Set(ids.map((id) => heldOn(enrolled.get(id) ?? [], from)?.placeId ?? ''))
      await checkHomeroom(context, homeroomId, year.id, groups)
      const before = await membershipsOf(context, kinds.homeroom, ids)
      await writeMemberships(
        context,
        kinds.homeroom,
        before,
        mapped(before, (all, id) => whileEnrolled(movedTo(all, homeroomId, from), enrolled.get(id) ?? [])),
      )
    }
    if (term && join.length > 0) await checkClasses(context, 'join', join, year.id, term)
    await joinAndLeave(context, kinds.class, enrolled, { join, leave: left, from })
    await checkGroups(context, [...joinGroups, ...leaveGroups])
    await joinAndLeave(context, kinds.group, enrolled, { join: joinGroups, leave: leaveGroups, from })
    await drawVersions(context, ids)
    context.changed(...topics(asked))
    return { students: ids.length }
  },
})

/** Students leave the school: they are nowhere after their last day, and their history stays. */
export const leave = defineCommand({
  input: leaveInput,
  right: enrolStudents,
  undo: {
    days: 30,
    whenChangedSince: 'stop',
    topics,
    after: (context, asked: Asked) => drawVersions(context, idsOf(asked)),
  },
  run: async (context, asked) => {
    const { db, actor } = context
    const { students, lastDay, reason, destination } = asked
    const ids = idsOf(asked)
    const names = await lockStudents(context, students)
    const away = addDays(lastDay, 1)
    for (const kind of [kinds.yearGroup, kinds.homeroom, kinds.class, kinds.group]) {
      const before = await membershipsOf(context, kind, ids)
      if (kind === kinds.yearGroup) {
        const out = ids.filter((id) => !heldOn(before.get(id) ?? [], lastDay))
        if (out.length > 0)
          throw refuseField('lastDay', 'notOnRoll', {
            students: out.map((id) => names.get(id) ?? ''),
            date: lastDay,
          })
      }
      await writeMemberships(
        context,
        kind,
        before,
        mapped(before, (all) => endedAfter(all, away)),
      )
    }
    await db
      .insertInto('departure')
      .values(ids.map((studentId) => ({ schoolId: actor.schoolId, studentId, lastDay, reason, destination })))
      .onConflict((c) => c.columns(['schoolId', 'studentId', 'lastDay']).doUpdateSet({ reason, destination }))
      .execute()
    await drawVersions(context, ids)
    context.changed(...topics(asked))
    return { students: ids.length }
  },
})
