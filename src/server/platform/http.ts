import { statusOf, type Failure, type Result } from './failure'
import { passwordFirst, readSession, signedOut } from './session'
import type { Actor } from './actor'
import { log } from './log'

/** A failure as an HTTP answer. */
export function failed(failure: Failure): Response {
  return Response.json({ ok: false, failure }, { status: statusOf[failure.kind] })
}

/** A result as an HTTP answer, never kept by anyone on the way. */
export function answered(result: Result<unknown>): Response {
  if (!result.ok) return failed(result.failure)
  return Response.json(
    { ok: true, value: result.value ?? null },
    { headers: { 'Cache-Control': 'no-store' } },
  )
}

/** Refuses a change that another site's page asks for; browsers always send where a change comes from. */
export function sameOrigin(request: Request): boolean {
  const origin = request.headers.get('origin')
  if (origin === null) return request.headers.get('sec-fetch-site') === null
  return URL.canParse(origin) && new URL(origin).host === request.headers.get('host')
}

/** JSON from an address; what cannot be read is undefined, which no input takes. */
export function readJson(text: string): unknown {
  try {
    return JSON.parse(text)
  } catch {
    return undefined
  }
}

/** The body of a request, or undefined when it has more than `most` bytes, whatever it said before; no more is kept. */
export async function readBody(request: Request, most: number): Promise<Buffer | undefined> {
  if (Number(request.headers.get('content-length') ?? 0) > most) return undefined
  const parts: Uint8Array[] = []
  let size = 0
  const reader = request.body?.getReader()
  for (let read = await reader?.read(); read?.value; read = await reader?.read()) {
    size += read.value.length
    // Read to its end even so: whoever is still sending would not hear the answer.
    if (size > most) parts.length = 0
    else parts.push(read.value)
  }
  return size > most ? undefined : Buffer.concat(parts)
}

/**
 * Answers a request in the name of whoever is signed in.
 * @param options.beforePassword also for those who must first choose a password
 */
export async function asActor(
  request: Request,
  answer: (actor: Actor) => Promise<Response>,
  { beforePassword = false }: { beforePassword?: boolean } = {},
): Promise<Response> {
  try {
    const session = await readSession(request.headers)
    if (session.kind === 'signed out') return failed(signedOut)
    if (session.kind === 'password first' && !beforePassword) return failed(passwordFirst)
    return await answer(session.actor)
  } catch (error) {
    log().error(
      { url: new URL(request.url).pathname, error: error instanceof Error ? error.stack : String(error) },
      'request failed',
    )
    return Response.json(
      {
        ok: false,
        failure: {
          kind: 'unavailable',
          message: 'Kedge could not do this just now. Nothing was changed; try again.',
        },
      },
      { status: 503 },
    )
  }
}
