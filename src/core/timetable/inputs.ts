import { z } from 'zod'
import { civilDate, id, named, optionalLine, expectedVersion } from '@/core/inputs'
import { limits } from '@/core/limits'
import { checkPeriods, cycles } from './timetable'

const time = z
  .string()
  .trim()
  .regex(/^([01]\d|2[0-3]):[0-5]\d$/, 'Enter a time, such as 08:50.')

export const periodNumber = z.number().int().min(1).max(limits.periods)
const maybe = id.nullish().or(z.literal('').transform(() => null))

/** A timetable, new or changed, with the times of its periods in order. */
export const timetableInput = z
  .object({
    timetableId: id.nullish(),
    expectedVersion,
    name: named('a name', limits.shortName),
    firstDay: civilDate,
    lastDay: civilDate.nullish().or(z.literal('').transform(() => null)),
    cycle: z.enum(cycles),
    cycleDays: z.coerce
      .number('Enter how many days the cycle has, 1 to 20.')
      .int('Enter how many days the cycle has, 1 to 20.')
      .min(1, 'Enter how many days the cycle has, 1 to 20.')
      .max(limits.cycleDays, `Enter how many days the cycle has, 1 to ${limits.cycleDays}.`),
    periods: z
      .array(z.object({ starts: time, ends: time }))
      .min(1, 'Add at least one period.')
      .max(limits.periods, `A day has at most ${limits.periods} periods.`),
  })
  .superRefine(({ firstDay, lastDay, periods }, context) => {
    if (lastDay && lastDay < firstDay)
      context.addIssue({
        code: 'custom',
        path: ['lastDay'],
        message: 'The last day must not be before the first day.',
      })
    const numbered = periods.map((p, i) => ({ ...p, number: i + 1 }))
    for (const { index, field, message } of checkPeriods(numbered))
      context.addIssue({ code: 'custom', path: ['periods', index, field], message })
  })

/** One cell of a timetable: the lesson that was there goes, the one that is entered comes. */
export const lessonCellInput = z.object({
  timetableId: id,
  cycleDay: periodNumber,
  period: periodNumber,
  gone: z.object({ lessonId: id, expectedVersion: z.number().int() }).nullable(),
  lesson: z.object({ classId: id, roomId: id.nullable() }).nullable(),
  /** The person has been shown that a teacher or room is needed twice. */
  confirmed: z.boolean(),
})

/** All lessons of a timetable from tomorrow on, or from its first day; those there were end. */
export const lessonsInput = z.object({
  timetableId: id,
  expectedVersion,
  lessons: z
    .array(
      z.object({
        cycleDay: periodNumber,
        period: periodNumber,
        classId: id,
        roomId: id.nullable(),
      }),
    )
    .max(limits.lessons, 'A timetable has at most 20,000 lessons.'),
})

/** What is different for one lesson on one day. */
export const lessonChangeInput = z.object({
  classId: id,
  date: civilDate,
  period: periodNumber,
  expectedVersion,
  cancelled: z.boolean(),
  staffId: maybe,
  roomId: maybe,
  note: optionalLine('the note'),
  confirmed: z.boolean(),
})

/** Whose lessons are listed. */
export const lessonsOfDayInput = z.object({ date: civilDate })

export const lessonInput = z.object({ classId: id, date: civilDate, session: z.string().regex(/^[1-9]\d?$/) })
