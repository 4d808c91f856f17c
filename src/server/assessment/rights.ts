import { sql, type RawBuilder } from 'kysely'
import type { Context } from '@/server/platform/context'
import { onlyRoles, whereMay, type Relation, type Right } from '@/server/platform/rights'
import { isTeacherOf } from '@/server/school/facts'

type Asking = Pick<Context, 'actor' | 'today'>

/** Whether the actor teaches a class that sits an assessment, in a sitting that a condition holds for. */
const teachesIn = ({ actor, today }: Asking, id: RawBuilder<unknown>, sitting: RawBuilder<boolean>) =>
  sql<boolean>`exists (select 1 from sitting i
    join sitting_class ic on ic.school_id = i.school_id and ic.assessment_id = i.assessment_id and ic.sitting_id = i.id
    join class_teacher t on t.school_id = ic.school_id and t.class_id = ic.class_id
    where i.assessment_id = ${id} and t.staff_id = ${actor.staffId} and t.period @> ${today}::date and ${sitting})`

const isOwn: Relation = {
  words: 'owns it or teaches one of the classes its owner gave it to',
  holds: (asking, id) => sql<boolean>`exists (select 1 from assessment own where own.id = ${id}
    and (own.owner_id = ${asking.actor.staffId} or ${teachesIn(asking, id, sql`i.given_by = own.owner_id`)}))`,
}

const isGiven: Relation = {
  words: 'teaches a class that sits it',
  holds: (asking, id) => teachesIn(asking, id, sql`true`),
}

/** Whether an assessment is shared with the actor, to do something with it. */
const shared = (words: string, may: RawBuilder<boolean>): Relation => ({
  words,
  holds: (
    { actor, today },
    id,
  ) => sql<boolean>`exists (select 1 from assessment_share h where h.assessment_id = ${id} and ${may}
    and (h.staff_id = ${actor.staffId} or num_nonnulls(h.staff_id, h.course_id, h.year_group_id) = 0
      or exists (select 1 from class_teacher t join class c on c.school_id = t.school_id and c.id = t.class_id
        join course k on k.school_id = c.school_id and k.id = c.course_id
        where t.staff_id = ${actor.staffId} and t.period @> ${today}::date and (k.id = h.course_id or k.year_group_id = h.year_group_id))
      or exists (select 1 from homeroom_teacher t join homeroom r on r.school_id = t.school_id and r.id = t.homeroom_id
        where t.staff_id = ${actor.staffId} and t.period @> ${today}::date and r.year_group_id = h.year_group_id)))`,
})
const isShared = shared('has it shared with them', sql`true`)
const isSharedToSee = shared('has its results shared with them', sql`h.may_see_results`)
const isSharedToGive = shared('may give it to their own classes', sql`h.may_give`)
const isSharedToEdit = shared('has it shared with them to edit', sql`h.may_edit`)

const ofAssessment = {
  object: 'assessment',
  of: ({ assessmentId }: { assessmentId: string }) => assessmentId,
} as const

type OfAssessment = Right<{ assessmentId: string }>
const leads = { roles: ['administrator', 'head'] } as const
const teachersWho = (...relations: readonly Relation[]) =>
  relations.map((when) => ({ roles: ['teacher'], when }) as const)

/** Its questions and its key. */
export const seeAssessment: OfAssessment = {
  words: 'see an assessment with its key',
  grants: [leads, ...teachersWho(isOwn, isGiven, isShared)],
  ...ofAssessment,
}

/** Whoever gives it sees the answers of their own classes alone. */
export const seeResults: OfAssessment = {
  words: 'see answers and findings of an assessment',
  grants: [leads, ...teachersWho(isOwn, isGiven, isSharedToSee)],
  ...ofAssessment,
}

export const seeAllResults: OfAssessment = {
  words: 'see answers and findings of all classes that sit an assessment',
  grants: [leads, ...teachersWho(isOwn, isSharedToSee)],
  ...ofAssessment,
}

export const editAssessment: OfAssessment = {
  words: 'change an assessment and its key',
  grants: teachersWho(isOwn, isSharedToEdit),
  ...ofAssessment,
}

/** Whoever gives it enters the answers of their own classes. */
export const enterAnswers: OfAssessment = {
  words: 'enter answers',
  grants: teachersWho(isOwn, isGiven),
  ...ofAssessment,
}

export const enterAllAnswers: OfAssessment = {
  words: 'enter answers of all classes that sit an assessment',
  grants: teachersWho(isOwn),
  ...ofAssessment,
}

export const giveAssessment: OfAssessment = {
  words: 'give an assessment to their own classes',
  grants: teachersWho(isOwn, isSharedToGive),
  ...ofAssessment,
}

export const shareAssessment: OfAssessment = {
  words: 'share an assessment',
  grants: teachersWho(isOwn),
  ...ofAssessment,
}

/** So that the assessments of those who leave stay in somebody's hands. */
export const handOverAssessment: OfAssessment = {
  words: 'hand an assessment over to another teacher',
  grants: [
    leads,
    ...teachersWho({
      words: 'owns it',
      holds: ({ actor }, id) =>
        sql<boolean>`exists (select 1 from assessment own where own.id = ${id} and own.owner_id = ${actor.staffId})`,
    }),
  ],
  ...ofAssessment,
}

/** Whether the actor sees the result of one student: that of all, or of a class of their own that sits it. */
export const seesResultOf = (
  context: Context,
  assessmentId: RawBuilder<unknown>,
  studentId: RawBuilder<unknown>,
): RawBuilder<boolean> =>
  sql<boolean>`(${whereMay(context, seeAllResults, assessmentId)} or ${teachesIn(
    context,
    assessmentId,
    sql`exists (select 1 from class_member m where m.school_id = ic.school_id and m.class_id = ic.class_id and m.student_id = ${studentId})`,
  )})`

/** The classes of an assessment that the actor teaches; of those, a right that is not for all lets them see or enter. */
export async function ownClassesOf(context: Context, assessmentId: string): Promise<ReadonlySet<string>> {
  const { rows } = await sql<{ classId: string }>`select ic.class_id from sitting_class ic
    where ic.assessment_id = ${assessmentId} and ${isTeacherOf(sql.ref('ic.class_id'), context.actor.staffId, context.today)}`.execute(
    context.db,
  )
  return new Set(rows.map((row) => row.classId))
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
