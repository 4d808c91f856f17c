import { sql } from 'kysely'
import { v7 as uuid } from 'uuid'
import { z } from 'zod'
import { canBeCarried, carryState, type CarryState } from '@/core/calendar/carrying'
import { carryInput } from '@/core/calendar/inputs'
import { id } from '@/core/inputs'
import { carryGradebooks } from '@/server/marks'
import type { Context } from '@/server/platform/context'
import { enrolledUntil } from '@/server/school/facts'
import { defineCommand, defineQuery } from '@/server/platform/define'
import { notFound, Refusal } from '@/server/platform/failure'
import { rollTopic, yearTopic } from '@/server/school/topics'
import { awayFrom } from '@/server/school/leaving-staff'
import { setUpYear } from './rights'
import { refuse } from './words'

interface TermOfYear {
  readonly id: string
  readonly name: string
  readonly firstDay: string
  readonly lastDay: string
  readonly yearId: string
  readonly yearName: string
}

interface Carried {
  readonly classId: string
  readonly name: string
  readonly subject: string
  readonly yearGroup: string
  /** Students on the last day of the term. */
  readonly students: number
  readonly teachers: readonly string[]
  /** Teachers of the term who no longer have an active account; they do not come along. */
  readonly left: readonly string[]
  readonly state: CarryState
  /** The class of the next term, where it is there. */
  readonly targetId: string | null
}

/** A term and the one after it, in this year or the next. */
async function termAndNext({ db }: Context, termId: string) {
  const { rows } = await sql<TermOfYear>`
    select t.id, t.name, t.first_day, t.last_day, t.year_id, y.name as year_name
    from term t join academic_year y on y.id = t.year_id
    where t.first_day >= (select f.first_day from term f where f.id = ${termId})
    order by t.first_day limit 2`.execute(db)
  const [from, to] = rows
  if (!from) throw new Refusal(notFound)
  return { from, to }
}

const names = (which: string) => sql`array(select f.sort_name from class_teacher t
  join staff_member f on f.id = t.staff_id
  where t.class_id = c.id and t.period @> ${sql.ref('at.day')} and ${sql.raw(which)} exists (
    select 1 from membership m where m.person_id = f.id and m.active) order by f.sort_name)`

/** Every class of a term with what carrying it would do, in one statement. */
async function classesToCarry(
  { db }: Context,
  from: TermOfYear,
  to: TermOfYear,
): Promise<readonly Carried[]> {
  const { rows } = await sql<
    Omit<Carried, 'state'> & {
      sameCourse: boolean | null
      inTerm: boolean
      hasMarks: boolean
      categories: number
    }
  >`select c.id as class_id, c.name, s.name as subject, g.name as year_group, n.id as target_id,
      n.course_id = c.course_id as same_course,
      exists (select 1 from class_term x where x.class_id = n.id and x.term_id = ${to.id}) as in_term,
      exists (select 1 from gradebook b where b.class_id = n.id and b.term_id = ${to.id}) as has_marks,
      (select count(*)::int from category k where k.class_id = c.id and k.term_id = ${from.id}) as categories,
      (select count(*)::int from class_member m where m.class_id = c.id and m.period @> at.day) as students,
      ${names('')} as teachers, ${names('not')} as left
    from class_term ct join class c on c.id = ct.class_id
      join course k on k.id = c.course_id join subject s on s.id = k.subject_id join year_group g on g.id = k.year_group_id
      cross join (select ${from.lastDay}::date as day) at
      left join class n on n.year_id = ${to.yearId} and n.name = c.name
    where ct.term_id = ${from.id} order by g.position, s.position, c.name`.execute(db)
  return rows.map(({ sameCourse, inTerm, hasMarks, categories, ...row }) => ({
    ...row,
    state: carryState({
      there: sameCourse === null ? 'none' : sameCourse ? 'same course' : 'other course',
      inTerm,
      hasMarks,
      categories,
    }),
  }))
}

/** What carrying the classes of a term to the next one would do, class by class. */
export const carryPlan = defineQuery({
  input: z.object({ termId: id }),
  right: setUpYear,
  topics: () => [yearTopic(), rollTopic()],
  run: async (context, { termId }) => {
    const { from, to } = await termAndNext(context, termId)
    return { from, to: to ?? null, classes: to ? await classesToCarry(context, from, to) : [] }
  },
})

/** Creates the classes that the next year does not have, with their teachers and the homerooms they belong to. */
async function createClasses(
  { db, actor }: Context,
  pairs: readonly { readonly from: string; readonly to: string }[],
  from: TermOfYear,
  to: TermOfYear,
): Promise<void> {
  const school = actor.schoolId
  const pair = sql`unnest(${pairs.map((p) => p.from)}::uuid[], ${pairs.map((p) => p.to)}::uuid[]) p(old_id, new_id)`
  await sql`insert into class (school_id, id, year_id, course_id, scale_id, room_id, name)
    select ${school}, p.new_id, ${to.yearId}, c.course_id, c.scale_id, c.room_id, c.name
    from ${pair} join class c on c.id = p.old_id`.execute(db)
  await sql`insert into class_teacher (school_id, class_id, staff_id, period)
    select distinct ${school}::uuid, p.new_id, t.staff_id, daterange(${to.firstDay}::date, ${awayFrom('s')})
    from ${pair} join class_teacher t on t.class_id = p.old_id and t.period @> ${from.lastDay}::date
    join staff_member s on s.school_id = t.school_id and s.id = t.staff_id
    where coalesce(s.last_day, 'infinity') >= ${to.firstDay} and exists (select 1 from membership m where m.person_id = t.staff_id and m.active)`.execute(
    db,
  )
  await sql`insert into homeroom_class (school_id, homeroom_id, class_id)
    select ${school}, n.id, p.new_id
    from ${pair} join homeroom_class x on x.class_id = p.old_id join homeroom h on h.id = x.homeroom_id
      join homeroom n on n.year_id = ${to.yearId} and n.name = h.name and n.year_group_id = h.year_group_id`.execute(
    db,
  )
}

/** Puts the students of the old classes into the new ones, those who are enrolled on the first day. */
async function bringStudents(
  { db, actor }: Context,
  pairs: readonly { readonly from: string; readonly to: string }[],
  from: TermOfYear,
  to: TermOfYear,
): Promise<void> {
  await sql`with joined as (
      insert into class_member (school_id, class_id, student_id, period)
      select distinct ${actor.schoolId}::uuid, p.new_id, m.student_id, daterange(${to.firstDay}::date, ${enrolledUntil(sql.ref('m.student_id'), to.firstDay)})
      from unnest(${pairs.map((p) => p.from)}::uuid[], ${pairs.map((p) => p.to)}::uuid[]) p(old_id, new_id)
        join class_member m on m.class_id = p.old_id and m.period @> ${from.lastDay}::date
      where exists (select 1 from enrolment e where e.student_id = m.student_id and e.period @> ${to.firstDay}::date)
      returning student_id)
    update student set roll_version = nextval('kedge_version') where id in (select student_id from joined)`.execute(
    db,
  )
}

/** Ends the memberships in classes that go on without their students, with the day before the term begins. */
async function leaveStudents({ db }: Context, classIds: readonly string[], firstDay: string): Promise<void> {
  await sql`delete from class_member where class_id = any(${classIds}::uuid[]) and lower(period) >= ${firstDay}::date`.execute(
    db,
  )
  await sql`with ended as (
      update class_member set period = daterange(lower(period), ${firstDay}::date)
      where class_id = any(${classIds}::uuid[]) and period @> ${firstDay}::date returning student_id)
    update student set roll_version = nextval('kedge_version') where id in (select student_id from ended)`.execute(
    db,
  )
}

/**
 * Carries classes to the next term: the term itself, teachers, categories and rules, the grading scale, and the
 * students if they are to come along. What already exists stays as it is, so that a second run does nothing. A
 * constant number of statements.
 */
export const carryForward = defineCommand({
  input: carryInput,
  right: setUpYear,
  needsNoVersion: 'adds only what is missing, as its preview has shown',
  undo: { days: 30, whenChangedSince: 'stop', topics: () => [yearTopic(), rollTopic()] },
  run: async (context, { fromTermId, toTermId, classIds, withStudents }) => {
    const { db, actor } = context
    const { from, to } = await termAndNext(context, fromTermId)
    if (!to || to.id !== toTermId) throw refuse('notNextTerm', { from: from.name, next: to?.name ?? null })
    // Two who carry at once come one after the other, so that the second finds what the first has made.
    await sql`select 1 from term where id = ${to.id} for update`.execute(db)
    const asked = new Set(classIds)
    const plan = (await classesToCarry(context, from, to)).filter((c) => asked.has(c.classId))
    if (plan.length < asked.size) throw refuse('classesGone', {})
    const todo = plan
      .filter((c) => canBeCarried(c.state))
      .map((c) => ({ from: c.classId, to: c.targetId ?? uuid(), state: c.state }))
    const created = todo.filter((c) => c.state === 'new class')
    if (created.length > 0) await createClasses(context, created, from, to)
    await sql`insert into class_term (school_id, class_id, term_id)
      select ${actor.schoolId}, c, ${to.id} from unnest(${todo.map((c) => c.to)}::uuid[]) c on conflict do nothing`.execute(
      db,
    )
    if (todo.length > 0) await carryGradebooks(context, todo, { from: from.id, to: to.id })
    if (withStudents && created.length > 0) await bringStudents(context, created, from, to)
    const going = todo.filter((c) => c.state === 'new term' && c.from === c.to)
    if (!withStudents && going.length > 0)
      await leaveStudents(
        context,
        going.map((c) => c.to),
        to.firstDay,
      )
    context.changed(yearTopic(), rollTopic())
    return { carried: todo.length, existed: plan.filter((c) => c.state === 'exists').length }
  },
})
