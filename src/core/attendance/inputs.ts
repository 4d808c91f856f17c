import { z } from 'zod'
import { daysBetween } from '@/core/calendar/school-year'
import { chosen, civilDate, id, named, optionalLine, seen } from '@/core/inputs'
import { limits } from '@/core/limits'
import { callOutcomes } from './calls'
import { checkCodeSet } from './code-set'
import { meanings } from './codes'
import { plannedSessions, sessions } from './sessions'

const code = z.object({
  /** Given where it is made, so that a code that is renamed stays the same. */
  id,
  code: z.string().trim().toUpperCase().max(4, 'A code has at most 4 characters.'),
  label: named('what the code means', 60),
  familyLabel: optionalLine('the words for families', 120),
  meaning: z.enum(meanings),
  needsMinutes: z.boolean(),
  needsNote: z.boolean(),
  officeOnly: z.boolean(),
})

/** A set of attendance codes, new or changed, in the order in which they are listed. */
export const codeSetInput = z
  .object({
    setId: id.nullish(),
    seen,
    name: named('a name', 60),
    firstDay: civilDate,
    /** The last day of use; none while it is open-ended. */
    lastDay: civilDate.nullish().or(z.literal('').transform(() => null)),
    codes: z.array(code).min(1, 'Add the codes of the set.').max(60),
  })
  .superRefine(({ firstDay, lastDay, codes }, context) => {
    if (lastDay && lastDay < firstDay)
      context.addIssue({
        code: 'custom',
        path: ['lastDay'],
        message: 'The last day must not be before the first day.',
      })
    for (const { path, message } of checkCodeSet(codes))
      context.addIssue({ code: 'custom', path: ['codes', ...path], message })
  })

/** Days that one correction spans at most: a term. */
const longestCorrection = 130
const longestAbsence = 366

/** Refuses days in the wrong order, and more of them than `most`. */
const span =
  (most: number, tooLong: string) =>
  ({ firstDay, lastDay }: { firstDay: string; lastDay: string }, context: z.RefinementCtx) => {
    const message =
      lastDay < firstDay
        ? 'The last day must not be before the first day.'
        : daysBetween(firstDay, lastDay) > most
          ? tooLong
          : undefined
    if (message) context.addIssue({ code: 'custom', path: ['lastDay'], message })
  }

/** An optional choice from a list; empty counts as none. */
const maybeChosen = id.nullish().or(z.literal('').transform(() => null))

/** Marks of many students or sessions at once; existing marks change only where `replace` says so. */
export const correctionInput = z
  .object({
    studentIds: z.array(id).min(1, 'Choose at least one student.').max(2000),
    firstDay: civilDate,
    lastDay: civilDate,
    sessions: z.array(z.enum(sessions)).min(1, 'Choose morning, afternoon or both.'),
    codeId: chosen('a code'),
    note: optionalLine('the note'),
    reason: named('the reason', limits.line),
    replace: z.boolean(),
  })
  .superRefine(span(longestCorrection, `Correct at most ${longestCorrection} days at once.`))

/** An absence known beforehand, new or changed. */
export const plannedInput = z
  .object({
    plannedId: id.nullish(),
    seen,
    studentId: chosen('a student'),
    firstDay: civilDate,
    lastDay: civilDate,
    sessions: z.enum(plannedSessions),
    codeId: chosen('a code'),
    note: optionalLine('the note'),
  })
  .superRefine(span(longestAbsence, 'An absence lasts at most a year.'))

/** A call to a student's family about an absence. */
export const callInput = z.object({
  studentId: id,
  date: civilDate,
  guardianId: maybeChosen,
  outcome: z.enum(callOutcomes, 'Choose how the call ended.'),
  note: optionalLine('the note'),
  callAgain: z
    .string()
    .trim()
    .regex(/^([01]\d|2[0-3]):[0-5]\d$/, 'Enter a time, such as 10:30.')
    .nullish()
    .or(z.literal('').transform(() => null)),
  /** What the unexplained marks of the day become. */
  codeId: maybeChosen,
})

/** Whose figures are asked for. */
export const figureKinds = ['student', 'class', 'homeroom', 'year group', 'group', 'school'] as const

const figureScope = z.object({
  kind: z.enum(figureKinds),
  /** Of what; the school has none. */
  id: id.nullable(),
  from: civilDate,
  /** The last day of the period, which may be to come. */
  to: civilDate,
  /** The day until which marks are counted. */
  date: civilDate,
  sessions: z.enum(['half-days', 'lessons']),
})
export const figuresInput = figureScope

/** The sessions behind one figure, narrowed to what it is of. */
export const sessionsBehindInput = figureScope.extend({
  studentId: id.nullish(),
  homeroomId: id.nullish(),
  weekday: z.number().int().min(1).max(7).nullish(),
  session: z.string().max(10).nullish(),
  /** The Monday of a week. */
  week: civilDate.nullish(),
})
