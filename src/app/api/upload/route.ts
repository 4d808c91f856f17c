import { answered, asActor, failed, readBody, sameOrigin } from '@/server/platform/http'
import { notFound } from '@/server/platform/failure'
import { tell } from '@/server/platform/registry'
import { largestDocument, upload } from '@/server/documents/documents'

/** Takes in a PDF, sent as the body; its name travels in the address. */
export async function POST(request: Request) {
  if (!sameOrigin(request)) return failed(notFound)
  const { searchParams } = new URL(request.url)
  const name = searchParams.get('name') ?? ''
  return asActor(request, async (actor) => {
    const bytes = await readBody(request, largestDocument)
    if (!bytes)
      return failed({
        kind: 'invalid',
        message: `${name} has more than 25 MiB. Save it with smaller pictures, or in parts.`,
        fields: [],
      })
    return answered(await tell(upload, actor, { name, bytes }, { key: searchParams.get('key') ?? undefined }))
  })
}
