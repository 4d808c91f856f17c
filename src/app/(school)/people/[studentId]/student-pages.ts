import type { PageOf } from '@/screen/page-head'

/** The pages of one student, as far as the person may see them. */
export function studentPages(studentId: string, maySeeHistory: boolean): readonly PageOf[] {
  return [
    { name: 'Record', href: `/people/${studentId}` },
    ...(maySeeHistory ? [{ name: 'History', href: `/people/${studentId}/history` }] : []),
  ]
}
