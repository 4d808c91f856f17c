import { hasSome, type Role } from '@/core/people/roles'
import type { QueryOutput } from '@/server/registry'
import type { PageOf } from './page-head'

/** The pages of a class, in the order in which they are used, as far as the person may open them. */
export function classPages(
  { classes, actor }: { classes: QueryOutput<'shell.frame'>['classes']; actor: { roles: readonly Role[] } },
  classId: string,
  roundId: string | null = classes.find((c) => c.id === classId)?.roundId ?? null,
  at?: 'Register',
): readonly PageOf[] {
  const marks = classes.some((c) => c.id === classId) || hasSome(actor.roles, 'administrator', 'head')
  return [
    ...(marks ? [{ name: 'Marks', href: `/classes/${classId}/marks` }] : []),
    ...(classes.some((c) => c.id === classId && c.lessons) || at === 'Register'
      ? [{ name: 'Register', href: `/classes/${classId}/register` }]
      : []),
    ...(roundId ? [{ name: 'Report entries', href: `/classes/${classId}/entries/${roundId}` }] : []),
    { name: 'Students', href: `/classes/${classId}/students` },
  ]
}
