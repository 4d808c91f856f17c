import { sql } from 'kysely'
import { v7 as uuid } from 'uuid'
import { z } from 'zod'
import { canBeCarried, carryState, type CarryState } from '@/core/calendar/carrying'
import { carryInput } from '@/core/calendar/inputs'
import { id } from '@/core/inputs'
import { carryGradebooks } from '@/server/marks'
import type { Context } from '@/server/platform/context'
import { bringStudents, leaveStudents } from '@/server/people'
import { defineCommand, defineDomain, defineQuery } from '@/server/platform/define'
import { refusals } from '@/server/platform/failure'
import { rollTopic, yearTopic } from '@/server/school/topics'
import { createClasses, setUpYear, termAndNext, type TermOfYear } from '@/server/year'

const { refuse } = refusals('carry', {
  notNextTerm: ({ from, next }: { from: string; next: string | null }) =>
    next === null
      ? `There is no term after ${from}. Create the next academic year first.`
      : `The term after ${from} is ${next} now. Nothing was carried; check the list again.`,
  classesGone: () =>
    'Some of these classes have been removed in the meantime. Nothing was carried; check the list again.',
})

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
const plan = defineQuery({
  input: z.object({ termId: id }),
  right: setUpYear,
  topics: () => [yearTopic(), rollTopic()],
  run: async (context, { termId }) => {
    const { from, to } = await termAndNext(context, termId)
    return { from, to: to ?? null, classes: to ? await classesToCarry(context, from, to) : [] }
  },
})

/**
 * Carries classes to the next term: the term itself, teachers, categories and rules, the grading scale, and the
 * students if they are to come along. What already exists stays as it is, so that a second run does nothing. A
 * constant number of statements.
 */
const forward = defineCommand({
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
    const wanted = (await classesToCarry(context, from, to)).filter((c) => asked.has(c.classId))
    if (wanted.length < asked.size) throw refuse('classesGone', {})
    const todo = wanted
      .filter((c) => canBeCarried(c.state))
      .map((c) => ({ from: c.classId, to: c.targetId ?? uuid(), state: c.state }))
    const created = todo.filter((c) => c.state === 'new class')
    if (created.length > 0) await createClasses(context, created, from, to)
    await sql`insert into class_term (school_id, class_id, term_id)
      select ${actor.schoolId}, c, ${to.id} from unnest(${todo.map((c) => c.to)}::uuid[]) c on conflict do nothing`.execute(
      db,
    )
    if (todo.length > 0) await carryGradebooks(context, todo, { from: from.id, to: to.id })
    if (withStudents && created.length > 0) await bringStudents(context, created, { from, to })
    const going = todo.filter((c) => c.state === 'new term' && c.from === c.to)
    if (!withStudents && going.length > 0)
      await leaveStudents(
        context,
        going.map((c) => c.to),
        to.firstDay,
      )
    context.changed(yearTopic(), rollTopic())
    return { carried: todo.length, existed: wanted.filter((c) => c.state === 'exists').length }
  },
})

/** Carrying the classes of a term to the next one. */
export const carry = defineDomain({
  name: 'carry',
  tables: [],
  reads: ['year', 'people', 'staff', 'account', 'marks'],
  queries: { plan },
  commands: { forward },
})
