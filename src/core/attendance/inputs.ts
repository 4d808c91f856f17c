import { z } from 'zod'
import { daysBetween } from '@/core/calendar/school-year'
import { chosen, civilDate, id, named, optionalLine, expectedVersion, written } from '@/core/inputs'
import { limits } from '@/core/limits'
import { callOutcomes } from './calls'
import { checkCodeSet } from './code-set'
import { meanings } from './codes'
import { unknownFields } from './letter'
import { correctedSessions, plannedSessions, sessions } from './sessions'

const code = z.object({
  /** Given where it is made, so that a code that is renamed stays the same. */
  id,
  code: z.string().trim().toUpperCase().max(limits.code, `A code has at most ${limits.code} characters.`),
  label: named('what the code means', limits.shortName),
  familyLabel: optionalLine('the words for families', 120),
  meaning: z.enum(meanings),
  needsMinutes: z.boolean(),
  needsNote: z.boolean(),
  officeOnly: z.boolean(),
})

/** The share of sessions present below which students are listed, until a school chooses another. */
export const usualThreshold = 90

/** A share in whole per cent. */
export const percent = z.coerce
  .number('Enter a number from 1 to 100.')
  .int('Enter a whole number from 1 to 100.')
  .min(1, 'Enter a number from 1 to 100.')
  .max(limits.wholePercent, 'Enter a number from 1 to 100.')

/** A set of attendance codes, new or changed, in the order in which they are listed. */
export const codeSetInput = z
  .object({
    setId: id.nullish(),
    expectedVersion,
    name: named('a name', limits.shortName),
    firstDay: civilDate,
    /** The last day of use; none while it is open-ended. */
    lastDay: civilDate.nullish().or(z.literal('').transform(() => null)),
    codes: z.array(code).min(1, 'Add the codes of the set.').max(limits.codes),
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

/** Days that one correction spans at most: a year. */
const longestCorrection = 366
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
    studentIds: z.array(id).min(1, 'Choose at least one student.').max(limits.studentsOfAnAct),
    firstDay: civilDate,
    lastDay: civilDate,
    sessions: z.array(z.enum(correctedSessions)).min(1, 'Choose morning, afternoon or lessons.'),
    codeId: chosen('a code'),
    note: optionalLine('the note'),
    reason: named('the reason', limits.line),
    replace: z.boolean(),
  })
  .superRefine(span(longestCorrection, `Correct at most ${longestCorrection} days at once.`))

const period = z
  .number('Enter the number of a period.')
  .int('Enter the number of a period.')
  .min(1, 'Enter the number of a period.')
  .max(limits.periods, `A day has at most ${limits.periods} periods.`)
  .nullish()

/** An absence known beforehand, new or changed. */
export const plannedInput = z
  .object({
    plannedId: id.nullish(),
    expectedVersion,
    studentId: chosen('a student'),
    firstDay: civilDate,
    lastDay: civilDate,
    sessions: z.enum(plannedSessions),
    /** Of `lessons`: from which period to which. */
    firstPeriod: period,
    lastPeriod: period,
    codeId: chosen('a code'),
    note: optionalLine('the note'),
    /** The guardian's report that it answers. */
    report: z.object({ reportId: id, expectedVersion }).nullish(),
  })
  .superRefine(span(longestAbsence, 'An absence lasts at most a year.'))
  .superRefine(({ sessions: which, firstPeriod, lastPeriod }, context) => {
    if (which !== 'lessons') return
    if (!firstPeriod)
      context.addIssue({ code: 'custom', path: ['firstPeriod'], message: 'Enter the number of a period.' })
    if (!lastPeriod || (firstPeriod && lastPeriod < firstPeriod))
      context.addIssue({
        code: 'custom',
        path: ['lastPeriod'],
        message: 'The last period must not be before the first.',
      })
  })

/** An absence as a guardian reports it. */
export const absenceReportInput = z
  .object({
    studentId: chosen('a child'),
    firstDay: civilDate,
    lastDay: civilDate,
    sessions: z.enum(['whole day', ...sessions]),
    reason: named('the reason', limits.line),
  })
  .superRefine(span(longestAbsence, 'An absence lasts at most a year.'))

/** What the office answers where a report is not entered. */
export const declineInput = z.object({ reportId: id, expectedVersion, answer: named('why', limits.line) })

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
  session: z.string().max(limits.session).nullish(),
  /** The Monday of a week. */
  week: civilDate.nullish(),
})

/** The register somebody is reminded of: of a homeroom, or of a lesson of a class. */
export const remindInput = z
  .object({
    homeroomId: id.nullable(),
    classId: id.nullable(),
    date: civilDate,
    session: z.string().regex(/^(morning|afternoon|[1-9]\d?)$/),
  })
  .refine((r) => (r.homeroomId === null) !== (r.classId === null), 'Choose one register.')

const withLetterFields = (text: z.ZodString) =>
  text.superRefine((typed, context) => {
    for (const name of unknownFields(typed))
      context.addIssue({
        code: 'custom',
        message: `{${name}} is not a field. Use one of those listed beside the text.`,
      })
  })

/** A template of a letter about attendance, new or changed. */
export const letterTemplateInput = z.object({
  templateId: id.nullish(),
  expectedVersion,
  name: named('a name', limits.shortName),
  subject: withLetterFields(named('a subject', limits.line)),
  body: withLetterFields(written('the text', limits.comment)),
})

/** Letters to the guardians of some students, with their figures of a period. */
export const lettersInput = z.object({
  templateId: chosen('a template'),
  /** The version of the template that was seen. */
  expectedVersion,
  studentIds: z
    .array(id)
    .min(1, 'Choose at least one student.')
    .max(limits.studentsAtOnce, `Write to at most ${limits.studentsAtOnce} students at once.`),
  from: civilDate,
  date: civilDate,
  /** What the figures count: half-days, or lessons; of one class alone where it is named. */
  sessions: z.enum(['half-days', 'lessons']),
  classId: id.nullable(),
  /** Write again to those who were written to lately. */
  again: z.boolean(),
  /** Write also about students whose attendance is not below the school's threshold. */
  aboveToo: z.boolean().default(false),
})

/** Which sheets are printed: of homerooms or classes, of one or of all, of the week around a date. */
export const sheetsInput = z.object({
  date: civilDate,
  of: z.enum(['homerooms', 'classes']),
  id: id.nullable(),
})
