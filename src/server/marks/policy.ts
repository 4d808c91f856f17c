import { hasRole } from '@/server/platform/actor'
import type { Context } from '@/server/platform/registry'
import { classExists, teachesClass } from '@/server/platform/relations'

/** The class's teachers, and the head. */
export async function maySeeGradebook(context: Context, { classId }: { classId: string }): Promise<boolean> {
  return (
    (hasRole(context.actor, 'administrator', 'head') && (await classExists(context, classId))) ||
    teachesClass(context, classId)
  )
}

/** Only the class's teachers enter scores. */
export async function mayEditGradebook(context: Context, { classId }: { classId: string }): Promise<boolean> {
  return teachesClass(context, classId)
}
