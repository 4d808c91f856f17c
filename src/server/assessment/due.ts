import { sql } from 'kysely'
import { hasRole } from '@/server/platform/actor'
import type { DueSource } from '@/server/platform/define'
import { gather } from '@/server/platform/gather'
import { answersDueTopic } from './changed'

/** Answers of the person's own assessments that have not been typed yet. */
export const answersDue: DueSource = {
  topics: ({ actor }) => (actor.staffId && hasRole(actor, 'teacher') ? [answersDueTopic(actor.staffId)] : []),
  items: async (context, date) => {
    const { db, actor } = context
    if (!hasRole(actor, 'teacher')) return []
    const missing = db
      .selectFrom('assessment as a')
      .innerJoin('assessmentClass as ac', 'ac.assessmentId', 'a.id')
      .innerJoin('classMember as m', (j) =>
        j.onRef('m.classId', '=', 'ac.classId').on(sql<boolean>`m.period @> a.given_on`),
      )
      .leftJoin('answerSheet as s', (j) =>
        j
          .onRef('s.assessmentId', '=', 'a.id')
          .onRef('s.studentId', '=', 'm.studentId')
          .on('s.answered', '=', true),
      )
      .select(['a.id', 'a.name', 'a.givenOn', sql<number>`count(distinct m.student_id)::int`.as('missing')])
      .where('a.ownerId', '=', actor.staffId)
      .where('a.givenOn', '<=', date)
      .where('s.studentId', 'is', null)
      .groupBy(['a.id', 'a.name', 'a.givenOn'])
      .orderBy('a.givenOn')
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
