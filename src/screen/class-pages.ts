import type { QueryOutput } from '@/server/registry'
import type { PageOf } from './page-head'

/** The pages of one of the person's classes, in the order in which they are used. */
export function classPages(
  classes: QueryOutput<'shell.frame'>['classes'],
  classId: string,
  roundId: string | null = classes.find((c) => c.id === classId)?.roundId ?? null,
): readonly PageOf[] {
  return [
    { name: 'Marks', href: `/classes/${classId}/marks` },
    ...(roundId ? [{ name: 'Report entries', href: `/classes/${classId}/entries/${roundId}` }] : []),
  ]
}
