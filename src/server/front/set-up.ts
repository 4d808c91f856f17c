import { sql } from 'kysely'
import { z } from 'zod'
import { classInput } from '@/core/calendar/inputs'
import { civilDate } from '@/core/inputs'
import { joinFromHomerooms } from '@/server/people'
import type { Context } from '@/server/platform/context'
import { defineCommand, defineDomain, defineQuery } from '@/server/platform/define'
import { refusals } from '@/server/platform/failure'
import { rollTopic, yearTopic } from '@/server/school/topics'
import { setUpYear, writeClass } from '@/server/year'
import { check, enrolledIn } from './set-up-check'
import { state } from './set-up-state'

const { refuseField } = refusals('setUp', {
  termHasMarks: ({ term }: { term: string }) =>
    `The class already has marks in the ${term} term, so this term cannot be removed.`,
})

/** What already lies on some days: it stays, but no register is asked for there any more. */
const touchedBy = defineQuery({
  input: z.object({ firstDay: civilDate, lastDay: civilDate }),
  right: setUpYear,
  run: async ({ db }, { firstDay, lastDay }) => {
    const { rows } = await sql<{
      registers: number
      assignments: number
      assessments: number
      rounds: number
    }>`select
      (select count(distinct (homeroom_id, class_id, session_date, session))::int from attendance_mark where session_date between ${firstDay} and ${lastDay}) as registers,
      (select count(*)::int from assignment where due_on between ${firstDay} and ${lastDay}) as assignments,
      (select count(distinct assessment_id)::int from sitting where given_on between ${firstDay} and ${lastDay}) as assessments,
      (select count(*)::int from report_round where due_on between ${firstDay} and ${lastDay}) as rounds`.execute(
      db,
    )
    return rows[0] ?? { registers: 0, assignments: 0, assessments: 0, rounds: 0 }
  },
})

/** A term in which a class already has marks stays its term. */
async function keepTermsWithMarks(
  { db }: Context,
  classId: string,
  termIds: readonly string[],
): Promise<void> {
  const { rows } = await sql<{ name: string }>`
    select t.name from class_term ct join term t on t.school_id = ct.school_id and t.id = ct.term_id
    where ct.class_id = ${classId} and ct.term_id <> all(${termIds}::uuid[]) and exists (
      select 1 from gradebook g where g.class_id = ct.class_id and g.term_id = ct.term_id)`.execute(db)
  if (rows[0]) throw refuseField('termIds', 'termHasMarks', { term: rows[0].name })
}

/** Makes a class with its teachers and the students of its homerooms, or changes one; students who are in it stay. */
const saveClass = defineCommand({
  input: classInput,
  right: setUpYear,
  undo: { days: 30, whenChangedSince: 'stop', topics: () => [yearTopic(), rollTopic()] },
  run: async (context, asked) => {
    if (asked.classId) await keepTermsWithMarks(context, asked.classId, asked.termIds)
    const classId = await writeClass(context, asked)
    const students = asked.classId
      ? 0
      : await joinFromHomerooms(context, classId, asked.homeroomIds, asked.from)
    context.changed(yearTopic(), rollTopic())
    return { classId, students }
  },
})

/** Setting a school up: what is there, what is missing, and what concerns the year and its people at once. */
export const setUp = defineDomain({
  name: 'setUp',
  tables: [],
  reads: ['year', 'people', 'staff', 'account', 'attendance', 'assessment', 'marks', 'reports'],
  queries: { state, check, enrolledIn, touchedBy },
  commands: { saveClass },
})
