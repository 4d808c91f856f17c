import { z } from 'zod'
import { shareAddressInput } from '@/core/people/inputs'
import { defineCommand, defineQuery } from '@/server/platform/define'
import { notFound, Refusal } from '@/server/platform/failure'
import { ownAddress as mayDecide } from './rights'
import { staffTopic } from './topics'

/** The actor's own e-mail address at the school, and whether guardians may see it. */
export const ownAddress = defineQuery({
  input: z.object({}),
  right: mayDecide,
  run: async ({ db, actor }) => {
    const own = await db
      .selectFrom('staffMember')
      .select(['email', 'emailForGuardians as shared'])
      .where('id', '=', actor.staffId)
      .executeTakeFirst()
    return own ?? { email: null, shared: false }
  },
})

/** Agrees that guardians of one's own students see one's e-mail address, or takes that back. */
export const shareAddress = defineCommand({
  input: shareAddressInput,
  right: mayDecide,
  needsNoVersion: "the actor's own decision",
  run: async ({ db, actor, changed }, { shared }) => {
    const done = await db
      .updateTable('staffMember')
      .set({ emailForGuardians: shared })
      .where('id', '=', actor.staffId)
      .returning('id')
      .executeTakeFirst()
    if (!done) throw new Refusal(notFound)
    changed(staffTopic())
    return null
  },
})
