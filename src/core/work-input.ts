import { z } from 'zod'
import { limits } from '@/core/limits'

/** A command that is too large to be waited for, with what it is given; its own input is read where it is declared. */
export const largeActInput = z.object({
  command: z.string().max(limits.key),
  input: z.unknown(),
  /** Only what it would change. */
  preview: z.boolean(),
  /** What the preview showed; when that is no longer true, nothing is done. */
  fingerprint: z.string().max(limits.key).optional(),
})
