import { z } from 'zod'
import { civilDate, id, named, optionalText, expectedVersion } from '@/core/inputs'
import { limits } from '@/core/limits'
import { tagsInput } from '@/core/tags-input'

/** With whom something can be shared, in the order in which it is offered. */
export const audiences = ['colleague', 'course', 'year group', 'school'] as const
export type Audience = (typeof audiences)[number]

/** One share: with whom, and what they may do beside reading the questions and the key. */
export const shareInput = z
  .object({
    with: z.enum(audiences),
    /** The colleague, course or year group; none for the school. */
    of: z.uuid('Choose with whom.').nullable(),
    maySeeResults: z.boolean(),
    mayGive: z.boolean(),
    mayEdit: z.boolean(),
  })
  .refine((share) => (share.with === 'school') === (share.of === null), {
    path: ['of'],
    message: 'Choose with whom.',
  })

/** Everybody an assessment is shared with. */
export const sharesInput = z.object({
  assessmentId: id,
  expectedVersion,
  shares: z
    .array(shareInput)
    .max(limits.shares, `Share it with at most ${limits.shares}, or with the school.`)
    .refine((shares) => new Set(shares.map((s) => `${s.with} ${s.of}`)).size === shares.length, {
      message: 'It is shared with somebody twice. Remove one of the two lines.',
    }),
})

/** What an assessment is called, and what helps to find it. */
export const describeInput = z.object({
  assessmentId: id,
  expectedVersion,
  name: named('the name'),
  description: optionalText('The description', limits.remark),
  tags: tagsInput,
  yearGroupId: id.nullable(),
})

/** An assessment for further classes of one's own, on a day. */
export const giveInput = z.object({
  assessmentId: id,
  classIds: z.array(id).min(1, 'Choose at least one class.').max(limits.classesOfAssessment),
  givenOn: civilDate,
})

/** Who owns an assessment from now on. */
export const handOverInput = z.object({
  assessmentId: id,
  expectedVersion,
  staffId: z.uuid('Choose a colleague.'),
})
