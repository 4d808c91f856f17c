import type { Metadata } from 'next'
import { newForm } from '@/server/assessment/queries'
import { fetchForPage } from '../../../shared/page-data'
import { NewAssessment } from './new-assessment'

export const metadata: Metadata = { title: 'New assessment' }

export default async function NewAssessmentPage() {
  return <NewAssessment form={await fetchForPage(newForm, {})} />
}
