import { staffRoles } from '@/server/platform/actor'
import { onlyRoles, type Right } from '@/server/platform/rights'
import { teachesClass } from '@/server/school/relations'

const ofClass = { object: 'class', of: ({ classId }: { classId: string }) => classId } as const

/** The class's teachers, and the head. */
export const seeGradebook: Right<{ classId: string }> = {
  words: 'see a gradebook',
  grants: [{ roles: ['administrator', 'head'] }, { roles: staffRoles, when: teachesClass }],
  ...ofClass,
}

/** Only those who teach the class, whatever else they are at the school. */
export const enterScores: Right<{ classId: string }> = {
  words: 'enter scores and set up a gradebook',
  grants: [{ roles: staffRoles, when: teachesClass }],
  ...ofClass,
}

/** The same for each of several classes: one that may not be changed stops all. */
export const enterScoresInAll: Right<{ targets: readonly { classId: string }[] }> = {
  words: enterScores.words,
  grants: enterScores.grants,
  object: 'class',
  of: ({ targets }) => targets.map((t) => t.classId),
}

/** The same for a class and others beside it. */
export const enterScoresHereAndIn: Right<{ classId: string; others: readonly string[] }> = {
  words: enterScores.words,
  grants: enterScores.grants,
  object: 'class',
  of: ({ classId, others }) => [classId, ...others],
}

/** Those who teach the class say that its marks are right. */
export const confirmMarksOf: Right<{ classId: string }> = {
  words: 'confirm the marks of a class',
  grants: [{ roles: staffRoles, when: teachesClass }],
  ...ofClass,
}

/** The head closes what is confirmed. */
export const closeMarksOf: Right<{ targets: readonly { classId: string }[] }> = {
  words: 'close the marks of a class',
  grants: [{ roles: ['administrator', 'head'] }],
  object: 'class',
  of: ({ targets }) => targets.map((t) => t.classId),
}

/** Head and office open closed marks again. */
export const reopenMarksOf: Right<{ classId: string }> = {
  words: 'reopen closed marks',
  grants: [{ roles: ['administrator', 'head', 'office'] }],
  ...ofClass,
}

export const seeOwnMarks = onlyRoles("see one's children's marks that are shown", 'guardian')

export const listClasses = onlyRoles('list the classes', ...staffRoles)
