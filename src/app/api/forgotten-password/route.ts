import { setTimeout as wait } from 'node:timers/promises'
import { limits } from '@/core/limits'
import { z } from 'zod'
import { requestPasswordLink } from '@/server/front/account'
import { readJsonBody, sameOrigin } from '@/server/platform/http'
import { unstorable } from '@/server/platform/unstorable'

const body = z.object({ username: z.string().trim().min(1).max(limits.signInName) })

/** What was typed, when it is a name that there could be. */
function typedName(input: unknown): string | undefined {
  const read = body.safeParse(input)
  return read.success && !unstorable(read.data) ? read.data.username : undefined
}

/** Longer than the work takes, so that the time says nothing about whether there is such an account. */
const leastMs = 600

/** Mails a link to choose a new password. The answer is the same for every name. */
export async function POST(request: Request) {
  const username = typedName(await readJsonBody(request, 4096))
  if (username === undefined || !sameOrigin(request))
    return Response.json({ message: 'Enter your user name or your e-mail address.' }, { status: 400 })
  await Promise.all([requestPasswordLink(username), wait(leastMs)])
  return Response.json({ ok: true })
}
