import { hasRole } from '@/server/platform/actor'
import type { Context } from '@/server/platform/registry'
import { staffRoles } from '@/server/platform/relations'

/**
 * Any teacher and the office may take any homeroom's register: cover is arranged minutes before. Every mark says
 * who made it.
 */
export async function mayMarkRegister(
  { db, actor }: Context,
  { homeroomId }: { homeroomId: string },
): Promise<boolean> {
  if (!hasRole(actor, ...staffRoles)) return false
  return (
    (await db.selectFrom('homeroom').select('id').where('id', '=', homeroomId).executeTakeFirst()) !==
    undefined
  )
}
