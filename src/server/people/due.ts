import { hasRole } from '@/server/platform/actor'
import type { Context } from '@/server/platform/context'
import type { DueSource } from '@/server/platform/define'
import { gather } from '@/server/platform/gather'
import { arrivalsTopic } from '@/server/school/topics'

const enrols = ({ actor }: Context) => hasRole(actor, 'administrator', 'office', 'records')

/** Accepted applicants who are expected by now and not enrolled yet. */
export const arrivalsDue: DueSource = {
  topics: (context) => (enrols(context) ? [arrivalsTopic()] : []),
  items: async (context, date) => {
    if (!enrols(context)) return []
    const expected = context.db
      .selectFrom('student as s')
      .innerJoin('homeroom as h', 'h.id', 's.expectedIn')
      .select(['s.id', 's.sortName', 's.expectedFrom', 'h.name as homeroom'])
      .where('s.number', 'is', null)
      .where('s.expectedFrom', '<=', date)
      .orderBy('s.sortName')
    return (await gather(context, expected)).map((r) => ({
      what: `${r.sortName}, accepted and expected`,
      detail: `In ${r.homeroom}, not yet enrolled`,
      href: `/people/enrol?applicant=${r.id}`,
      due: r.expectedFrom ?? date,
      since: true,
      overdue: false,
      act: 'Enrol',
    }))
  },
}
