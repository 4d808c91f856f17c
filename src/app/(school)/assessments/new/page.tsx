import { fetchForPage } from '@/screen/page-data'
import { NewAssessment } from './new-assessment'

export default async function NewAssessmentPage() {
  return <NewAssessment form={await fetchForPage('assessment.newForm', {})} />
}
