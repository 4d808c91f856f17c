import { buttonLooks } from '@/ui/button'
import Link from '@/screen/link'
import { OtherYears } from '@/screen/other-years'
import { fetchForPage, workingDate } from '@/screen/page-data'
import { PageHead } from '@/screen/page-head'
import { AssessmentList } from './assessment-list'

export default async function AssessmentsPage({
  searchParams,
}: {
  searchParams: Promise<Record<string, string | undefined>>
}) {
  const { assessments, year, elsewhere, mayCreate } = await fetchForPage('assessment.list', {
    date: await workingDate(searchParams),
  })
  return (
    <div className="sheet">
      <PageHead
        title="Assessments"
        detail={assessments.length === 0 ? year : `${assessments.length} in ${year}, newest first`}
        act={
          mayCreate && (
            <Link href="/assessments/new" className={buttonLooks()}>
              Create an assessment
            </Link>
          )
        }
      />
      <AssessmentList rows={assessments} mayCreate={mayCreate} />
      <OtherYears of={elsewhere} path="/assessments" />
    </div>
  )
}
