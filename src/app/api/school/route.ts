import { z } from 'zod'
import { notFound } from '@/server/platform/failure'
import { failed, readJsonBody, sameOrigin } from '@/server/platform/http'
import { enterSchool } from '@/server/platform/session'

const body = z.object({ schoolId: z.uuid() })

/** Works from now on in one of the account's schools. */
export async function POST(request: Request) {
  const read = body.safeParse(await readJsonBody(request, 1024))
  if (!read.success || !sameOrigin(request)) return failed(notFound)
  if (!(await enterSchool(request.headers, read.data.schoolId))) return failed(notFound)
  return Response.json({ ok: true })
}
