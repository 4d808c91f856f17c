import { sql } from 'kysely'
import type { Context } from '@/server/platform/context'
import { hasRole } from '@/server/platform/actor'
import type { DueSource } from '@/server/platform/define'
import { gather } from '@/server/platform/gather'
import { isTeacherOf } from '@/server/school/facts'
import { allEntriesTopic, classEntriesTopic } from './topics'

const checks = ({ actor }: Context) => hasRole(actor, 'administrator', 'head')

/** Report entries to write for the person's own classes, and for the head those to check. */
export const entriesDue: DueSource = {
  topics: async (context) => {
    const { db, actor, today } = context
    if (checks(context)) return [allEntriesTopic()]
    if (!actor.staffId) return []
    const own = await db
      .selectFrom('class')
      .select('id')
      .where(isTeacherOf(sql.ref('class.id'), actor.staffId, today))
      .execute()
    return own.map((c) => classEntriesTopic(c.id))
  },
  items: async (context, date) => {
    const { db, actor } = context
    if (!actor.staffId) return []
    const own = isTeacherOf(sql.ref('e.classId'), actor.staffId, date)
    const open = db
      .selectFrom('classEntries as e')
      .innerJoin('reportRound as r', 'r.id', 'e.roundId')
      .innerJoin('class as c', 'c.id', 'e.classId')
      .select([
        'e.roundId',
        'e.classId',
        'e.state',
        'e.remark',
        'r.name as round',
        'r.dueOn',
        'c.name as className',
        own.as('own'),
      ])
      .where((eb) =>
        eb.or([
          eb.and([eb('e.state', 'in', ['writing', 'sent back']), own]),
          ...(checks(context) ? [eb('e.state', '=', 'handed in')] : []),
        ]),
      )
      .orderBy('r.dueOn')
      .orderBy('c.name')
    return (await gather(context, open)).map((r) => {
      const at = {
        href: `/classes/${r.classId}/entries/${r.roundId}`,
        due: r.dueOn,
        overdue: r.dueOn < date,
      }
      if (r.state === 'handed in')
        return {
          ...at,
          what: `${r.className}, entries to check`,
          detail: `${r.round}, handed in`,
          act: 'Check',
        }
      const back = r.state === 'sent back'
      return {
        ...at,
        what: `${r.className}, report entries`,
        detail: back ? `Sent back: ${r.remark ?? ''}` : `${r.round}, not handed in yet`,
        act: back ? 'Read the remark' : 'Write entries',
      }
    })
  },
}
