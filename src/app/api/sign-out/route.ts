import { sameOrigin } from '@/server/platform/http'
import { signOut } from '@/server/platform/sign-in'

/** Ends this session. */
export async function POST(request: Request) {
  if (!sameOrigin(request)) return new Response(null, { status: 400 })
  const headers = new Headers()
  for (const cookie of await signOut(request.headers)) headers.append('set-cookie', cookie)
  return Response.json({ ok: true }, { headers })
}
