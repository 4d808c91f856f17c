import { z } from 'zod'
import { id, expectedVersion, written } from '@/core/inputs'
import { limits } from '@/core/limits'

/** Which class entries an act is about, as they were seen. */
export const entriesInput = z.object({ roundId: id, classId: id, expectedVersion })

/** Sending class entries back to the teacher. */
export const sendBackInput = entriesInput.extend({ remark: written('a remark', limits.remark) })
