import { answered, asActor, failed, readJson } from '@/server/platform/http'
import { notFound } from '@/server/platform/failure'
import { ask } from '@/server/platform/registry'
import { queryNamed } from '@/server/registry'

/** Answers a query of the registry; its input travels as JSON in the address. */
export async function GET(request: Request, { params }: { params: Promise<{ name: string }> }) {
  const { name } = await params
  const query = queryNamed(name)
  if (!query) return failed(notFound)
  return asActor(request, async (actor) => {
    const input = readJson(new URL(request.url).searchParams.get('input') ?? '{}')
    return answered(
      await ask<unknown, unknown>(query as Parameters<typeof ask<unknown, unknown>>[0], actor, input),
    )
  })
}
