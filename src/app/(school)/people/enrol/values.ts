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
    guardianId: guardian?.id ?? null,
    guardianGivenName: guardian?.givenName ?? '',
    guardianFamilyName: guardian?.familyName ?? '',
    relation: guardian?.relation ?? '',
    email: guardian?.email ?? '',
    phone: guardian?.phone ?? '',
  }
}

export type EnrolValues = ReturnType<typeof beginning>

/** The classes a homeroom's students are in, where they run in the term of the start date. */
export function proposedClasses(offer: Offer, homeroomId: string): string[] {
  const inTerm = new Set(offer.classes.filter((c) => c.inTerm).map((c) => c.id))
  return offer.proposed
    .filter((p) => p.homeroomId === homeroomId && inTerm.has(p.classId))
    .map((p) => p.classId)
}
