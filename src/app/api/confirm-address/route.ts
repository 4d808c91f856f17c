import { z } from 'zod'
import { limits } from '@/core/limits'
import { confirmAddress } from '@/server/platform/confirmed-address'
import { readJsonBody, sameOrigin } from '@/server/platform/http'

const body = z.object({ token: z.string().max(limits.key) })

/** Confirms an address by the link from a mail, for the account that is signed in. */
export async function POST(request: Request) {
  const read = body.safeParse(await readJsonBody(request, 4096))
  if (!read.success || !sameOrigin(request)) return Response.json({ kind: 'used' }, { status: 400 })
  return Response.json(await confirmAddress(read.data.token, request.headers))
}
