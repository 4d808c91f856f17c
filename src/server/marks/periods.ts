import { sql } from 'kysely'
import { z } from 'zod'
import { dayWithin } from '@/core/calendar/school-year'
import { id } from '@/core/inputs'
import { classMarksInput, reopenInput, severalMarksInput } from '@/core/marks/periods/inputs'
import { areHeld, type MarksState } from '@/core/marks/periods/state'
import { defineCommand, defineQuery } from '@/server/platform/define'
import type { Context } from '@/server/platform/context'
import { membersOf } from '@/server/school/members'
import { holdMarks, letGoOfMarks, moveMarks, spanOf } from './hold'
import { gradebookTopic } from './load-gradebooks'
import { markItself, marksOf } from './marks-of'
import { closeMarksOf, confirmMarksOf, reopenMarksOf, seeGradebook } from './rights'
import { refuse } from './messages'

/** How the marks of a class stand in one part of the year. */
export interface PeriodState {
  readonly termId: string | null
  readonly periodId: string | null
  readonly name: string
  readonly state: MarksState
  readonly version: number
  readonly reason: string | null
  readonly changedBy: string | null
  readonly changedAt: string | null
}

/** Every part of the year that a class has marks for, in order: each term with its marking periods, then the year. */
export async function periodsOf({ db }: Context, classId: string): Promise<readonly PeriodState[]> {
  const { rows } = await sql<PeriodState>`
    with part as (
      select ct.term_id, p.id as period_id, coalesce(t.name || ', ' || p.name, t.name) as name, t.first_day, coalesce(p.first_day, 'infinity') as from_day
        from class_term ct join term t on t.school_id = ct.school_id and t.id = ct.term_id
        cross join lateral (select null::uuid as id, null::text as name, null::date as first_day
          union all select p.id, p.name, p.first_day from term_period p where p.school_id = t.school_id and p.term_id = t.id and p.kind = 'marking') p
        where ct.class_id = ${classId}
      union all
      select null, null, y.name, 'infinity', 'infinity' from class c join academic_year y on y.school_id = c.school_id and y.id = c.year_id
        where c.id = ${classId} and exists (select 1 from mark_column m where m.class_id = c.id and m.term_id is null))
    select part.term_id, part.period_id, part.name, coalesce(m.state, 'open') as state, coalesce(m.version, 0) as version, m.reason, m.changed_by, m.changed_at
    from part left join class_marks m on m.class_id = ${classId}
      and m.term_id is not distinct from part.term_id and m.period_id is not distinct from part.period_id
    order by part.first_day, part.from_day`.execute(db)
  return rows
}

/**
 * What confirming marks would hold, or what is held and has changed since: each student's values of the mark and of
 * every column, with those the gradebook has now.
 */
export const periodMarks = defineQuery({
  input: classMarksInput.omit({ expectedVersion: true }),
  right: seeGradebook,
  topics: (_context, { classId }) => [gradebookTopic(classId)],
  run: async (context, { classId, period }) => {
    const span = await spanOf(context, classId, period)
    const [marks, students] = await Promise.all([
      marksOf(context, [classId], period, 'always'),
      membersOf(context, classId, dayWithin(span, context.today)),
    ])
    const own = marks.get(classId)
    if (!own) throw new Error('marks are answered for every class asked')
    const sources = [
      ...(own.hasMark ? [{ source: markItself, name: 'Mark' }] : []),
      ...own.columns.map((c) => ({ source: c.id, name: c.name })),
    ]
    const shown = ({ mark, grade }: { mark: string | undefined; grade: string | undefined }) => ({
      mark: mark ?? null,
      grade: grade ?? null,
    })
    return {
      sources,
      students: students.map((student) => ({
        studentId: student.id,
        name: student.name,
        values: sources.map(({ source }) => ({
          held: areHeld(own.state) ? shown(own.valueOf(student, source)) : null,
          now: shown(own.nowOf(student, source)),
        })),
      })),
    }
  },
})

/** How a held mark was worked out, as it was shown then. */
export const heldMark = defineQuery({
  input: z.object({ classId: id, period: classMarksInput.shape.period, studentId: id }),
  right: seeGradebook,
  topics: (_context, { classId }) => [gradebookTopic(classId)],
  run: async ({ db }, { classId, period: { termId, periodId }, studentId }) =>
    db
      .selectFrom('heldMark as h')
      .innerJoin('classMarks as m', 'm.id', 'h.marksId')
      .select(['h.source', 'h.mark', 'h.grade', 'h.explanation'])
      .where('m.classId', '=', classId)
      .where('m.termId', 'is not distinct from', termId)
      .where('m.periodId', 'is not distinct from', periodId)
      .where('h.studentId', '=', studentId)
      .execute(),
})

/**
 * Confirms the marks of a class for a part of the year: from then on they are held, and what the gradebook says later is
 * shown beside them. Students without a mark are named first.
 */
export const confirmMarks = defineCommand({
  input: classMarksInput.extend({ withBlanks: z.boolean() }),
  right: confirmMarksOf,
  moment: 'one',
  run: async (context, { withBlanks, ...asked }) => {
    const { students, sources } = await periodMarks.run(context, asked)
    const at = sources.findIndex((s) => s.source === markItself)
    const blank = at < 0 ? [] : students.filter((s) => s.values[at]?.now.mark === null)
    if (blank.length > 0 && !withBlanks) throw refuse('noMarkYet', { names: blank.map((s) => s.name) })
    const { state, version } = await holdMarks(context, asked)
    return { state, version }
  },
})

/** Takes confirmed marks back, so that they follow the gradebook again. */
export const takeBackMarks = defineCommand({
  input: classMarksInput,
  right: confirmMarksOf,
  run: async (context, asked) => {
    const { state, version } = await letGoOfMarks(context, asked)
    return { state, version }
  },
})

/** Closes the confirmed marks of classes: nothing that they rest on can be changed any more. All or none. */
export const closeMarks = defineCommand({
  input: severalMarksInput,
  right: closeMarksOf,
  run: async (context, { period, targets }) => {
    const inOrder = [...targets].sort((a, b) => (a.classId < b.classId ? -1 : 1))
    for (const target of inOrder) {
      // eslint-disable-next-line no-await-in-loop -- each waits for those who write in its class; an act has few
      await moveMarks(context, { ...target, period }, 'close')
    }
    return { classes: targets.length }
  },
})

/** Opens closed marks for corrections, with a reason; what was confirmed stays held until it is confirmed anew. */
export const reopenMarks = defineCommand({
  input: reopenInput,
  right: reopenMarksOf,
  run: async (context, { reason, ...asked }) => {
    const { state, version } = await moveMarks(context, asked, 'reopen', reason)
    return { state, version }
  },
})
