import { openFile } from '@/server/front/open-file'
import { notFound } from '@/server/platform/failure'
import { answered, asActor, failed } from '@/server/platform/http'
import { pdfResponse } from '@/server/platform/pdf-response'

/** A stored PDF, part after part, for those who may read what it is used for. */
export async function GET(request: Request, { params }: { params: Promise<{ documentId: string }> }) {
  const { documentId } = await params
  return asActor(request, async (actor) => {
    const file = await openFile(actor, documentId)
    if (file.ok && file.value.mediaType !== 'application/pdf') return failed(notFound)
    return file.ok ? pdfResponse(file.value.stream, file.value.name, file.value.size) : answered(file)
  })
}
