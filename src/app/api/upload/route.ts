import { limits } from '@/core/limits'
import { inspectTest } from '@/formats/inspect-test'
import { hasRole } from '@/server/platform/actor'
import { notFound, unavailable, type Failure } from '@/server/platform/failure'
import { answered, asActor, failed, readBody, sameOrigin } from '@/server/platform/http'
import { commands } from '@/server/registry'
import { executeCommand } from '@/server/platform/run'
import { inspecting } from '@/server/platform/inspecting'

const problem = (message: string): Failure => ({
  kind: 'invalid',
  message,
  fields: [{ path: 'file', message }],
})

/**
 * Takes in a PDF, a picture or a word-processor file, sent as the body; its name travels in the address. It is judged by its content, not by its name,
 * and read before anything is written.
 */
export async function POST(request: Request) {
  const upload = commands.get('files.upload')
  if (!upload || !sameOrigin(request)) return failed(notFound)
  const { searchParams } = new URL(request.url)
  const name = searchParams.get('name') ?? ''
  return asActor(request, async (actor) => {
    if (!hasRole(actor, ...upload.right.grants.flatMap((grant) => grant.roles))) return failed(notFound)
    const bytes = await readBody(request, limits.upload)
    if (!bytes)
      return failed(
        problem(`${name} is too large; the limit is 25 MB. Save it with smaller pictures, or in parts.`),
      )
    const inspected = await inspecting(() => inspectTest(bytes))
    if (!inspected) return failed(unavailable)
    if (!inspected.ok) return failed(problem(`${name} ${inspected.problem}`))
    return answered(
      await executeCommand(
        upload,
        actor,
        { name, bytes, mediaType: inspected.mediaType, pageCount: inspected.pageCount },
        { key: searchParams.get('key') ?? undefined },
      ),
    )
  })
}
