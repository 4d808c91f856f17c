import { sql } from 'kysely'
import { staffRoles } from '@/server/platform/actor'
import { onlyRoles, type Right } from '@/server/platform/rights'
import { schoolShows, teachesClass, teachesStudent } from '@/server/school/relations'

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

/** More than the name and where a student belongs is for those who look after the student, or as the school decides. */
export const seeDetails: Right<{ studentId: string }> = {
  words: "see a student's photo, birth date, address and classes",
  grants: [
    { roles: office },
    { roles: staffRoles, when: teachesStudent },
    { roles: staffRoles, when: schoolShows('details', 'contacts') },
  ],
  ...ofStudent,
}

/** How to reach a family is for those who look after the student, or as the school decides. */
export const seeContact: Right<{ studentId: string }> = {
  words: "see a student's guardians and how to reach them",
  grants: [
    { roles: office },
    { roles: staffRoles, when: teachesStudent },
    { roles: staffRoles, when: schoolShows('contacts') },
  ],
  ...ofStudent,
}

/** Who is in a class says something about each of its students. */
export const seeClassMembers: Right<{ classId: string }> = {
  words: 'see who is in a class',
  grants: [
    { roles: office },
    { roles: staffRoles, when: teachesClass },
    { roles: staffRoles, when: schoolShows('details', 'contacts') },
  ],
  object: 'class',
  of: ({ classId }) => classId,
}

/** Puts two records of one student together. */
export const mergeStudents: Right<{ keepId: string }> = {
  words: 'merge two records of a student',
  grants: [{ roles: ['administrator', 'office'] }],
  object: 'student',
  of: ({ keepId }) => keepId,
}

export const changeRecords: Right<{ studentId: string }> = {
  words: "change a student's record",
  grants: [{ roles: office }],
  ...ofStudent,
  // One that was merged into another stays as it is.
  and: ({ studentId }) =>
    sql<boolean>`exists (select 1 from student s where s.id = ${studentId} and s.merged_into is null)`,
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

/** Writes to families in the school's name. */
export const writeToGuardians = onlyRoles('write to guardians', 'administrator', 'head', 'office')

/** The office enrols. */
export const enrolStudents = onlyRoles('enrol students', ...office)

/** Those who enrol see what a brother or sister has. */
export const seeFamily: Right<{ studentId: string }> = {
  words: 'see the family of a student to be enrolled',
  grants: [{ roles: office }],
  ...ofStudent,
}

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

export const seeChildrensTeachers = onlyRoles("see their children's homeroom teachers", 'guardian')
