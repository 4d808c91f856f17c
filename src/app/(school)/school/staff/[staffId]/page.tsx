import { fetchForPage } from '@/screen/page-data'
import { MemberPage } from './member-page'

export default async function StaffMemberPage({ params }: { params: Promise<{ staffId: string }> }) {
  const { staffId } = await params
  return <MemberPage key={staffId} initial={await fetchForPage('staffing.member', { staffId })} />
}
