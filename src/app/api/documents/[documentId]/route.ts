import { openFile } from '@/server/front/open-file'
import { answered, asActor } from '@/server/platform/http'
import { fileResponse } from '@/server/platform/file-response'

/** A stored file, part after part, for those who may read what it is used for. */
export async function GET(request: Request, { params }: { params: Promise<{ documentId: string }> }) {
  const { documentId } = await params
  return asActor(request, async (actor) => {
    const file = await openFile(actor, documentId)
    if (!file.ok) return answered(file)
    const { stream, name, size, mediaType } = file.value
    return fileResponse(stream, name, size, mediaType)
  })
}
