import { staffRoles } from '@/server/platform/actor'
import { onlyRoles, type Right } from '@/server/platform/rights'

/**
 * Any teacher and the office may take any homeroom's register: cover is arranged minutes before. Every mark says
 * who made it.
 */
export const markRegister: Right<{ homeroomId: string }> = {
  words: 'mark a register',
  grants: [{ roles: staffRoles }],
  object: 'homeroom',
  of: ({ homeroomId }) => homeroomId,
}

/** The same for the register of a lesson. */
export const markLesson: Right<{ classId: string }> = {
  words: 'mark the register of a lesson',
  grants: [{ roles: staffRoles }],
  object: 'class',
  of: ({ classId }) => classId,
}

export const seeRegisters = onlyRoles('see which registers are taken', ...staffRoles)

/** Those who look after all registers, not only their own. */
export const watchRegisters = onlyRoles(
  'look after all registers',
  'administrator',
  'head',
  'office',
  'records',
)

export const editCodes = onlyRoles('edit the attendance codes', 'administrator')

export const correctMarks = onlyRoles(
  'correct many marks at once',
  'administrator',
  'head',
  'office',
  'records',
)

export const planAbsences = onlyRoles('plan absences', 'administrator', 'head', 'office', 'records')

export const callFamilies = onlyRoles(
  'call the families of absent students',
  'administrator',
  'head',
  'office',
  'records',
)
