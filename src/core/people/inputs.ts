import { z } from 'zod'
import { chosen, civilDate, id, named, optionalLine } from '@/core/inputs'
import { limits } from '@/core/limits'

/** A student's guardian as the office types it. */
export const guardianInput = z.object({
  /** The record that is corrected, for a guardian already on the applicant's record. */
  id: id.nullish(),
  givenName: named("the guardian's given name", limits.personName),
  familyName: named("the guardian's family name", limits.personName),
  relation: named('the relation', limits.relation),
  email: z
    .email('This is not an e-mail address. It needs a name, an @ and a place, such as bram@hollins.example.')
    .max(limits.email, `Shorten the e-mail address to at most ${limits.email} characters.`)
    .nullish()
    .or(z.literal('').transform(() => null)),
  phone: optionalLine("the guardian's telephone", limits.phone),
})

/** A student to enrol, with a first guardian and from when they belong where. */
export const enrolInput = z.object({
  applicantId: id.nullish(),
  givenName: named('the given name', limits.personName),
  familyName: named('the family name', limits.personName),
  preferredName: optionalLine('the preferred name', limits.personName),
  birthDate: civilDate,
  address: optionalLine('the address'),
  yearGroupId: chosen('a year group'),
  homeroomId: chosen('a homeroom'),
  classIds: z.array(id).max(60),
  startDate: civilDate,
  guardian: guardianInput,
  /** Set once the person has seen the students with the same name and birth date. */
  notADuplicate: z.boolean().default(false),
})
