import type { QueryOutput } from '@/server/registry'

export type Offer = QueryOutput<'people.enrolForm'>
export type Applicant = Offer['expected'][number]
export type Guardian = QueryOutput<'people.applicantGuardians'>[number]

/** What the form begins with; an applicant's known values are filled in. */
export function beginning(
  offer: Offer,
  applicant: Applicant | null,
  guardian: Guardian | undefined,
  startDate: string,
) {
  const homeroomId = applicant?.expected_in ?? ''
  return {
    givenName: applicant?.legal_given_name ?? '',
    familyName: applicant?.legal_family_name ?? '',
    preferredName: applicant?.preferred_name ?? '',
    birthDate: applicant?.birth_date ?? '',
    address: '',
    yearGroupId: applicant?.accepted_for ?? '',
    homeroomId,
    classIds: proposedClasses(offer, homeroomId),
    startDate,
    guardianGivenName: guardian?.given_name ?? '',
    guardianFamilyName: guardian?.family_name ?? '',
    relation: guardian?.relation ?? '',
    email: guardian?.email ?? '',
    phone: guardian?.phone ?? '',
  }
}

export type EnrolValues = ReturnType<typeof beginning>

/** The classes a homeroom's students are in, where they run in the term of the start date. */
export function proposedClasses(offer: Offer, homeroomId: string): string[] {
  const inTerm = new Set(offer.classes.filter((c) => c.in_term).map((c) => c.id))
  return offer.proposed
    .filter((p) => p.homeroom_id === homeroomId && inTerm.has(p.class_id))
    .map((p) => p.class_id)
}
