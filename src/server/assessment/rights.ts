import { sql } from 'kysely'
import { onlyRoles, type Relation, type Right } from '@/server/platform/rights'

const isOwn: Relation = {
  words: 'owns it or teaches one of its classes',
  holds: ({ actor, today }, id) => sql<boolean>`exists (
    select 1 from assessment own where own.id = ${id} and (own.owner_id = ${actor.staffId} or exists (
      select 1 from sitting_class ic join class_teacher t on t.school_id = ic.school_id and t.class_id = ic.class_id
      where ic.assessment_id = own.id and t.staff_id = ${actor.staffId} and t.period @> ${today}::date)))`,
}

const ofAssessment = {
  object: 'assessment',
  of: ({ assessmentId }: { assessmentId: string }) => assessmentId,
} as const

/** Teachers see their own; the head sees all. */
export const seeAssessment: Right<{ assessmentId: string }> = {
  words: 'see an assessment with its answers and findings',
  grants: [{ roles: ['administrator', 'head'] }, { roles: ['teacher'], when: isOwn }],
  ...ofAssessment,
}

/** Only those whose assessment it is change it. */
export const editAssessment: Right<{ assessmentId: string }> = {
  words: 'change an assessment, its key and its answers',
  grants: [{ roles: ['teacher'], when: isOwn }],
  ...ofAssessment,
}

/** A test's document is shown to all who teach or lead. */
export const readTest: Right<{ assessmentId: string }> = {
  words: "read a test's document",
  grants: [{ roles: ['administrator', 'head', 'teacher'] }],
  ...ofAssessment,
}

export const listAssessments = onlyRoles(
  'list the assessments they may see',
  'administrator',
  'head',
  'teacher',
)
export const seeStandards = onlyRoles(
  'see the learning standards',
  'administrator',
  'head',
  'office',
  'teacher',
)
export const changeStandards = onlyRoles('change the learning standards', 'administrator', 'head')
export const createAssessment = onlyRoles('create an assessment', 'teacher')
