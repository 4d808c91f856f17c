import type { Metadata } from 'next'
import { applicantGuardians, enrolForm } from '@/server/people/queries'
import { fetchForPage, param, workingDate } from '../../../shared/page-data'
import { EnrolForm } from './enrol-form'

export const metadata: Metadata = { title: 'Enrol a student' }

export default async function EnrolPage({
  searchParams,
}: {
  searchParams: Promise<Record<string, string | undefined>>
}) {
  const date = await workingDate(searchParams)
  const offer = await fetchForPage(enrolForm, { startDate: date })
  const asked = await param(searchParams, 'applicant')
  const chosen = offer.expected.find((e) => e.id === asked) ?? null
  const guardians = chosen ? await fetchForPage(applicantGuardians, { studentId: chosen.id }) : []
  return (
    <EnrolForm
      key={chosen?.id ?? 'new'}
      offer={offer}
      applicant={chosen}
      guardian={guardians[0]}
      startDate={chosen?.expected_from && chosen.expected_from > date ? chosen.expected_from : date}
    />
  )
}
