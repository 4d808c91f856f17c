import { z } from 'zod'
import {
  birthDate,
  chosen,
  civilDate,
  id,
  named,
  optionalLine,
  optionalText,
  expectedVersion,
  whole,
  written,
} from '@/core/inputs'
import { limits } from '@/core/limits'
import { staffRoles } from '@/core/people/roles'

const email = z
  .email('This is not an e-mail address. It needs a name, an @ and a place, such as bram@hollins.example.')
  .max(limits.email, `Shorten the e-mail address to at most ${limits.email} characters.`)
  .nullish()
  .or(z.literal('').transform(() => null))

/** A student's guardian as the office types it. */
export const guardianInput = z.object({
  /** The record that is corrected, for a guardian already on the applicant's record, or on that of a brother or sister. */
  id: id.nullish(),
  givenName: named("the guardian's given name", limits.personName),
  familyName: named("the guardian's family name", limits.personName),
  relation: named('the relation', limits.relation),
  email,
  phone: optionalLine("the guardian's telephone", limits.phone),
})

/** A student to enrol, with guardians and from when they belong where. */
export const enrolInput = z.object({
  applicantId: id.nullish(),
  givenName: named('the given name', limits.personName),
  familyName: named('the family name', limits.personName),
  preferredName: optionalLine('the preferred name', limits.personName),
  birthDate,
  address: optionalLine('the address'),
  yearGroupId: chosen('a year group'),
  homeroomId: chosen('a homeroom'),
  classIds: z.array(id).max(limits.classesOfStudent),
  startDate: civilDate,
  guardian: guardianInput,
  /** Those who are called after the first. */
  guardians: z
    .array(guardianInput)
    .max(limits.guardiansAtOnce, `Enter at most ${limits.guardiansAtOnce + 1} guardians at once.`)
    .default([]),
  /** A brother or sister whose guardians are taken over. */
  siblingId: id.nullish(),
  /** Set once the person has seen the students with the same name and birth date. */
  notADuplicate: z.boolean().default(false),
})

/** The fields of a student's record, each saved by itself. */
export const studentFields = {
  legalGivenName: named('the legal given name', limits.personName),
  legalFamilyName: named('the legal family name', limits.personName),
  preferredName: optionalLine('the preferred name', limits.personName),
  sortName: named('the name for lists', 2 * limits.personName),
  birthDate,
  pronouns: optionalLine('the pronouns', limits.shortName),
  address: optionalLine('the address'),
  transport: optionalLine('the transport'),
  supportNote: optionalText('the support note', limits.remark),
  medicalNote: optionalText('the medical note', limits.remark),
} as const
export type StudentField = keyof typeof studentFields

/** Students with the version of their memberships that was in sight. */
const studentsWithVersions = z
  .array(z.object({ studentId: id, expectedVersion }))
  .min(1, 'Choose at least one student.')
  .max(limits.studentsAtOnce, `Choose at most ${limits.studentsAtOnce} students at once.`)

/** Where students belong from a day on. What is not named stays as it is. */
export const placeInput = z
  .object({
    students: studentsWithVersions,
    from: civilDate,
    yearGroupId: id.nullish().or(z.literal('').transform(() => null)),
    homeroomId: id.nullish().or(z.literal('').transform(() => null)),
    join: z.array(id).max(limits.classesOfStudent).default([]),
    leave: z.array(id).max(limits.classesOfStudent).default([]),
    joinGroups: z.array(id).max(limits.partsAtOnce).default([]),
    leaveGroups: z.array(id).max(limits.partsAtOnce).default([]),
  })
  .refine(
    (v) =>
      v.yearGroupId ||
      v.homeroomId ||
      v.join.length + v.leave.length + v.joinGroups.length + v.leaveGroups.length > 0,
    {
      path: ['from'],
      message: 'Nothing would change. Choose a year group, a homeroom, classes or groups.',
    },
  )

/** Analysis groups to add. */
export const groupsInput = z.object({
  names: z
    .array(named('the name of each group', limits.shortName))
    .min(1, 'Enter at least one group.')
    .max(limits.partsAtOnce),
})

/** Another name for a group. */
export const groupInput = z.object({
  groupId: id,
  expectedVersion,
  name: named('the name of the group', limits.shortName),
})

/** Students who leave the school. */
export const leaveInput = z.object({
  students: studentsWithVersions,
  lastDay: civilDate,
  reason: named('the reason', limits.line),
  destination: optionalLine('the destination'),
})

/** A guardian of a student, new or corrected. */
export const guardianRecordInput = z.object({
  studentId: id,
  guardianId: id.nullish(),
  /** The version of the guardian's record that was in sight; 0 for a new one. */
  expectedVersion,
  /** The same of how they stand to the student. */
  expectedRelation: expectedVersion,
  givenName: named('the given name', limits.personName),
  familyName: named('the family name', limits.personName),
  relation: named('the relation', limits.relation),
  email,
  phone: optionalLine('the telephone', limits.phone),
  language: z.string().regex(/^[a-z]{2,3}(-[A-Za-z]{2,4})?$/, 'Choose a language.'),
  address: optionalLine('the address'),
  /** Whom to call first. */
  contactOrder: whole('the order to call', 1, 9),
  mayReceiveReports: z.boolean(),
})

/** A message to the guardians of some students, and to some guardians. */
export const messageInput = z.object({
  studentIds: z.array(id).max(limits.recipients),
  guardianIds: z.array(id).max(limits.recipients),
  subject: named('the subject', limits.name),
  text: written('the message', limits.comment),
})

const username = z
  .string()
  .trim()
  .toLowerCase()
  .regex(
    /^[a-z0-9][a-z0-9._-]{1,39}$/,
    'A user name has 2 to 40 letters without accents, digits, dots or hyphens, such as r.achterberg.',
  )
const ownRoles = z
  .array(z.enum(staffRoles))
  .min(1, 'Choose at least one role.')
  .transform((roles) => [...new Set(roles)])

/** A new member of staff with an account; the password is handed out and changed at the first sign-in. */
export const staffInput = z.object({
  givenName: named('the given name', limits.personName),
  familyName: named('the family name', limits.personName),
  username,
  roles: ownRoles,
  email,
  phone: optionalLine('the telephone', limits.phone),
  password: z.string().max(limits.password),
})

/** The fields of a staff record, each saved by itself. */
export const staffFields = {
  givenName: named('the given name', limits.personName),
  familyName: named('the family name', limits.personName),
  email,
  phone: optionalLine('the telephone', limits.phone),
} as const

export const staffRolesInput = z.object({ staffId: id, expectedVersion, roles: ownRoles })
/** The end of somebody's work at the school: at once, or after a last day on which they still work as usual. */
export const deactivateInput = z.object({
  staffId: id,
  expectedVersion,
  lastDay: civilDate,
  atOnce: z.boolean().default(true),
  /** Who takes over their homerooms and classes from the next day on. */
  successorId: id
    .nullable()
    .or(z.literal('').transform(() => null))
    .default(null),
})
export const newPasswordInput = z.object({
  staffId: id,
  expectedVersion,
  password: z.string().max(limits.password),
})

/** Whether guardians may see one's own e-mail address. */
export const shareAddressInput = z.object({ shared: z.boolean() })
