import { proposedClasses } from '@/core/people/proposed-classes'
import type { QueryOutput } from '@/server/registry'

export type Offer = QueryOutput<'people.enrolForm'>
export type Applicant = Offer['expected'][number]
export type Guardian = QueryOutput<'people.applicantGuardians'>[number]

/** What the fields of a guardian hold, empty for a new one. */
export const guardianValues = (guardian?: Guardian) => ({
  id: guardian?.id ?? null,
  givenName: guardian?.givenName ?? '',
  familyName: guardian?.familyName ?? '',
  relation: guardian?.relation ?? '',
  email: guardian?.email ?? '',
  phone: guardian?.phone ?? '',
})

/** What the form begins with; an applicant's known values are filled in. */
export function beginning(
  offer: Offer,
  applicant: Applicant | null,
  guardians: readonly Guardian[],
  startDate: string,
) {
  const homeroomId = applicant?.expectedIn ?? ''
  return {
    givenName: applicant?.legalGivenName ?? '',
    familyName: applicant?.legalFamilyName ?? '',
    preferredName: applicant?.preferredName ?? '',
    birthDate: applicant?.birthDate ?? '',
    address: '',
    yearGroupId: applicant?.acceptedFor ?? '',
    homeroomId,
    classIds: proposedClasses(offer, homeroomId),
    startDate,
    siblingId: null as string | null,
    guardians: guardians.slice(1).map(guardianValues),
    guardian: guardianValues(guardians[0]),
    notADuplicate: false,
  }
}

export type EnrolValues = ReturnType<typeof beginning>
