import { z } from 'zod'
import { readJsonBody, sameOrigin } from '@/server/platform/http'
import { log } from '@/server/platform/log'
import { enterSchool, readSession } from '@/server/platform/session'
import { signIn } from '@/server/platform/sign-in'

const body = z.object({
  username: z.string().max(300),
  password: z.string().max(200),
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
  if (!read.success || !sameOrigin(request))
    return Response.json({ message: 'Enter your user name and your password.' }, { status: 400 })
  try {
    const answer = await signIn(read.data.username, read.data.password, request.headers)
    if (!answer.ok) return Response.json({ message: answer.message }, { status: answer.status })
    const headers = new Headers()
    for (const cookie of answer.cookies) headers.append('set-cookie', cookie)
    return Response.json({ ok: true, next: await nextStep(answer.cookies, read.data.schoolId) }, { headers })
  } catch (error) {
    log().error({ error: error instanceof Error ? error.stack : String(error) }, 'sign-in failed')
    return Response.json({ message: 'Something went wrong. Please try again.' }, { status: 503 })
  }
}
