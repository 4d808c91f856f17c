import { z } from 'zod'
import { answered, asActor, failed, sameOrigin } from '@/server/platform/http'
import { invalid, notFound } from '@/server/platform/failure'
import { tell } from '@/server/platform/registry'
import { commandNamed } from '@/server/registry'

const body = z.object({ input: z.unknown(), key: z.uuid(), tab: z.string().max(60).optional() })

/** Carries out a command of the registry. The key makes a form sent twice count once. */
export async function POST(request: Request, { params }: { params: Promise<{ name: string }> }) {
  const { name } = await params
  const command = commandNamed(name)
  if (!command || !sameOrigin(request)) return failed(notFound)
  return asActor(
    request,
    async (actor) => {
      const read = body.safeParse(await request.json().catch(() => undefined))
      if (!read.success) return failed(invalid(read.error))
      const { input, key, tab } = read.data
      return answered(
        await tell<unknown, unknown>(command as Parameters<typeof tell<unknown, unknown>>[0], actor, input, {
          key,
          tab,
        }),
      )
    },
    { beforePassword: name === 'people.setOwnPassword' },
  )
}
