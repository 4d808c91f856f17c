/* eslint-disable no-await-in-loop -- the few year groups of a form */
import { sql } from 'kysely'
import { v7 as uuid } from 'uuid'
import type { z } from 'zod'
import type { classInput } from '@/core/calendar/inputs'
import { registersInput, roomsInput, subjectsInput } from '@/core/calendar/inputs'
import type { Context } from '@/server/platform/context'
import { sessionsMoved } from '@/server/school/sessions-moved'
import { defineCommand } from '@/server/platform/define'
import { notFound, Refusal } from '@/server/platform/failure'
import { updateIfUnchanged } from '@/server/platform/write'
import { registersTopic, timetableTopic, yearTopic } from '@/server/school/topics'
import { setUpYear } from './rights'
import { setTeachers } from './teachers'
import { refuse, refuseField } from './messages'

type Asked = z.infer<typeof classInput>

/** Refuses a name that already exists, or stands twice in the list, however it is written. */
function checkNew(names: readonly string[], there: readonly { readonly name: string }[]): void {
  const taken = new Set(there.map(({ name }) => name.toLowerCase()))
  for (const name of names) {
    if (taken.has(name.toLowerCase())) throw refuseField('names', 'nameExists', { name })
    taken.add(name.toLowerCase())
  }
}

/** Adds subjects after those there are. */
export const addSubjects = defineCommand({
  input: subjectsInput,
  right: setUpYear,
  needsNoVersion: 'creates',
  run: async (context, { names }) => {
    const { db, actor } = context
    const there = await db.selectFrom('subject').select(['name', 'position']).execute()
    checkNew(names, there)
    const last = Math.max(0, ...there.map((s) => s.position))
    await db
      .insertInto('subject')
      .values(
        names.map((name, i) => ({ schoolId: actor.schoolId, id: uuid(), name, position: last + i + 1 })),
      )
      .execute()
    context.changed(yearTopic())
    return { added: names.length }
  },
})

/** Adds rooms. */
export const addRooms = defineCommand({
  input: roomsInput,
  right: setUpYear,
  needsNoVersion: 'creates',
  run: async (context, { names }) => {
    const { db, actor } = context
    checkNew(names, await db.selectFrom('room').select('name').execute())
    await db
      .insertInto('room')
      .values(names.map((name) => ({ schoolId: actor.schoolId, id: uuid(), name })))
      .execute()
    context.changed(yearTopic())
    return { added: names.length }
  },
})

/** Everything a class refers to must be in this school, and in its academic year. */
async function checkClass({ db }: Context, asked: Asked): Promise<void> {
  const year = await db
    .selectFrom('academicYear')
    .select(['id', 'name', 'firstDay', 'lastDay'])
    .where('id', '=', asked.yearId)
    .executeTakeFirst()
  if (!year) throw new Refusal(notFound)
  if (asked.from < year.firstDay || asked.from > year.lastDay)
    throw refuseField('from', 'dayOutsideYear', {
      year: year.name,
      firstDay: year.firstDay,
      lastDay: year.lastDay,
    })
  const count = (table: string, ids: readonly string[], where = sql``) =>
    sql<number>`(select count(*)::int from ${sql.table(table)} t where t.id = any(${ids}::uuid[]) ${where})`
  const ofYear = sql`and t.year_id = ${asked.yearId}`
  const { rows } = await sql<
    Record<'terms' | 'staff' | 'homerooms' | 'subject' | 'group' | 'scale' | 'room', number>
  >`select
    ${count('term', asked.termIds, ofYear)} as terms, ${count('staff_member', asked.staffIds)} as staff,
    ${count('homeroom', asked.homeroomIds, ofYear)} as homerooms, ${count('subject', [asked.subjectId])} as subject,
    ${count('year_group', [asked.yearGroupId])} as "group", ${count('grading_scale', [asked.scaleId])} as scale,
    ${count('room', asked.roomId ? [asked.roomId] : [])} as room`.execute(db)
  const found = rows[0]
  const whole =
    found?.terms === new Set(asked.termIds).size &&
    found.staff === new Set(asked.staffIds).size &&
    found.homerooms === new Set(asked.homeroomIds).size &&
    found.subject + found.group + found.scale === 3 &&
    found.room === (asked.roomId ? 1 : 0)
  if (!whole) throw refuse('partGone', {})
  const other = await db
    .selectFrom('class')
    .select('id')
    .where('yearId', '=', asked.yearId)
    .where('name', '=', asked.name)
    .where('id', '!=', asked.classId ?? uuid())
    .executeTakeFirst()
  if (other) throw refuseField('name', 'classExists', { name: asked.name })
}

/** The course of a subject for a year group; made with its first class. */
async function courseFor({ db, actor }: Context, { subjectId, yearGroupId }: Asked): Promise<string> {
  const found = await db
    .selectFrom('course')
    .select('id')
    .where('subjectId', '=', subjectId)
    .where('yearGroupId', '=', yearGroupId)
    .orderBy('id')
    .executeTakeFirst()
  if (found) return found.id
  const courseId = uuid()
  await sql`insert into course (school_id, id, subject_id, year_group_id, name)
    select ${actor.schoolId}, ${courseId}, s.id, g.id, regexp_replace(g.name, '^Year ', '') || ' ' || s.name
    from subject s, year_group g where s.id = ${subjectId} and g.id = ${yearGroupId}`.execute(db)
  return courseId
}

/** The terms of a class. */
async function setTerms(context: Context, classId: string, termIds: readonly string[]): Promise<void> {
  const { db, actor } = context
  const { rows: left } = await sql<{ firstDay: string }>`
    delete from class_term ct using term t where t.school_id = ct.school_id and t.id = ct.term_id
      and ct.class_id = ${classId} and ct.term_id <> all(${termIds}::uuid[]) returning t.first_day::text`.execute(
    db,
  )
  await sql`insert into class_term (school_id, class_id, term_id)
    select ${actor.schoolId}, ${classId}, t from unnest(${termIds}::uuid[]) t on conflict do nothing`.execute(
    db,
  )
  const [first] = left.map((t) => t.firstDay).sort()
  if (first) await sessionsMoved(context, first)
}

/** The homerooms whose students belong in the class; new students of theirs are proposed it. */
async function setHomerooms({ db, actor }: Context, classId: string, homeroomIds: readonly string[]) {
  await sql`delete from homeroom_class where class_id = ${classId} and homeroom_id <> all(${homeroomIds}::uuid[])`.execute(
    db,
  )
  await sql`insert into homeroom_class (school_id, class_id, homeroom_id)
    select ${actor.schoolId}, ${classId}, h from unnest(${homeroomIds}::uuid[]) h on conflict do nothing`.execute(
    db,
  )
}

/** Makes a class with its teachers, or changes one; who is in it is for others to say. */
export async function writeClass(context: Context, asked: Asked): Promise<string> {
  const { db, actor } = context
  await checkClass(context, asked)
  const { yearId, name, scaleId, homeroomIds, from } = asked
  const roomId = asked.roomId ?? null
  const courseId = await courseFor(context, asked)
  const classId = asked.classId ?? uuid()
  if (asked.classId)
    await updateIfUnchanged(
      context,
      'class',
      { id: classId },
      asked.expectedVersion,
      { name, scaleId, courseId, roomId },
      { what: 'this class' },
    )
  else
    await db
      .insertInto('class')
      .values({ schoolId: actor.schoolId, id: classId, yearId, courseId, scaleId, roomId, name })
      .execute()
  await setTerms(context, classId, asked.termIds)
  await setTeachers(context, { table: 'class_teacher', column: 'class_id' }, classId, asked.staffIds, from)
  await setHomerooms(context, classId, homeroomIds)
  return classId
}

/** Chooses which registers year groups take. Marks that exist stay. */
export const setRegisters = defineCommand({
  input: registersInput,
  right: setUpYear,
  needsNoVersion: 'takes the version of each year group',
  undo: {
    days: 30,
    whenChangedSince: 'stop',
    topics: () => [yearTopic(), timetableTopic(), registersTopic()],
  },
  run: async (context, { groups }) => {
    for (const { yearGroupId, expectedVersion, registers } of groups)
      await updateIfUnchanged(
        context,
        'yearGroup',
        { id: yearGroupId },
        expectedVersion,
        { registers },
        { what: 'this year group' },
      )
    context.changed(yearTopic(), timetableTopic(), registersTopic())
    return null
  },
})
