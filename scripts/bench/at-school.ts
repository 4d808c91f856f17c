// What is measured inside the server is asked by somebody at one school: arguments 1 and 2.
import { sql } from 'kysely'
import { actorsOf } from '@/server/platform/session'
import { database } from '@/server/platform/database'

const [, , school = '', username = ''] = process.argv
export const schoolId = school
export const db = database()
const account = await db
  .withoutPlugins()
  .selectFrom('auth.user')
  .select('id')
  .where('username', '=', username)
  .executeTakeFirstOrThrow()
const [found] = await actorsOf(account.id, { schoolId })
if (!found) throw new Error(`${username} is not at this school`)
export const actor = found

/** Bare statements in a transaction of this school. */
export const inSchool = <T>(work: (tx: typeof db) => Promise<T>) =>
  db.transaction().execute(async (tx) => {
    await sql`select set_config('kedge.school', ${schoolId}, true)`.execute(tx)
    return work(tx as unknown as typeof db)
  })
