import { sql } from 'kysely'
import { hasRole } from '@/server/platform/actor'
import type { DueSource } from '@/server/platform/define'
import { gather } from '@/server/platform/gather'
import { answersDueTopic } from './changed'

/** Answers to what the person gave that have not been typed yet. */
export const answersDue: DueSource = {
  topics: ({ actor }) => (actor.staffId && hasRole(actor, 'teacher') ? [answersDueTopic(actor.staffId)] : []),
  items: async (context, date) => {
    const { db, actor } = context
    if (!hasRole(actor, 'teacher')) return []
    const missing = db
      .selectFrom('assessment as a')
      .innerJoin('sitting as i', 'i.assessmentId', 'a.id')
      .innerJoin('sittingClass as c', 'c.sittingId', 'i.id')
      .innerJoin('classMember as m', (j) =>
        j.onRef('m.classId', '=', 'c.classId').on(sql<boolean>`m.period @> i.given_on`),
      )
      .leftJoin('attempt as t', (j) =>
        j
          .onRef('t.assessmentId', '=', 'a.id')
          .onRef('t.studentId', '=', 'm.studentId')
          .on('t.state', '=', 'handed in'),
      )
      .select(['a.id', 'a.name', 'i.givenOn', sql<number>`count(distinct m.student_id)::int`.as('missing')])
      .where('i.givenBy', '=', actor.staffId)
      .where('i.givenOn', '<=', date)
      .where('t.studentId', 'is', null)
      .groupBy(['a.id', 'a.name', 'i.givenOn'])
      .orderBy('i.givenOn')
    return (await gather(context, missing)).map((r) => ({
      what: `${r.name}, answers`,
      detail: r.missing === 1 ? '1 student has no answers yet' : `${r.missing} students have no answers yet`,
      href: `/assessments/${r.id}/answers`,
      due: r.givenOn,
      since: true,
      overdue: false,
      act: 'Enter answers',
    }))
  },
}
