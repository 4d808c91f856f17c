import pg from 'pg'
import { knownMigrations } from '@/db/known-migrations'
import { config } from './config'
import { askDatabase } from './database'
import type { Fit } from './last-fit'

interface RoleRow {
  readonly role: string
  readonly is_super: boolean
  readonly bypasses: boolean
  readonly owns: boolean
  readonly open: readonly string[]
  readonly is_migrated: boolean
}

const roles = `select current_user as role, r.rolsuper as is_super, r.rolbypassrls as bypasses,
  exists (select 1 from pg_class c join pg_namespace n on n.oid = c.relnamespace
    where n.nspname = 'public' and c.relkind = 'r' and pg_has_role(r.oid, c.relowner, 'member')) as owns,
  array(select c.relname::text from pg_class c join pg_namespace n on n.oid = c.relnamespace
    join pg_attribute a on a.attrelid = c.oid and a.attname = 'school_id' and not a.attisdropped
    where n.nspname = 'public' and c.relkind = 'r' and not (c.relrowsecurity and c.relforcerowsecurity) order by 1) as open,
  to_regclass('public.kysely_migration') is not null as is_migrated
  from pg_roles r where r.rolname = current_user`

/** Names of the role that is to be used, for whoever has set another one. */
const rightRole = 'DATABASE_URL must name the role kedge_app, which owns nothing (docs/deploy.md, step 3).'

function unsafe({ role, is_super, bypasses, owns, open }: RoleRow): string | undefined {
  if (is_super) return `The role ${role} is a superuser, for whom all schools are one. ${rightRole}`
  if (bypasses)
    return `The role ${role} has BYPASSRLS, so that schools would see each other. ${rightRole} Or: alter role ${role} nobypassrls`
  if (owns) return `The role ${role} owns Kedge's tables. ${rightRole}`
  if (open.length > 0)
    return `Row-level security is not forced on ${open.join(', ')}, so that schools would see each other. Someone has changed the tables: alter table ${open[0]} enable row level security, force row level security`
  return undefined
}

/** What differs between the migrations of the database and those that are known. */
function otherVersion(done: readonly string[]): string | undefined {
  const unknown = done.filter((name) => !knownMigrations.includes(name))
  if (unknown.length > 0)
    return `The database was made by a newer Kedge: it has ${unknown.join(', ')}. Bring that version and start again.`
  const missing = knownMigrations.filter((name) => !done.includes(name))
  return missing.length > 0
    ? `The database was made by an older Kedge: ${missing.join(', ')} ${missing.length === 1 ? 'is' : 'are'} missing. Run: npm run kedge -- migrate`
    : undefined
}

/** The words of the database for what it cannot do, with what is to be done. */
function awayWords(error: unknown): string {
  const code = error instanceof pg.DatabaseError ? error.code : undefined
  const { pathname, hostname, port, username } = new URL(config().DATABASE_URL)
  const words = error instanceof Error && error.message ? error.message : 'it does not answer'
  if (code === '3D000')
    return `There is no database ${pathname.slice(1)} at ${hostname}:${port || '5432'} yet. docs/deploy.md, step 3, creates it.`
  if (code === '28P01' || code === '28000')
    return `The database refuses ${username}: ${words}. Look at the user name and the password in DATABASE_URL.`
  return `The database at ${hostname}:${port || '5432'} cannot be used: ${words}`
}

/** Asks the database whether it fits: who Kedge is in it, and which migrations it has had. */
export async function databaseFit(): Promise<Fit> {
  try {
    const [found] = await askDatabase<RoleRow & pg.QueryResultRow>(roles)
    const why = found && unsafe(found)
    if (why) return { kind: 'unsafe', why }
    if (!found?.is_migrated)
      return {
        kind: 'other version',
        why: 'The database is empty. Run: npm run kedge -- migrate',
      }
    // A database from before this was asked does not let it be read.
    const done = await askDatabase<{ name: string }>('select name from kysely_migration order by name').catch(
      (error: unknown) => {
        if (error instanceof pg.DatabaseError && error.code === '42501') return []
        throw error
      },
    )
    const other = otherVersion(done.map((row) => row.name))
    return other ? { kind: 'other version', why: other } : { kind: 'fits' }
  } catch (error) {
    return { kind: 'away', why: awayWords(error) }
  }
}
