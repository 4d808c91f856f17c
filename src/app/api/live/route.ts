import { z } from 'zod'
import { asActor, failed, readJson } from '@/server/platform/http'
import { notFound } from '@/server/platform/failure'
import { onChange } from '@/server/platform/live'
import { mayAsk, type Query } from '@/server/platform/registry'
import { queryNamed } from '@/server/registry'

export const dynamic = 'force-dynamic'

const asked = z
  .array(z.object({ query: z.string(), input: z.unknown() }))
  .min(1)
  .max(20)

/**
 * Tells a page, as server-sent events, whenever the answer of a query it may ask has changed. Only the fact
 * travels; the page asks again, with its rights.
 */
export async function GET(request: Request) {
  const text = new URL(request.url).searchParams.get('topics') ?? '[]'
  const topics = asked.safeParse(readJson(text))
  if (!topics.success) return failed(notFound)
  return asActor(request, async (actor) => {
    const followed: string[] = []
    for (const { query: name, input } of topics.data) {
      const query = queryNamed(name) as Query | undefined
      if (!query?.topic || !(await mayAsk(query, actor, input))) return failed(notFound)
      followed.push(query.topic(query.input.parse(input)))
    }
    const encoder = new TextEncoder()
    let end = () => {}
    const stream = new ReadableStream<Uint8Array>({
      start(controller) {
        const send = (message: string) => controller.enqueue(encoder.encode(message))
        send('retry: 1000\nevent: ready\ndata: {}\n\n')
        const stops = followed.map((topic, i) =>
          onChange(actor.schoolId, topic, (tab) =>
            send(`event: changed\ndata: ${JSON.stringify({ topic: i, tab: tab ?? null })}\n\n`),
          ),
        )
        const beat = setInterval(() => send(': still here\n\n'), 20000)
        end = () => {
          for (const stop of stops) stop()
          clearInterval(beat)
        }
        request.signal.addEventListener('abort', () => {
          end()
          if (controller.desiredSize !== null) controller.close()
        })
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
