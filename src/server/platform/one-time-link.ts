import { createHash, randomBytes } from 'node:crypto'
import { sql } from 'kysely'
import { clockActor } from './actor'
import { config } from './config'
import type { Context } from './context'
import { inSchool } from './in-school'
import { database } from './database'

const hashOf = (token: string) => createHash('sha256').update(token).digest('hex')

/** What a link is for: an invitation that it accepts, an account whose password it changes, or whose address it confirms. */
export type LinkSubject =
  { readonly invitation_id: string } | { readonly account_id: string; readonly address?: string }

/**
 * Makes a link that works once. Only its hash is kept.
 * @param page the page that the link opens
 * @param hours how long it works
 * @returns the whole address
 */
export async function oneTimeLink(
  { db, actor }: Context,
  page: 'invitation' | 'new-password' | 'confirm-address',
  subject: LinkSubject,
  hours: number,
): Promise<string> {
  const token = randomBytes(24).toString('base64url')
  await db
    .withoutPlugins()
    .insertInto('auth.one_time_link')
    .values({
      token_hash: hashOf(token),
      school_id: actor.schoolId,
      ...subject,
      expires_at: sql<string>`clock_timestamp() + make_interval(hours => ${hours})`,
    })
    .execute()
  return `${config().KEDGE_URL}/${page}/${token}`
}

/** A link that works, in the transaction that looks at it; nobody else can use it meanwhile. */
export interface OpenLink {
  readonly context: Context
  readonly invitationId: string | null
  readonly accountId: string | null
  /** The address that it confirms; null for links of another kind. */
  readonly address: string | null
  /** Lets the link work no more. */
  readonly use: () => Promise<void>
}

/**
 * Works in the school of a link.
 * @returns what the work answers, or undefined when there is no such link, or it was used, or is too old
 */
export function withLink<T>(
  token: string,
  command: string,
  work: (link: OpenLink) => Promise<T>,
): Promise<T | undefined> {
  return database()
    .transaction()
    .execute(async (db) => {
      const plain = db.withoutPlugins()
      const link = await plain
        .selectFrom('auth.one_time_link')
        .selectAll()
        .where('token_hash', '=', hashOf(token))
        .where('used_at', 'is', null)
        .where('expires_at', '>', sql<string>`clock_timestamp()`)
        .forUpdate()
        .executeTakeFirst()
      if (!link) return undefined
      await sql`select set_config('kedge.school', ${link.school_id}, true)`.execute(db)
      const school = await db
        .selectFrom('school')
        .select(['id', 'name', 'timeZone'])
        .executeTakeFirstOrThrow()
      return inSchool(db, clockActor(school), { command }, (context) =>
        work({
          context,
          invitationId: link.invitation_id,
          accountId: link.account_id,
          address: link.address,
          use: async () => {
            await plain
              .updateTable('auth.one_time_link')
              .set({ used_at: sql<string>`clock_timestamp()` })
              .where('token_hash', '=', link.token_hash)
              .execute()
          },
        }),
      )
    })
}
