import { hasRole } from '@/server/platform/actor'
import type { Context } from '@/server/platform/registry'
import { staffRoles, studentExists, teachesStudent } from '@/server/platform/relations'

/** All staff find students and see who they are and where they belong. */
export function maySeeStudents({ actor }: Context): boolean {
  return hasRole(actor, ...staffRoles)
}

export async function maySeeStudent(
  context: Context,
  { studentId }: { studentId: string },
): Promise<boolean> {
  return hasRole(context.actor, ...staffRoles) && studentExists(context, studentId)
}

/** Notes on support: the office's leads and those who teach the student. */
export async function maySeeSupport(context: Context, studentId: string): Promise<boolean> {
  return hasRole(context.actor, 'administrator', 'head', 'office') || teachesStudent(context, studentId)
}

/** The office enrols. */
export function mayEnrol({ actor }: Context): boolean {
  return hasRole(actor, 'administrator', 'head', 'office', 'records')
}

/** A student's whole history shows marks and reports, which the records staff do not see. */
export async function maySeeHistory(
  context: Context,
  { studentId }: { studentId: string },
): Promise<boolean> {
  return hasRole(context.actor, 'administrator', 'head', 'office') && studentExists(context, studentId)
}
