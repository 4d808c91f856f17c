import { answered, asActor, failed, sameOrigin } from '@/server/platform/http'
import { notFound } from '@/server/platform/failure'
import { tell } from '@/server/platform/registry'
import { largestDocument, upload } from '@/server/documents/documents'

/** Takes in a PDF, sent as the body; its name travels in the address. */
export async function POST(request: Request) {
  if (!sameOrigin(request)) return failed(notFound)
  const { searchParams } = new URL(request.url)
  const name = searchParams.get('name') ?? ''
  const size = Number(request.headers.get('content-length') ?? 0)
  return asActor(request, async (actor) => {
    if (size > largestDocument)
      return failed({
        kind: 'invalid',
        message: `${name} has ${(size / 1048576).toFixed(1)} MiB; the most is 25 MiB. Save it with smaller pictures, or in parts.`,
        fields: [],
      })
    return answered(
      await tell(
        upload,
        actor,
        { name, bytes: Buffer.from(await request.arrayBuffer()) },
        { key: searchParams.get('key') ?? undefined },
      ),
    )
  })
}
