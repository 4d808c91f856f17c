import { sql, type RawBuilder } from 'kysely'
import type { Context } from '@/server/platform/context'
import { onlyRoles, whereMay, type Relation, type Right } from '@/server/platform/rights'
import { isTeacherOf } from '@/server/school/facts'

type Asking = Pick<Context, 'actor' | 'today'>

/*
 * What relates somebody to an assessment. The id can be a column of the statement around it, so the tables in here have
 * names that no other statement gives.
 */

/** Whether the actor teaches a class that sits an assessment, in a sitting that a condition holds for. */
const teachesIn = ({ actor, today }: Asking, id: RawBuilder<unknown>, condition: RawBuilder<boolean>) =>
  sql<boolean>`exists (select 1 from sitting sat
    join sitting_class sat_by on sat_by.school_id = sat.school_id and sat_by.assessment_id = sat.assessment_id and sat_by.sitting_id = sat.id
    join class_teacher taught on taught.school_id = sat_by.school_id and taught.class_id = sat_by.class_id
    where sat.assessment_id = ${id} and taught.staff_id = ${actor.staffId} and taught.period @> ${today}::date and ${condition})`

const isOwn: Relation = {
  words: 'owns it or teaches one of the classes its owner gave it to',
  holds: (asking, id) => sql<boolean>`exists (select 1 from assessment held where held.id = ${id}
    and (held.owner_id = ${asking.actor.staffId} or ${teachesIn(asking, sql.ref('held.id'), sql`sat.given_by = held.owner_id`)}))`,
}

/** Whoever gave it keeps what they gave, also when they teach the class no longer. */
const isGiven: Relation = {
  words: 'gave it to a class or teaches one that sits it',
  holds: (
    asking,
    id,
  ) => sql<boolean>`(${teachesIn(asking, id, sql`true`)} or exists (select 1 from sitting gave
    where gave.assessment_id = ${id} and gave.given_by = ${asking.actor.staffId}))`,
}

/** Whether an assessment is shared with the actor, to do something with it. */
const shared = (words: string, may: RawBuilder<boolean>): Relation => ({
  words,
  holds: (
    { actor, today },
    id,
  ) => sql<boolean>`exists (select 1 from assessment_share shared where shared.assessment_id = ${id} and ${may}
    and (shared.staff_id = ${actor.staffId} or num_nonnulls(shared.staff_id, shared.course_id, shared.year_group_id) = 0
      or exists (select 1 from class_teacher taught join class of_class on of_class.school_id = taught.school_id and of_class.id = taught.class_id
        join course of_course on of_course.school_id = of_class.school_id and of_course.id = of_class.course_id
        where taught.staff_id = ${actor.staffId} and taught.period @> ${today}::date
          and (of_course.id = shared.course_id or of_course.year_group_id = shared.year_group_id))
      or exists (select 1 from homeroom_teacher led join homeroom of_room on of_room.school_id = led.school_id and of_room.id = led.homeroom_id
        where led.staff_id = ${actor.staffId} and led.period @> ${today}::date and of_room.year_group_id = shared.year_group_id)))`,
})
const isShared = shared('has it shared with them', sql`true`)
const isSharedToSee = shared('has its results shared with them', sql`shared.may_see_results`)
const isSharedToGive = shared('may give it to their own classes', sql`shared.may_give`)
const isSharedToEdit = shared('has it shared with them to edit', sql`shared.may_edit`)

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
        sql<boolean>`exists (select 1 from assessment held where held.id = ${id} and held.owner_id = ${actor.staffId})`,
    }),
  ],
  ...ofAssessment,
}

/** Whether the actor sees the result of one student: that of all, or of a class of their own or that they gave it to. */
export const seesResultOf = (
  context: Context,
  assessmentId: RawBuilder<unknown>,
  studentId: RawBuilder<unknown>,
): RawBuilder<boolean> =>
  sql<boolean>`(${whereMay(context, seeAllResults, assessmentId)} or exists (select 1 from sitting gave
    join sitting_class gave_to on gave_to.school_id = gave.school_id and gave_to.assessment_id = gave.assessment_id and gave_to.sitting_id = gave.id
    join class_member was_in on was_in.school_id = gave_to.school_id and was_in.class_id = gave_to.class_id
    where gave.assessment_id = ${assessmentId} and gave.given_by = ${context.actor.staffId} and was_in.student_id = ${studentId})
    or ${teachesIn(
      context,
      assessmentId,
      sql`exists (select 1 from class_member sitter where sitter.school_id = sat_by.school_id and sitter.class_id = sat_by.class_id
      and sitter.student_id = ${studentId})`,
    )})`

/** The classes of an assessment that the actor teaches or gave it to: those whose answers they see and enter. */
export async function ownClassesOf(context: Context, assessmentId: string): Promise<ReadonlySet<string>> {
  const { rows } = await sql<{ classId: string }>`select ic.class_id from sitting i join sitting_class ic
      on ic.school_id = i.school_id and ic.assessment_id = i.assessment_id and ic.sitting_id = i.id
    where i.assessment_id = ${assessmentId} and (i.given_by = ${context.actor.staffId} or ${isTeacherOf(sql.ref('ic.class_id'), context.actor.staffId, context.today)})`.execute(
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
