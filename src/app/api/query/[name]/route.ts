import { notFound } from '@/server/platform/failure'
import { answered, asActor, failed, readJson } from '@/server/platform/http'
import { executeQuery } from '@/server/platform/run'
import { queries } from '@/server/registry'

/** Answers a query of the registry; its input travels as JSON in the address. */
export async function GET(request: Request, { params }: { params: Promise<{ name: string }> }) {
  const query = queries.get((await params).name)
  if (!query || query.by === 'server') return failed(notFound)
  const input = readJson(new URL(request.url).searchParams.get('input') ?? '{}')
  return asActor(request, async (actor) => answered(await executeQuery(query, actor, input)))
}
