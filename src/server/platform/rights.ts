import { sql, type RawBuilder } from 'kysely'
import type { Tables } from '@/db/tables'
import { hasRole, type Role } from './actor'
import type { Context } from './context'

type Sql = RawBuilder<unknown>

/** How an actor stands to an object, as a condition on the object's id: teaches the class, is the child's guardian. */
export interface Relation {
  readonly words: string
  readonly holds: (context: Context, id: Sql) => RawBuilder<boolean>
}

export interface Grant {
  readonly roles: readonly Role[]
  /** Only for objects to which the actor stands so; for all objects of the school without it. */
  readonly when?: Relation
}

/** Who may do something, as data: checked for one object, used to filter lists, and printed for people. */
export interface Right<I> {
  /** Completes "may …": "enter scores". */
  readonly words: string
  readonly grants: readonly Grant[]
  /** The object the right is about; it is always checked to exist in the actor's school. */
  readonly object?: keyof Tables
  /** The object's id in the input; without one, only grants for all objects count. */
  readonly of?: (input: I) => string | null | undefined
  /** A further fact about the input that must hold. */
  readonly and?: (input: I) => RawBuilder<boolean>
}

const own = (context: Context, right: Right<never>) =>
  right.grants.filter((grant) => hasRole(context.actor, ...grant.roles))

function either(conditions: readonly RawBuilder<boolean>[]): RawBuilder<boolean> {
  return sql<boolean>`(${sql.join(conditions, sql` or `)})`
}

/** Whether the actor has a right. Roles alone are decided at once, everything else in one statement. */
export async function mayDo<I>(context: Context, right: Right<I>, input: I): Promise<boolean> {
  const grants = own(context, right)
  if (grants.length === 0) return false
  const id = right.of?.(input) ?? undefined
  const forAll = grants.some((grant) => !grant.when)
  if (id === undefined && !forAll) return false
  const conditions: RawBuilder<boolean>[] = []
  if (id !== undefined && right.object)
    conditions.push(
      sql<boolean>`exists (select 1 from ${sql.table(right.object)} as object where object.id = ${id})`,
    )
  if (right.and) conditions.push(right.and(input))
  if (!forAll && id !== undefined)
    conditions.push(either(grants.flatMap((grant) => grant.when?.holds(context, sql`${id}::uuid`) ?? [])))
  if (conditions.length === 0) return true
  const { rows } = await sql<{ may: boolean }>`select ${sql.join(conditions, sql` and `)} as may`.execute(
    context.db,
  )
  return rows[0]?.may ?? false
}

/** The same right as a condition on a column of object ids, for lists: `where ${whereMay(context, seeMarks, sql.ref('c.id'))}`. */
export function whereMay(context: Context, right: Right<never>, id: Sql): RawBuilder<boolean> {
  const grants = own(context, right)
  if (grants.length === 0) return sql<boolean>`false`
  if (grants.some((grant) => !grant.when)) return sql<boolean>`true`
  return either(grants.flatMap((grant) => grant.when?.holds(context, id) ?? []))
}

/** A right of roles alone. */
export function onlyRoles(words: string, ...roles: readonly Role[]): Right<unknown> {
  return { words, grants: [{ roles }] }
}

/** A right in one line, for the printed table: "administrator, head; teacher who teaches the class". */
export function rightInWords(right: Right<never>): string {
  return right.grants
    .map(({ roles, when }) => roles.join(', ') + (when ? ` who ${when.words}` : ''))
    .join('; ')
}
