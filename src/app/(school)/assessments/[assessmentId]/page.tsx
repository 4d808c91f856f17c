import type { Metadata } from 'next'
import { key } from '@/server/assessment/queries'
import { fetchForPage } from '../../../shared/page-data'
import { KeyPage } from './key-page'

export const metadata: Metadata = { title: 'Answer key' }

export default async function Page({ params }: { params: Promise<{ assessmentId: string }> }) {
  const { assessmentId } = await params
  return <KeyPage initial={await fetchForPage(key, { assessmentId })} />
}
