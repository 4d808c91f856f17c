import { fetchForPage, param, workingDate } from '@/screen/page-data'
import { EnrolForm } from './enrol-form'

export default async function EnrolPage({
  searchParams,
}: {
  searchParams: Promise<Record<string, string | undefined>>
}) {
  const date = await workingDate(searchParams)
  const offer = await fetchForPage('people.enrolForm', { startDate: date })
  const asked = await param(searchParams, 'applicant')
  const chosen = offer.expected.find((e) => e.id === asked) ?? null
  const guardians = chosen ? await fetchForPage('people.applicantGuardians', { studentId: chosen.id }) : []
  return (
    <EnrolForm
      key={chosen?.id ?? 'new'}
      offer={offer}
      applicant={chosen}
      guardians={guardians}
      startDate={chosen?.expectedFrom && chosen.expectedFrom > date ? chosen.expectedFrom : date}
    />
  )
}
