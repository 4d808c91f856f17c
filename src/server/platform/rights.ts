import { sql, type RawBuilder } from 'kysely'
import { hasRole, type Role } from './actor'
import type { Context, Relation, Right } from './context'
import { gather } from './gather'
import { once } from './once'

export type { Grant, Relation, Right } from './context'

type Sql = RawBuilder<unknown>

const own = (context: Context, right: Right<never>) =>
  right.grants.filter((grant) => hasRole(context.actor, ...grant.roles))

function either(conditions: readonly RawBuilder<boolean>[]): RawBuilder<boolean> {
  return sql<boolean>`(${sql.join(conditions, sql` or `)})`
}

const numbers = new WeakMap<Relation, number>()
let numbered = 0

/** The same number for the same relation, whichever rights name it. */
function numberOf(relation: Relation): number {
  const number = numbers.get(relation) ?? numbered++
  numbers.set(relation, number)
  return number
}

/** Whether the actor has a right. Roles alone are decided at once, everything else in one statement. */
export async function mayDo<I>(context: Context, right: Right<I>, input: I): Promise<boolean> {
  const grants = own(context, right)
  if (grants.length === 0) return false
  const ids = [right.of?.(input) ?? []].flat()
  const forAll = grants.some((grant) => !grant.when)
  if (ids.length === 0 && !forAll) return false
  const conditions = ids.flatMap((id): RawBuilder<boolean>[] => [
    ...(right.object
      ? [sql<boolean>`exists (select 1 from ${sql.table(right.object)} as object where object.id = ${id})`]
      : []),
    ...(forAll
      ? []
      : [either(grants.flatMap((grant) => grant.when?.holds(context, sql`${id}::uuid`) ?? []))]),
  ])
  if (right.and) conditions.push(right.and(input))
  if (conditions.length === 0) return true
  const look = async () => {
    const [row] = await gather(
      context,
      sql<{ may: boolean }>`select ${sql.join(conditions, sql` and `)} as may`,
    )
    return row?.may ?? false
  }
  if (right.and) return look()
  // Two rights of a page often rest on the same: that one teaches the class.
  const relations = forAll ? [] : grants.flatMap((grant) => (grant.when ? [numberOf(grant.when)] : []))
  return once(context, `may ${right.object ?? ''} ${ids.join()} ${relations.sort().join()}`, look)
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
