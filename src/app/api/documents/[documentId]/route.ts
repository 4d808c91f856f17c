import { answered, asActor } from '@/server/platform/http'
import { pdfResponse } from '@/server/platform/pdf-response'
import { ask } from '@/server/platform/registry'
import { read } from '@/server/documents/documents'

/** A stored PDF, for those who may read what it is part of. */
export async function GET(request: Request, { params }: { params: Promise<{ documentId: string }> }) {
  const { documentId } = await params
  return asActor(request, async (actor) => {
    const result = await ask(read, actor, { documentId })
    return result.ok ? pdfResponse(result.value.bytes, result.value.name) : answered(result)
  })
}
