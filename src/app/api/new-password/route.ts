import { z } from 'zod'
import { limits } from '@/core/limits'
import { readJsonBody, sameOrigin } from '@/server/platform/http'
import { setPasswordByLink } from '@/server/platform/new-password'

const body = z.object({ token: z.string().max(limits.key), password: z.string().max(limits.password) })

/** Sets a new password by the link from a mail. */
export async function POST(request: Request) {
  const read = body.safeParse(await readJsonBody(request, 4096))
  if (!read.success || !sameOrigin(request)) return Response.json({ kind: 'used' }, { status: 400 })
  return Response.json(await setPasswordByLink(read.data.token, read.data.password))
}
