import { z } from 'zod'
import { id, named, seen } from '@/core/inputs'
import { limits } from '@/core/limits'

/** Which class entries an act is about, as they were seen. */
export const entriesInput = z.object({ roundId: id, classId: id, seen })

/** Sending class entries back to the teacher. */
export const sendBackInput = entriesInput.extend({ remark: named('a remark', limits.remark) })
