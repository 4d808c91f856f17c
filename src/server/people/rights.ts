import { staffRoles } from '@/server/platform/actor'
import { onlyRoles, type Right } from '@/server/platform/rights'
import { teachesStudent } from '@/server/school/relations'

const office = ['administrator', 'head', 'office', 'records'] as const
const ofStudent = { object: 'student', of: ({ studentId }: { studentId: string }) => studentId } as const

/** All staff find students and see who they are and where they belong. */
export const findStudents = onlyRoles('find students', ...staffRoles)

export const seeStudent: Right<{ studentId: string }> = {
  words: "see a student's record",
  grants: [{ roles: staffRoles }],
  ...ofStudent,
}

/** Notes on support: the office's leads and those who teach the student. */
export const seeSupport: Right<{ studentId: string }> = {
  words: 'see the support note',
  grants: [{ roles: ['administrator', 'head', 'office'] }, { roles: staffRoles, when: teachesStudent }],
  ...ofStudent,
}

/** How to reach a family is for those who look after the student. */
export const seeContact: Right<{ studentId: string }> = {
  words: "see a student's address, birth date and guardians",
  grants: [{ roles: office }, { roles: staffRoles, when: teachesStudent }],
  ...ofStudent,
}

export const changeRecords: Right<{ studentId: string }> = {
  words: "change a student's record",
  grants: [{ roles: office }],
  ...ofStudent,
}

/** Notes are changed by those who may always read them. */
export const changeSupport: Right<{ studentId: string }> = {
  words: 'change support and medical notes',
  grants: [{ roles: ['administrator', 'head', 'office'] }],
  ...ofStudent,
}

/** Where students belong is the office's. */
export const moveStudents = onlyRoles('move students between year groups, homerooms and classes', ...office)

/** Groups say things about students that not everyone needs to know. */
export const seeGroups = onlyRoles('see analysis groups', 'administrator', 'head', 'office')
export const changeGroups = onlyRoles('change analysis groups and who is in them', 'administrator', 'office')

export const listGuardians = onlyRoles('list guardians with how to reach them', ...office)

/** The office enrols. */
export const enrolStudents = onlyRoles('enrol students', ...office)

export const seeApplicant: Right<{ studentId: string }> = {
  words: "see an applicant's guardians",
  grants: [{ roles: office }],
  ...ofStudent,
}

export const inviteGuardians: Right<{ studentId: string }> = {
  words: "invite a student's guardians",
  grants: [{ roles: office }],
  ...ofStudent,
}

/** A student's whole history shows marks and reports, which the records staff do not see. */
export const seeStudentHistory: Right<{ studentId: string }> = {
  words: "see a student's history",
  grants: [{ roles: ['administrator', 'head', 'office'] }],
  ...ofStudent,
}
