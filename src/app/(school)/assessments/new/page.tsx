import type { Metadata } from 'next'
import { fetchForPage } from '@/screen/page-data'
import { NewAssessment } from './new-assessment'

export const metadata: Metadata = { title: 'New assessment' }

export default async function NewAssessmentPage() {
  return <NewAssessment form={await fetchForPage('assessment.newForm', {})} />
}
