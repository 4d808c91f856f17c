import { z } from 'zod'
import { named } from '@/core/inputs'
import { limits } from '@/core/limits'

/** Words by which something is found, each once. */
export const tagsInput = z
  .array(named('the tag', limits.partName))
  .max(limits.tags, `Give it at most ${limits.tags} tags.`)
  .transform((tags) => [...new Set(tags)])
