import { buttonLooks } from '@/ui/button'
import Link from '@/screen/link'
import { fetchForPage } from '@/screen/page-data'
import { PageHead } from '@/screen/page-head'
import { AssessmentList } from './assessment-list'

export default async function AssessmentsPage() {
  const { assessments, mayCreate } = await fetchForPage('assessment.list', {})
  return (
    <div className="sheet">
      <PageHead
        title="Assessments"
        detail={assessments.length === 0 ? undefined : `${assessments.length}, newest first`}
        act={
          mayCreate && (
            <Link href="/assessments/new" className={buttonLooks()}>
              Create an assessment
            </Link>
          )
        }
      />
      <AssessmentList rows={assessments} mayCreate={mayCreate} />
    </div>
  )
}
