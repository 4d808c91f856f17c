import { z } from 'zod'
import { limits } from '@/core/limits'
import { originProblem, readJsonBody } from '@/server/platform/http'
import { log } from '@/server/platform/log'
import { enterSchool, readSession } from '@/server/platform/session'
import { signIn } from '@/server/platform/sign-in'
import { unstorable } from '@/server/platform/unstorable'

const body = z.object({
  username: z.string().max(limits.signInName),
  password: z.string().max(limits.password),
  /** Others use this computer as well: the session ends sooner when nothing is done. */
  sharedComputer: z.boolean().optional(),
  /** The school the session is to work in, when the page is already open. */
  schoolId: z.uuid().optional(),
})

/** What is still to be done before the session can work. */
async function nextStep(cookies: readonly string[], schoolId: string | undefined) {
  const headers = new Headers({ cookie: cookies.map((c) => c.split(';')[0]).join('; ') })
  if (schoolId) await enterSchool(headers, schoolId)
  const { kind } = await readSession(headers)
  return kind === 'password first' ? 'password' : kind === 'choose school' ? 'school' : undefined
}

/** Opens a session for a user name or e-mail address and a password. */
export async function POST(request: Request) {
  const read = body.safeParse(await readJsonBody(request, 4096))
  const origin = originProblem(request)
  if (origin?.kind === 'set-up') {
    log().error({ event: 'origin' }, origin.words)
    return Response.json({ message: origin.words }, { status: 400 })
  }
  if (!read.success || unstorable(read.data) || origin)
    return Response.json({ message: 'Enter your user name and your password.' }, { status: 400 })
  try {
    const { username, password, sharedComputer } = read.data
    const answer = await signIn(username, password, request.headers, { sharedComputer })
    if (!answer.ok)
      return Response.json(
        { message: answer.message },
        { status: answer.status, headers: answer.status === 503 ? { 'Retry-After': '3' } : {} },
      )
    const headers = new Headers()
    for (const cookie of answer.cookies) headers.append('set-cookie', cookie)
    return Response.json({ ok: true, next: await nextStep(answer.cookies, read.data.schoolId) }, { headers })
  } catch (error) {
    log().error({ error: error instanceof Error ? error.stack : String(error) }, 'sign-in failed')
    return Response.json({ message: 'Something went wrong. Please try again.' }, { status: 503 })
  }
}
