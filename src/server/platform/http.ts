/* eslint-disable no-await-in-loop -- a request is read part by part */
import { limits } from '@/core/limits'
import type { Actor } from './actor'
import { config } from './config'
import { failureOf } from './database-errors'
import {
  chooseSchool,
  otherAccount,
  passwordFirst,
  signedOut,
  statusOf,
  type Failure,
  type Result,
} from './failure'
import { log } from './log'
import { readSession } from './session'

/** Answers are for whoever asked: kept by nobody on the way, and read as what they say they are. */
const kept = { 'Cache-Control': 'no-store', 'X-Content-Type-Options': 'nosniff' } as const

/** A failure as an HTTP answer. */
export function failed(failure: Failure): Response {
  return Response.json({ ok: false, failure }, { status: statusOf[failure.kind], headers: kept })
}

/** A result as an HTTP answer, never kept by anyone on the way. */
export function answered(result: Result<unknown>): Response {
  if (!result.ok) return failed(result.failure)
  return Response.json({ ok: true, value: result.value ?? null, run: result.run }, { headers: kept })
}

/** What is wrong with where a request comes from, in words where those who run Kedge can put it right. */
type OriginProblem = { readonly kind: 'foreign' } | { readonly kind: 'set-up'; readonly words: string }

/** What is wrong with where a change comes from; browsers always send it. Another site's page may change nothing. */
export function originProblem(request: Request): OriginProblem | undefined {
  const origin = request.headers.get('origin')
  const foreign = { kind: 'foreign' } as const
  if (origin === null) return request.headers.get('sec-fetch-site') === null ? undefined : foreign
  if (!URL.canParse(origin)) return foreign
  const { host, protocol } = new URL(origin)
  const own = new URL(config().KEDGE_URL)
  const isPassed = host === request.headers.get('host')
  if (isPassed && protocol === own.protocol) return undefined
  if (origin === own.origin)
    return {
      kind: 'set-up',
      words:
        'The server in front of Kedge does not pass the Host header on, so nothing can be changed. Whoever runs Kedge finds what to do in docs/deploy.md.',
    }
  // The page of the same name without TLS is another site: somebody on the way may have written it.
  return isPassed
    ? {
        kind: 'set-up',
        words: `Nothing can be changed at this address. Kedge is set up for ${own.origin}: open it there.`,
      }
    : foreign
}

/** Whether a change comes from one of Kedge's own pages. What is wrong with the set-up is said in the log. */
export function sameOrigin(request: Request): boolean {
  const problem = originProblem(request)
  if (problem?.kind === 'set-up') log().error({ event: 'origin' }, problem.words)
  return problem === undefined
}

/** JSON from a text; what cannot be read is undefined, which no input takes. */
export function readJson(text: string): unknown {
  try {
    return JSON.parse(text)
  } catch (error) {
    if (error instanceof SyntaxError) return undefined
    throw error
  }
}

/** Bytes beyond the limit that are read and dropped, so that whoever is a little over it hears why it was refused. */
const grace = 4 * 1024 * 1024

/** The body of a request, or undefined when it has more than `most` bytes, whatever it said before; no more is kept. */
export async function readBody(request: Request, most: number): Promise<Buffer | undefined> {
  if (Number(request.headers.get('content-length') ?? 0) > most) return undefined
  const parts: Uint8Array[] = []
  let size = 0
  const reader = request.body?.getReader()
  for (let read = await reader?.read(); read?.value; read = await reader?.read()) {
    size += read.value.length
    if (size > most + grace) {
      await reader?.cancel()
      return undefined
    }
    if (size > most) parts.length = 0
    else parts.push(read.value)
  }
  return size > most ? undefined : Buffer.concat(parts)
}

/** A request's JSON, or undefined when there is none that can be read or it is too long. */
export async function readJsonBody(request: Request, most: number = limits.request): Promise<unknown> {
  const body = await readBody(request, most)
  return body && readJson(body.toString('utf8'))
}

/** Names the account and school a page was opened for; every request of a page carries it. */
const pageOwner = (request: Request): string | null =>
  request.headers.get('x-kedge-as') ?? new URL(request.url).searchParams.get('as')

/**
 * Answers a request in the name of whoever is signed in. A page that was opened for someone else, or for another
 * school, is refused: what its person typed must not be stored under another name.
 * @param options.beforePassword also for those who must first choose a password
 * @param options.isAct the person does something, so that the session goes on
 */
export async function asActor(
  request: Request,
  answer: (actor: Actor) => Promise<Response>,
  { beforePassword = false, isAct = false }: { beforePassword?: boolean; isAct?: boolean } = {},
): Promise<Response> {
  try {
    const session = await readSession(request.headers, { isAct })
    if (session.kind === 'signed out') return failed(signedOut)
    if (session.kind === 'choose school') return failed(chooseSchool)
    const { accountId, schoolId } = session.actor
    const owner = pageOwner(request)
    if (owner !== null && owner !== `${accountId} ${schoolId}`) return failed(otherAccount)
    if (session.kind === 'password first' && !beforePassword) return failed(passwordFirst)
    return await answer(session.actor)
  } catch (error) {
    log().error(
      { url: new URL(request.url).pathname, error: error instanceof Error ? error.stack : String(error) },
      'request failed',
    )
    return failed(failureOf(error))
  }
}
