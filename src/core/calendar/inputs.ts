import { z } from 'zod'
import { limits } from '@/core/limits'
import { registerKinds } from './registers'
import { closureKinds } from './check-year'
import { chosen, civilDate, id, named, expectedVersion } from '@/core/inputs'

const day = z.string().max(limits.date)

/** A new academic year with its terms; checkYear says what does not fit. */
export const yearInput = z.object({
  name: z.string().trim().max(limits.yearName, `Shorten the name to at most ${limits.yearName} characters.`),
  firstDay: day,
  lastDay: day,
  weekdays: z.array(z.number().int().min(1).max(7)).min(1, 'Choose the days on which there is school.'),
  terms: z
    .array(z.object({ name: z.string().trim().max(limits.partName), firstDay: day, lastDay: day }))
    .max(6),
  /** Days without school that are known already. */
  closures: z
    .array(
      z.object({
        kind: z.enum(closureKinds),
        name: z.string().trim().max(limits.shortName),
        firstDay: day,
        lastDay: day,
      }),
    )
    .max(limits.closures)
    .default([]),
})

/** Year groups to add, each with the same homerooms. */
export const yearGroupsInput = z.object({
  yearId: id,
  names: z
    .array(named('the name of each year group', limits.partName))
    .min(1, 'Enter at least one year group.')
    .max(limits.yearGroups),
  homerooms: z.array(named('the name of each homeroom', limits.partName)).max(limits.homeroomsAtOnce),
})

/** Subjects to add, in the order in which they are listed. */
export const subjectsInput = z.object({
  names: z
    .array(named('the name of each subject', limits.shortName))
    .min(1, 'Enter at least one subject.')
    .max(limits.partsAtOnce),
})

/** Rooms to add. */
export const roomsInput = z.object({
  names: z
    .array(named('the name of each room', limits.partName))
    .min(1, 'Enter at least one room.')
    .max(limits.roomsAtOnce),
})

/** An optional choice from a list; empty counts as none. */
const maybeChosen = id.nullish().or(z.literal('').transform(() => null))

/** A class, new or changed. Its course is the subject taught to the year group. */
export const classInput = z.object({
  /** Null for a new class. */
  classId: id.nullish(),
  expectedVersion,
  yearId: id,
  name: named('the name of the class', limits.shortName),
  subjectId: chosen('a subject'),
  yearGroupId: chosen('a year group'),
  scaleId: chosen('a grading scale'),
  roomId: maybeChosen,
  termIds: z.array(id).min(1, 'Choose at least one term.').max(6),
  staffIds: z.array(id).max(limits.teachersOfClass),
  /** Homerooms whose students belong in it. */
  homeroomIds: z.array(id).max(limits.homeroomsOfClass),
  /** From when the teachers teach it, and in a new class the students are in it. */
  from: civilDate,
})

/** The room of a homeroom, and who looks after it from a day on. */
export const homeroomInput = z.object({
  homeroomId: id,
  expectedVersion,
  roomId: maybeChosen,
  staffIds: z.array(id).max(6),
  from: civilDate,
})

/** The last day on which a homeroom has students; null opens it again. */
export const closeHomeroomInput = z.object({ homeroomId: id, expectedVersion, lastDay: civilDate.nullable() })

/** Days without school, new or changed. */
export const closureInput = z.object({
  closureId: id.nullish(),
  expectedVersion,
  yearId: id,
  kind: z.enum(closureKinds),
  name: named('a name', limits.shortName),
  firstDay: civilDate,
  lastDay: civilDate,
})

/** A term of a year, new or changed. */
export const termInput = z.object({
  termId: id.nullish(),
  expectedVersion,
  yearId: id,
  name: named('a name', limits.partName),
  firstDay: civilDate,
  lastDay: civilDate,
})

/** A marking or exam period of a term, new or changed. */
export const periodInput = z.object({
  periodId: id.nullish(),
  expectedVersion,
  termId: chosen('a term'),
  kind: z.enum(['marking', 'exams']),
  name: named('a name', limits.partName),
  firstDay: civilDate,
  lastDay: civilDate,
})

/** The name, days and working week of a year that exists. */
export const yearDaysInput = z.object({
  yearId: id,
  expectedVersion,
  name: named('a name', limits.yearName),
  firstDay: civilDate,
  lastDay: civilDate,
  weekdays: z.array(z.number().int().min(1).max(7)).min(1, 'Choose the days on which there is school.'),
})

/** Classes to carry from a term to the next one. */
export const carryInput = z.object({
  fromTermId: id,
  /** The next term as it was shown; refused when it is another by now. */
  toTermId: id,
  classIds: z.array(id).min(1, 'Choose at least one class.').max(limits.classesOfAnAct),
  /** Whether the students come along. */
  withStudents: z.boolean(),
})

export const partKinds = ['year group', 'homeroom', 'subject', 'room'] as const
export type PartKind = (typeof partKinds)[number]

/** Another name for a part of the structure. */
export const partInput = z.object({
  kind: z.enum(partKinds),
  partId: id,
  expectedVersion,
  name: named('a name', limits.partName),
})

/** All year groups or all subjects in their new order. */
export const orderInput = z.object({
  kind: z.enum(['year group', 'subject']),
  ids: z.array(id).min(1).max(limits.partsInOrder),
})

/** Which registers each year group takes. */
export const registersInput = z.object({
  groups: z
    .array(z.object({ yearGroupId: id, expectedVersion, registers: z.enum(registerKinds) }))
    .min(1)
    .max(limits.yearGroupsAtOnce),
})
