import { z } from 'zod'
import { limits } from '@/core/limits'
import { readJsonBody, sameOrigin } from '@/server/platform/http'
import { acceptInvitation } from '@/server/platform/invitation'

const body = z.object({
  token: z.string().max(limits.key),
  password: z.string().max(limits.password).optional(),
})

/** Accepts an invitation, with a new password or as the account that is signed in. */
export async function POST(request: Request) {
  const read = body.safeParse(await readJsonBody(request, 4096))
  if (!read.success || !sameOrigin(request)) return Response.json({ kind: 'used' }, { status: 400 })
  const { token, password } = read.data
  return Response.json(await acceptInvitation(token, { password, headers: request.headers }))
}
