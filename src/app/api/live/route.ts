import { z } from 'zod'
import { limits } from '@/core/limits'
import { notFound, unavailable, type Failure, type Result } from '@/server/platform/failure'
import { Busy, turns } from '@/server/platform/turns'
import { asActor, failed, readJson } from '@/server/platform/http'
import { accountTopic, mayHaveChanged, onChange } from '@/server/platform/live'
import { topicsOfAll } from '@/server/platform/run'
import { readSession } from '@/server/platform/session'
import { isStopping, untilStop } from '@/server/platform/stopping'
import { takeStream } from '@/server/platform/stream-limits'
import type { Topic } from '@/server/platform/topic'
import type { Actor } from '@/server/platform/actor'
import { queries } from '@/server/registry'

export const dynamic = 'force-dynamic'

const asked = z
  .array(z.object({ query: z.string(), input: z.unknown() }))
  .min(1)
  .max(limits.liveQueries)
type Asked = z.infer<typeof asked>

/** How often a stream shows that it lives, in milliseconds. */
const beatEvery = 20_000
/**
 * How often it is looked whether whoever follows it still may, in milliseconds, where nothing tells of it: a session in
 * which nothing is done any more, a student who moved. What ends a session, a role or a post is told by the database.
 */
const lookEvery = 300_000
const beat = 'event: beat\ndata: {}\n\n'

/** A page's topics take a look-up each: only so many pages begin at once, so that others are answered meanwhile. */
const beginning = turns('live updates to begin', { atOnce: 2, mostWaiting: 200 })

/** The topics of each query asked for, while all of them may be asked. */
async function followed(actor: Actor, wanted: Asked): Promise<Result<readonly (readonly Topic[])[]>> {
  const known = wanted.flatMap(({ query: name, input }) => {
    const query = queries.get(name)
    return query ? [{ query, input }] : []
  })
  if (known.length < wanted.length) return { ok: false, failure: notFound }
  return topicsOfAll(known, actor)
}

const tooMany: Failure = {
  kind: 'unavailable',
  message: 'Too many pages of yours are open. This one shows changes when you reload it.',
}

/**
 * Tells a page, as server-sent events, whenever the answer of a query it may ask has changed. Only the fact
 * travels; the page asks again, with its rights. A stream ends when its session or one of its rights has.
 */
export async function GET(request: Request) {
  const { searchParams } = new URL(request.url)
  const read = asked.safeParse(readJson(searchParams.get('topics') ?? '[]'))
  if (!read.success) return failed(notFound)
  const wanted = read.data
  // How old the page's answers are at the most, in milliseconds; without it they may be of any age.
  const age = Number(searchParams.get('age') ?? Infinity)
  const since = Number.isFinite(age) && age >= 0 ? Date.now() - age : 0
  if (isStopping()) return failed(unavailable)
  return asActor(request, async (actor) => {
    const leave = takeStream(actor.accountId)
    if (!leave) return failed(tooMany)
    const first = await beginning
      .take(() => followed(actor, wanted))
      .catch((error: unknown) => {
        if (error instanceof Busy) return { ok: false, failure: unavailable } as const
        throw error
      })
    if (!first.ok || request.signal.aborted) {
      leave()
      return failed(first.ok ? notFound : first.failure)
    }
    const encoder = new TextEncoder()
    let end = () => {}
    const stream = new ReadableStream<Uint8Array>({
      start(controller) {
        const send = (message: string) => controller.enqueue(encoder.encode(message))
        const follow = (all: readonly (readonly Topic[])[]) =>
          all.map((topics, i) =>
            onChange(actor.schoolId, topics, (tab) =>
              send(`event: changed\ndata: ${JSON.stringify({ topic: i, tab: tab ?? null })}\n\n`),
            ),
          )
        let stops = follow(first.value)
        // From here on every change is told; what may have changed before is asked again at once.
        const changed = first.value.flatMap((topics, i) =>
          mayHaveChanged(actor.schoolId, topics, since) ? [i] : [],
        )
        send(`event: ready\ndata: ${JSON.stringify({ changed })}\n\n`)
        const beating = setInterval(() => send(beat), beatEvery)
        let asking = false
        let askAgain = false
        async function look(): Promise<void> {
          askAgain = asking
          if (asking) return
          asking = true
          const all = await beginning
            .take(() => stillMay(request.headers, actor, wanted))
            .catch(() => 'unknown' as const)
          asking = false
          // Whoever followed may have left while this was looked up.
          if (!open) return
          if (all === undefined) return close()
          if (all !== 'unknown') {
            // A homeroom or class taken over meanwhile is followed from now on.
            for (const stop of stops) stop()
            stops = follow(all)
          }
          if (askAgain) await look()
        }
        const looking = setInterval(() => void look(), lookEvery)
        const stopAccount = onChange(actor.schoolId, [accountTopic(actor.accountId)], () => void look())
        let open = true
        // The page asks another process, or this one when it is back.
        const stopStopping = untilStop(() => {
          if (open) send('event: reconnect\ndata: {}\n\n')
          close()
        })
        end = () => {
          open = false
          leave()
          for (const stop of stops) stop()
          stopAccount()
          stopStopping()
          clearInterval(beating)
          clearInterval(looking)
        }
        const close = () => {
          if (!open) return
          end()
          controller.close()
        }
        request.signal.addEventListener('abort', close)
      },
      cancel: () => end(),
    })
    return new Response(stream, {
      headers: {
        'Content-Type': 'text/event-stream',
        'Cache-Control': 'no-store',
        'X-Accel-Buffering': 'no',
      },
    })
  })
}

/** The topics now, or undefined when the session or a right has ended; "unknown" while the database is away. */
async function stillMay(headers: Headers, actor: Actor, wanted: Asked) {
  try {
    const session = await readSession(headers)
    if (session.kind !== 'signed in') return undefined
    const { accountId, schoolId } = session.actor
    if (accountId !== actor.accountId || schoolId !== actor.schoolId) return undefined
    const topics = await followed(session.actor, wanted)
    if (topics.ok) return topics.value
    return topics.failure.kind === 'unavailable' ? 'unknown' : undefined
  } catch {
    // The sign-in package throws when the database is away; the next beat looks again.
    return 'unknown'
  }
}
