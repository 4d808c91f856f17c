import { sql } from 'kysely'
import { staffRoles } from '@/server/platform/actor'
import { onlyRoles, type Relation, type Right } from '@/server/platform/rights'
import { isGuardianOf, looksAfterHomeroom, teachesClass, teachesStudent } from '@/server/school/relations'

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

/** Teaches the class, or covers a lesson of it today. */
const givesLessonToday: Relation = {
  words: 'gives the class a lesson today',
  holds: (context, id) =>
    sql<boolean>`(${teachesClass.holds(context, id)} or exists (select 1 from lesson_change x
      where x.class_id = ${id} and x.on_date = ${context.today} and x.staff_id = ${context.actor.staffId}::uuid))`,
}

const office = ['administrator', 'head', 'office', 'records'] as const

/** Plans are the office's; whoever looks after the homeroom sees who is here today although an absence was planned. */
export const endPlans: Right<{ homeroomId: string }> = {
  words: 'end a planned absence of somebody who is here today',
  grants: [{ roles: office }, { roles: staffRoles, when: looksAfterHomeroom }],
  object: 'homeroom',
  of: ({ homeroomId }) => homeroomId,
}

/** The same in a lesson. */
export const endPlansInLesson: Right<{ classId: string }> = {
  words: 'end a planned absence of somebody who is in the lesson',
  grants: [{ roles: office }, { roles: staffRoles, when: givesLessonToday }],
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

export const remindTeachers = onlyRoles(
  'remind teachers of registers',
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

/** Teaches the class or the student, or looks after the homeroom, whichever of them an id is of. */
const looksAfter: Relation = {
  words: 'teaches or looks after them',
  holds: (context, id) =>
    sql<boolean>`(${teachesClass.holds(context, id)} or ${looksAfterHomeroom.holds(context, id)} or ${teachesStudent.holds(context, id)})`,
}

/** Figures of the whole school are for those who look after all registers; a teacher's are of their own. */
export const seeFigures: Right<{ id: string | null }> = {
  words: 'see attendance figures',
  grants: [
    { roles: ['administrator', 'head', 'office', 'records'] },
    { roles: staffRoles, when: looksAfter },
  ],
  of: ({ id }) => id,
  and: ({ id }) =>
    id === null
      ? sql<boolean>`true`
      : sql<boolean>`exists (${sql.join(
          (['student', 'class', 'homeroom', 'year_group', 'analysis_group'] as const).map(
            (table) => sql`select 1 from ${sql.table(table)} where id = ${id}`,
          ),
          sql` union all `,
        )})`,
}

/** The page of figures, with what is one's own. */
export const openFigures = onlyRoles('open attendance figures', ...staffRoles)

export const writeLetters = onlyRoles('write letters about attendance', 'administrator', 'head', 'office')

export const seeOwnAbsences = onlyRoles("see the absences reported of one's children", 'guardian')

export const reportAbsences: Right<{ studentId: string }> = {
  words: "report a child's absence",
  grants: [{ roles: ['guardian'], when: isGuardianOf }],
  object: 'student',
  of: ({ studentId }) => studentId,
}
