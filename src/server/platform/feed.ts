import { createHash } from 'node:crypto'
import type { Actor } from './actor'
import type { Context } from './context'
import { database } from './database'
import { actorsOf } from './session'

const hashOf = (token: string) => createHash('sha256').update(token).digest('hex')

/** Gives the actor's feed another secret address; the one before stops working. */
export async function setFeedToken({ db, actor }: Context, token: string): Promise<void> {
  await db
    .withoutPlugins()
    .insertInto('auth.calendar_feed')
    .values({ token_hash: hashOf(token), school_id: actor.schoolId, account_id: actor.accountId })
    .onConflict((c) => c.columns(['school_id', 'account_id']).doUpdateSet({ token_hash: hashOf(token) }))
    .execute()
}

/** Whether the actor has a feed. */
export async function hasFeed({ db, actor }: Context): Promise<boolean> {
  const found = await db
    .withoutPlugins()
    .selectFrom('auth.calendar_feed')
    .select('token_hash')
    .where('school_id', '=', actor.schoolId)
    .where('account_id', '=', actor.accountId)
    .executeTakeFirst()
  return found !== undefined
}

/** Whose feed an address is, with the rights they have now; undefined for one that is guessed, replaced or no longer theirs. */
export async function feedActor(token: string): Promise<Actor | undefined> {
  const feed = await database()
    .withoutPlugins()
    .selectFrom('auth.calendar_feed')
    .select(['school_id', 'account_id'])
    .where('token_hash', '=', hashOf(token))
    .executeTakeFirst()
  if (!feed) return undefined
  const [actor] = await actorsOf(feed.account_id, { schoolId: feed.school_id })
  return actor
}
