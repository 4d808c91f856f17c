import { fetchForPage, param } from '@/screen/page-data'
import { StandardsPage } from './standards-page'

export default async function Page({
  searchParams,
}: {
  searchParams: Promise<Record<string, string | undefined>>
}) {
  const at = await param(searchParams, 'set')
  return <StandardsPage initial={await fetchForPage('assessment.standardSets', {})} at={at} />
}
