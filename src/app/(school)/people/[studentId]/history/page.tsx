import { spokenName } from '@/core/people/names'
import Link from '@/screen/link'
import { fetchForPage, param } from '@/screen/page-data'
import { PageHead } from '@/screen/page-head'
import { studentPages } from '@/app/(school)/people/[studentId]/student-pages'
import { Changes } from './changes'

interface Props {
  params: Promise<{ studentId: string }>
  searchParams: Promise<Record<string, string | undefined>>
}

export default async function HistoryPage({ params, searchParams }: Props) {
  const { studentId } = await params
  const { student, changes, more } = await fetchForPage('history.ofStudent', {
    studentId,
    before: await param(searchParams, 'before'),
  })
  return (
    <div className="sheet">
      <PageHead
        title={spokenName(student.sortName)}
        page="History"
        pages={studentPages(student.id, true)}
        detail="every change, newest first"
      />
      <Changes changes={changes} />
      {more && (
        <p className="mt-4">
          <Link className="link" href={`?before=${changes.at(-1)?.id}`}>
            Earlier changes
          </Link>
        </p>
      )}
    </div>
  )
}
